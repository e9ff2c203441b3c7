import clsx from "clsx";
import { Plus } from "lucide-react";
import type { ReactNode } from "react";
import { Link } from "react-router";
import type { Group } from "~/server/audience/selection";
import type { GroupCounts } from "~/server/audience/sizes";
import { IconButton } from "../ui/button";
import { count } from "../ui/time";

export const groupAddress = ({ kind, id }: Group) =>
  kind === "everyone" ? "/audience" : `/audience?${new URLSearchParams({ kind, id })}`;

/** All groups, to choose whose contacts are shown. */
export function GroupsSide({
  chosen,
  everyone,
  groups,
  onAdd,
}: {
  chosen: Group;
  everyone: number;
  groups: GroupCounts;
  onAdd(kind: "segment" | "list"): void;
}) {
  const entry = (group: Group, name: string, number: number | null) => (
    <Entry key={group.id} group={group} name={name} number={number} chosen={chosen} />
  );
  return (
    <nav
      aria-label="Groups"
      className="space-y-4 max-lg:max-h-60 max-lg:overflow-y-auto max-lg:rounded-lg max-lg:border max-lg:bg-paper max-lg:p-2"
    >
      <ul>{entry({ kind: "everyone", id: "" }, "Everyone", everyone)}</ul>
      <Groups title="Segments" add="New segment" onAdd={() => onAdd("segment")}>
        {groups.segments.length === 0 && <Nothing>Readers who meet a rule, always up to date.</Nothing>}
        {groups.segments.map(({ id, name, count: number }) => entry({ kind: "segment", id }, name, number))}
      </Groups>
      <Groups title="Lists" add="New list" onAdd={() => onAdd("list")}>
        {groups.lists.length === 0 && <Nothing>Contacts picked by hand.</Nothing>}
        {groups.lists.map(({ id, name, count: number }) => entry({ kind: "list", id }, name, number))}
      </Groups>
      <Groups title="Standing groups">
        {groups.standing
          .filter(({ id, count: number }) => id !== "removed" || number > 0)
          .map(({ id, name, count: number }) => entry({ kind: "standing", id }, name, number))}
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
        {add && (
          <IconButton label={add} onClick={onAdd}>
            <Plus className="size-4" />
          </IconButton>
        )}
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
  number: number | null;
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
          {number === null ? "broken" : count(number)}
        </span>
      </Link>
    </li>
  );
}
