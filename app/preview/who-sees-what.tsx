/** What depends on the reader on the screen, what they get, and why. */
import {
  CornerUpRight,
  GitFork,
  KeyRound,
  ListFilter,
  type LucideIcon,
  Signpost,
  User,
  Users,
} from "lucide-react";
import { Link } from "react-router";
import type { SeenKind, SeenThing } from "~/core/preflight";
import { ask } from "../requests";
import { InWords } from "../rules/why";
import { Problem } from "../ui/form";
import { count, counted } from "../ui/time";
import { useAnswer } from "../ui/use-answer";

interface Kind {
  icon: LucideIcon;
  label: string;
  /** What stands for nothing. */
  nothing: string;
  /** What is said of those who get what is left where this has nothing for them. */
  others(readers: string): string;
}

const KINDS: Record<SeenKind, Kind> = {
  tag: { icon: User, label: "Reader data", nothing: "Nothing", others: (readers) => `${readers} lack it` },
  lookup: {
    icon: Signpost,
    label: "Lookup",
    nothing: "Nothing",
    others: (readers) => `${readers} get what everybody else gets`,
  },
  code: { icon: KeyRound, label: "Code", nothing: "A code", others: () => "" },
  either: {
    icon: GitFork,
    label: "Either/or",
    nothing: "Nothing",
    others: (readers) => `${readers} get what everybody else gets`,
  },
  part: {
    icon: Users,
    label: "Show rule",
    nothing: "Not shown",
    others: (readers) => `${readers} do not get it`,
  },
  list: {
    icon: ListFilter,
    label: "List by rule",
    nothing: "Nothing is picked",
    others: (readers) => `${readers} get fewer than it asks for`,
  },
};

export function WhoSeesWhat({
  campaign,
  reader,
  name,
}: {
  campaign: string;
  /** Whose message is on the screen; null for nobody’s. */
  reader: number | null;
  name: string | null;
}) {
  const { last, lastKey, problem } = useAnswer(reader, (signal) =>
    ask("/campaigns/:campaign/preview/seen", { at: { campaign }, query: { reader: reader ?? 0 }, signal }),
  );
  if (reader === null)
    return (
      <p className="text-ink-soft">
        Choose a reader to see what they get where readers get different things.
      </p>
    );
  if (problem) return <Problem>{problem}</Problem>;
  if (!last) return <p className="text-ink-soft">Looking…</p>;
  const { things, readers } = last;
  if (things.length === 0)
    return <p className="text-ink-soft">Nothing in it depends on who reads it: all get the same.</p>;
  return (
    <section aria-label="Who sees what" className={lastKey === reader ? "" : "opacity-60"}>
      <p className="mb-2 text-ink-soft">
        {counted(things.length, "thing")} in it {things.length === 1 ? "depends" : "depend"} on the reader. As{" "}
        <strong>{name}</strong> gets them:
      </p>
      <ul className="divide-y">
        {things.map((thing, at) => (
          <Thing
            // biome-ignore lint/suspicious/noArrayIndexKey: two of one kind may stand at one place, and say the same
            key={`${at} ${thing.block}`}
            campaign={campaign}
            reader={reader}
            thing={thing}
            readers={readers}
          />
        ))}
      </ul>
    </section>
  );
}

function Thing({
  campaign,
  reader,
  thing: { kind, what, where, block, gets, why, others },
  readers,
}: {
  campaign: string;
  reader: number;
  thing: SeenThing;
  readers: number | null;
}) {
  const { icon: Icon, label, nothing, others: othersWords } = KINDS[kind];
  const jump = new URLSearchParams({ reader: String(reader), ...(block !== undefined && { select: block }) });
  return (
    <li className="grid grid-cols-[18px_minmax(0,1fr)] gap-x-2 py-2.5" data-kind={kind}>
      <Icon className="mt-0.5 size-4 text-teal" aria-label={label} />
      <div className="min-w-0 space-y-0.5">
        <p className="break-words">
          <span className="text-ink-soft">{what}: </span>
          <strong className={`font-semibold ${gets === "" ? "text-amber" : ""}`}>{gets || nothing}</strong>
        </p>
        {why.length > 0 && (
          <p className="break-words text-ink-soft">
            <InWords words={why} />
          </p>
        )}
        {others !== null && others > 0 && readers !== null && (
          <p className="text-teal">{othersWords(`${count(others)} of ${counted(readers, "reader")}`)}</p>
        )}
        <Link
          to={`/campaigns/${campaign}/compose?${jump}`}
          className="flex min-w-0 items-center gap-1 text-ink-soft underline-offset-2 hover:text-mulberry hover:underline"
        >
          <CornerUpRight className="size-3.5 shrink-0" aria-hidden />
          <span className="truncate">{where}</span>
        </Link>
      </div>
    </li>
  );
}
