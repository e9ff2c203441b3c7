import { useVirtualizer } from "@tanstack/react-virtual";
import clsx from "clsx";
import { ArrowDown, ArrowUp } from "lucide-react";
import { type KeyboardEvent, useEffect, useRef } from "react";
import { Link } from "react-router";
import type { Contact } from "~/core/audience";
import type { TableQuery } from "~/server/audience/table";
import type { Column } from "./columns";

const ROW = 36;
const MARK = 40;

/** Which rows are marked: these, or all but these. */
export interface Marked {
  all: boolean;
  ids: ReadonlySet<number>;
}

const isMarked = ({ all, ids }: Marked, id: number) => ids.has(id) !== all;
/** Scrolled by so many rows at once, they fly past; where it rests for so many milliseconds, they are looked at. */
const FLYING = 60;
const REST = 40;
/** So many steps ahead rows are asked for, and so many rows at most. */
const LEAD = 40;
const AHEAD = 600;

export const countMarked = ({ all, ids }: Marked, total: number) => (all ? total - ids.size : ids.size);

/** Contacts in rows, of which only those in view are drawn and fetched; columns sort, rows can be marked. */
export function ContactTable({
  total,
  at,
  need,
  columns,
  query,
  onSort,
  marked,
  onMark,
  busy,
}: {
  total: number;
  at(index: number): Contact | undefined;
  need(from: number, to: number): void;
  columns: readonly Column[];
  query: TableQuery;
  onSort(sort: TableQuery["sort"]): void;
  marked: Marked;
  onMark(marked: Marked): void;
  busy: boolean;
}) {
  const { sort } = query;
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: total,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
    useFlushSync: false,
  });
  const shown = rows.getVirtualItems();
  const from = shown[0]?.index ?? 0;
  const to = shown.at(-1)?.index ?? 0;
  const before = useRef(from);
  useEffect(() => {
    const step = from - before.current;
    before.current = from;
    // What flies past is not asked for, only where it comes to rest.
    if (Math.abs(step) > FLYING) {
      const resting = setTimeout(() => need(from, to), REST);
      return () => clearTimeout(resting);
    }
    const ahead = Math.max(-AHEAD, Math.min(AHEAD, step * LEAD));
    need(Math.max(0, from + Math.min(0, ahead)), Math.min(total - 1, to + Math.max(0, ahead)));
  }, [need, from, to, total]);
  // What is sorted or sought anew begins at its top.
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is the query that matters
  useEffect(() => {
    scroller.current?.scrollTo({ top: 0 });
  }, [query]);
  const toggle = (id: number) => {
    const ids = new Set(marked.ids);
    if (!ids.delete(id)) ids.add(id);
    onMark({ ...marked, ids });
  };
  const template = `${MARK}px ${columns.map(({ width }, at) => (at === 0 ? `minmax(${width}px, 1.2fr)` : `minmax(${width}px, 1fr)`)).join(" ")}`;
  const width = MARK + columns.reduce((sum, column) => sum + column.width, 0);
  /** Up and down go from name to name, whether they are drawn yet or not. */
  const press = (event: KeyboardEvent) => {
    const row = (event.target as HTMLElement).closest<HTMLElement>("[data-row]");
    if (!row || event.altKey || event.ctrlKey || event.metaKey) return;
    const here = Number(row.dataset.row);
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? 0) / ROW) - 2);
    const next = { ArrowDown: here + 1, ArrowUp: here - 1, PageDown: here + page, PageUp: here - page }[
      event.key
    ];
    if (event.key === " " && (event.target as HTMLElement).tagName === "A") {
      event.preventDefault();
      const contact = at(here);
      if (contact) toggle(contact.id);
      return;
    }
    if (next === undefined) return;
    event.preventDefault();
    const goal = Math.max(0, Math.min(total - 1, next));
    rows.scrollToIndex(goal);
    const look = (tries: number) => {
      const link = scroller.current?.querySelector<HTMLElement>(`[data-row="${goal}"] a`);
      if (link) link.focus({ preventScroll: true });
      else if (tries > 0) requestAnimationFrame(() => look(tries - 1));
    };
    look(30);
  };
  return (
    <div
      ref={scroller}
      role="table"
      aria-label="Contacts"
      aria-rowcount={total + 1}
      aria-busy={busy}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: a table is scrolled by keys from here
      tabIndex={0}
      className="card relative h-[calc(100vh-250px)] min-h-80 overflow-auto outline-offset-2"
      onKeyDown={press}
    >
      {/* biome-ignore lint/a11y/useFocusableInteractive: in a table, unlike in a grid, rows take no focus */}
      <div
        role="row"
        aria-rowindex={1}
        className="sticky top-0 z-10 grid border-b bg-paper text-left text-xs text-ink-soft"
        style={{ gridTemplateColumns: template, minWidth: width }}
      >
        {/* biome-ignore lint/a11y/useFocusableInteractive: as above */}
        <div role="columnheader" className="flex items-center justify-center">
          <input
            type="checkbox"
            aria-label={marked.all ? "Mark nobody" : "Mark everybody"}
            checked={marked.all && marked.ids.size === 0}
            ref={(box) => {
              if (box) box.indeterminate = marked.ids.size > 0;
            }}
            onChange={() => onMark({ all: !marked.all && marked.ids.size === 0, ids: new Set() })}
          />
        </div>
        {columns.map((column) => {
          const sorted = sort.by === column.key;
          const Icon = sort.down ? ArrowDown : ArrowUp;
          return (
            // biome-ignore lint/a11y/useFocusableInteractive: as above
            <div
              key={column.key}
              role="columnheader"
              aria-sort={sorted ? (sort.down ? "descending" : "ascending") : "none"}
            >
              {column.key === "lists" ? (
                <span className="block px-3 py-2.5 font-medium">{column.label}</span>
              ) : (
                <button
                  type="button"
                  className={clsx(
                    "flex w-full items-center gap-1 px-3 py-2.5 font-medium hover:text-ink",
                    column.right && "justify-end",
                  )}
                  onClick={() => onSort({ by: column.key, down: sorted ? !sort.down : false })}
                >
                  <span className="truncate">{column.label}</span>
                  {sorted && <Icon className="size-3.5 shrink-0" aria-hidden />}
                </button>
              )}
            </div>
          );
        })}
      </div>
      <div role="rowgroup" className="relative" style={{ height: rows.getTotalSize(), minWidth: width }}>
        {shown.map((item) => {
          const contact = at(item.index);
          const on = contact !== undefined && isMarked(marked, contact.id);
          return (
            // biome-ignore lint/a11y/useFocusableInteractive: as above
            <div
              key={item.key}
              role="row"
              aria-rowindex={item.index + 2}
              data-row={item.index}
              className={clsx(
                "absolute inset-x-0 grid items-center border-b border-line/60",
                on ? "bg-mulberry-wash" : "hover:bg-black/2",
              )}
              style={{ top: item.start, height: ROW, gridTemplateColumns: template }}
            >
              <div role="cell" className="flex justify-center">
                {contact && (
                  <input
                    type="checkbox"
                    tabIndex={-1}
                    aria-label={`Mark ${columns[0].text(contact)}`}
                    checked={on}
                    onChange={() => toggle(contact.id)}
                  />
                )}
              </div>
              {columns.map((column, index) => (
                <div
                  key={column.key}
                  role="cell"
                  className={clsx(
                    "truncate px-3",
                    column.right && "text-right",
                    index > 0 && "text-ink-soft",
                  )}
                >
                  {contact === undefined ? (
                    index === 0 && <span className="inline-block h-3 w-24 rounded bg-black/6" />
                  ) : index === 0 ? (
                    <Link
                      to={`/audience/${contact.id}`}
                      className="font-medium hover:text-mulberry hover:underline"
                      title={column.text(contact)}
                    >
                      {column.text(contact)}
                    </Link>
                  ) : (
                    <span title={column.text(contact)}>{column.text(contact)}</span>
                  )}
                </div>
              ))}
            </div>
          );
        })}
      </div>
    </div>
  );
}
