/** The ways of a list that follow from what readers did, each with the reason at each item. */
import { type Contact, fieldValue } from "../audience";
import type { Item } from "../items";
import { companions, likenessOf, popular, popularBy, type Sales, usualGaps } from "../recommend";
import { daysOf, type Way, type WayName } from "./ask";

/** What one reader did, the newest first; days since 1 January 1970. */
export interface Past {
  bought: readonly { item: string; name: string; day: number }[];
  viewed: readonly { item: string; day: number }[];
}

/** What all readers did. */
export interface Market {
  sales: Sales;
  /** Of a field: what each reader who bought something has in it. */
  groups: ReadonlyMap<string, ReadonlyMap<number, string>>;
}

/** What was seen to change of an item for the better. */
export interface ItemNews {
  item: string;
  what: "back" | "dropped";
  day: number;
}

/** Why an item was picked for a reader. */
export type Because =
  | { what: "popular"; days: number }
  | { what: "near"; group: string; days: number }
  | { what: "seen" | "back" | "dropped"; day: number }
  | { what: "goesWith" | "like"; item: string; day: number }
  | { what: "due"; day: number; every: number };

/** An item that a way leads to: its place in the list's items, and why. */
export interface Offer {
  at: number;
  because: Because;
}

/** What recommendations look at. */
export interface Known {
  /** Days since 1 January 1970. */
  today: number;
  market: Market;
  past(contact: Contact): Past;
  news: readonly ItemNews[];
  /** All that the source holds, also what the list may not pick. */
  all: readonly Item[];
}

/** Fewer orders in which two items stand together say nothing. */
export const SUPPORT = 3;
/** Something is due from this share of the usual time on, and no more after that. */
const DUE = { from: 0.9, to: 2 };

/** Of who did nothing, or was not looked up. */
export const NOTHING_DONE: Past = { bought: [], viewed: [] };
const NONE: readonly Offer[] = [];

/** What a way leads readers to, the best first; null for a way that looks at nothing anybody did. */
export function offersOf(
  way: Way,
  items: readonly Item[],
  known: Known,
): ((contact: Contact) => readonly Offer[]) | null {
  const days = way.days ?? daysOf(way.by);
  if (days === null) return null;
  const since = known.today - days;
  const places = new Map(items.map(({ id }, at) => [id, at]));
  const make = MAKERS[way.by as keyof typeof MAKERS];
  return make({ ...known, way, items, places, days, since });
}

interface Making extends Known {
  way: Way;
  items: readonly Item[];
  places: ReadonlyMap<string, number>;
  days: number;
  since: number;
}
type Maker = (making: Making) => (contact: Contact) => readonly Offer[];

/** Items by how often they were bought, ties by their place in the source. */
function byCount(
  counts: Int32Array,
  { market: { sales }, places }: Making,
  because: Because,
): readonly Offer[] {
  const sold: { at: number; count: number }[] = [];
  for (const [item, count] of counts.entries()) {
    const at = places.get(sales.ids[item]);
    if (at !== undefined && count > 0) sold.push({ at, count });
  }
  sold.sort((one, other) => other.count - one.count || one.at - other.at);
  return sold.map(({ at }) => ({ at, because }));
}

/** What is newest for the better, once each. */
const newsOf =
  (what: ItemNews["what"]): Maker =>
  ({ news, since, places }) => {
    const offers = new Map<number, Offer>();
    const sorted = news.filter((one) => one.what === what && one.day >= since);
    sorted.sort((one, other) => other.day - one.day);
    for (const { item, day } of sorted) {
      const at = places.get(item);
      if (at !== undefined && !offers.has(at)) offers.set(at, { at, because: { what, day } });
    }
    const all = [...offers.values()];
    return () => all;
  };

/** The last day of each item, the newest first. */
function lastDays<T extends { item: string; day: number }>(did: readonly T[], since: number): T[] {
  const last = new Map<string, T>();
  for (const one of did) if (one.day >= since && !last.has(one.item)) last.set(one.item, one);
  return [...last.values()];
}

const middle = (gaps: number[]) => gaps.sort((a, b) => a - b)[Math.floor((gaps.length - 1) / 2)];

