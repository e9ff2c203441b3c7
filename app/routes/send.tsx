import { useState } from "react";
import { data, Link, useFetcher, useRevalidator } from "react-router";
import { z } from "zod";
import { contactName } from "~/core/audience";
import { rhythmWords } from "~/core/sending";
import { groupNames } from "~/server/audience/groups";
import { campaign } from "~/server/campaigns/campaigns";
import { bookDispatch, takeBack } from "~/server/dispatch/bookings";
import {
  asUsual,
  bookDigest,
  DigestSchema,
  digestOf,
  endDigest,
  sendNextNow,
  skipDate,
  takeDesign,
} from "~/server/dispatch/digests";
import { sendFailed, sendUnconfirmed, steerDispatch } from "~/server/dispatch/dispatches";
import { progressOf } from "~/server/dispatch/progress";
import { knownNumbers, type SheetNumbers } from "~/server/dispatch/sheet";
import type { ShownFinding } from "~/server/preflight/preflight";
import { Refusal } from "~/server/refusal";
import { formInput } from "../input";
import { orProblem } from "../refusal";
import { ask } from "../requests";
import { Digest } from "../sending/digest";
import { Sending } from "../sending/progress";
import { momentChosen, rhythmOf, TOLERANCES, tellsOf, useWhen, WhenFields } from "../sending/when";
import { Button, buttonLook } from "../ui/button";
import { Dialog } from "../ui/dialog";
import { Problem } from "../ui/form";
import { count, counted } from "../ui/time";
import { useAnswer } from "../ui/use-answer";
import type { Route } from "./+types/send";

export async function loader({ context, params, request }: Route.LoaderArgs) {
  const { septima } = context;
  const reader = Number(new URL(request.url).searchParams.get("reader")) || undefined;
  const { readers } = await campaign(septima, params.campaign);
  const names = await groupNames(septima);
  const nameOf = (group: { kind: string; id: string }) =>
    group.kind === "everyone" ? "Everyone" : (names.get(group.id) ?? "(deleted)");
  // Whole, with how it goes: what came later would move what is about to be pressed. And before the dates are looked at:
  // they are asked for again when it has changed since, and only then.
  const progress = await progressOf(septima, params.campaign);
  return {
    include: readers.include.map(nameOf),
    exclude: readers.exclude.map(nameOf),
    digest: await digestOf(septima, params.campaign),
    progress,
    asked: reader ?? null,
    // What is known already is there at once; what is so now is asked for by the page.
    known: knownNumbers(septima, params.campaign),
  };
}

/** What was sent as JSON in a field; nothing where it is none. */
function asJson(it: unknown): unknown {
  try {
    return JSON.parse(String(it));
  } catch {
    return null;
  }
}

const Body = z.discriminatedUnion("intent", [
  z.object({
    intent: z.literal("book"),
    confirmed: z.coerce.number().int(),
    when: z.enum(["now", "later"]),
    date: z.string(),
    time: z.string(),
    zone: z.string(),
    tolerance: z.enum(TOLERANCES).default("usual"),
  }),
  z.object({
    intent: z.literal("repeat"),
    confirmed: z.coerce.number().int(),
    digest: z.preprocess(asJson, z.unknown()),
  }),
  z.object({
    intent: z.enum(["skip", "unskip", "asUsual", "takeFor", "take", "sendNow", "end"]),
    id: z.string(),
    at: z.string(),
  }),
  z.object({ intent: z.enum(["paused", "sending", "cancelled"]), id: z.string() }),
  z.object({ intent: z.enum(["unconfirmed", "failed", "takeBack"]), id: z.string() }),
  z.object({ intent: z.literal("one"), id: z.string(), contact: z.coerce.number().int() }),
]);

export async function action({ context, params, request }: Route.ActionArgs) {
  const { septima } = context;
  const parsed = Body.safeParse(Object.fromEntries(await formInput(request)));
  if (!parsed.success)
    return data(
      { problem: "This form was not complete. Reload the page and try again.", result: null },
      { status: 400 },
    );
  const body = parsed.data;
  return orProblem(async () => {
    switch (body.intent) {
      case "book":
        return bookDispatch(septima, params.campaign, {
          confirmed: body.confirmed,
          when: body.when === "now" ? null : { date: body.date, time: body.time, zone: body.zone },
          tolerance: body.tolerance === "usual" ? null : Number(body.tolerance),
        });
      case "repeat": {
        const asked = DigestSchema.safeParse(body.digest);
        if (!asked.success) throw new Refusal(asked.error.issues[0].message);
        return bookDigest(septima, params.campaign, body.confirmed, asked.data);
      }
      case "skip":
      case "unskip":
        await skipDate(septima, body.id, body.at, body.intent === "skip");
        return body.id;
      case "asUsual":
        await asUsual(septima, body.id, body.at);
        return body.id;
      case "takeFor":
      case "take":
        await takeDesign(septima, body.id, body.intent === "take" ? null : body.at);
        return body.id;
      case "sendNow":
        await sendNextNow(septima, body.id);
        return body.id;
      case "end":
        await endDigest(septima, body.id);
        return body.id;
      case "unconfirmed":
        await sendUnconfirmed(septima, body.id);
        return body.id;
      case "failed":
        await sendFailed(septima, body.id, "all");
        return body.id;
      case "one":
        await sendFailed(septima, body.id, [body.contact]);
        return body.id;
      case "takeBack":
        await takeBack(septima, body.id);
        return body.id;
      default:
        await steerDispatch(septima, body.id, body.intent);
        return body.id;
    }
  });
}

