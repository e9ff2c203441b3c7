import { describe, expect, test } from "vitest";
import { BASE_FIELDS, type FieldDef, givenValue, isDay } from ".";

const field = (kind: FieldDef["kind"], options?: string[]): FieldDef => ({
  key: "it",
  label: "It",
  kind,
  ...(options && { options: options.map((value) => ({ value, label: value })) }),
});

describe("what a field can be given", () => {
  test.each<[FieldDef, unknown, unknown]>([
    [field("text"), "  Ines ", "Ines"],
    [field("text"), "   ", null],
    [field("number"), 0, 0],
    [field("date"), "2024-02-29", "2024-02-29"],
    [field("boolean"), false, false],
    [field("choice", ["a", "b"]), "b", "b"],
    [field("choice"), "anything", "anything"],
    [field("set", ["a", "b"]), ["b", "a", "b"], ["b", "a"]],
    ...(["text", "number", "date", "boolean", "choice", "set"] as const).flatMap(
      (kind): [FieldDef, unknown, unknown][] => [
        [field(kind), null, null],
        [field(kind), "", null],
        [field(kind), [], null],
      ],
    ),
  ])("%o from %j is %j", (def, raw, value) => {
    expect(givenValue(def, raw)).toEqual({ value });
  });

  test.each<[FieldDef, unknown, RegExp]>([
    [field("text"), 5, /words/],
    [field("text"), "x".repeat(2001), /more than 2000/],
    [field("text"), "a\u0000b", /characters that are none/],
    [field("text"), "\ud800", /characters that are none/],
    [field("number"), "5", /number/],
    [field("number"), Number.NaN, /number/],
    [field("date"), "2023-02-29", /day/],
    [field("date"), "29.2.2024", /day/],
    [field("boolean"), "yes", /yes or no/],
    [field("choice", ["a"]), "b", /cannot be “b”/],
    [field("set", ["a"]), ["a", "c"], /cannot be “c”/],
    [field("set"), "a", /list/],
  ])("%o from %j is refused", (def, raw, words) => {
    expect(givenValue(def, raw)).toEqual({ problem: expect.stringMatching(words) });
  });
});

test("a day is one of the calendar", () => {
  expect(["2024-02-29", "0001-01-01", "9999-12-31"].every(isDay)).toBe(true);
  expect(["2023-02-29", "2024-13-01", "2024-00-10", "24-01-01", "2024-1-1"].some(isDay)).toBe(false);
  expect(BASE_FIELDS.filter(({ kind }) => kind === "date").map(({ key }) => key)).toEqual([
    "birthday",
    "joined",
    "consent_date",
  ]);
});
