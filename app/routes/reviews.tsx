import { useState } from "react";
import { useRevalidator } from "react-router";
import { toLookOver } from "~/server/review/look";
import { reviewsOf } from "~/server/review/reviews";
import { ask } from "../requests";
import { AskForm } from "../review/ask-form";
import { Desk, type Seen } from "../review/desk";
import { ReviewerLine } from "../review/reviewer-line";
import { TalksAround } from "../review/talks-around";
import { useAnswer } from "../ui/use-answer";
import type { Route } from "./+types/reviews";

export async function loader({ context: { septima }, params }: Route.LoaderArgs) {
  return {
    now: septima.now(),
    reviews: await reviewsOf(septima, params.campaign),
    ...(await toLookOver(septima, params.campaign)),
  };
}

const NOTHING_CHANGED = new Map<string, never>();

/** Who looks the campaign over, what they make of it, and what is said of which part. */
export default function Reviews({ loaderData, params: { campaign } }: Route.ComponentProps) {
  const { now, reviews, revision, blocks, editions } = loaderData;
  const at = { campaign };
  const { revalidate } = useRevalidator();
  const [seen, setSeen] = useState<Seen>({ edition: 1, as: null });
  const { last: lines } = useAnswer(`${seen.edition} ${revision}`, (signal) =>
    ask("/campaigns/:campaign/lines", { at, query: { edition: seen.edition }, signal }),
  );
  const src = `/campaigns/${campaign}/look?edition=${seen.edition}${seen.as ? `&as=${seen.as}` : ""}&r=${revision}`;
  return (
    <TalksAround campaign={campaign}>
      <main className="grid h-full grid-cols-[300px_minmax(0,1fr)] max-lg:grid-cols-1 max-lg:overflow-y-auto">
        <title>Review · Septima</title>
        <div className="overflow-y-auto border-r bg-paper p-5 max-lg:border-r-0 max-lg:border-b">
          <h1 className="mb-4 text-[22px]/7 font-semibold">Review</h1>
          <AskForm campaign={campaign} onAsked={revalidate} />
          <h2 className="mt-7 mb-1 font-semibold">Who was asked</h2>
          {reviews.length === 0 && <p className="text-ink-soft">Nobody yet.</p>}
          <ul className="divide-y">
            {reviews.map((review) => (
              <ReviewerLine
                key={review.id}
                campaign={campaign}
                review={review}
                now={now}
                onChanged={revalidate}
              />
            ))}
          </ul>
        </div>
        <div className="flex min-h-0 flex-col">
          <Desk
            src={src}
            lines={lines}
            seen={seen}
            onSeen={setSeen}
            blocks={blocks}
            editions={editions}
            changed={NOTHING_CHANGED}
          />
        </div>
      </main>
    </TalksAround>
  );
}
