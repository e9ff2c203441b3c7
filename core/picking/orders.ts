/** The orders that are the same for all readers, and numbers that are drawn by lot and stay the same. */
import { costs, type Item, saving } from "../items";
import type { WayName } from "./ask";

const LAST = Number.POSITIVE_INFINITY;
const moment = ({ date }: Item) => (date === null ? null : Date.parse(date));

/** By what items are put in order: what says nothing about it stands last, ties by their place in the source. */
const ORDERS: Readonly<Partial<Record<WayName, (item: Item) => number>>> = {
  newest: (item) => -(moment(item) ?? -LAST),
  soonest: (item) => moment(item) ?? LAST,
  cheapest: (item) => costs(item) ?? LAST,
  saving: (item) => -saving(item),
};

/** Whether it was over before a day. */
const isOver = ({ date, until }: Item, today: string) => ((until ?? date)?.slice(0, 10) ?? today) < today;

/** The places of items in an order; of what comes soonest, what is over is left out. */
export function orderOf(by: WayName, items: readonly Item[], today: string): number[] {
  const all = items.map((_, at) => at);
  const order = by === "soonest" ? all.filter((at) => !isOver(items[at], today)) : all;
  const values = items.map(ORDERS[by] ?? (() => 0));
  const names = by === "name" ? new Intl.Collator("en") : null;
  const later = (one: number, other: number) =>
    names
      ? names.compare(items[one].title, items[other].title)
      : values[one] === values[other]
        ? 0
        : values[one] - values[other];
  return order.sort((one, other) => later(one, other) || one - other);
}
