import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { itemOf } from "../items";
import { companions, likenessOf, popular, popularBy, type Sales, usualGaps } from ".";

interface Line {
  item: number;
  reader: number;
  order: number;
  day: number;
}
const IDS = ["a", "b", "c", "d", "e"];
const salesOf = (lines: readonly Line[]): Sales => ({
  item: Int32Array.from(lines, ({ item }) => item),
  reader: Int32Array.from(lines, ({ reader }) => reader),
  order: Int32Array.from(lines, ({ order }) => order),
  day: Int32Array.from(lines, ({ day }) => day),
  ids: IDS,
});
const lines = fc.array(
  fc.record({
    item: fc.nat(4),
    reader: fc.integer({ min: 1, max: 4 }),
    order: fc.nat(9),
    day: fc.integer({ min: 100, max: 130 }),
  }),
  { maxLength: 60 },
);

test("what is popular is what was bought most often since a day, also in each group", () => {
  fc.assert(
    fc.property(lines, fc.integer({ min: 100, max: 131 }), (all, from) => {
      const since = all.filter(({ day }) => day >= from);
      const counts = (of: readonly Line[]) => IDS.map((_, at) => of.filter(({ item }) => item === at).length);
      expect([...popular(salesOf(all), from)]).toEqual(counts(since));
      const groupOf = (reader: number) => (reader === 4 ? null : reader % 2 ? "odd" : "even");
      const groups = popularBy(salesOf(all), from, groupOf);
      for (const group of ["odd", "even"])
        expect([...(groups.get(group) ?? counts([]))]).toEqual(
          counts(since.filter(({ reader }) => groupOf(reader) === group)),
        );
    }),
  );
});

test("what goes together stands in the same orders more often than by chance, counted slowly", () => {
  fc.assert(
    fc.property(lines, fc.integer({ min: 1, max: 3 }), (all, floor) => {
      const baskets = [...new Set(all.map(({ order }) => order))].map(
        (one) => new Set(all.filter(({ order }) => order === one).map(({ item }) => item)),
      );
      const having = (...items: number[]) =>
        baskets.filter((basket) => items.every((item) => basket.has(item))).length;
      const wanted = IDS.map((_, one) =>
        IDS.flatMap((__, item) => {
          const together = having(one, item);
          const lift = (together * baskets.length) / (having(one) * having(item));
          return item !== one && together >= floor && lift > 1 ? [{ item, lift, together }] : [];
        }).sort((a, b) => b.lift - a.lift || b.together - a.together || a.item - b.item),
      );
      expect(companions(salesOf(all), floor)).toEqual(wanted);
    }),
  );
});

test("how soon something is bought again is the middle of the times between, where that happened often enough", () => {
  fc.assert(
    fc.property(lines, (all) => {
      const wanted = IDS.map((_, at) => {
        const gaps: number[] = [];
        for (const reader of [1, 2, 3, 4]) {
          const days = all
            .filter((line) => line.item === at && line.reader === reader)
            .map(({ day }) => day)
            .sort((a, b) => a - b);
          for (let next = 1; next < days.length; next++)
            if (days[next] > days[next - 1]) gaps.push(days[next] - days[next - 1]);
        }
        gaps.sort((a, b) => a - b);
        return gaps.length < 3 ? 0 : gaps[Math.ceil(gaps.length / 2) - 1];
      });
      expect([...usualGaps(salesOf(all))]).toEqual(wanted);
    }),
  );
});

describe("likeness", () => {
  const word = fc.constantFrom("x", "y", "z");
  const items = fc
    .array(fc.record({ category: fc.uniqueArray(word), tags: fc.uniqueArray(word) }), {
      minLength: 1,
      maxLength: 8,
    })
    .map((all) => all.map((it, at) => itemOf({ id: String(at), ...it })));

  test("is the cosine of what items are filed under, of the one they are most like", () => {
    fc.assert(
      fc.property(items, fc.array(fc.nat(7)), (all, asked) => {
        const to = asked.filter((at) => at < all.length);
        const words = (at: number) => [
          ...all[at].category.map((it) => `c${it}`),
          ...all[at].tags.map((it) => `t${it}`),
        ];
        const cosine = (one: number, other: number) => {
          const shared = words(one).filter((it) => words(other).includes(it)).length;
          return shared === 0 ? 0 : shared / Math.sqrt(words(one).length * words(other).length);
        };
        const found = likenessOf(all)(to);
        for (const at of all.keys()) {
          const best = Math.max(0, ...to.map((one) => cosine(at, one)));
          expect(found.get(at)?.likeness ?? 0).toBeCloseTo(best, 12);
          if (found.has(at)) expect(cosine(at, found.get(at)!.to)).toBeCloseTo(best, 12);
        }
      }),
    );
  });
});
