import fc from "fast-check";
import { expect, test } from "vitest";
import { placeOf } from "./quotes";

const found = (text: string, exact: string, before = "") => {
  const place = placeOf(text, { exact, before });
  return place && text.slice(...place);
};

test("words are found however their blanks are written", () => {
  expect(found("Peas  and\n   beans", "and beans")).toBe("and\n   beans");
  expect(found("Peas and beans", "and\nbeans")).toBe("and beans");
});

test("of several that read the same it is the one before which the same stands", () => {
  const text = "Sow peas. Water peas. Pick peas.";
  expect(placeOf(text, { exact: "peas", before: "Water " })).toEqual([16, 20]);
  expect(placeOf(text, { exact: "peas", before: "Pick " })).toEqual([27, 31]);
  expect(placeOf(text, { exact: "peas", before: "Eat " }), "what stood before has gone").toEqual([4, 8]);
});

test("words that are not there any more are nowhere", () => {
  expect(found("Sow beans.", "peas")).toBeNull();
  expect(found("Sow beans.", "  ")).toBeNull();
});

test("whatever is marked is found where it was marked", () => {
  fc.assert(
    fc.property(fc.string(), fc.string({ minLength: 1 }), fc.string(), (before, exact, after) => {
      fc.pre(exact.trim() === exact && exact !== "");
      const text = before + exact + after;
      const place = placeOf(text, { exact, before });
      expect(place).not.toBeNull();
      expect(text.slice(...(place ?? [0, 0])).replace(/\s+/g, " ")).toBe(exact.replace(/\s+/g, " "));
    }),
  );
});
