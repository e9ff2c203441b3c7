import { Link, useSearchParams } from "react-router";
import { z } from "zod";
import { RETURNED_SORTS, type ReturnedRow, type ReturnedSort, returnedPage } from "~/server/returned/listing";
import { returnsDomain } from "~/server/returned/return-path";
import { SettingsFrame } from "../settings/frame";
import { Button } from "../ui/button";
import { Choose } from "../ui/choose";
import { SearchInput } from "../ui/form";
import { Empty } from "../ui/page";
import { count, counted, timeWords } from "../ui/time";
import type { Route } from "./+types/settings-returned";

const PAGE = 50;

const Query = z.object({
  sort: z.enum(RETURNED_SORTS).catch("all"),
  q: z.string().max(200).catch(""),
  from: z.coerce.number().int().min(0).catch(0),
});

export async function loader({ context: { septima }, request }: Route.LoaderArgs) {
  const { sort, q, from } = Query.parse(Object.fromEntries(new URL(request.url).searchParams));
  return {
    sort,
    q,
    from,
    ...(await returnedPage(septima, { sort, text: q, offset: from, limit: PAGE })),
    domain: await returnsDomain(septima),
    now: septima.now(),
  };
}

const SORTS: Record<ReturnedSort, string> = {
  all: "All",
  failed: "Not delivered, or late",
  complaints: "Called spam",
  answers: "Answers",
  foreign: "Not about one of ours",
};

export default function WhatCameBack({ loaderData }: Route.ComponentProps) {
  const { sort, q, from, total, rows, domain, now } = loaderData;
  const [, setParams] = useSearchParams();
  const go = (next: { sort?: ReturnedSort; q?: string; from?: number }) => {
    const all = { sort, q, from: 0, ...next };
    setParams(
      Object.fromEntries(
        Object.entries(all).flatMap(([key, value]) =>
          value === "" || value === 0 || value === "all" ? [] : [[key, String(value)]],
        ),
      ),
      { replace: next.q !== undefined, preventScrollReset: true },
    );
  };
  const none = sort === "all" && q === "" && total === 0;
  return (
    <SettingsFrame>
      <section className="card p-5" aria-label="What came back">
        <div className="mb-3 flex flex-wrap items-center gap-3">
          <h2 className="mr-auto text-[15px] font-semibold">What came back</h2>
          <Choose
            label="Which of it"
            className="w-56! max-sm:w-full!"
            value={sort}
            options={(Object.keys(SORTS) as ReturnedSort[]).map((value) => ({ value, label: SORTS[value] }))}
            onChange={(next) => go({ sort: next })}
          />
          <SearchInput
            className="w-56 max-sm:w-full"
            aria-label="Search what came back"
            placeholder="Address, words"
            defaultValue={q}
            onChange={(event) => go({ q: event.target.value })}
          />
        </div>
        {none ? (
          <Empty title="Nothing came back yet">
            Here will be what could not be delivered, what was called spam, and answers.{" "}
            {domain === null ? (
              <>
                So far all of it goes to the senders’ own mailboxes:{" "}
                <Link className="underline" to="/settings/sending">
                  say where it is to come
                </Link>
                .
              </>
            ) : (
              <>It comes to {domain}.</>
            )}
          </Empty>
        ) : (
          <p className="mb-2 text-ink-soft" role="status">
            {counted(total, "message")}
          </p>
        )}
        <ul className="divide-y">
          {rows.map((row) => (
            <Row key={row.id} of={row} now={now} />
          ))}
        </ul>
        {total > PAGE && (
          <div className="mt-3 flex items-center justify-between border-t pt-3 text-ink-soft">
            <Button disabled={from === 0} onClick={() => go({ from: Math.max(0, from - PAGE) })}>
              Newer
            </Button>
            {count(from + 1)}–{count(Math.min(total, from + PAGE))}
            <Button disabled={from + PAGE >= total} onClick={() => go({ from: from + PAGE })}>
              Older
            </Button>
          </div>
        )}
      </section>
    </SettingsFrame>
  );
}

const KIND: Record<ReturnedRow["kind"], string> = {
  bounce: "Not delivered",
  delay: "Late",
  delivered: "Delivered",
  complaint: "Called spam",
  automatic: "Answered by itself",
  reply: "Answer",
};

/** What came of it, in words. */
function effectOf({ kind, effect, severity, contact }: ReturnedRow): string {
  if (!contact) return "Nothing: it cannot be proven to be about one of ours.";
  if (effect === "suppressed")
    return kind === "complaint"
      ? "They are not written to any more, for ever."
      : severity === "gone"
        ? "The address is not written to any more."
        : "Letters failed too often: the address is not written to any more.";
  if (effect === "counted") return "Counted: it may be otherwise next time.";
  return "Shown only.";
}

function Row({ of: row, now }: { of: ReturnedRow; now: number }) {
  const { id, at, kind, sender, subject, words, contact, campaign, effect } = row;
  return (
    <li className="grid grid-cols-[150px_1fr] gap-x-4 gap-y-1 py-2.5 max-sm:grid-cols-1">
      <div>
        <span className={effect === "suppressed" ? "font-semibold text-red" : "font-semibold"}>
          {KIND[kind]}
        </span>
        <span className="block text-xs text-ink-soft">{timeWords(at, now)}</span>
      </div>
      <div className="min-w-0">
        <p className="break-words">
          {contact ? (
            <Link className="underline underline-offset-2 hover:text-mulberry" to={`/audience/${contact.id}`}>
              {contact.name}
            </Link>
          ) : (
            <span className="break-all">{sender || "An unnamed sender"}</span>
          )}
          {campaign && (
            <>
              {" · "}
              <Link
                className="underline underline-offset-2 hover:text-mulberry"
                to={`/campaigns/${campaign.id}/send`}
              >
                {campaign.name}
              </Link>
            </>
          )}
        </p>
        <p className="break-words text-ink-soft">{words || subject}</p>
        <p className="text-ink-soft">
          {effectOf(row)}{" "}
          <a
            className="underline underline-offset-2 hover:text-mulberry"
            href={`/settings/returned/${id}/source`}
            aria-label={`As it came, from ${sender || "an unnamed sender"}`}
          >
            As it came
          </a>
        </p>
      </div>
    </li>
  );
}
