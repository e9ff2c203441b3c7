import { CircleAlert, CircleCheck, Pause, Play, TriangleAlert, X } from "lucide-react";
import { useEffect, useReducer, useState } from "react";
import { href, Link, useFetcher, useRevalidator } from "react-router";
import type { Dispatch } from "~/server/dispatch/dispatches";
import type { Pace, Progress } from "~/server/dispatch/progress";
import { ask } from "../requests";
import { Button, buttonLook } from "../ui/button";
import { Dialog } from "../ui/dialog";
import { useFollowed } from "../ui/followed";
import { Problem } from "../ui/form";
import { Progress as ProgressBar } from "../ui/progress";
import { count, counted, timeWords } from "../ui/time";
import { useAnswer } from "../ui/use-answer";
import { Recipients } from "./recipients";

type Shown = Dispatch & { when: string };
/** So long after an answer the next is asked for, in milliseconds. */
const ASK_AGAIN = 700;
/** An answer that is older says so, in milliseconds. */
const OLD = 2000;

const ENDED = ["sent", "cancelled"];

/** A sending as it goes: told as it happens or, where there is no room for that, asked for again once the last answer is there. */
export function Sending({ first, campaign }: { first: Progress & { dispatch: Shown }; campaign: string }) {
  const { revalidate } = useRevalidator();
  const [over, setOver] = useState(ENDED.includes(first.dispatch.state));
  const told = useFollowed<Progress>(over ? null : href("/campaigns/:campaign/send/follow", { campaign }));
  const [turn, again] = useReducer((turns: number) => turns + 1, 0);
  const asked = useAnswer(turn === 0 ? null : turn, (signal) =>
    ask("/campaigns/:campaign/send/progress", { at: { campaign }, signal }),
  );
  const { waiting } = asked;
  const last = (told.last?.now ?? 0) > (asked.last?.now ?? 0) ? told.last : asked.last;
  // What came with the page counts when it is newer: something was done since, such as sending to some again.
  const answer =
    last?.dispatch?.id === first.dispatch.id && last.now >= first.now
      ? { ...last, dispatch: last.dispatch }
      : first;
  const shown = answer.dispatch;
  useEffect(() => {
    if (over || waiting || told.tells) return;
    const timer = setTimeout(again, ASK_AGAIN);
    return () => clearTimeout(timer);
  }, [over, waiting, told.tells]);
  // The bar above, and the sheet for the rest, go by how it ended.
  useEffect(() => {
    setOver(ENDED.includes(shown.state));
    if (shown.state !== first.dispatch.state) revalidate();
  }, [shown.state, first.dispatch.state, revalidate]);
  const age = useAge(last);
  return (
    <>
      <HowFar dispatch={shown} pace={answer.pace} now={answer.now} age={age} asked={waiting} ask={again} />
      {shown.state !== "scheduled" && shown.state !== "gathering" && (
        <Recipients campaign={campaign} dispatch={shown} now={answer.now} />
      )}
    </>
  );
}

