import { useEffect, useMemo, useState } from "react";
import { type Advice, type AdviceKind, adviseText, readingEase } from "~/core/advice";
import { type AssistTask, assistInline } from "~/core/assistant";
import { wordsOf } from "~/core/blocks";
import { commands } from "~/core/compose";
import { type Block, linesOf, mapLines, type Words, wordSigns } from "~/core/email";
import { WhoLine } from "../../assistant/who-line";
import { resultOf, tell } from "../../requests";
import { Button } from "../../ui/button";
import { Difference } from "../../ui/difference";
import { Problem } from "../../ui/form";
import { Part } from "../controls/part";
import { useComposer, useComposerStore } from "../state/store";
import { placeAt } from "../words/places";
import { useWriting } from "../words/writing";
import { easeWords } from "./writing-of-all";

const KINDS: Record<AdviceKind, string> = {
  long: "Long sentence",
  wordy: "Wordy",
  shouting: "Shouting",
  passive: "Passive",
};

interface Found extends Advice {
  path: string;
}

/** What could be read more easily in a block, with the place a press away; and the assistant. */
export function Writing({ block }: { block: Block }) {
  const store = useComposerStore();
  const writing = useWriting();
  const places = useMemo(
    () => wordsOf(block).map(({ path, words }) => ({ path, text: wordSigns(words) })),
    [block],
  );
  const found = places.flatMap(({ path, text }): Found[] =>
    adviseText(text).map((one) => ({ ...one, path })),
  );
  const all = places.map((place) => place.text).join("\n");
  const ease = readingEase(all.replaceAll("\ufffc", ""));
  if (places.length === 0 || !/\p{L}{2}/u.test(all)) return null;
  const show = (advice: Found, instead?: string) => {
    const { edit, editing, editingKey } = store.getState();
    if (editing !== block.id || editingKey !== advice.path) edit(block.id, advice.path);
    const { editor } = writing.state.getState();
    if (!editor) return;
    const from = placeAt(editor.state.doc, advice.from);
    const to = placeAt(editor.state.doc, advice.to);
    const chain = editor.chain().focus().setTextSelection({ from, to });
    if (instead === undefined) chain.run();
    else if (instead === "") chain.deleteSelection().run();
    else chain.insertContent(instead).run();
  };
  return (
    <Part
      title="Writing"
      aside={
        ease !== null && <span title="Reading ease, from 0 to 100">{`${ease}, ${easeWords(ease)}`}</span>
      }
    >
      {found.length === 0 ? (
        <p className="text-ink-soft">Nothing to say: it reads well.</p>
      ) : (
        <ul className="space-y-1.5">
          {found.slice(0, 8).map((advice) => (
            <li key={`${advice.path} ${advice.kind} ${advice.from}`} className="flex items-start gap-1.5">
              <button
                type="button"
                className="min-w-0 grow rounded-md px-1.5 py-0.5 text-left hover:bg-black/5"
                onClick={() => show(advice)}
              >
                <span className="font-medium text-amber">{KINDS[advice.kind]}</span>{" "}
                <span className="break-words">“{clip(advice.words)}”</span>{" "}
                <span className="text-ink-soft">{advice.why}</span>
              </button>
              {advice.instead !== null && (
                <Button
                  className="min-h-6! shrink-0 px-1.5! text-xs"
                  onClick={() => show(advice, advice.instead ?? "")}
                >
                  {advice.instead === "" ? "Leave out" : advice.instead}
                </Button>
              )}
            </li>
          ))}
        </ul>
      )}
      {found.length > 8 && <p className="text-xs text-ink-soft">And {found.length - 8} more.</p>}
      <Assist key={block.id} block={block} />
    </Part>
  );
}

const clip = (words: string) =>
  words.length > 60 ? `${words.slice(0, 58)}…` : words.replaceAll("\ufffc", "‹ ›");

const TASKS: { task: AssistTask; label: string }[] = [
  { task: "reword", label: "Reword" },
  { task: "shorten", label: "Shorten" },
  { task: "plainer", label: "Plainer" },
  { task: "warmer", label: "Warmer" },
  { task: "formal", label: "More formal" },
];

interface Suggestion {
  changes: { path: string; words: unknown }[];
  before: string;
  after: string;
}

/** Has the words rewritten; what comes back is shown as a difference, and nothing changes before it is accepted. */
function Assist({ block }: { block: Block }) {
  const store = useComposerStore();
  const language = useComposer((state) => state.email.language);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [suggestion, setSuggestion] = useState<Suggestion | null>(null);
  // Words that were changed meanwhile make a suggestion stale.
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new block is what ends it
  useEffect(() => setSuggestion(null), [block]);
  const rewriteAs = async (task: AssistTask) => {
    setBusy(true);
    setProblem(null);
    const rewrite = async (text: string) => {
      return resultOf(await tell("/assist", { intent: "rewrite", text, task, language })).text;
    };
    try {
      const places = wordsOf(block);
      const changes: { path: string; words: Words }[] = [];
      for (const { path, words } of places) {
        const lines = await Promise.all(linesOf(words).map((line) => assistInline(line, rewrite)));
        changes.push({ path, words: mapLines(words, (_, index) => lines[index]) });
      }
      const signs = (list: readonly { words: Words }[]) =>
        list.map(({ words }) => wordSigns(words)).join("\n");
      setSuggestion({ changes, before: signs(places), after: signs(changes) });
    } catch (error) {
      setProblem(`${(error as Error).message} Your words are as they were.`);
    } finally {
      setBusy(false);
    }
  };
  const accept = () => {
    if (!suggestion) return;
    const { apply, edit } = store.getState();
    edit(null);
    apply((edit) => {
      for (const { path, words } of suggestion.changes) commands.setAt(block.id, path, words)(edit);
    }, "Taking the suggestion");
  };
  const same = suggestion !== null && suggestion.before === suggestion.after;
  return (
    <div className="space-y-2 border-t pt-2.5">
      <WhoLine />
      <div className="flex flex-wrap gap-1.5">
        {TASKS.map(({ task, label }) => (
          <Button
            key={task}
            className="min-h-7! px-2! text-xs"
            disabled={busy}
            onClick={() => void rewriteAs(task)}
          >
            {label}
          </Button>
        ))}
      </div>
      {busy && (
        <p role="status" className="text-ink-soft">
          Writing…
        </p>
      )}
      {problem && <Problem mild>{problem}</Problem>}
      {same && <p className="text-ink-soft">It would change nothing.</p>}
      {suggestion && !same && (
        <section aria-label="Suggestion" className="space-y-2 rounded-md border p-2.5">
          <p className="break-words whitespace-pre-wrap">
            <Difference before={suggestion.before} after={suggestion.after} />
          </p>
          <div className="flex gap-2">
            <Button onClick={accept}>Accept</Button>
            <Button kind="quiet" onClick={() => setSuggestion(null)}>
              Refuse
            </Button>
          </div>
        </section>
      )}
    </div>
  );
}