const MAKERS = {
  popular(making) {
    const because: Because = { what: "popular", days: making.days };
    const all = byCount(popular(making.market.sales, making.since), making, because);
    return () => all;
  },
  near(making) {
    const { market, way, since, days } = making;
    const field = way.field ?? "";
    const groups = market.groups.get(field);
    const counts = popularBy(market.sales, since, (reader) => groups?.get(reader) ?? null);
    const offers = new Map(
      [...counts].map(([group, all]) => [group, byCount(all, making, { what: "near", group, days })]),
    );
    return (contact) => offers.get(String(fieldValue(contact, field) ?? "")) ?? NONE;
  },
  seen({ past, since, places }) {
    return (contact) => {
      const { bought, viewed } = past(contact);
      return lastDays(viewed, since).flatMap(({ item, day }): Offer[] => {
        const at = places.get(item);
        const had = bought.some((one) => one.item === item && one.day >= day);
        return at === undefined || had ? [] : [{ at, because: { what: "seen", day } }];
      });
    };
  },
  goesWith({ market: { sales }, past, since, places }) {
    const together = companions(sales, SUPPORT);
    const numbers = new Map(sales.ids.map((id, at) => [id, at]));
    return (contact) => {
      const best = new Map<number, { lift: number; because: Because }>();
      const bought = lastDays(past(contact).bought, since);
      const had = new Set(bought.map(({ item }) => item));
      for (const { item, name, day } of bought)
        for (const { item: other, lift } of together[numbers.get(item) ?? -1] ?? []) {
          const at = places.get(sales.ids[other]);
          if (at === undefined || had.has(sales.ids[other])) continue;
          const before = best.get(at);
          if (!before || lift > before.lift)
            best.set(at, { lift, because: { what: "goesWith", item: name, day } });
        }
      return [...best]
        .sort(([one, a], [other, b]) => b.lift - a.lift || one - other)
        .map(([at, { because }]) => ({ at, because }));
    };
  },
  like({ all, past, since, places }) {
    // Who looked at what is sold out is glad of what is like it.
    const like = likenessOf(all);
    const among = new Map(all.map(({ id }, at) => [id, at]));
    return (contact) => {
      const viewed = lastDays(past(contact).viewed, since).flatMap(({ item, day }) => {
        const at = among.get(item);
        return at === undefined ? [] : [{ at, day }];
      });
      const days = new Map(viewed.map(({ at, day }) => [at, day]));
      return [...like(viewed.map(({ at }) => at))]
        .filter(([at]) => !days.has(at))
        .sort(([one, a], [other, b]) => b.likeness - a.likeness || one - other)
        .flatMap(([found, { to }]): Offer[] => {
          const at = places.get(all[found].id);
          const because: Because = { what: "like", item: all[to].title, day: days.get(to) ?? 0 };
          return at === undefined ? [] : [{ at, because }];
        });
    };
  },
  due({ market: { sales }, past, since, places, today }) {
    const gaps = usualGaps(sales);
    const numbers = new Map(sales.ids.map((id, at) => [id, at]));
    return (contact) => {
      const days = new Map<string, number[]>();
      for (const { item, day } of past(contact).bought)
        if (day >= since) days.set(item, [...(days.get(item) ?? []), day]);
      const due = [...days].flatMap(([item, all]) => {
        const at = places.get(item);
        const own = all.slice(1).flatMap((day, index) => (all[index] > day ? [all[index] - day] : []));
        // Who bought it three times says best how soon.
        const every = own.length >= 2 ? middle(own) : gaps[numbers.get(item) ?? -1];
        const gone = today - all[0];
        if (at === undefined || !every || gone < every * DUE.from || gone > every * DUE.to) return [];
        return [{ at, late: gone - every, because: { what: "due" as const, day: all[0], every } }];
      });
      return due.sort((one, other) => other.late - one.late || one.at - other.at);
    };
  },
  back: newsOf("back"),
  dropped: newsOf("dropped"),
} satisfies Partial<Record<WayName, Maker>>;

const dayWords = (day: number) =>
  new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "long", timeZone: "UTC" }).format(
    day * 86_400_000,
  );

/** Why an item was picked, in words: after its way, as the end of a sentence. */
export function becauseWords(because: Because): string {
  switch (because.what) {
    case "popular":
      return `popular in the last ${because.days} days`;
    case "near":
      return `popular in ${because.group} in the last ${because.days} days`;
    case "seen":
      return `looked at on ${dayWords(because.day)} and not bought`;
    case "goesWith":
      return `because ${because.item} was bought on ${dayWords(because.day)}`;
    case "like":
      return `like ${because.item}, looked at on ${dayWords(because.day)}`;
    case "due":
      return `bought on ${dayWords(because.day)}, usually again after ${because.every} days`;
    case "back":
      return `back in stock since ${dayWords(because.day)}`;
    case "dropped":
      return `price dropped on ${dayWords(because.day)}`;
  }
}
