/** Picks items for readers: for each the first that the ways of a list lead to. */
import { type AudienceContext, type Contact, fieldValue, fold, predicate } from "../audience";
import { costs, type Item, isSoldOut, saving } from "../items";
import type { ListAsk, Way, WayName } from "./ask";
import { type Because, type ItemNews, type Market, NOTHING_DONE, offersOf, type Past } from "./recommended";
import { asAsked, type ItemRule, itemValue, type LikeRule, readerFields } from "./rule";

/** An item that was picked: its place in the list's items, and the way that led to it. */
export interface Picked {
  at: number;
  way: number;
  /** Of a way that follows from what readers did. */
  because?: Because;
}

/** A list with all it may pick from. */
export interface PickedList {
  items: readonly Item[];
  /** What a reader gets, at most as many as asked for. */
  pick(contact: Contact): readonly Picked[];
}

/** What picking looks at besides readers. */
export interface Stock {
  /** What a source holds, as it gives them. */
  items(source: string): readonly Item[];
  /** What stands in the email by hand: `itemKey` of each. */
  placed: ReadonlySet<string>;
  audience: Pick<AudienceContext, "today">;
  /** What makes one random order another: the campaign. */
  seed: string;
  /** What a reader got in so many campaigns before: `itemKey` of each. */
  had?(contact: Contact, campaigns: number): ReadonlySet<string>;
  /** What all readers did; nothing when missing. */
  market?: Market;
  /** What a reader did; nothing when missing. */
  past?(contact: Contact): Past;
  /** What changed for the better of the items of a source. */
  news?(source: string): readonly ItemNews[];
}

/** What tells an item from those of all sources. */
export const itemKey = (source: string, id: string): string => `${source}\n${id}`;

/**
 * The lists of one email, ready to be asked reader by reader. They are picked in their order, so that one is not the
 * same as those above it. The time it takes is that of looking at the items a few times, and for each reader at as many
 * words of 32 items as it takes to find enough (an order at random: at all that are meant).
 */
export function pickLists(asks: readonly ListAsk[], stock: Stock): PickedList[] {
  const lists = asks.map((ask) => oneList(ask, stock));
  let last: Contact | null = null;
  let picked: (readonly Picked[])[] = [];
  const all = (contact: Contact) => {
    if (contact === last) return picked;
    last = contact;
    const taken = new Set<string>();
    picked = lists.map(({ items, keys, first }, at) => {
      const { apart, unsent, unbought } = asks[at];
      const from = dayNumber(stock.audience.today) - unbought;
      const bought =
        unbought > 0
          ? new Set(
              (stock.past?.(contact).bought ?? []).flatMap(({ item, day }) => (day >= from ? [item] : [])),
            )
          : null;
      const had = unsent > 0 ? stock.had?.(contact, unsent) : undefined;
      const found = first(
        contact,
        (item) =>
          (apart && (taken.has(keys[item]) || stock.placed.has(keys[item]))) ||
          bought?.has(items[item].id) === true ||
          had?.has(keys[item]) === true,
      );
      for (const { at: item } of found) taken.add(keys[item]);
      return items.length === 0 ? [] : found;
    });
    return picked;
  };
  return lists.map(({ items }, at) => ({ items, pick: (contact) => all(contact)[at] }));
}

function oneList(ask: ListAsk, stock: Stock) {
  const all = stock.items(ask.source);
  const items = ask.sold ? all : all.filter((item) => !isSoldOut(item));
  const keys = items.map(({ id }) => itemKey(ask.source, id));
  const ways = ask.ways.map((way) => ranked(way, items, ask, stock));
  return {
    items,
    keys,
    first(contact: Contact, out: (item: number) => boolean): Picked[] {
      const found: Picked[] = [];
      const have = new Set<number>();
      for (const [way, walk] of ways.entries()) {
        if (found.length === ask.count) break;
        walk(contact, (item, because) => {
          if (have.has(item) || out(item)) return false;
          have.add(item);
          found.push({ at: item, way, ...(because && { because }) });
          return found.length === ask.count;
        });
      }
      return found;
    },
  };
}

