import fc from "fast-check";
import { Temporal } from "temporal-polyfill";
import { expect, test } from "vitest";
import { epochOf } from "./when";

test("wall-clock times become the instants that Temporal gives, also around changes of the clock", () => {
  const zones = fc.constantFrom(
    "Europe/London",
    "America/New_York",
    "Asia/Kolkata",
    "Australia/Lord_Howe",
    "UTC",
  );
  const minutes = fc.oneof(
    fc.integer({ min: 0, max: 20 * 366 * 24 * 60 }),
    // The nights when clocks change.
    fc
      .tuple(
        fc.constantFrom(Date.UTC(2027, 2, 28), Date.UTC(2027, 9, 31), Date.UTC(2027, 2, 14)),
        fc.nat(1500),
      )
      .map(([night, minute]) => (night - Date.UTC(2020, 0, 1)) / 60_000 + minute - 200),
  );
  fc.assert(
    fc.property(minutes, zones, (minute, zone) => {
      const local = new Date(Date.UTC(2020, 0, 1) + minute * 60_000).toISOString().slice(0, 16);
      expect(epochOf(local, zone)).toBe(
        Temporal.PlainDateTime.from(local).toZonedDateTime(zone, { disambiguation: "compatible" })
          .epochMilliseconds,
      );
    }),
    { numRuns: 600 },
  );
});

test("what is no time or no zone is nothing", () => {
  for (const [local, zone] of [
    ["", "UTC"],
    ["2026-02-30T10:00", "UTC"],
    ["2026-12-03T25:00", "UTC"],
    ["2026-12-03T10:00", "Nowhere/Land"],
  ])
    expect(epochOf(local, zone)).toBeNull();
});
