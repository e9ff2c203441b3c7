/** A talk, and the forms by which one begins and goes on. */
import { Check, RotateCcw } from "lucide-react";
import { useId, useState } from "react";
import type { Talk } from "~/server/review/comments";
import { Button } from "../ui/button";
import { Area, Input, Labelled, Problem } from "../ui/form";
import { timeWords } from "../ui/time";
import { useTalks } from "./use-talks";

/** The form in which something is written. */
export function SayForm({
  label,
  button,
  save,
  onDone,
  onLeave,
}: {
  label: string;
  button: string;
  /** Gives the sentence of why not, or null. */
  save(words: string): Promise<string | null>;
  onDone(): void;
  onLeave?(): void;
}) {
  const { author } = useTalks();
  const [words, setWords] = useState("");
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  // Once it is known it is not asked for again; while it is being written the field stays.
  const [nameless] = useState(author?.name === "");
  const [name, setName] = useState(author?.name ?? "");
  const say = async () => {
    if (busy) return;
    if (nameless && name.trim() === "") {
      setProblem("Say who you are: your name stands beside what you write.");
      return;
    }
    if (nameless) author?.rename(name.trim());
    setBusy(true);
    const refused = await save(words);
    setBusy(false);
    setProblem(refused);
    if (refused !== null) return;
    setWords("");
    onDone();
  };
  return (
    <form
      className="space-y-2"
      onSubmit={(event) => {
        event.preventDefault();
        void say();
      }}
    >
      {nameless && (
        <Labelled label="Your name">
          <Input value={name} maxLength={80} onChange={(event) => setName(event.target.value)} />
        </Labelled>
      )}
      <Labelled label={label}>
        <Area
          rows={3}
          autoFocus
          value={words}
          maxLength={4000}
          onChange={(event) => setWords(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== "Enter" || !(event.ctrlKey || event.metaKey)) return;
            event.preventDefault();
            void say();
          }}
        />
      </Labelled>
      {problem && <Problem>{problem}</Problem>}
      <div className="flex gap-2">
        <Button type="submit" kind="primary" busy={busy}>
          {button}
        </Button>
        {onLeave && (
          <Button kind="quiet" onClick={onLeave}>
            Leave it
          </Button>
        )}
      </div>
    </form>
  );
}

/** One talk: where, what was said, and what can be done with it. */
export function TalkCard({
  talk,
  where,
  number,
  current = false,
  onShow,
}: {
  talk: Talk;
  /** What it is about, in words; null where that goes without saying. */
  where: string | null;
  /** The number of its pin, where it has one. */
  number?: number;
  current?: boolean;
  /** Shows its place. */
  onShow?(): void;
}) {
  const { now, answer, resolve } = useTalks();
  const id = useId();
  const [answering, setAnswering] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [first] = talk.said;
  const settle = async (resolved: boolean) => setProblem(await resolve(talk.id, resolved));
  return (
    <article
      aria-labelledby={id}
      data-talk={talk.id}
      className={`space-y-2 rounded-lg border bg-paper p-3 ${current ? "border-mulberry ring-1 ring-mulberry" : ""} ${talk.resolved ? "bg-[#f7f6f8]" : ""}`}
    >
      <h3 id={id} className={where === null ? "sr-only" : "flex items-start gap-2"}>
        {number !== undefined && (
          <span className="grid h-5 min-w-5 shrink-0 place-items-center rounded-full bg-mulberry px-1 text-xs font-semibold text-white">
            {number}
          </span>
        )}
        {onShow ? (
          <button
            type="button"
            onClick={onShow}
            className="min-w-0 truncate text-left text-ink-soft hover:text-mulberry"
          >
            {where}
          </button>
        ) : (
          <span className="min-w-0 truncate text-ink-soft">{where}</span>
        )}
        <span className="sr-only">Comment by {first.author}</span>
      </h3>
      {talk.quote && (
        <blockquote className="line-clamp-3 border-l-2 border-amber pl-2 break-words text-ink-soft">
          {talk.quote.exact}
        </blockquote>
      )}
      {talk.said.map((said) => (
        <div key={said.id} className="break-words">
          <p>
            <strong>{said.author}</strong>{" "}
            <span className="text-ink-soft">
              {said.review === null ? "" : "reviewer, "}
              {timeWords(said.at, now)}
            </span>
          </p>
          <p className="whitespace-pre-wrap">{said.words}</p>
        </div>
      ))}
      {talk.resolved && (
        <p className="flex items-center gap-1.5 text-green">
          <Check className="size-4" aria-hidden /> Resolved by {talk.resolved.by},{" "}
          {timeWords(talk.resolved.at, now)}
        </p>
      )}
      {problem && <Problem>{problem}</Problem>}
      {answering ? (
        <SayForm
          label="Your answer"
          button="Answer"
          save={(words) => answer(talk.id, words)}
          onDone={() => setAnswering(false)}
          onLeave={() => setAnswering(false)}
        />
      ) : (
        <div className="-ml-3 flex">
          <Button kind="quiet" onClick={() => setAnswering(true)} aria-label={`Answer ${first.author}`}>
            Answer
          </Button>
          <Button
            kind="quiet"
            onClick={() => void settle(!talk.resolved)}
            aria-label={`${talk.resolved ? "Open again" : "Resolve"} what ${first.author} said`}
          >
            {talk.resolved ? (
              <RotateCcw className="size-4" aria-hidden />
            ) : (
              <Check className="size-4" aria-hidden />
            )}
            {talk.resolved ? "Open again" : "Resolve"}
          </Button>
        </div>
      )}
    </article>
  );
}
