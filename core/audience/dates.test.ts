/** Days, spans and zones against slow and obvious ways of working them out. */
import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import { describe, expect, test } from "vitest";
import {
  addDays,
  addSpan,
  anniversaryDays,
  type Contact,
  dayIn,
  dayStart,
  predicate,
  type Rule,
  type Span,
} from ".";

const days = fc
  .integer({ min: Date.parse("1900-01-01"), max: Date.parse("2100-12-31") })
  .map((at) => new Date(at).toISOString().slice(0, 10));
const spans: fc.Arbitrary<Span> = fc.oneof(
  fc.integer({ min: 0, max: 800 }),
  fc.record({ months: fc.integer({ min: 0, max: 40 }) }),
);
const zones = fc.constantFrom(
  "UTC",
  "Europe/London",
  "America/New_York",
  "America/Sao_Paulo",
  "Asia/Kathmandu",
  "Asia/Beirut",
  "Pacific/Apia",
  "Pacific/Kiritimati",
  "Pacific/Pago_Pago",
  "Australia/Lord_Howe",
);

/** A day later or earlier by walking through the calendar. */
function walked(day: string, span: Span, direction: 1 | -1): string {
  let at = Temporal.PlainDate.from(day);
  if (typeof span === "number") for (let n = 0; n < span; n++) at = at.add({ days: direction });
  else at = at.add({ months: direction * span.months });
  return at.toString();
}

test("a span later and earlier is what walking through the calendar comes to", () => {
  fc.assert(
    fc.property(days, spans, fc.constantFrom(1 as const, -1 as const), (day, span, direction) => {
      expect(addSpan(day, span, direction)).toBe(walked(day, span, direction));
    }),
    { numRuns: 400 },
  );
});

test.each([
  ["2024-02-29", { months: 12 }, -1, "2023-02-28"],
  ["2025-02-28", { months: 12 }, -1, "2024-02-28"],
  ["2024-03-31", { months: 1 }, -1, "2024-02-29"],
  ["2026-01-15", { months: 1 }, -1, "2025-12-15"],
  ["0000-01-10", { months: 3 }, -1, "0000-01-01"],
  ["9999-12-10", { months: 3 }, 1, "9999-12-31"],
  ["9999-12-10", 400, 1, "9999-12-31"],
] as const)("from %s by %j, %i, it is %s", (day, span, direction, expected) => {
  expect(addSpan(day, span, direction)).toBe(expected);
});

const person = (fields: Contact["fields"]): Contact => ({ id: 1, email: "a@b.example", fields, lists: [] });

/** Whether a birthday comes round, by asking every day from today on whether it is one. */
function comesRound(born: string, today: string, span: Span): boolean {
  const [, month, day] = born.split("-").map(Number);
  const last = walked(today, span, 1);
  for (let at = Temporal.PlainDate.from(today); at.toString() <= last; at = at.add({ days: 1 })) {
    if (at.month === month && at.day === day) return true;
    if (month === 2 && day === 29 && !at.inLeapYear && at.month === 2 && at.day === 28) return true;
  }
  return false;
}

