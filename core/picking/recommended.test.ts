/** Each recommendation beside one that is worked out slowly, from the words that say what it is. */
import fc from "fast-check";
import { expect, test } from "vitest";
import type { Contact } from "../audience";
import { type Item, itemOf } from "../items";
import { type ListAsk, type Past, pickLists, SUPPORT, type WayName } from ".";
import { becauseWords, type ItemNews, type Market } from "./recommended";

const TODAY = "2026-12-01";
const NOW = Math.floor(Date.parse(TODAY) / 86_400_000);
const IDS = ["a", "b", "c", "d", "e", "f"];
const ITEMS: Item[] = IDS.map((id, at) =>
  itemOf({
    id,
    title: `Thing ${id}`,
    category: ["All", at % 2 ? "Odd" : "Even"],
    tags: at < 3 ? ["early"] : [],
    // The last is sold out: it is picked for nobody, and what readers did with it counts.
    ...(id === "f" && { stock: 0 }),
  }),
);
interface Order {
  reader: number;
  day: number;
  items: string[];
}
const day = fc.integer({ min: NOW - 60, max: NOW });
const id = fc.constantFrom(...IDS, "gone");
const orders: fc.Arbitrary<Order[]> = fc.array(
  fc.record({ reader: fc.nat(4), day, items: fc.uniqueArray(id, { minLength: 1, maxLength: 4 }) }),
  { maxLength: 40 },
);
const views = fc.array(fc.record({ reader: fc.nat(4), day, item: id }), { maxLength: 20 });
const news: fc.Arbitrary<ItemNews[]> = fc.array(
  fc.record({ item: id, what: fc.constantFrom("back" as const, "dropped" as const), day }),
  { maxLength: 8 },
);
const BRANCHES = ["Quay", "Mill", null, "Quay", "Mill"];
const READERS: Contact[] = BRANCHES.map((branch, reader) => ({
  id: reader,
  email: `r${reader}@mail.example`,
  fields: branch === null ? {} : { branch },
  lists: [],
}));

function marketOf(all: readonly Order[]): Market {
  const lines = all.flatMap(({ reader, day: on, items }, order) =>
    items.map((item) => ({ reader, day: on, item, order })),
  );
  const ids = [...new Set(lines.map(({ item }) => item))].sort();
  return {
    sales: {
      item: Int32Array.from(lines, ({ item }) => ids.indexOf(item)),
      reader: Int32Array.from(lines, ({ reader }) => reader),
      order: Int32Array.from(lines, ({ order }) => order),
      day: Int32Array.from(lines, (line) => line.day),
      ids,
    },
    groups: new Map([
      ["branch", new Map(BRANCHES.flatMap((branch, at) => (branch === null ? [] : [[at, branch] as const])))],
    ]),
  };
}
/** The newest first; on one day the later order. */
function pastOf(
  all: readonly Order[],
  looked: readonly { reader: number; day: number; item: string }[],
  who: number,
): Past {
  const newest = <T extends { day: number }>(did: T[]) => did.sort((one, other) => other.day - one.day);
  return {
    bought: newest(
      all
        .filter(({ reader }) => reader === who)
        .toReversed()
        .flatMap((order) => order.items.map((item) => ({ item, name: `Thing ${item}`, day: order.day }))),
    ),
    viewed: newest(
      looked.filter(({ reader }) => reader === who).map(({ item, day: on }) => ({ item, day: on })),
    ),
  };
}

const SINCE: Record<string, number> = {
  popular: 30,
  near: 40,
  seen: 20,
  goesWith: 50,
  like: 20,
  due: 60,
  back: 10,
  dropped: 10,
};
type World = { all: Order[]; looked: { reader: number; day: number; item: string }[]; told: ItemNews[] };

