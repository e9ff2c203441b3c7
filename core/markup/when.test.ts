import fc from "fast-check";
import { expect, test } from "vitest";
import { epochOf } from "./when";

/** What a clock on the wall of a zone shows. */
const clock = (epoch: number, zone: string) =>
  new Intl.DateTimeFormat("sv-SE", { timeZone: zone, dateStyle: "short", timeStyle: "short" })
    .format(epoch)
    .replace(" ", "T");

/** How far the clocks of a zone jump, in milliseconds; where they never do, any jump is none. */
const HOUR = 3_600_000;
const JUMP: Record<string, number> = {
  "Europe/London": HOUR,
  "America/New_York": HOUR,
  "Asia/Kolkata": HOUR,
  "Australia/Lord_Howe": HOUR / 2,
  UTC: HOUR,
};

test("wall-clock times become the instants at which clocks there show them, also around changes of the clock", () => {
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
      const epoch = epochOf(local, zone) as number;
      const skipped = clock(epoch, zone) !== local;
      // What the clocks skip is as far after the jump as it would have been after its beginning.
      if (skipped) expect(clock(epoch - JUMP[zone], zone) < local && clock(epoch, zone) > local).toBe(true);
      // Of what comes twice it is the first.
      else expect(clock(epoch - JUMP[zone], zone)).not.toBe(local);
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
