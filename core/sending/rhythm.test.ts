/** Dates that come again and again. */
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { dateBefore, nextDates, type Rhythm, RhythmSchema, rhythmWords } from "./rhythm";

const LONDON = "Europe/London";
const rhythm = (days: Rhythm["days"], more: Partial<Rhythm> = {}): Rhythm =>
  RhythmSchema.parse({ days, time: "09:00", zone: LONDON, ...more });
const iso = (all: readonly number[]) => all.map((at) => new Date(at).toISOString().slice(0, 16));
const at = (text: string) => Date.parse(`${text}Z`);

describe("the next dates", () => {
  test.each<[string, Rhythm["days"], string[]]>([
    ["of every day", { every: "day" }, ["2026-12-02T09:00", "2026-12-03T09:00", "2026-12-04T09:00"]],
    ["of workdays", { every: "workday" }, ["2026-12-02T09:00", "2026-12-03T09:00", "2026-12-04T09:00"]],
    [
      "of days of the week",
      { every: "week", on: [4, 1] },
      ["2026-12-03T09:00", "2026-12-07T09:00", "2026-12-10T09:00"],
    ],
    [
      "of the last day of months",
      { every: "monthDay", day: 31 },
      ["2026-12-31T09:00", "2027-01-31T09:00", "2027-02-28T09:00"],
    ],
    [
      "of the first Wednesday",
      { every: "monthWeekday", nth: 1, weekday: 3 },
      ["2026-12-02T09:00", "2027-01-06T09:00", "2027-02-03T09:00"],
    ],
    [
      "of the last Friday",
      { every: "monthWeekday", nth: -1, weekday: 5 },
      ["2026-12-25T09:00", "2027-01-29T09:00", "2027-02-26T09:00"],
    ],
  ])("%s", (_, days, dates) => {
    expect(iso(nextDates(rhythm(days), at("2026-12-02T08:59:59"), 3))).toEqual(dates);
  });

  test("begin after the moment that is asked about", () => {
    expect(iso(nextDates(rhythm({ every: "workday" }), at("2026-12-04T09:00"), 1))).toEqual([
      "2026-12-07T09:00",
    ]);
  });

  test("keep their time when the clocks change; what is skipped comes after the gap, what comes twice the first time", () => {
    expect(iso(nextDates(rhythm({ every: "day" }), at("2027-03-26T12:00"), 3))).toEqual([
      "2027-03-27T09:00",
      "2027-03-28T08:00",
      "2027-03-29T08:00",
    ]);
    const night = rhythm({ every: "day" }, { time: "01:30" });
    expect(iso(nextDates(night, at("2027-03-27T12:00"), 1))).toEqual(["2027-03-28T01:30"]);
    expect(iso(nextDates(night, at("2027-10-30T12:00"), 2))).toEqual([
      "2027-10-31T00:30",
      "2027-11-01T01:30",
    ]);
  });

  test("end after a day, or after a number", () => {
    const days = { every: "day" } as const;
    const until = rhythm(days, { ends: { by: "date", date: "2026-12-03" } });
    expect(iso(nextDates(until, at("2026-12-01T10:00"), 9))).toEqual([
      "2026-12-02T09:00",
      "2026-12-03T09:00",
    ]);
    expect(nextDates(until, at("2026-12-03T09:00"), 9)).toEqual([]);
    const times = rhythm(days, { ends: { by: "number", number: 5 } });
    expect(nextDates(times, 0, 9, 2)).toHaveLength(2);
    expect(nextDates(times, 0, 9, 0)).toEqual([]);
  });
});

const every: fc.Arbitrary<Rhythm["days"]> = fc.oneof(
  fc.constant({ every: "day" as const }),
  fc.constant({ every: "workday" as const }),
  fc.record({
    every: fc.constant("week" as const),
    on: fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { minLength: 1 }),
  }),
  fc.record({ every: fc.constant("monthDay" as const), day: fc.integer({ min: 1, max: 31 }) }),
  fc.record({
    every: fc.constant("monthWeekday" as const),
    nth: fc.constantFrom(1, 2, 3, 4, -1) as fc.Arbitrary<1>,
    weekday: fc.integer({ min: 1, max: 7 }),
  }),
);

test("going back from a date leads to the one before it, wherever one is", () => {
  fc.assert(
    fc.property(
      every,
      fc.constantFrom(LONDON, "Pacific/Apia", "America/St_Johns"),
      fc.integer({ min: 0, max: 2e12 }),
      (days, zone, from) => {
        const it = rhythm(days, { zone });
        const dates = nextDates(it, from, 4);
        expect(dates).toHaveLength(4);
        for (const [index, one] of dates.entries()) {
          expect(one).toBeGreaterThan(index === 0 ? from : dates[index - 1]);
          if (index > 0) expect(dateBefore(it, one)).toBe(dates[index - 1]);
        }
      },
    ),
  );
});

test("is said in words", () => {
  expect(rhythmWords(rhythm({ every: "week", on: [4, 1] }))).toBe(
    "Every week on Monday and Thursday at 09:00, London",
  );
  expect(rhythmWords(rhythm({ every: "monthDay", day: 22 }, { ends: { by: "number", number: 6 } }))).toBe(
    "On the 22nd of every month at 09:00, London, 6 times",
  );
  expect(
    rhythmWords(
      rhythm({ every: "monthWeekday", nth: -1, weekday: 5 }, { ends: { by: "date", date: "2027-03-03" } }),
    ),
  ).toBe("On the last Friday of every month at 09:00, London, until 3 March 2027");
});

test("a rhythm without a day, with a time or a zone that there is not, is none", () => {
  for (const wrong of [{ days: { every: "week", on: [] } }, { time: "24:00" }, { zone: "Europe/Atlantis" }])
    expect(
      RhythmSchema.safeParse({ days: { every: "day" }, time: "09:00", zone: LONDON, ...wrong }).success,
    ).toBe(false);
});
