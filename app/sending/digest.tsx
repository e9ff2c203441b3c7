/** A campaign that repeats: what is to come, what came of the dates before, and how either is changed. */
import { CalendarClock, CircleCheck, CircleSlash, TriangleAlert } from "lucide-react";
import { useEffect, useState } from "react";
import { Link, useFetcher, useRevalidator } from "react-router";
import type { DatePast, DateToCome, DigestShown } from "~/server/dispatch/digests";
import { Button, buttonLook } from "../ui/button";
import { Dialog } from "../ui/dialog";
import { Problem } from "../ui/form";
import { counted } from "../ui/time";

/** So long after a date it is asked what came of it, in milliseconds. */
const AFTER = 2000;
/** The longest a timer waits, in milliseconds. */
const LONGEST = 2 ** 31 - 1;

/** Asks again once a date has come. @param now of the server, when the page was loaded */
function useComing(at: string | undefined, now: number): void {
  const { revalidate } = useRevalidator();
  useEffect(() => {
    if (at === undefined) return;
    const wait = Math.max(0, Date.parse(at) - now) + AFTER;
    const timer = setTimeout(() => void revalidate(), Math.min(wait, LONGEST));
    return () => clearTimeout(timer);
  }, [at, now, revalidate]);
}

export function Digest({ digest, base, now }: { digest: DigestShown; base: string; now: number }) {
  const fetcher = useFetcher<{ problem: string | null }>();
  const [asking, setAsking] = useState<"end" | "now" | null>(null);
  const { toCome, past, ended, least, tells, fresh } = digest;
  useComing(toCome[0]?.at, now);
  const busy = fetcher.state !== "idle";
  const act = (intent: string, at = "") => {
    setAsking(null);
    fetcher.submit({ intent, id: digest.id, at }, { method: "post" });
  };
  const problem = busy ? null : fetcher.data?.problem;
  const about = [
    least !== null && `only when ${counted(least, "item is", "items are")} new`,
    tells.length > 0 && `${tells.join(", ")} ${tells.length === 1 ? "is" : "are"} told`,
  ].filter(Boolean);
  return (
    <section aria-label="Dates" className="mb-6">
      <div className="mb-4 flex items-start gap-3">
        <div className="grow">
          <h1 className="text-[22px]/7 font-semibold">{digest.words}</h1>
          <p className="text-ink-soft">
            {ended ? `It ended ${ended}.` : about.join("; ")}
            {!ended && fresh !== null && ` ${counted(fresh, "item is", "items are")} new now.`}
          </p>
        </div>
        {!ended && <Button onClick={() => setAsking("end")}>End it</Button>}
      </div>
      {problem && (
        <div className="mb-3">
          <Problem>{problem}</Problem>
        </div>
      )}
      {digest.differs && !ended && (
        <div className="mb-4 flex flex-wrap items-center gap-2 rounded-lg border border-amber/40 bg-amber-wash px-3 py-2.5">
          <p className="basis-full text-amber">
            The design or its readers were changed. What it sends is as it was.
          </p>
          <Link className={buttonLook()} to={`${base}/compose`}>
            Look at the design
          </Link>
          <Button disabled={busy} onClick={() => act("take")}>
            Send it so from the next date on
          </Button>
        </div>
      )}
      {toCome.length > 0 && (
        <ol className="card mb-5 divide-y" aria-label="Dates to come">
          {toCome.map((date, index) => (
            <ToCome
              key={date.at}
              date={date}
              differs={digest.differs}
              busy={busy}
              onNow={index === 0 && !date.skip ? () => setAsking("now") : undefined}
              onAct={(intent) => act(intent, date.at)}
            />
          ))}
        </ol>
      )}
      {past.length > 0 && (
        <>
          <h2 className="mb-2 font-semibold">Dates before</h2>
          <ol className="card mb-5 divide-y" aria-label="Dates before">
            {past.map((date) => (
              <Past key={date.at} date={date} />
            ))}
          </ol>
        </>
      )}
      <Dialog open={asking === "end"} onClose={() => setAsking(null)} title="End it?">
        <p>No date comes after this. What is going out goes on, and it can be booked again.</p>
        <div className="mt-5 flex justify-end gap-2">
          <Button onClick={() => setAsking(null)}>Not yet</Button>
          <Button kind="danger" onClick={() => act("end")}>
            End it
          </Button>
        </div>
      </Dialog>
      <Dialog open={asking === "now"} onClose={() => setAsking(null)} title="Send the next one now?">
        <p>
          It goes at once instead of {toCome[0]?.words}
          {least === null ? "." : ", whatever is new."} What has left cannot be called back.
        </p>
        <div className="mt-5 flex justify-end gap-2">
          <Button onClick={() => setAsking(null)}>Not yet</Button>
          <Button kind="primary" onClick={() => act("sendNow")}>
            Send it now
          </Button>
        </div>
      </Dialog>
    </section>
  );
}

function ToCome({
  date,
  differs,
  busy,
  onNow,
  onAct,
}: {
  date: DateToCome;
  differs: boolean;
  busy: boolean;
  onNow?: () => void;
  onAct(intent: string): void;
}) {
  const { words, skip, own } = date;
  const deed = (intent: string, label: string) => (
    <Button kind="quiet" disabled={busy} aria-label={`${label}: ${words}`} onClick={() => onAct(intent)}>
      {label}
    </Button>
  );
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1 px-4 py-2">
      <CalendarClock className={`size-4 ${skip ? "text-ink-soft" : "text-green"}`} aria-hidden />
      <div className="grow">
        <p className={skip ? "text-ink-soft line-through" : "font-medium"}>{words}</p>
        {(skip || own) && (
          <p className="text-xs text-ink-soft">{skip ? "left out" : "with a design of its own"}</p>
        )}
      </div>
      {own ? deed("asUsual", "As the others") : differs && !skip && deed("takeFor", "As the design is now")}
      {onNow && (
        <Button kind="quiet" disabled={busy} onClick={onNow}>
          Send now
        </Button>
      )}
      {skip ? deed("unskip", "Let it go") : deed("skip", "Skip")}
    </li>
  );
}

function Past({ date: { words, why, dispatch } }: { date: DatePast }) {
  const [icon, said] =
    dispatch === null
      ? [<CircleSlash key="i" className="size-4 text-ink-soft" aria-hidden />, `Skipped. ${why ?? ""}`]
      : dispatch.state === "sent"
        ? [
            <CircleCheck key="i" className="size-4 text-green" aria-hidden />,
            `Went to ${counted(dispatch.accepted ?? 0, "reader")}`,
          ]
        : dispatch.state === "paused"
          ? [
              <TriangleAlert key="i" className="size-4 text-amber" aria-hidden />,
              `Waits for you. ${dispatch.trouble ?? "It was paused by hand."}`,
            ]
          : [
              <CalendarClock key="i" className="size-4 text-green" aria-hidden />,
              dispatch.state === "cancelled" ? "Cancelled by hand" : "Going out",
            ];
  return (
    <li className="grid grid-cols-[20px_minmax(0,1fr)] items-center gap-x-2 px-4 py-2">
      {icon}
      <p className="font-medium">{words}</p>
      <p className="col-start-2 break-words text-ink-soft">{said}</p>
    </li>
  );
}