/** Shows the items a way leads a reader to, one after the other, until `enough` says so. */
type Walk = (contact: Contact, enough: (item: number, because?: Because) => boolean) => void;

function ranked(way: Way, items: readonly Item[], ask: ListAsk, stock: Stock): Walk {
  const offers = offersOf(way, items, {
    today: dayNumber(stock.audience.today),
    market: stock.market ?? NO_MARKET,
    past: (contact) => stock.past?.(contact) ?? NOTHING_DONE,
    news: stock.news?.(ask.source) ?? [],
  });
  const order = offers ? items.map((_, at) => at) : orderOf(way.by, items);
  const inOrder = order.map((at) => items[at]);
  const filters = [ask.filter, way.filter].filter((rule) => rule !== undefined);
  const meant = meaning({ kind: "all", of: filters }, inOrder, stock.audience);
  if (offers)
    return (contact, enough) => {
      const fits = meant(contact);
      offers(contact).some(({ at, because }) => (fits[at >>> 5] >>> (at & 31)) & 1 && enough(at, because));
    };
  if (way.by === "random") {
    const seeds = inOrder.map(({ id }) => hashOf(`${stock.seed} ${ask.block} ${id}`));
    return (contact, enough) => {
      const drawn: { rank: number; at: number }[] = [];
      const own = hashOf(String(contact.id));
      each(meant(contact), items.length, (at) => {
        drawn.push({ rank: mixed(seeds[at] ^ own), at });
        return false;
      });
      drawn.sort((one, other) => one.rank - other.rank || one.at - other.at);
      drawn.some(({ at }) => enough(order[at]));
    };
  }
  return (contact, enough) => each(meant(contact), items.length, (at) => enough(order[at]));
}

const NO_MARKET: Market = {
  sales: {
    item: new Int32Array(),
    reader: new Int32Array(),
    order: new Int32Array(),
    day: new Int32Array(),
    ids: [],
  },
  groups: new Map(),
};

/** A day as it is written, in days since 1 January 1970. */
const dayNumber = (day: string) => Math.floor(Date.parse(day) / 86_400_000);

const LAST = Number.POSITIVE_INFINITY;
const moment = ({ date }: Item) => (date === null ? null : Date.parse(date));

/** By what items are put in order: what says nothing about it stands last, ties by their place in the source. */
const ORDERS: Readonly<Partial<Record<WayName, (item: Item) => number>>> = {
  newest: (item) => -(moment(item) ?? -LAST),
  soonest: (item) => moment(item) ?? LAST,
  cheapest: (item) => costs(item) ?? LAST,
  saving: (item) => -saving(item),
};

function orderOf(by: WayName, items: readonly Item[]): number[] {
  const order = items.map((_, at) => at);
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

/** A 32-bit hash of a text (FNV-1a). */
function hashOf(text: string): number {
  let hash = 0x811c9dc5;
  for (let at = 0; at < text.length; at++) hash = Math.imul(hash ^ text.charCodeAt(at), 0x01000193);
  return mixed(hash);
}

/** Spreads the bits of a number over all of it (the finish of MurmurHash3); not negative. */
function mixed(number: number): number {
  let hash = number;
  hash = Math.imul(hash ^ (hash >>> 16), 0x85ebca6b);
  hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2ae35);
  return (hash ^ (hash >>> 16)) >>> 0;
}

/** Which of some items, in an order, are meant: a bit for each. */
type Meant = Uint32Array;

function each(meant: Meant, count: number, show: (at: number) => boolean): void {
  for (let word = 0; word < meant.length; word++) {
    let bits = meant[word];
    while (bits !== 0) {
      const bit = 31 - Math.clz32(bits & -bits);
      const at = word * 32 + bit;
      if (at >= count || show(at)) return;
      bits = (bits & (bits - 1)) >>> 0;
    }
  }
}

/** So many words of 32 items are kept of what a rule means for readers. */
const KEPT = 4_000_000;

