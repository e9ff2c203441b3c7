import { useState } from "react";
import { Link, useFetcher, useRevalidator } from "react-router";
import type { Change, Kept } from "~/server/audience/changing";
import type { Rejected } from "~/server/audience/import-lines";
import { tell } from "../requests";
import { Button, buttonLook } from "../ui/button";
import { Problem } from "../ui/form";
import { Progress } from "../ui/progress";
import { count } from "../ui/time";
import { Tally } from "./import-plan";
import { RejectedList } from "./rejected-list";
import { useChange } from "./use-change";

/** An import while it goes on, and what became of it. */
export function ImportResult({
  first,
  rejected,
  kept,
}: {
  first: Change;
  rejected: readonly Rejected[];
  kept: readonly Kept[];
}) {
  const { revalidate } = useRevalidator();
  const fetcher = useFetcher();
  const [problem, setProblem] = useState<string | null>(null);
  const [taking, setTaking] = useState(false);
  const going = first.state === "running" || first.state === "undoing";
  const now = useChange(going ? first.id : null, () => void revalidate()) ?? first;
  const { counts, state } = now;
  const takeBack = async () => {
    setTaking(true);
    setProblem(null);
    const answer = await tell("/audience/changes/:change", {}, { at: { change: first.id } });
    setProblem(answer.problem);
    setTaking(false);
    void revalidate();
  };
  const cancel = () =>
    fetcher.submit(JSON.stringify({ intent: "cancel" }), { method: "post", encType: "application/json" });
  const words = {
    running: "Bringing contacts in",
    undoing: "Taking it back",
    done: "They are in",
    stopped: "Cancelled",
    undone:
      kept.length === 0
        ? "Taken back: everything is as it was before"
        : "Taken back, but for those who stayed",
    failed: "It was not brought in",
  }[taking ? "undoing" : state];
  return (
    <div className="grid max-w-4xl grid-cols-2 items-start gap-5 max-lg:grid-cols-1">
      <section className="card space-y-4 p-5" aria-label="The import">
        <h2 className="text-[15px] font-semibold" role="status">
          {words}
        </h2>
        {now.trouble && <Problem>{now.trouble}</Problem>}
        {(going || taking) && <Progress label={words} share={null} />}
        <dl className="space-y-1.5" aria-live="polite">
          {going && <Tally of={counts.seen ?? 0} words="lines so far" strong />}
          <Tally of={counts.made ?? 0} words="new contacts" strong />
          <Tally of={counts.changed ?? 0} words="known, got something new" />
          <Tally of={counts.same ?? 0} words="known, nothing new" soft />
          <Tally of={counts.again ?? 0} words="lines about an address once more" soft />
          <Tally of={counts.suppressed ?? 0} words="cannot be written to: stay so" tone="text-amber" />
          <Tally of={counts.lessened ?? 0} words="taken without a value" tone="text-amber" />
          <Tally of={counts.rejected ?? 0} words="lines not taken" tone="text-red" />
        </dl>
        {problem && <Problem>{problem}</Problem>}
        <div className="flex flex-wrap gap-2">
          {state === "running" && (
            <Button disabled={fetcher.state !== "idle" || fetcher.data !== undefined} onClick={cancel}>
              {fetcher.data === undefined ? "Cancel" : "Cancelling…"}
            </Button>
          )}
          {state === "done" && (
            <>
              <Link className={buttonLook("primary")} to="/audience">
                See the audience
              </Link>
              <Button disabled={taking} onClick={() => void takeBack()}>
                Take it back
              </Button>
            </>
          )}
          {(state === "undone" || state === "failed") && (
            <Link className={buttonLook("primary")} to="/audience/import">
              Bring in another file
            </Link>
          )}
        </div>
        {state === "running" && (
          <p className="text-xs text-ink-soft">
            You can leave this page: it goes on. Of {count(counts.seen ?? 0)} lines so far, nothing is lost.
          </p>
        )}
      </section>
      {kept.length > 0 && (
        <section className="card p-5" aria-label="Who stayed">
          <h2 className="mb-2 text-[15px] font-semibold">Who stayed, since they are more than this import</h2>
          <ul className="max-h-96 divide-y overflow-y-auto">
            {kept.map(({ id, email, why }) => (
              <li key={id} className="flex flex-wrap gap-x-3 py-1.5">
                <Link className="min-w-0 grow truncate text-mulberry underline" to={`/audience/${id}`}>
                  {email}
                </Link>
                <span className="text-ink-soft">{why}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
      {rejected.length > 0 && (
        <RejectedList
          rejected={rejected}
          total={counts.rejected ?? rejected.length}
          href={`/audience/import/${first.id}/rejected.csv`}
        />
      )}
    </div>
  );
}
