import { GitCompareArrows, TriangleAlert } from "lucide-react";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import type { EditionLine } from "~/server/campaigns/editions";
import { editionsView } from "~/server/campaigns/editions";
import { codesMissing, filledPerReader } from "~/server/preflight/circumstances";
import { orProblem } from "../refusal";
import { ask } from "../requests";
import { notForSearch } from "../revalidate";
import { Button, buttonLook } from "../ui/button";
import { Difference } from "../ui/difference";
import { Input, Problem } from "../ui/form";
import { Empty } from "../ui/page";
import { count, counted, kilobytes } from "../ui/time";
import { TruePicture } from "../ui/true-picture";
import { useAnswer } from "../ui/use-answer";
import type { Route } from "./+types/editions";

export async function loader({ context: { septima }, params }: Route.LoaderArgs) {
  const { data } = await orProblem(async () => {
    const [view, short, lists] = await Promise.all([
      editionsView(septima, params.campaign),
      codesMissing(septima, params.campaign),
      filledPerReader(septima, params.campaign),
    ]);
    return { ...view, short, lists };
  });
  return data;
}

/** Which editions are chosen stands in the address; to count them all again for that would take its time. */
export const shouldRevalidate = notForSearch;

/** From so many octets on, large webmail cuts a message off soon. */
const HEAVY = 90 * 1024;
const SHOWN = 60;

/** What is wrong with an edition, in words. */
const troubleOf = ({ bare, rare, bytes }: EditionLine): string[] => [
  ...(bare ? ["nothing between header and footer"] : []),
  ...(bytes > HEAVY ? ["nearly too large"] : []),
  ...(rare ? ["hardly anybody"] : []),
];

/** All editions of a campaign: what splits them, who gets each, and what two of them differ in. */
export default function Editions({ loaderData: { result, problem }, params }: Route.ComponentProps) {
  const [search, setSearch] = useSearchParams();
  const [query, setQuery] = useState("");
  const [most, setMost] = useState(SHOWN);
  if (!result) {
    return (
      <main className="p-6">
        <title>Editions · Septima</title>
        <h1 className="sr-only">Editions</h1>
        <Problem>{problem}</Problem>
      </main>
    );
  }
  const { editions, readers, splits, short, lists } = result;
  const numbered = editions.map((edition, at) => ({ ...edition, number: at + 1 }));
  const chosen = search
    .getAll("edition")
    .flatMap((key) => numbered.find((edition) => edition.key === key) ?? []);
  const toggle = (key: string) => {
    const keys = chosen.map((edition) => edition.key);
    const next = keys.includes(key) ? keys.filter((one) => one !== key) : [...keys, key].slice(-2);
    setSearch(new URLSearchParams(next.map((one) => ["edition", one])), { replace: true });
  };
  const wanted = query.trim().toLowerCase();
  const found = numbered.filter(({ traits, subject, ...edition }) =>
    `${traits.join(" ")} ${subject} ${troubleOf({ traits, subject, ...edition }).join(" ")}`
      .toLowerCase()
      .includes(wanted),
  );
  return (
    <main className="h-full overflow-y-auto p-6 max-sm:p-4">
      <title>Editions · Septima</title>
      <header className="mb-4 flex flex-wrap items-center gap-x-3 gap-y-2">
        <h1 className="text-[22px]/7 font-semibold">
          {counted(editions.length, "edition")} for {counted(readers, "reader")}
        </h1>
        {splits.length > 0 && <span className="text-ink-soft">What splits them:</span>}
        <ul className="contents">
          {splits.map(({ label, ways }) => (
            <li key={label} className="rounded-full border bg-paper px-3 py-1">
              {label} <span className="text-teal">×{ways}</span>
            </li>
          ))}
        </ul>
        {editions.length > 12 && (
          <Input
            aria-label="Search the editions"
            placeholder="Search what makes them"
            className="ml-auto w-56!"
            value={query}
            onChange={(event) => setQuery(event.target.value)}
          />
        )}
      </header>
      {short.map((words) => (
        <div key={words} className="mb-4">
          <Problem mild>{words} The editions here are as if there were enough.</Problem>
        </div>
      ))}
      {lists.length > 0 && (
        <ul aria-label="Filled per reader" className="mb-4 space-y-1 text-ink-soft">
          {lists.map(({ block, name, asked, said }) => (
            <li key={block}>
              <span className="text-teal">Filled per reader:</span> “{name}”, {counted(asked, "item")}.{" "}
              {said ?? "Everybody gets as many."}
            </li>
          ))}
        </ul>
      )}
      {editions.length === 0 ? (
        <Empty title="Nobody reads it yet">
          Choose lists or segments under Readers, and each edition will be here.
        </Empty>
      ) : (
        <div className="grid grid-cols-[minmax(0,1fr)_340px] items-start gap-5 max-lg:grid-cols-1">
          <div>
            <ol className="grid grid-cols-[repeat(auto-fill,minmax(190px,1fr))] gap-4">
              {found.slice(0, most).map((edition) => (
                <li key={edition.key}>
                  <EditionCard
                    campaign={params.campaign}
                    edition={edition}
                    chosen={chosen.some(({ key }) => key === edition.key)}
                    onToggle={() => toggle(edition.key)}
                  />
                </li>
              ))}
            </ol>
            {found.length === 0 && <p className="text-ink-soft">No edition is made by “{query}”.</p>}
            {found.length > most && (
              <Button className="mt-4" onClick={() => setMost(most + SHOWN)}>
                Show {count(Math.min(SHOWN, found.length - most))} more of {count(found.length)}
              </Button>
            )}
          </div>
          <aside className="card sticky top-0 p-4" aria-label="Chosen editions">
            {chosen.length === 2 ? (
              <Compared campaign={params.campaign} pair={[chosen[0], chosen[1]]} />
            ) : chosen.length === 1 ? (
              <OneEdition campaign={params.campaign} edition={chosen[0]} readers={readers} />
            ) : (
              <p className="text-ink-soft">
                Choose an edition to see who gets it, and a second one to compare them.
              </p>
            )}
          </aside>
        </div>
      )}
    </main>
  );
}

