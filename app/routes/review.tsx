import { useMemo, useState } from "react";
import { useRevalidator } from "react-router";
import { toLookOver } from "~/server/review/look";
import { changedSince, reviewBy } from "~/server/review/reviews";
import { ask, tell } from "../requests";
import { Changes } from "../review/changes";
import { Desk, type Seen } from "../review/desk";
import { TalksProvider, useLiveTalks } from "../review/use-talks";
import { VerdictBox } from "../review/verdict-box";
import { timeWords } from "../ui/time";
import { useAnswer } from "../ui/use-answer";
import type { Route } from "./+types/review";

/** Whoever comes here has a link and nothing else of the interface. */
export const handle = { outside: true };

export async function loader({ context: { septima }, params }: Route.LoaderArgs) {
  const review = await reviewBy(septima, params.token, true);
  const since = await changedSince(septima, review.id);
  return {
    now: septima.now(),
    review,
    since: since && { ...since, parts: [...since.parts] },
    ...(await toLookOver(septima, review.campaign)),
  };
}

/** What somebody who was asked looks over, without signing in. */
export default function Review({ loaderData, params: { token } }: Route.ComponentProps) {
  const { now, review, since, name, revision, blocks, editions } = loaderData;
  const at = { token };
  const { revalidate } = useRevalidator();
  const [seen, setSeen] = useState<Seen>({ edition: 1, as: null });
  const talks = useLiveTalks(
    (signal) => ask("/review/:token/talks", { at, signal }),
    (body) => tell("/review/:token/talks", { name: "", ...body }, { at }),
  );
  const { last: lines } = useAnswer(`${seen.edition} ${revision}`, (signal) =>
    ask("/review/:token/lines", { at, query: { edition: seen.edition }, signal }),
  );
  const changed = useMemo(() => new Map(since?.parts ?? []), [since]);
  const src = `/review/${token}/look?edition=${seen.edition}${seen.as ? `&as=${seen.as}` : ""}&r=${revision}`;
  return (
    <TalksProvider value={{ ...talks, author: null }}>
      <main className="flex h-dvh flex-col">
        <title>{`${name} · Review`}</title>
        <header className="flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-b bg-paper px-4 py-2">
          <img src="/mark.svg" alt="" className="size-6.5" />
          <h1 className="min-w-0 truncate text-[15px] font-semibold">{name}</h1>
          <p className="text-ink-soft">
            for {review.reviewer} to look over, until {timeWords(review.expiresAt, now)}
          </p>
        </header>
        <Desk
          src={src}
          lines={lines}
          seen={seen}
          onSeen={setSeen}
          blocks={blocks}
          editions={editions}
          changed={changed}
        >
          {review.note !== "" && (
            <blockquote className="border-l-2 pl-3 break-words whitespace-pre-wrap text-ink-soft">
              {review.note}
            </blockquote>
          )}
          <VerdictBox
            review={review}
            now={now}
            give={async (verdict, words) => {
              const answer = await tell(
                "/review/:token/talks",
                { intent: "verdict", verdict, words, revision },
                { at },
              );
              await revalidate();
              return answer.problem;
            }}
          />
          {since && <Changes of={since} title="Changed since you looked last" />}
        </Desk>
      </main>
    </TalksProvider>
  );
}