type Loaded = Route.ComponentProps["loaderData"];

/** As it is said within a sentence. */
const lowered = (words: string) => words.charAt(0).toLowerCase() + words.slice(1);

export default function Send({ loaderData, params }: Route.ComponentProps) {
  const { progress, digest, asked, known } = loaderData;
  const { dispatch } = progress;
  const base = `/campaigns/${params.campaign}`;
  const repeats = digest !== null && digest.ended === null;
  const open = !repeats && (!dispatch || dispatch.state === "cancelled" || digest !== null);
  // What went on a date long ago is told by its line; what goes now is followed.
  const going = dispatch && !open && (!repeats || !["sent", "cancelled"].includes(dispatch.state));
  // Again with each loading of the page: when a sending was cancelled, others are left to be sent to.
  const sheet = useAnswer(open ? loaderData : null, (signal) =>
    ask("/campaigns/:campaign/send/sheet", { at: params, query: { reader: asked ?? undefined }, signal }),
  );
  const fresh = sheet.result !== null;
  const numbers = sheet.last ?? known;
  const reader = asked ?? numbers?.reader?.id;
  return (
    <main className="h-full overflow-y-auto">
      <title>Send · Septima</title>
      <div className="mx-auto grid max-w-5xl grid-cols-[minmax(0,1fr)_280px] items-start gap-6 p-6 max-lg:grid-cols-1 max-sm:p-3">
        <div>
          {digest && <Digest digest={digest} base={base} now={progress.now} />}
          {going && (
            <Sending key={dispatch.id} first={{ ...progress, dispatch }} campaign={params.campaign} />
          )}
          {open && (
            <Sheet
              loaded={loaderData}
              numbers={numbers}
              fresh={fresh}
              problem={sheet.problem}
              base={base}
              cancelled={dispatch?.state === "cancelled"}
            />
          )}
        </div>
        <div className="mt-11 h-130 overflow-hidden rounded-lg border bg-white max-lg:hidden">
          {(reader !== undefined || fresh || !open) && (
            <iframe
              title={`The email as ${numbers?.reader ? contactName(numbers.reader) : "a reader"} gets it`}
              src={`${base}/picture${reader ? `?reader=${reader}` : ""}`}
              sandbox=""
              tabIndex={-1}
              className="h-[1300px] w-[700px] origin-top-left border-0"
              style={{ transform: "scale(0.4)" }}
            />
          )}
        </div>
      </div>
    </main>
  );
}

/** Stands where something is still being worked out. */
function Waiting({ children = "…" }: { children?: React.ReactNode }) {
  return <span className="font-normal text-ink-soft">{children}</span>;
}

function Part({ label, to, children }: { label: string; to: string; children: React.ReactNode }) {
  return (
    <div className="grid grid-cols-[110px_minmax(0,1fr)] gap-3 px-4 py-3 max-sm:grid-cols-1 max-sm:gap-1">
      <dt className="text-ink-soft">{label}</dt>
      <dd className="flex min-w-0 items-start gap-3">
        <div className="min-w-0 grow break-words">{children}</div>
        <Link to={to} className="text-mulberry underline" aria-label={`Change: ${label}`}>
          Change
        </Link>
      </dd>
    </div>
  );
}

