import { Crosshair } from "lucide-react";
import { useEffect, useState } from "react";
import { wordsOf } from "~/core/blocks";
import { same, type Words, wordSigns } from "~/core/email";
import { WhoLine } from "../../assistant/who-line";
import { Button, IconButton } from "../../ui/button";
import { Difference } from "../../ui/difference";
import { Problem } from "../../ui/form";
import { useCanvas } from "../canvas/context";
import { useActions } from "../state/actions";
import type { Asked } from "../state/asked";
import { useComposer, useComposerStore } from "../state/store";
import { askAboutEmail, callOff, lostLinks, putBlocks, refuse, targetOf } from "./asking";

const USUAL: readonly { label: string; question: string }[] = [
  { label: "Subjects", question: "Propose five subjects for this email." },
  { label: "Preheaders", question: "Propose three preheaders for this email." },
  { label: "A shorter opening", question: "Make the opening of this email shorter." },
  { label: "Ideas for more", question: "Propose three ideas for what else could be in this email." },
];

/** Asks the writing assistant about this email. What it answers is put in where one wants it, or refused. */
export default function AskPanel() {
  const store = useComposerStore();
  const asked = useComposer((state) => state.asked);
  const [question, setQuestion] = useState("");
  const waiting = asked.some(({ answers }) => answers === null);
  const send = (text: string) => {
    if (text.trim() === "" || waiting) return;
    setQuestion("");
    void askAboutEmail(store, text.trim());
  };
  return (
    <div className="space-y-3 p-3">
      <WhoLine />
      <div className="flex flex-wrap gap-1.5">
        {USUAL.map(({ label, question: usual }) => (
          <Button
            key={label}
            className="min-h-7! px-2! text-xs"
            disabled={waiting}
            onClick={() => send(usual)}
          >
            {label}
          </Button>
        ))}
      </div>
      <form
        className="space-y-1.5"
        onSubmit={(event) => {
          event.preventDefault();
          send(question);
        }}
      >
        <textarea
          aria-label="Question about this email"
          placeholder="Or ask in your own words"
          rows={2}
          maxLength={2000}
          className="field w-full"
          value={question}
          onChange={(event) => setQuestion(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== "Enter" || event.shiftKey || event.nativeEvent.isComposing) return;
            event.preventDefault();
            send(question);
          }}
        />
        <div className="flex justify-end">
          <Button type="submit" disabled={waiting || question.trim() === ""}>
            Ask
          </Button>
        </div>
      </form>
      <ul aria-label="Answers" aria-live="polite" className="space-y-4">
        {asked.map((one) => (
          <li key={one.id} className="space-y-2 border-t pt-3">
            <p className="font-medium wrap-break-word">{one.question}</p>
            {one.answers === null ? (
              <Waiting since={one.at} onCancel={() => callOff(store)} />
            ) : (
              <Answers one={one} />
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}

function Waiting({ since, onCancel }: { since: number; onCancel(): void }) {
  const [seconds, setSeconds] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => setSeconds(Math.floor((Date.now() - since) / 1000)), 500);
    return () => clearInterval(timer);
  }, [since]);
  return (
    <p role="status" className="flex items-center justify-between gap-2 text-ink-soft">
      <span>Writing…{seconds >= 2 && ` ${seconds} seconds`}</span>
      <Button kind="quiet" onClick={onCancel}>
        Cancel
      </Button>
    </p>
  );
}

const said = (words: Words) => wordSigns(words).replaceAll("\ufffc", "‹reader data›");

type OneAnswer = NonNullable<Asked["answers"]>[number];

function Answers({ one: { answers, dropped, problem } }: { one: Asked }) {
  return (
    <>
      {problem !== null && <Problem mild>{problem}</Problem>}
      {problem === null && answers?.length === 0 && dropped.length === 0 && (
        <p className="text-ink-soft">It has nothing to say.</p>
      )}
      <ul className="space-y-2">
        {answers?.map((answer) => (
          <li key={answer.id}>
            <OneAnswerCard answer={answer} />
          </li>
        ))}
      </ul>
      {dropped.length > 0 && (
        <div className="rounded-md bg-amber-wash px-3 py-2 text-amber">
          <p>Of what it sent, this cannot be used:</p>
          <ul className="list-disc pl-4">
            {dropped.slice(0, 5).map((what) => (
              <li key={what} className="wrap-break-word">
                {what}
              </li>
            ))}
            {dropped.length > 5 && <li>and {dropped.length - 5} more</li>}
          </ul>
        </div>
      )}
    </>
  );
}

function OneAnswerCard({ answer }: { answer: OneAnswer }) {
  const store = useComposerStore();
  const actions = useActions();
  const canvas = useCanvas();
  const email = useComposer((state) => state.resting);
  const target = targetOf(store, email, answer);
  const gone = answer.put === "place" && target === null;
  const there = target !== null && same(target.now, target.next);
  const lost = target ? lostLinks(target.now, target.next) : [];
  const below = email.only ? "Put in at the end" : "Put in below what is selected";
  const label = answer.put === "new" ? "New" : target?.label;
  return (
    <div className="space-y-1.5 rounded-md border p-2.5">
      <div className="flex items-center gap-1">
        <p className="grow text-xs font-medium text-ink-soft">
          {label ?? (gone ? "Words that are gone" : "To read")}
        </p>
        {target?.block && (
          <IconButton
            icon={Crosshair}
            small
            label="Show where"
            className="size-6!"
            onClick={() => {
              store.getState().select(target.block);
              if (target.block) canvas.reveal(target.block);
            }}
          />
        )}
      </div>
      <div className="max-h-72 space-y-1.5 overflow-y-auto wrap-break-word whitespace-pre-wrap">
        {target?.block && !there ? (
          <Difference before={wordSigns(target.now)} after={wordSigns(target.next)} />
        ) : "blocks" in answer ? (
          answer.blocks.map((block) => (
            <p key={block.id} className={block.type === "heading" ? "font-semibold" : undefined}>
              {wordsOf(block)
                .map(({ words }) => said(words))
                .join("\n")}
            </p>
          ))
        ) : target ? (
          said(target.next)
        ) : (
          answer.text
        )}
      </div>
      {lost.length > 0 && (
        <p className="text-xs wrap-break-word text-amber">
          {lost.length === 1 ? "A link would be gone: " : `${lost.length} links would be gone: `}
          {lost.slice(0, 3).join(", ")}
        </p>
      )}
      <div className="flex items-center gap-2">
        {there ? (
          <span className="text-green">This stands there now.</span>
        ) : (
          <Button
            disabled={gone}
            onClick={() => ("blocks" in answer ? putBlocks(store, actions, answer.blocks) : target?.put())}
          >
            {answer.put === "nothing" ? below : "Accept"}
          </Button>
        )}
        <Button kind="quiet" onClick={() => refuse(store, answer.id)}>
          {there || answer.put === "nothing" ? "Done" : "Refuse"}
        </Button>
      </div>
    </div>
  );
}
