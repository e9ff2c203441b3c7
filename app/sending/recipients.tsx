import { useState } from "react";
import { Link, useFetcher } from "react-router";
import type { Dispatch } from "~/server/dispatch/dispatches";
import { ask } from "../requests";
import { Button } from "../ui/button";
import { Choose } from "../ui/choose";
import { Problem, SearchInput } from "../ui/form";
import { count, counted, timeWords } from "../ui/time";
import { useAnswer } from "../ui/use-answer";

/** Which recipients are listed, and what each state is called. */
const SHOWN = {
  all: "All",
  accepted: "Handed over",
  pending: "Waiting",
  again: "Waiting for another try",
  handing: "In hand",
  failed: "Refused",
  unconfirmed: "Unconfirmed",
  skipped: "Unsubscribed meanwhile",
} as const;
type Shown = keyof typeof SHOWN;

/** So long after a letter the list is asked for, in milliseconds. */
const TYPED = 250;
/** So often the list is looked for again while it is being sent, in milliseconds. */
const LOOK_AGAIN = 5000;

/** The readers of a sending: sought, narrowed down, each with what was tried and the message as it was sent. */
export function Recipients({
  campaign,
  dispatch: { id, state, counts, total, finishedAt },
  now,
}: {
  campaign: string;
  dispatch: Pick<Dispatch, "id" | "state" | "counts" | "total" | "finishedAt">;
  /** When it was so, in milliseconds. */
  now: number;
}) {
  const fetcher = useFetcher<{ problem: string | null }>();
  const [shown, setShown] = useState<Shown>("all");
  const [text, setText] = useState("");
  const [offset, setOffset] = useState(0);
  // What has come since is looked for again: from time to time while it moves, as there may be many to look through.
  // Who was tried again and refused again is counted as before: when it ended tells the difference.
  const since = state === "sending" ? Math.floor(now / LOOK_AGAIN) : [counts, finishedAt];
  const key = JSON.stringify([shown, text, offset, state, since]);
  const { last, problem } = useAnswer(
    key,
    (signal) =>
      ask("/campaigns/:campaign/sent/:dispatch/recipients", {
        at: { campaign, dispatch: id },
        query: { state: shown === "all" ? undefined : shown, text, offset },
        signal,
      }),
    text === "" ? 0 : TYPED,
  );
  const again = state === "sent" || state === "paused";
  const act = (body: Record<string, string>) => fetcher.submit({ id, ...body }, { method: "post" });
  const size = (of: Shown) => (of === "all" ? total : of === "again" ? null : counts[of]);
  const options = (Object.keys(SHOWN) as Shown[]).map((value) => {
    const many = size(value);
    return { value, label: many === null ? SHOWN[value] : `${SHOWN[value]} (${count(many)})` };
  });
  return (
    <section className="mt-6" aria-label="Recipients">
      <div className="mb-2 flex flex-wrap items-center gap-2">
        <h2 className="mr-auto text-[15px] font-semibold">Recipients</h2>
        {again && counts.failed > 0 && (
          <Button onClick={() => act({ intent: "failed" })} disabled={fetcher.state !== "idle"}>
            Send to the {counted(counts.failed, "refused reader")} again
          </Button>
        )}
        <Choose<Shown>
          label="Which recipients"
          className="w-56! max-sm:w-full!"
          value={shown}
          options={options}
          onChange={(next) => {
            setShown(next);
            setOffset(0);
          }}
        />
        <div className="w-52 max-sm:w-full">
          <SearchInput
            aria-label="Search recipients"
            placeholder="Name or address"
            value={text}
            onChange={(event) => {
              setText(event.target.value);
              setOffset(0);
            }}
          />
        </div>
      </div>
      {(problem ?? fetcher.data?.problem) && (
        <div className="mb-2">
          <Problem>{problem ?? fetcher.data?.problem}</Problem>
        </div>
      )}
      <div className="card divide-y">
        {last?.lines.map((line) => (
          <div
            key={line.contact}
            className="grid grid-cols-[minmax(0,1fr)_minmax(0,1.4fr)_auto] items-start gap-x-4 gap-y-1 px-4 py-2 max-sm:grid-cols-1"
          >
            <div className="min-w-0">
              <Link
                to={`/audience/${line.contact}`}
                className="block truncate font-medium hover:text-mulberry"
              >
                {line.name ?? line.address}
              </Link>
              {line.name && <span className="block truncate text-ink-soft">{line.address}</span>}
            </div>
            <ol className="min-w-0 text-ink-soft">
              {line.troubles.map((one) => (
                <li key={one.at} className="break-words">
                  {timeWords(one.at, last.now)}: {one.words}
                </li>
              ))}
              <li className={line.state === "failed" ? "text-red" : ""}>
                {line.nextTry
                  ? `Is tried again at ${timeWords(line.nextTry, last.now)}`
                  : line.state === "pending"
                    ? "Waiting"
                    : `${timeWords(line.at, last.now)}: ${SHOWN[line.state].toLowerCase()}`}
                {line.why && ` (${line.why})`}
              </li>
            </ol>
            <div className="flex gap-3 whitespace-nowrap">
              {again && line.state === "failed" && (
                <button
                  type="button"
                  className="underline underline-offset-2"
                  onClick={() => act({ intent: "one", contact: String(line.contact) })}
                >
                  Send again
                </button>
              )}
              {line.made && (
                <Link
                  to={`/campaigns/${campaign}/sent/${id}/${line.contact}`}
                  className="underline underline-offset-2 hover:text-mulberry"
                  aria-label={`The message to ${line.name ?? line.address} as it was sent`}
                >
                  Message
                </Link>
              )}
            </div>
          </div>
        ))}
        {last?.lines.length === 0 && (
          <p className="p-6 text-center text-ink-soft">
            {text !== "" ? `Nobody for “${text}”.` : "Nobody is in this state."}
          </p>
        )}
        {!last && <p className="p-6 text-center text-ink-soft">Looking…</p>}
      </div>
      {last && last.total > last.most && (
        <div className="mt-2 flex items-center justify-between text-ink-soft">
          <Button disabled={offset === 0} onClick={() => setOffset(offset - last.most)}>
            Before
          </Button>
          {count(offset + 1)}–{count(Math.min(last.total, offset + last.most))} of {count(last.total)}
          <Button disabled={offset + last.most >= last.total} onClick={() => setOffset(offset + last.most)}>
            After
          </Button>
        </div>
      )}
    </section>
  );
}
