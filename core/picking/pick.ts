/** Picks items for readers: for each the first that the ways of a list lead to. */
import type { AudienceContext, Contact } from "../audience";
import { type Item, isSoldOut } from "../items";
import { hashOf, mixed } from "../values";
import type { ListAsk, Way } from "./ask";
import { each, meaning } from "./meant";
import { orderOf } from "./orders";
import { type Because, type ItemNews, type Market, NOTHING_DONE, offersOf, type Past } from "./recommended";
import { readerFields } from "./rule";

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
  /** What has come to a source since the email that went before this one; everything when missing. */
  fresh?(source: string): ReadonlySet<string>;
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
      return found;
    });
    return picked;
  };
  return lists.map(({ items }, at) => ({ items, pick: (contact) => all(contact)[at] }));
}

function oneList(ask: ListAsk, stock: Stock) {
  const fresh = ask.sinceLast ? stock.fresh?.(ask.source) : undefined;
  const items = stock.items(ask.source).filter((item) => mayBePicked(item, ask, fresh));
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

/** Whether a list may give an item to anybody, whatever its rule says. */
const mayBePicked = (item: Item, { sold }: ListAsk, fresh: ReadonlySet<string> | undefined): boolean =>
  (sold || !isSoldOut(item)) && (fresh?.has(item.id) ?? true);

/**
 * Which of its source's items a list that asks for what is new may give somebody. A rule that looks at who reads counts as
 * met.
 */
export function newOf(ask: ListAsk, stock: Pick<Stock, "items" | "fresh" | "audience">): Item[] {
  if (!ask.sinceLast) return [];
  const fresh = stock.fresh?.(ask.source);
  const items = stock.items(ask.source).filter((item) => mayBePicked(item, ask, fresh));
  if (!ask.filter || readerFields(ask.filter).length > 0) return items;
  const meant = meaning(ask.filter, items, stock.audience)({ id: 0, email: "", fields: {}, lists: [] });
  return items.filter((_, at) => (meant[at >>> 5] >>> (at & 31)) & 1);
}

/** Shows the items a way leads a reader to, one after the other, until `enough` says so. */
type Walk = (contact: Contact, enough: (item: number, because?: Because) => boolean) => void;

function ranked(way: Way, items: readonly Item[], ask: ListAsk, stock: Stock): Walk {
  const offers = offersOf(way, items, {
    today: dayNumber(stock.audience.today),
    market: stock.market ?? NO_MARKET,
    past: (contact) => stock.past?.(contact) ?? NOTHING_DONE,
    news: stock.news?.(ask.source) ?? [],
    all: stock.items(ask.source),
  });
  const { today } = stock.audience;
  const order = offers ? items.map((_, at) => at) : orderOf(way.by, items, today);
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
      each(meant(contact), order.length, (at) => {
        drawn.push({ rank: mixed(seeds[at] ^ own), at });
        return false;
      });
      drawn.sort((one, other) => one.rank - other.rank || one.at - other.at);
      drawn.some(({ at }) => enough(order[at]));
    };
  }
  return (contact, enough) => each(meant(contact), order.length, (at) => enough(order[at]));
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
