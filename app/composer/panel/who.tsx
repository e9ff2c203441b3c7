import { Pencil } from "lucide-react";
import { useState } from "react";
import { contactName } from "~/core/audience";
import { type Located, pathTo } from "~/core/email";
import { asGroup, firstLine, type Group, ruleOf } from "../../rules/groups";
import { RuleEditor } from "../../rules/rule-editor";
import { RuleSentence } from "../../rules/rule-words";
import { useReaderCount } from "../../rules/use-reader-count";
import { Facts, whyOf } from "../../rules/why";
import { Button } from "../../ui/button";
import { Problem } from "../../ui/form";
import { count, counted } from "../../ui/time";
import { Part } from "../controls/part";
import { useActions } from "../state/actions";
import { useComposer } from "../state/store";
import { useSet } from "./lines";

/** The show rule of a block, row or section. */
export function WhoGetsIt({ node }: { node: Exclude<Located, { kind: "column" }> }) {
  const facts = useComposer((state) => state.facts);
  const set = useSet(node.node.id);
  const { show } = node.node;
  // While it is being written, with lines that are still empty; what it says so far holds at once.
  const [draft, setDraft] = useState<Group | null>(null);
  const { words } = facts;
  const now = useReaderCount(draft ?? show);
  const size = useComposer((state) => state.audienceSize);
  const fixed = node.kind === "block" && node.node.type === "footer";
  if (fixed) {
    return (
      <Part title="Who gets it">
        <p className="text-ink-soft">
          Everyone: the unsubscribe link and the postal address belong in every email.
        </p>
      </Part>
    );
  }
  const write = (next: Group) => {
    setDraft(next);
    set({ show: ruleOf(next) }, "Changing who gets it");
  };
  const begin = () => write({ kind: "all", of: [firstLine(words)] });
  return (
    <Part
      title="Who gets it"
      tone={show ? "teal" : undefined}
      aside={
        show && (
          <span aria-live="polite">
            {now.count === null ? "counting…" : `${count(now.count)} of ${counted(size, "reader")}`}
          </span>
        )
      }
    >
      {show && (
        <p className="rounded-md border border-teal/30 bg-teal-wash/60 px-2.5 py-2 text-teal">
          <RuleSentence rule={show} words={words} />
        </p>
      )}
      {show && now.problem && <Problem>{now.problem} Nobody gets this until its rule is changed.</Problem>}
      {!now.problem && <Why id={node.node.id} />}
      {draft ? (
        <>
          <RuleEditor rule={draft} onChange={write} words={words} counts={now.parts} />
          {now.count !== null && now.names.length > 0 && (
            <p className="text-ink-soft">Such as {now.names.join(", ")}.</p>
          )}
          <Button onClick={() => setDraft(null)}>Done</Button>
        </>
      ) : show ? (
        <div className="flex gap-2">
          <Button onClick={() => setDraft(asGroup(show))}>
            <Pencil className="size-4" aria-hidden /> Change
          </Button>
          <Button kind="quiet" onClick={() => set({ show: undefined }, "Showing it to everyone")}>
            Show to everyone
          </Button>
        </div>
      ) : (
        <div className="flex items-center justify-between">
          <span className="text-ink-soft">Everyone</span>
          <Button onClick={begin}>Add a rule</Button>
        </div>
      )}
    </Part>
  );
}

/** Why the reader on the canvas gets a part, or does not: by its own rule, or by one of what it stands in. */
function Why({ id }: { id: string }) {
  const { words, audience } = useComposer((state) => state.facts);
  const email = useComposer((state) => state.email);
  const reader = useComposer((state) => state.reader);
  const actions = useActions();
  const ruled = pathTo(email, id).flatMap((it) =>
    it.kind === "column" || !it.node.show
      ? []
      : [{ kind: it.kind, own: it.node.id === id, show: it.node.show }],
  );
  if (ruled.length === 0) return null;
  const whys = ruled.map((it) => ({ ...it, why: whyOf(it.show, reader, words, audience) }));
  // Of a rule that cannot be answered the part above says so.
  if (whys.some(({ why }) => why === null)) return null;
  const against = whys.find(({ why }) => why?.met === false);
  const facts = against?.why?.facts ?? whys.flatMap(({ why }) => why?.facts ?? []);
  return (
    <div data-testid="why" className="space-y-1 text-ink-soft">
      <p>
        {contactName(reader)} {against ? "does not get it" : "gets it"}, because{" "}
        {against && !against.own && `of the ${against.kind} around it: `}
        <Facts facts={facts} />.
      </p>
      {against && (
        <button type="button" className="text-mulberry underline" onClick={() => void actions.showTo(id)}>
          Show who does
        </button>
      )}
    </div>
  );
}