/** What a rule means for a reader; what is the same for all is worked out once. */
function meaning(
  rule: ItemRule,
  items: readonly Item[],
  audience: Stock["audience"],
): (contact: Contact) => Meant {
  const size = Math.ceil(items.length / 32);
  const where = (test: (item: Item) => boolean): Meant => {
    const meant = new Uint32Array(size);
    for (const [at, item] of items.entries()) if (test(item)) meant[at >>> 5] |= 1 << (at & 31);
    return meant;
  };
  type Means = { always: Meant } | { own: (contact: Contact) => Meant };
  const of = (means: Means, contact: Contact) => ("always" in means ? means.always : means.own(contact));
  const joined = (parts: readonly Meant[], kind: "all" | "any" | "none"): Meant => {
    const meant = new Uint32Array(size).fill(kind === "all" ? 0xffffffff : 0);
    for (const part of parts)
      for (let word = 0; word < size; word++)
        if (kind === "all") meant[word] &= part[word];
        else meant[word] |= part[word];
    if (kind === "none") for (let word = 0; word < size; word++) meant[word] = ~meant[word];
    return meant;
  };
  const read = (part: ItemRule): Means => {
    if ("of" in part) {
      const parts = part.of.map(read);
      const { kind } = part;
      const fixed = parts.flatMap((one) => ("always" in one ? [one.always] : []));
      if (fixed.length === parts.length) return { always: joined(fixed, kind) };
      return {
        own: (contact) =>
          joined(
            parts.map((one) => of(one, contact)),
            kind,
          ),
      };
    }
    if (part.kind === "like") return { own: likeness(part, where) };
    const test = predicate(part, { ...audience, segments: new Map() });
    return { always: where((item) => test(asAsked(item))) };
  };
  const means = read(rule);
  // Readers who have the same in all that is compared are meant the same.
  const fields = readerFields(rule);
  const keyOf = (contact: Contact) =>
    fields.length === 1
      ? valueKey(fieldValue(contact, fields[0]))
      : fields.map((field) => valueKey(fieldValue(contact, field))).join("\n");
  const known = new Map<string, Meant>();
  return (contact) => {
    if ("always" in means) return means.always;
    const key = keyOf(contact);
    let meant = known.get(key);
    if (!meant) {
      meant = means.own(contact);
      if ((known.size + 1) * size > KEPT) known.clear();
      known.set(key, meant);
    }
    return meant;
  };
}

/** A value as a text that is the same only for the same value. */
const valueKey = (value: unknown): string =>
  typeof value === "string" ? `"${value}` : (JSON.stringify(value) ?? "");

/** The words of a value, folded; none of what has none. */
function wordsOf(value: unknown): string[] {
  const all = Array.isArray(value) ? value : [value];
  return all.filter((one): one is string => typeof one === "string" && one !== "").map(fold);
}

/** Amounts that can be compared: numbers, and days as they are written. */
type Amount = number | string;
const amountOf = (value: unknown): Amount | null =>
  typeof value === "number" || (typeof value === "string" && value !== "") ? value : null;

/** Whether a comparison of an item with what a reader has holds. */
function holds(rule: LikeRule, item: Item, own: unknown): boolean {
  const value = itemValue(item, rule.field);
  if (rule.op === "shares" || rule.op === "sharesNot") {
    const wanted = new Set(wordsOf(own));
    return wordsOf(value).some((word) => wanted.has(word)) === (rule.op === "shares");
  }
  const [has, bound] = [amountOf(value), amountOf(own)];
  if (has === null || bound === null || typeof has !== typeof bound) return false;
  return rule.op === "atLeast" ? has >= bound : has <= bound;
}

function likeness(rule: LikeRule, where: (test: (item: Item) => boolean) => Meant) {
  const known = new Map<string, Meant>();
  return (contact: Contact): Meant => {
    const own = fieldValue(contact, rule.reader);
    const key = valueKey(own);
    let meant = known.get(key);
    if (!meant) {
      meant = where((item) => holds(rule, item, own));
      if ((known.size + 1) * meant.length > KEPT) known.clear();
      known.set(key, meant);
    }
    return meant;
  };
}
