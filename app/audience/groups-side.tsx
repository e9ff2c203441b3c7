import clsx from "clsx";
import { Plus } from "lucide-react";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { groupKey, STANDING_GROUPS } from "~/core/audience";
import type { Group } from "~/server/audience/selection";
import type { AudienceCounts } from "~/server/audience/sizes";
import { IconButton } from "../ui/button";
import { count } from "../ui/time";

interface Named {
  id: string;
  name: string;
}

export const groupAddress = ({ kind, id }: Group) =>
  kind === "everyone" ? "/audience" : `/audience?${new URLSearchParams({ kind, id })}`;

/** All groups, to choose whose contacts are shown. */
export function GroupsSide({
  chosen,
  counts,
  counting,
  lists,
  segments,
  onAdd,
}: {
  chosen: Group;
  /** Null until they are known. */
  counts: AudienceCounts | null;
  counting: boolean;
  lists: readonly Named[];
  segments: readonly Named[];
  onAdd(kind: "segment" | "list"): void;
}) {
  const entry = (kind: Group["kind"], { id, name }: Named) => {
    const group = { kind, id };
    const number = kind === "everyone" ? counts?.everyone.included : counts?.groups[groupKey(group)];
    return <Entry key={id} group={group} name={name} number={number} chosen={chosen} />;
  };
  return (
    <nav
      aria-label="Groups"
      aria-busy={counting}
      className="space-y-4 max-lg:max-h-60 max-lg:overflow-y-auto max-lg:rounded-lg max-lg:border max-lg:bg-paper max-lg:p-2"
    >
      <ul>{entry("everyone", { id: "", name: "Everyone" })}</ul>
      <Groups title="Segments" add="New segment" onAdd={() => onAdd("segment")}>
        {segments.length === 0 && <Nothing>Readers who meet a rule, always up to date.</Nothing>}
        {segments.map((segment) => entry("segment", segment))}
      </Groups>
      <Groups title="Lists" add="New list" onAdd={() => onAdd("list")}>
        {lists.length === 0 && <Nothing>Contacts picked by hand.</Nothing>}
        {lists.map((list) => entry("list", list))}
      </Groups>
      <Groups title="Standing groups">
        {STANDING_GROUPS.filter(
          ({ id }) => id !== "removed" || (counts?.groups[groupKey({ kind: "standing", id })] ?? 0) > 0,
        ).map((group) => entry("standing", group))}
      </Groups>
    </nav>
  );
}

const Nothing = ({ children }: { children: ReactNode }) => (
  <li className="px-2 py-1 text-ink-soft">{children} None yet.</li>
);

function Groups({
  title,
  add,
  onAdd,
  children,
}: {
  title: string;
  add?: string;
  onAdd?(): void;
  children: ReactNode;
}) {
  return (
    <section aria-label={title}>
      <div className="flex min-h-8 items-center justify-between pl-2">
        <h2 className="text-xs font-medium text-ink-soft">{title}</h2>
        {add && <IconButton icon={Plus} label={add} onClick={onAdd} />}
      </div>
      <ul>{children}</ul>
    </section>
  );
}

function Entry({
  group,
  name,
  number,
  chosen,
}: {
  group: Group;
  name: string;
  /** Null of one that cannot be answered, undefined while it is not known. */
  number: number | null | undefined;
  chosen: Group;
}) {
  const current = group.kind === chosen.kind && group.id === chosen.id;
  return (
    <li>
      <Link
        to={groupAddress(group)}
        aria-current={current ? "page" : undefined}
        className={clsx(
          "flex items-baseline justify-between gap-2 rounded-md px-2 py-0.5",
          current ? "bg-mulberry-wash font-semibold text-mulberry" : "hover:bg-black/4",
        )}
      >
        <span className="truncate">{name}</span>
        <span className={clsx("shrink-0 font-normal", number === null ? "text-red" : "text-ink-soft")}>
          {number === null ? "broken" : number === undefined ? "…" : count(number)}
        </span>
      </Link>
    </li>
  );
}
