import { useState } from "react";
import type { Review } from "~/server/review/reviews";
import { tell } from "../requests";
import { Button } from "../ui/button";
import { Problem } from "../ui/form";
import { useNotify } from "../ui/notices";
import { timeWords } from "../ui/time";

/** How a review stands, in words, and in which colour. */
export function reviewWords(
  { state, changed, openedAt, saidAt, expiresAt }: Omit<Review, "id" | "link">,
  now: number,
): { words: string; ink: string } {
  const said = saidAt ? timeWords(saidAt, now) : "";
  switch (state) {
    case "approved":
      return changed
        ? { words: `Approved it ${said}; it has changed since`, ink: "text-amber" }
        : { words: `Approved it as it is, ${said}`, ink: "text-green" };
    case "changes":
      return {
        words: `Asked for changes, ${said}${changed ? "; it has changed since" : ""}`,
        ink: "text-amber",
      };
    case "withdrawn":
      return { words: "The link was taken back", ink: "text-ink-soft" };
    case "expired":
      return { words: `Said nothing; the link has run out, ${timeWords(expiresAt, now)}`, ink: "text-amber" };
    default:
      return {
        words: openedAt
          ? `Has opened it, ${timeWords(openedAt, now)}; has not decided`
          : "Has not opened it yet",
        ink: "text-ink-soft",
      };
  }
}

/** Somebody who was asked: how it stands, the link, and asking again. */
export function ReviewerLine({
  campaign,
  review,
  now,
  onChanged,
}: {
  campaign: string;
  review: Review;
  now: number;
  onChanged(): void;
}) {
  const notify = useNotify();
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const { id, reviewer, address, note, said, state, link } = review;
  const { words, ink } = reviewWords(review, now);
  const at = { campaign };
  const act = async (body: { intent: "again" } | { intent: "withdraw" }, done: string) => {
    setBusy(true);
    const answer = await tell(
      "/campaigns/:campaign/reviewers",
      body.intent === "again" ? { intent: "again", id, note, days: 7 } : { intent: "withdraw", id },
      { at },
    );
    setBusy(false);
    setProblem(answer.problem);
    if (answer.problem === null) notify({ text: done });
    onChanged();
  };
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(link);
      notify({ text: `The link for ${reviewer} is copied. Whoever has it speaks as ${reviewer}.` });
    } catch {
      setProblem(`The browser does not let it be copied. It is ${link}`);
    }
  };
  return (
    <li className="space-y-1 py-3" aria-label={reviewer}>
      <p className="font-medium break-words">{reviewer}</p>
      {address !== null && address !== reviewer && <p className="break-all text-ink-soft">{address}</p>}
      <p className={ink}>{words}.</p>
      {said && <p className="break-words">“{said}”</p>}
      {problem && <Problem>{problem}</Problem>}
      <div className="-ml-3 flex flex-wrap">
        {state !== "withdrawn" && state !== "expired" && (
          <Button kind="quiet" onClick={() => void copy()} aria-label={`Copy the link for ${reviewer}`}>
            Copy the link
          </Button>
        )}
        <Button
          kind="quiet"
          busy={busy}
          onClick={() => void act({ intent: "again" }, `${reviewer} is asked again, for 7 days.`)}
          aria-label={`Ask ${reviewer} again`}
        >
          Ask again
        </Button>
        {state !== "withdrawn" && (
          <Button
            kind="quiet"
            busy={busy}
            onClick={() =>
              void act({ intent: "withdraw" }, `The link of ${reviewer} shows nothing any more.`)
            }
            aria-label={`Take the link of ${reviewer} back`}
          >
            Take back
          </Button>
        )}
      </div>
    </li>
  );
}
