import { useState } from "react";
import type { Review, Verdict } from "~/server/review/reviews";
import { Button } from "../ui/button";
import { Area, Labelled, Problem } from "../ui/form";
import { timeWords } from "../ui/time";

/** What a reviewer makes of it: approved as it is, or changes asked for. */
export function VerdictBox({
  review: { state, said, saidAt, changed },
  now,
  give,
}: {
  review: Pick<Review, "state" | "said" | "saidAt" | "changed">;
  now: number;
  /** Gives the sentence of why not, or null. */
  give(verdict: Verdict, words: string): Promise<string | null>;
}) {
  const [words, setWords] = useState("");
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [again, setAgain] = useState(false);
  const say = async (verdict: Verdict) => {
    setBusy(true);
    const refused = await give(verdict, words);
    setBusy(false);
    setProblem(refused);
    if (refused !== null) return;
    setWords("");
    setAgain(false);
  };
  const settled = (state === "approved" || state === "changes") && !changed && !again;
  return (
    <section aria-label="Your verdict" className="space-y-2 card p-3">
      {(state === "approved" || state === "changes") && saidAt && (
        <p className={state === "approved" ? "text-green" : "text-amber"} role="status">
          <strong>{state === "approved" ? "You approved it" : "You asked for changes"}</strong>,{" "}
          {timeWords(saidAt, now)}
          {said && `: “${said}”`}
          {changed && ". It has changed since."}
        </p>
      )}
      {settled ? (
        <Button kind="quiet" className="-ml-3" onClick={() => setAgain(true)}>
          Say something else
        </Button>
      ) : (
        <>
          <Labelled label="What you make of it">
            <Area
              rows={2}
              value={words}
              maxLength={4000}
              placeholder="A few words, if you like"
              onChange={(event) => setWords(event.target.value)}
            />
          </Labelled>
          {problem && <Problem>{problem}</Problem>}
          <div className="flex flex-wrap gap-2">
            <Button kind="primary" busy={busy} onClick={() => void say("approved")}>
              Approve it
            </Button>
            <Button busy={busy} onClick={() => void say("changes")}>
              Ask for changes
            </Button>
          </div>
        </>
      )}
    </section>
  );
}