type Numbered = EditionLine & { number: number };

function EditionCard({
  campaign,
  edition,
  chosen,
  onToggle,
}: {
  campaign: string;
  edition: Numbered;
  chosen: boolean;
  onToggle(): void;
}) {
  const { number, sample, traits } = edition;
  const trouble = troubleOf(edition);
  return (
    <button
      type="button"
      aria-pressed={chosen}
      data-edition={number}
      data-count={edition.count}
      onClick={onToggle}
      className="card relative flex h-full w-full flex-col gap-1.5 p-2.5 text-left hover:border-ink-soft aria-pressed:border-mulberry aria-pressed:outline-2 aria-pressed:outline-mulberry"
    >
      <span className="flex items-baseline gap-2 font-semibold">
        <span>
          <span className="sr-only">Edition </span>
          {number}
        </span>
        <span className="text-teal">
          {count(edition.count)}
          <span className="sr-only"> readers</span>
        </span>
        <span className="ml-auto text-xs font-normal text-ink-soft">{kilobytes(edition.bytes)}</span>
      </span>
      <span className="line-clamp-3 min-h-10 text-ink-soft">
        {traits.length === 0 ? "what everybody gets" : traits.join(" · ")}
      </span>
      {trouble.length > 0 && (
        <span className="flex gap-1.5 text-amber">
          <TriangleAlert className="mt-0.5 size-4 shrink-0" aria-hidden /> {trouble.join(", ")}
        </span>
      )}
      <span className="mt-auto block overflow-hidden rounded-md border">
        <TruePicture
          title=""
          src={`/campaigns/${campaign}/picture?reader=${sample.id}`}
          width={640}
          shown={190}
          height={190}
        />
      </span>
    </button>
  );
}

const readAs = (campaign: string, { sample }: EditionLine) =>
  `/campaigns/${campaign}/compose?reader=${sample.id}`;

