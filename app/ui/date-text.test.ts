import fc from "fast-check";
import { expect, test } from "vitest";
import { dayText, monthsOn, readDay, readTime, weeksOf } from "./date-text";

const TODAY = "2026-11-25";

test.each([
  ["3 Dec 2026", "2026-12-03"],
  ["Thu 3 Dec 2026", "2026-12-03"],
  ["3rd december", "2026-12-03"],
  ["Dec 3", "2026-12-03"],
  ["March 1, 2027", "2027-03-01"],
  ["1 mar", "2027-03-01"],
  ["3.12.2026", "2026-12-03"],
  ["03/12/2026", "2026-12-03"],
  ["3.12.", "2026-12-03"],
  ["2026-12-03", "2026-12-03"],
  ["25.11", "2026-11-25"],
  ["24.11", "2027-11-24"],
  ["tomorrow", "2026-11-26"],
  [" Today ", "2026-11-25"],
])("“%s” is %s", (text, day) => expect(readDay(text, TODAY)).toBe(day));

test.each(["", "31 Feb 2026", "13.13.2026", "soon", "3 Foo 2026", "2026-02-30", "99"])(
  "“%s” is no day",
  (text) => expect(readDay(text, TODAY)).toBeNull(),
);

test.each([
  ["18:00", "18:00"],
  ["18.30", "18:30"],
  ["6 pm", "18:00"],
  ["6:15pm", "18:15"],
  ["12 am", "00:00"],
  ["1800", "18:00"],
  ["9", "09:00"],
  ["930", "09:30"],
])("“%s” is the time %s", (text, time) => expect(readTime(text)).toBe(time));

test.each(["", "25:00", "18:60", "13 pm", "noon", "12345"])("“%s” is no time", (text) =>
  expect(readTime(text)).toBeNull(),
);

test("what is written of a day is read as that day, and every month is whole", () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 60_000 }), fc.integer({ min: -30, max: 30 }), (days, by) => {
      const day = new Date(days * 86_400_000).toISOString().slice(0, 10);
      expect(readDay(dayText(day), TODAY)).toBe(day);
      const month = day.slice(0, 7);
      const all = weeksOf(month).flat();
      expect(all).toContain(day);
      expect(new Set(all).size).toBe(all.length);
      expect(all.filter((one) => one.startsWith(month))).toHaveLength(
        new Date(Date.UTC(Number(month.slice(0, 4)), Number(month.slice(5)), 0)).getUTCDate(),
      );
      expect(monthsOn(monthsOn(month, by), -by)).toBe(month);
    }),
  );
});