/** What is unfinished, each with the way to it. */
function Findings({ findings, could, base }: { findings: ShownFinding[]; could: number; base: string }) {
  if (findings.length + could === 0) return null;
  return (
    <>
      <p className="mt-4 text-ink-soft">
        {could > 0 && `${counted(could, "thing", "things")} could be better. `}
        <Link className="underline underline-offset-2 hover:text-mulberry" to={`${base}/preflight`}>
          All that preflight found
        </Link>
      </p>
      <ul className="mt-2 space-y-2" data-testid="findings">
        {findings.map(({ weight, text, block }) => (
          <li key={`${text} ${block}`} className="flex items-start gap-2">
            <div className="grow">
              <Problem mild={weight === "look"}>{text}</Problem>
            </div>
            {block && (
              <Link className={buttonLook()} to={`${base}/compose?select=${encodeURIComponent(block)}`}>
                Show it
              </Link>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}

function Sheet({
  loaded,
  numbers,
  fresh,
  problem: unknown,
  base,
  cancelled,
}: {
  loaded: Loaded;
  /** What is known; null before the first answer. */
  numbers: SheetNumbers | null;
  /** Whether that is how it is now. */
  fresh: boolean;
  /** Why it cannot be known. */
  problem: string | null;
  base: string;
  cancelled: boolean;
}) {
  const fetcher = useFetcher<typeof action>();
  const { revalidate } = useRevalidator();
  const [chosen, set] = useWhen();
  const [asking, setAsking] = useState(false);
  const { when, date, time, zone, tolerance } = chosen;
  const rhythm = when === "again" ? rhythmOf(chosen) : null;
  const readers = numbers?.readers ?? 0;
  const findings = numbers?.findings ?? [];
  const stops = findings.some(({ weight }) => weight === "stops");
  const looks = findings.length;
  const digestAsked = rhythm &&
    "rhythm" in rhythm && {
      rhythm: rhythm.rhythm,
      least: chosen.least,
      tells: tellsOf(chosen),
      tolerance: tolerance === "usual" ? null : Number(tolerance),
    };
  const book = () => {
    fetcher.submit(
      when === "again"
        ? { intent: "repeat", confirmed: String(readers), digest: JSON.stringify(digestAsked) }
        : { intent: "book", confirmed: String(readers), when, date, time, zone, tolerance },
      { method: "post" },
    );
    setAsking(false);
  };
  const problem = (fetcher.state === "idle" ? fetcher.data?.problem : null) ?? unknown;
  const moment = digestAsked ? lowered(rhythmWords(digestAsked.rhythm)) : momentChosen(chosen);
  const undecided = (when === "later" && date === "") || (when === "again" && !digestAsked);
  const deed = { now: "Send", later: "Schedule", again: "Begin" }[when];
  return (
    <>
      <h1 className="mb-4 text-[22px]/7 font-semibold">The whole campaign on one sheet</h1>
      {cancelled && (
        <p className="mb-3 text-ink-soft">
          The earlier sending was cancelled.
          {(numbers?.got ?? 0) > 0 &&
            ` ${counted(numbers?.got ?? 0, "reader has", "readers have")} it already and will not get it again: only the rest can be sent to.`}
        </p>
      )}
      <dl className="card divide-y">
        <Part label="From" to={`${base}/compose`}>
          {numbers?.from ?? <Waiting />}
        </Part>
        <Part label="Subject" to={`${base}/compose`}>
          {numbers === null ? (
            <Waiting />
          ) : (
            <>
              {numbers.subject || <span className="text-red">none yet</span>}
              <span className="block text-ink-soft">{numbers.preheader || "no preheader"}</span>
            </>
          )}
        </Part>
        <Part label="Readers" to={`${base}/readers`}>
          {loaded.include.length === 0 ? (
            "nobody chosen yet"
          ) : (
            <>
              {loaded.include.join(", ")}
              {loaded.exclude.length > 0 && `, but not ${loaded.exclude.join(", ")}`}
              <span className="block font-semibold text-teal" aria-live="polite">
                {numbers && `${counted(readers, "reader")}, ${counted(numbers.editions, "edition")}`}
                {!fresh && !unknown && <Waiting>{numbers ? ", counting again…" : "Counting…"}</Waiting>}
              </span>
            </>
          )}
        </Part>
        <div className="grid grid-cols-[110px_minmax(0,1fr)] gap-3 px-4 py-3 max-sm:grid-cols-1 max-sm:gap-1">
          <dt className="text-ink-soft">When</dt>
          <dd className="space-y-3">
            <WhenFields chosen={chosen} set={set} now={loaded.progress.now} />
          </dd>
        </div>
      </dl>
      <Findings findings={findings} could={numbers?.could ?? 0} base={base} />
      {problem && (
        <div className="mt-4">
          <Problem>{problem}</Problem>
        </div>
      )}
      <div className="mt-5 flex justify-end gap-3">
        <Link className={buttonLook()} to={`${base}/proof`}>
          Send a proof first
        </Link>
        {unknown ? (
          <Button kind="primary" onClick={() => void revalidate()}>
            Count the readers again
          </Button>
        ) : (
          <Button
            kind="primary"
            disabled={!fresh || stops || fetcher.state !== "idle" || undecided}
            onClick={() => setAsking(true)}
          >
            {!fresh
              ? "Counting the readers…"
              : `${deed} ${when === "now" ? "to" : "for"} ${counted(readers, "reader")}`}
          </Button>
        )}
      </div>
      <Dialog
        open={asking}
        onClose={() => setAsking(false)}
        title={
          when === "now"
            ? `Send to ${counted(readers, "reader")} now?`
            : `${deed} for ${counted(readers, "reader")}?`
        }
      >
        <p>
          “{numbers?.subject}” goes to <strong>{counted(readers, "reader")}</strong>, {moment}. What has left
          cannot be called back.
        </p>
        {looks > 0 && (
          <p className="mt-3 text-amber">
            {counted(looks, "thing", "things")} on the sheet may be unfinished. It goes out as it is.
          </p>
        )}
        <div className="mt-5 flex justify-end gap-2">
          <Button onClick={() => setAsking(false)}>Not yet</Button>
          <Button kind="primary" onClick={book}>
            {`${deed} ${count(readers)}`}
          </Button>
        </div>
      </Dialog>
    </>
  );
}
