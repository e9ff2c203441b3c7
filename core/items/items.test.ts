import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { changedSince, costs, foundBy, type Item, isSoldOut, itemOf, saving, searchWords } from ".";

const BEANS = itemOf({ id: "1", title: "Beans", price: 4, currency: "EUR", stock: 3 });

describe("since it was placed,", () => {
  test.each<[Partial<Item>, string[]]>([
    [{}, []],
    [{ stock: 9 }, []],
    [{ stock: 0 }, ["stock"]],
    [{ sale: 3 }, ["price"]],
    [{ title: "Peas", text: "New" }, ["title", "text"]],
    [{ size: { width: 1, height: 1 } }, []],
    [{ category: ["Seeds"], tags: ["new"] }, []],
    [{ facts: { sow: "May" } }, ["facts"]],
    [{ date: "2026-03-01", place: "Marl Bay" }, ["date", "place"]],
  ])("%j is %j", (part, changed) => {
    expect(changedSince(BEANS, { ...BEANS, ...part })).toEqual(changed);
  });

  test("what its source has no more is gone", () => {
    expect(changedSince(BEANS, null)).toEqual(["gone"]);
  });
});

test("what it costs, saves, and whether there is any", () => {
  expect([costs(BEANS), costs({ ...BEANS, sale: 3 }), costs(itemOf({ id: "x" }))]).toEqual([4, 3, null]);
  expect([saving(BEANS), saving({ ...BEANS, sale: 3 }), saving({ ...BEANS, price: 0, sale: 0 })]).toEqual([
    0, 0.25, 0,
  ]);
  expect([BEANS, { ...BEANS, stock: 0 }, itemOf({ id: "x" })].map(isSoldOut)).toEqual([false, true, false]);
});

test("words are found whatever their letters look like, and each is there once and no longer than a database takes", () => {
  expect(searchWords("  Crème-Brûlée, STRASSE straße; ２ 🌱 creme")).toEqual([
    "creme",
    "brulee",
    "strasse",
    "2",
  ]);
  fc.assert(
    fc.property(fc.string({ unit: "binary", maxLength: 200 }), (text) => {
      const words = searchWords(text);
      expect(new Set(words).size).toBe(words.length);
      for (const word of words) {
        expect(word.length).toBeLessThanOrEqual(60);
        expect(word).toMatch(/^[^\s'&|!:*()\\]+$/u);
        expect(word.isWellFormed()).toBe(true);
      }
    }),
  );
  const item = itemOf({
    id: "SKU-7",
    title: "Trowel",
    category: ["Tools"],
    place: "Shed",
    facts: { steel: "forged", weight: 3, sizes: ["small"] },
  });
  expect(foundBy(item)).toEqual(["trowel", "sku", "7", "tools", "shed", "forged", "small"]);
});