/** What a way leads a reader to, with a score; the best first, ties by the order of the items. */
function slowly(way: WayName, { all, looked, told }: World, who: Contact): string[] {
  const since = NOW - SINCE[way];
  const bought = (item: string, by = who.id, from = since) =>
    all
      .filter((order) => order.reader === by && order.day >= from && order.items.includes(item))
      .map((order) => order.day);
  const viewed = (item: string) =>
    looked
      .filter((one) => one.reader === who.id && one.item === item && one.day >= since)
      .map((one) => one.day);
  const score = (item: string): number => {
    switch (way) {
      case "popular":
        return all.filter((order) => order.day >= since && order.items.includes(item)).length;
      case "near":
        return all.filter(
          (order) =>
            order.day >= since &&
            order.items.includes(item) &&
            BRANCHES[order.reader] !== null &&
            BRANCHES[order.reader] === who.fields.branch,
        ).length;
      case "seen": {
        const last = Math.max(0, ...viewed(item));
        return bought(item, who.id, 0).some((on) => on >= last) ? 0 : last;
      }
      case "goesWith": {
        if (bought(item).length > 0) return 0;
        const having = (...items: string[]) =>
          all.filter((order) => items.every((one) => order.items.includes(one))).length;
        const lifts = [...IDS, "gone"]
          .filter((other) => other !== item && bought(other).length > 0 && having(item, other) >= SUPPORT)
          .map((other) => (having(item, other) * all.length) / (having(item) * having(other)))
          .filter((lift) => lift > 1);
        return Math.max(0, ...lifts);
      }
      case "like": {
        if (viewed(item).length > 0) return 0;
        const words = (one: string) => {
          const { category, tags } = ITEMS[IDS.indexOf(one)];
          return [...category, ...tags];
        };
        const alike = IDS.filter((other) => viewed(other).length > 0).map((other) => {
          const shared = words(item).filter((word) => words(other).includes(word)).length;
          return shared / Math.sqrt(words(item).length * words(other).length);
        });
        return Math.max(0, ...alike);
      }
      case "due": {
        const gapsOf = (by: number, from: number) => {
          const days = bought(item, by, from).sort((one, other) => one - other);
          return days.slice(1).flatMap((on, at) => (on > days[at] ? [on - days[at]] : []));
        };
        const mid = (gaps: number[]) =>
          gaps.sort((one, other) => one - other)[Math.floor((gaps.length - 1) / 2)];
        const own = gapsOf(who.id, since);
        const everybody = [0, 1, 2, 3, 4].flatMap((by) => gapsOf(by, 0));
        const every = own.length >= 2 ? mid(own) : everybody.length >= 3 ? mid(everybody) : 0;
        const days = bought(item);
        const gone = NOW - Math.max(...days);
        return days.length === 0 || every === 0 || gone < 0.9 * every || gone > 2 * every
          ? 0
          : 1000 + gone - every;
      }
      default:
        return Math.max(
          0,
          ...told
            .filter((one) => one.item === item && one.what === way && one.day >= since)
            .map((one) => one.day),
        );
    }
  };
  const scored = IDS.map((item, at) => ({ item, at, score: score(item) })).filter((one) => one.score > 0);
  // What was looked at on one day comes in the order in which it was looked at, the latest first.
  const turn = (item: string) => pastOf(all, looked, who.id).viewed.findIndex((one) => one.item === item);
  const ties =
    way === "seen"
      ? (item: string) => turn(item)
      : way === "back" || way === "dropped"
        ? newsTurn(told.filter(({ what }) => what === way))
        : () => 0;
  return scored
    .sort((one, other) => other.score - one.score || ties(one.item) - ties(other.item) || one.at - other.at)
    .map(({ item }) => item);
}
/** Of news of one day the first that is told. */
const newsTurn = (told: readonly ItemNews[]) => (item: string) =>
  told.toSorted((one, other) => other.day - one.day).findIndex((one) => one.item === item);

test.each(Object.keys(SINCE) as WayName[])(
  "%s is what a slow search finds, for every reader, with a reason",
  (way) => {
    fc.assert(
      fc.property(orders, views, news, fc.constantFrom(0, 15), (all, looked, told, unbought) => {
        // Of one kind of news the first of an item counts: each once.
        const once = told.filter(
          (one, at) => told.findIndex((other) => other.item === one.item && other.what === one.what) === at,
        );
        const world: World = { all, looked, told: once };
        const ask: ListAsk = {
          block: "b",
          source: "shop",
          ways: [{ by: way, days: SINCE[way], ...(way === "near" && { field: "branch" }) }],
          count: IDS.length,
          apart: false,
          unsent: 0,
          unbought,
          sold: false,
        };
        const [list] = pickLists([ask], {
          items: () => ITEMS,
          placed: new Set(),
          audience: { today: TODAY },
          seed: "c",
          market: marketOf(all),
          past: ({ id: who }) => pastOf(all, looked, who),
          news: () => once,
        });
        for (const reader of READERS) {
          const got = list.pick(reader);
          const lately = (item: string) =>
            unbought > 0 &&
            all.some(
              (order) =>
                order.reader === reader.id && order.day >= NOW - unbought && order.items.includes(item),
            );
          expect(got.map(({ at }) => IDS[at])).toEqual(
            slowly(way, world, reader).filter((item) => item !== "f" && !lately(item)),
          );
          for (const { because } of got) expect(becauseWords(because!)).toMatch(/./);
        }
      }),
      { numRuns: 200 },
    );
  },
);

test("several ways follow one another until the places are full, and nothing comes twice", () => {
  const all: Order[] = [
    { reader: 0, day: NOW - 3, items: ["a"] },
    { reader: 1, day: NOW - 2, items: ["a", "b"] },
    { reader: 2, day: NOW - 1, items: ["b", "c"] },
  ];
  const ask: ListAsk = {
    block: "b",
    source: "shop",
    ways: [{ by: "seen" }, { by: "popular" }, { by: "given" }],
    count: 5,
    apart: true,
    unsent: 0,
    unbought: 30,
    sold: false,
  };
  const [list] = pickLists([ask], {
    items: () => ITEMS,
    placed: new Set(),
    audience: { today: TODAY },
    seed: "c",
    market: marketOf(all),
    past: ({ id: who }) => pastOf(all, [{ reader: 0, day: NOW - 1, item: "b" }], who),
  });
  const said = list
    .pick(READERS[0])
    .map(({ at, way, because }) => [IDS[at], way, because ? becauseWords(because) : ""]);
  expect(said).toEqual([
    ["b", 0, "looked at on 30 November and not bought"],
    ["c", 1, "popular in the last 30 days"],
    ["d", 2, ""],
    ["e", 2, ""],
  ]);
});

test("why an item was picked is said in words", () => {
  const on = Math.floor(Date.parse("2026-03-03") / 86_400_000);
  expect(
    [
      { what: "goesWith" as const, item: "Tomatoes", day: on },
      { what: "like" as const, item: "Tomatoes", day: on },
      { what: "due" as const, day: on, every: 30 },
      { what: "near" as const, group: "Alderwick", days: 90 },
      { what: "back" as const, day: on },
      { what: "dropped" as const, day: on },
    ].map(becauseWords),
  ).toEqual([
    "because Tomatoes was bought on 3 March",
    "like Tomatoes, looked at on 3 March",
    "bought on 3 March, usually again after 30 days",
    "popular in Alderwick in the last 90 days",
    "back in stock since 3 March",
    "price dropped on 3 March",
  ]);
});
