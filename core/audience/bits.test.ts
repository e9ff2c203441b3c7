import fc from "fast-check";
import { expect, test } from "vitest";
import { Bits } from ".";

const SIZE = 200;
const numbers = fc.uniqueArray(fc.integer({ min: 0, max: SIZE - 1 }));
const setOf = (all: readonly number[]) => {
  const bits = Bits.none(SIZE);
  for (const one of all) bits.add(one);
  return bits;
};
const sorted = (all: Iterable<number>) => [...all].sort((one, other) => one - other);

test("sets of bits are sets", () => {
  fc.assert(
    fc.property(numbers, numbers, (one, other) => {
      const [here, there] = [setOf(one), setOf(other)];
      expect([...here]).toEqual(sorted(one));
      expect(here.count()).toBe(one.length);
      expect(here.first()).toBe(sorted(one)[0] ?? -1);
      expect([...here.and(there)]).toEqual(sorted(one.filter((it) => other.includes(it))));
      expect([...here.or(there)]).toEqual(sorted(new Set([...one, ...other])));
      expect([...here.without(there)]).toEqual(sorted(one.filter((it) => !other.includes(it))));
      for (let at = 0; at < SIZE + 40; at++) expect(here.has(at)).toBe(one.includes(at));
    }),
  );
  expect(() => Bits.none(3).and(Bits.none(4))).toThrow("sets of 3 and 4");
});