describe("relative dates", () => {
  const birthdays = fc.oneof(days, fc.constantFrom("1988-02-29", "2000-02-28", "1990-01-01", "1990-12-31"));
  const todays = fc.oneof(
    days,
    fc.constantFrom("2026-12-20", "2026-12-31", "2024-02-28", "2023-02-28", "2024-02-01"),
  );

  test("an anniversary comes round as asking every single day says, over New Year and on 29 February", () => {
    fc.assert(
      fc.property(birthdays, todays, spans, (born, today, span) => {
        const rule: Rule = { kind: "field", field: "birthday", op: "anniversaryWithin", value: span };
        const meets = predicate(rule, { today, segments: new Map() });
        expect(meets(person({ birthday: born }))).toBe(comesRound(born, today, span));
      }),
      { numRuns: 300 },
    );
  });

  test("within the next 30 days over New Year", () => {
    const found = anniversaryDays("2026-12-15", 30);
    expect([found.size, found.has("12-15"), found.has("01-14"), found.has("01-15")]).toEqual([
      31,
      true,
      true,
      false,
    ]);
  });

  test("in the last, more than ago, in the next and more than ahead part all days between them", () => {
    fc.assert(
      fc.property(days, days, spans, (day, today, value) => {
        const asked = (["longerAgo", "withinLast", "withinNext", "furtherAhead"] as const).map((op) =>
          predicate(
            { kind: "field", field: "it", op, value },
            { today, segments: new Map() },
          )(person({ it: day })),
        );
        const from = walked(today, value, -1);
        const to = walked(today, value, 1);
        expect(asked).toEqual([day < from, day >= from && day <= today, day >= today && day <= to, day > to]);
      }),
      { numRuns: 300 },
    );
  });

  test("joined more than a year ago, on the day itself and the day after", () => {
    const rule: Rule = { kind: "field", field: "joined", op: "longerAgo", value: { months: 12 } };
    const on = (today: string, joined: string) =>
      predicate(rule, { today, segments: new Map() })(person({ joined }));
    expect([on("2025-02-28", "2024-02-28"), on("2025-03-01", "2024-02-28")]).toEqual([false, true]);
    expect([on("2025-02-28", "2024-02-29"), on("2025-03-01", "2024-02-29")]).toEqual([false, true]);
  });
});

/** The day that a clock on the wall of a zone shows. */
const clockDay = (at: number, zone: string) =>
  new Intl.DateTimeFormat("en-CA", { timeZone: zone, dateStyle: "short" }).format(at);

describe("days in a zone", () => {
  test("begin with the first moment at which a clock there shows them, also where midnight is skipped", () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc
            .integer({ min: Date.parse("1970-01-02"), max: Date.parse("2040-12-31") })
            .map((at) => new Date(at).toISOString().slice(0, 10)),
          fc.constantFrom("2018-11-04", "2021-03-28", "2026-03-29", "2026-10-25", "2011-12-31"),
        ),
        zones,
        (day, zone) => {
          const start = dayStart(day, zone);
          // A zone that jumps over a whole day (Apia, 30 December 2011) begins it with the next.
          expect(clockDay(start, zone) >= day).toBe(true);
          expect(clockDay(start - 1, zone) < day).toBe(true);
        },
      ),
      { numRuns: 500 },
    );
  });

  test("are the day that the clocks there show", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: Date.parse("1970-01-02"), max: Date.parse("2040-12-31") }),
        zones,
        (at, zone) => {
          expect(dayIn(zone, at)).toBe(clockDay(at, zone));
        },
      ),
      { numRuns: 500 },
    );
  });

  test("behaviour within days counts from midnight there", () => {
    const rule: Rule = { kind: "did", what: "opened", often: "atLeast", times: 1, within: 1 };
    const opened = (zone: string, at: string) =>
      predicate(rule, { today: "2026-11-23", zone, segments: new Map() })({
        ...person({}),
        history: { events: [{ what: "opened", at: Date.parse(at), campaign: "c" }], orders: [] },
      });
    expect(opened("UTC", "2026-11-21T23:59:59.999Z")).toBe(false);
    expect(opened("UTC", "2026-11-22T00:00:00Z")).toBe(true);
    expect(opened("America/New_York", "2026-11-22T04:59:59.999Z")).toBe(false);
    expect(opened("America/New_York", "2026-11-22T05:00:00Z")).toBe(true);
    expect(opened("Pacific/Kiritimati", "2026-11-21T09:59:59.999Z")).toBe(false);
    expect(opened("Pacific/Kiritimati", "2026-11-21T10:00:00Z")).toBe(true);
  });
});

test("a day that would be after the last or before the first is that one", () => {
  expect([addDays("9999-12-31", 1), addDays("0000-01-01", -1)]).toEqual(["9999-12-31", "0000-01-01"]);
});
