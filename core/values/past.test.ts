import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { joinSwaps, Past, type Swap } from ".";

type Of = Past<Swap<number>>;
const swap = (before: number, after: number, merge?: string, at = 0): Swap<number> => ({
  before,
  after,
  merge,
  at,
});
const pairs = ({ done }: Of) => done.map(({ before, after }) => [before, after]);

test("whatever is done, undone, redone and left to rest: each way back leads where one was", () => {
  const deed = fc.record({
    do: fc.constant("set" as const),
    to: fc.nat(9),
    merge: fc.constantFrom("a", "b"),
  });
  const way = fc.record({ do: fc.constantFrom("back" as const, "forth" as const, "rest" as const) });
  fc.assert(
    fc.property(fc.array(fc.oneof(deed, way), { maxLength: 40 }), (all) => {
      let past: Of = Past.empty;
      let now = 0;
      for (const one of all) {
        if (one.do === "set") {
          past = Past.add(past, swap(now, one.to, one.merge), joinSwaps);
          now = one.to;
        } else if (one.do === "rest") past = Past.rest(past);
        else {
          const went = Past[one.do](past);
          if (!went) continue;
          past = went.past;
          now = one.do === "back" ? went.deed.before : went.deed.after;
        }
        // Each deed begins where the one before it ended, and the last one ends here.
        const chain = [...past.done, ...[...past.undone].reverse()];
        for (const [at, { before }] of chain.entries()) if (at > 0) expect(before).toBe(chain[at - 1].after);
        expect(past.done.at(-1)?.after ?? chain[0]?.before ?? 0).toBe(now);
      }
    }),
  );
});

describe("deeds of the same key", () => {
  const first: Of = Past.add(Past.empty as Of, swap(0, 1, "size", 1000), joinSwaps);

  test("are one when they follow closely, and two when they do not", () => {
    expect(pairs(Past.add(first, swap(1, 2, "size", 2400), joinSwaps))).toEqual([[0, 2]]);
    expect(pairs(Past.add(first, swap(1, 2, "size", 2600), joinSwaps))).toEqual([
      [0, 1],
      [1, 2],
    ]);
    expect(pairs(Past.add(first, swap(1, 2, "size", 9000), joinSwaps, Infinity))).toEqual([[0, 2]]);
  });

  test("are two after a rest, after something else, and without a key", () => {
    for (const [past, merge] of [
      [Past.rest(first), "size"],
      [first, "colour"],
      [first, undefined],
      [Past.add(Past.empty as Of, swap(0, 1), joinSwaps), undefined],
    ] as const)
      expect(pairs(Past.add(past, swap(1, 2, merge, 1001), joinSwaps))).toHaveLength(2);
  });

  test("what was undone is gone once something else is done", () => {
    const went = Past.back(first);
    expect(went?.past.undone).toHaveLength(1);
    const past = Past.add(went?.past as Of, swap(0, 5, "size", 1001), joinSwaps);
    expect(pairs(past)).toEqual([[0, 5]]);
    expect(Past.forth(past)).toBeNull();
  });
});