/** How long ago an answer came, in milliseconds, by the second. */
function useAge(answer: unknown): number {
  const [age, setAge] = useState(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: it begins anew with each answer
  useEffect(() => {
    const at = performance.now();
    setAge(0);
    const timer = setInterval(() => setAge(performance.now() - at), 1000);
    return () => clearInterval(timer);
  }, [answer]);
  return age;
}

/** How far a dispatch is, and what can be done about it. */
function HowFar({
  dispatch,
  pace,
  now,
  age,
  asked,
  ask,
}: {
  dispatch: Shown;
  /** How it goes; null before that is known. */
  pace: Pace | null;
  now: number;
  /** How old this is, in milliseconds. */
  age: number;
  /** Whether a newer answer is on its way. */
  asked: boolean;
  ask(): void;
}) {
  const fetcher = useFetcher<{ problem: string | null }>();
  const [asking, setAsking] = useState(false);
  const { counts, total, state } = dispatch;
  const done = counts.accepted + counts.failed + counts.skipped;
  const share = total === 0 ? (state === "sent" ? 1 : 0) : done / total;
  const act = (intent: string) => fetcher.submit({ intent, id: dispatch.id }, { method: "post" });
  const old = age > OLD && !["sent", "cancelled", "scheduled"].includes(state);
  /** When “Cancel” was pressed: what is said then counts from that moment on. */
  const [pressed, setPressed] = useState<number | null>(null);
  const counting = pressed !== null && (asked || now < pressed);
  const title = {
    scheduled: `Goes ${dispatch.when}`,
    gathering: "Gathering the readers",
    sending: `Sending: ${count(done)} of ${count(total)}`,
    paused: `Paused at ${count(done)} of ${count(total)}`,
    sent: `Sent to ${counted(counts.accepted, "reader")}`,
    cancelled: "Cancelled",
  }[state];
  return (
    <section aria-live="polite">
      <h1 className="mb-4 flex items-center gap-2 text-[22px]/7 font-semibold">
        {state === "sent" && <CircleCheck className="size-6 text-green" aria-hidden />}
        {title}
      </h1>
      <div className="card p-5">
        {state !== "scheduled" && <ProgressBar share={share} label="Sent so far" />}
        {old && (
          <p className="mt-2 text-ink-soft" data-testid="old">
            This is how it was {Math.round(age / 1000)} seconds ago; a newer answer is on its way.
          </p>
        )}
        <dl className="mt-3 grid grid-cols-3 gap-3">
          <Figure label="Handed over" value={counts.accepted} />
          <Figure
            label="Waiting"
            value={state === "scheduled" || state === "gathering" ? total : counts.pending + counts.handing}
          />
          <Figure label="Refused" value={counts.failed} />
          {counts.skipped > 0 && <Figure label="Unsubscribed meanwhile" value={counts.skipped} />}
          {counts.unconfirmed > 0 && <Figure label="Unconfirmed" value={counts.unconfirmed} />}
        </dl>
        {pace && <Going pace={pace} state={state} />}
        {dispatch.trouble && (
          <div className="mt-3">
            <Problem mild>{dispatch.trouble}</Problem>
          </div>
        )}
        {counts.unconfirmed > 0 && (
          <p className="mt-3 flex items-start gap-2 text-amber">
            <TriangleAlert className="mt-0.5 size-4 shrink-0" aria-hidden />
            <span>
              The connection broke while {counted(counts.unconfirmed, "message")} were handed over, and the
              relay cannot tell whether it has them. They were not sent again.{" "}
              <button type="button" className="underline" onClick={() => act("unconfirmed")}>
                Send them once more, at the risk of a second copy
              </button>
            </span>
          </p>
        )}
        {fetcher.data?.problem && (
          <p className="mt-3 flex gap-2 text-red">
            <CircleAlert className="size-4" aria-hidden /> {fetcher.data.problem}
          </p>
        )}
        <div className="mt-4 flex gap-2">
          {state === "sending" && (
            <Button onClick={() => act("paused")}>
              <Pause className="size-4" aria-hidden /> Pause
            </Button>
          )}
          {state === "paused" && (
            <Button kind="primary" onClick={() => act("sending")}>
              <Play className="size-4" aria-hidden /> Resume
            </Button>
          )}
          {state !== "sent" && state !== "cancelled" && (
            <Button
              kind="danger"
              onClick={() => {
                setPressed(now + 1);
                ask();
                setAsking(true);
              }}
            >
              <X className="size-4" aria-hidden /> {state === "scheduled" ? "Cancel it" : "Cancel the rest"}
            </Button>
          )}
          {state === "sent" && (
            <Link className={buttonLook()} to="/postroom">
              See the messages in the postroom
            </Link>
          )}
        </div>
        <Dialog
          open={asking}
          onClose={() => setAsking(false)}
          title={state === "scheduled" ? "Cancel the sending?" : "Cancel the rest?"}
        >
          {counting && <p className="mb-2 text-ink-soft">Counting how many have it…</p>}
          <p className={counting ? "invisible" : ""}>
            {done === 0
              ? `Nobody has it yet. ${counted(total, "reader")} will not get it.`
              : `${counted(done, "reader has", "readers have")} it already and ${done === 1 ? "keeps" : "keep"} it. ${counted(total - done, "reader")} will not get it.`}{" "}
            {done > 0 && "Afterwards it can be sent to those only; nobody gets it twice."}
          </p>
          <div className="mt-5 flex justify-end gap-2">
            <Button onClick={() => setAsking(false)}>Go on sending</Button>
            <Button
              kind="primary"
              disabled={counting}
              onClick={() => {
                setAsking(false);
                act("cancelled");
              }}
            >
              {state === "scheduled" ? "Cancel it" : "Cancel the rest"}
            </Button>
          </div>
        </Dialog>
        {dispatch.finishedAt && (
          <p className="mt-3 text-ink-soft">Ended {timeWords(dispatch.finishedAt, now)}.</p>
        )}
      </div>
    </section>
  );
}

/** How fast it goes and who is at it, and why some wait or were refused. */
function Going({ pace, state }: { pace: Pace; state: Shown["state"] }) {
  const { perSecond, workers, waiting, failed } = pace;
  const why = [
    { title: "Wait for another try", reasons: waiting },
    { title: "Refused", reasons: failed },
  ].filter(({ reasons }) => reasons.length > 0);
  return (
    <div className="mt-3 space-y-2 text-ink-soft">
      {state === "sending" && (
        <p data-testid="pace">
          {perSecond >= 1 ? `${count(Math.round(perSecond))} a second` : "Less than one a second"}
          {workers.length > 1 && `, by ${workers.length} processes`}
          {workers.length > 0 &&
            ` · ${counted(
              workers.reduce((sum, one) => sum + one.count, 0),
              "reader",
            )} in hand`}
        </p>
      )}
      {why.map(({ title, reasons }) => (
        <div key={title}>
          <h3 className="font-medium text-ink">{title}</h3>
          <ul>
            {reasons.map((one) => (
              <li key={one.words} className="flex gap-3">
                <span className="w-14 shrink-0 text-right tabular-nums">{count(one.count)}</span>
                <span className="min-w-0 break-words">{one.words}</span>
              </li>
            ))}
          </ul>
        </div>
      ))}
    </div>
  );
}

function Figure({ label, value }: { label: string; value: number }) {
  return (
    <div>
      <dt className="text-ink-soft">{label}</dt>
      <dd className="text-lg font-semibold">{count(value)}</dd>
    </div>
  );
}