function OneEdition({
  campaign,
  edition,
  readers,
}: {
  campaign: string;
  edition: Numbered;
  readers: number;
}) {
  const share = (100 * edition.count) / Math.max(1, readers);
  return (
    <div className="space-y-3">
      <h2 className="text-[15px] font-semibold">Edition {edition.number}</h2>
      <p>
        <strong className="text-teal">{count(edition.count)}</strong> of {counted(readers, "reader")} (
        {share < 1 ? "under 1" : Math.round(share)} %) get it.
      </p>
      <dl className="grid grid-cols-[84px_1fr] gap-x-2 gap-y-1.5">
        <dt className="text-ink-soft">Subject</dt>
        <dd className="wrap-break-word">{edition.subject || "(no subject)"}</dd>
        <dt className="text-ink-soft">Made by</dt>
        <dd>
          {edition.traits.length === 0
            ? "nothing that differs"
            : edition.traits.map((trait) => <p key={trait}>{trait}</p>)}
        </dd>
        <dt className="text-ink-soft">HTML</dt>
        <dd>{kilobytes(edition.bytes)}, large webmail cuts off at 102 KB</dd>
      </dl>
      <Link to={readAs(campaign, edition)} className={buttonLook("plain")}>
        Read as {edition.sample.name}
      </Link>
      <ReaderList campaign={campaign} edition={edition} />
    </div>
  );
}

function ReaderList({ campaign, edition: { key } }: { campaign: string; edition: Numbered }) {
  const { result, problem } = useAnswer(key, (signal) =>
    ask("/campaigns/:campaign/editions/readers", { at: { campaign }, query: { edition: key }, signal }),
  );
  if (problem) return <Problem>{problem}</Problem>;
  if (!result) return <p className="text-ink-soft">Looking up its readers…</p>;
  return (
    <section aria-label="Readers of this edition">
      <h3 className="mb-1 font-semibold">Its readers</h3>
      <ul className="max-h-64 overflow-y-auto">
        {result.readers.map(({ id, name, email }) => (
          <li key={id}>
            <Link to={`/campaigns/${campaign}/compose?reader=${id}`} className="hover:underline">
              {name}
            </Link>{" "}
            {name !== email && <span className="text-ink-soft">{email}</span>}
          </li>
        ))}
      </ul>
      {result.count > result.readers.length && (
        <p className="mt-1 text-ink-soft">and {count(result.count - result.readers.length)} more</p>
      )}
    </section>
  );
}

function Compared({
  campaign,
  pair: [one, other],
}: {
  campaign: string;
  pair: readonly [Numbered, Numbered];
}) {
  const pair = { one: one.sample.id, other: other.sample.id };
  const { result, problem } = useAnswer(`${pair.one} ${pair.other}`, (signal) =>
    ask("/campaigns/:campaign/editions/compared", { at: { campaign }, query: pair, signal }),
  );
  return (
    <div className="space-y-3">
      <h2 className="flex items-center gap-2 text-[15px] font-semibold">
        <GitCompareArrows className="size-4" aria-hidden />
        {result === null
          ? `${one.number} and ${other.number}`
          : result.length === 0
            ? `${one.number} and ${other.number} read the same`
            : `${one.number} and ${other.number} differ in ${counted(result.length, "place")}`}
      </h2>
      {problem && <Problem>{problem}</Problem>}
      {result === null && !problem && <p className="text-ink-soft">Comparing…</p>}
      {result?.length === 0 && (
        <p className="text-ink-soft">
          Their words are the same: what differs is how a date or a number is written.
        </p>
      )}
      <div className="max-h-[62vh] divide-y overflow-y-auto">
        {result?.map(({ name, block, texts: [left, right] }) => (
          <section key={`${block} ${name}`} className="py-2.5" aria-label={name}>
            <h3 className="mb-1 text-xs text-ink-soft">{name}</h3>
            <div className="grid grid-cols-2 gap-3 wrap-break-word whitespace-pre-wrap">
              {left === "" || right === "" ? (
                [left, right].map((text, at) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: there are two sides
                  <p key={at} className={text === "" ? "text-ink-soft" : ""}>
                    {text || "not shown"}
                  </p>
                ))
              ) : (
                <>
                  <p>{left}</p>
                  <p>
                    <Difference before={left} after={right} />
                  </p>
                </>
              )}
            </div>
          </section>
        ))}
      </div>
      <div className="flex flex-wrap gap-2">
        {[one, other].map((edition) => (
          <Link key={edition.key} to={readAs(campaign, edition)} className={buttonLook("plain")}>
            Read as one of {edition.number}
          </Link>
        ))}
      </div>
    </div>
  );
}
