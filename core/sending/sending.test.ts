import { expect, test } from "vitest";
import { canMove, DISPATCH_STATES, momentOf, momentWords, ScheduleError } from ".";

const now = Date.parse("2026-11-23T12:00:00Z");

test("a date and time in a zone are one instant", () => {
  expect(momentOf("2026-12-03", "10:00", "Europe/London", now).epoch).toBe(
    Date.parse("2026-12-03T10:00:00Z"),
  );
  expect(momentOf("2027-07-01", "10:00", "Europe/London", now).epoch).toBe(
    Date.parse("2027-07-01T09:00:00Z"),
  );
  expect(momentWords({ epoch: Date.parse("2026-12-03T15:00:00Z"), zone: "America/New_York" })).toBe(
    "Thu 3 Dec 2026, 10:00 New York (15:00 UTC)",
  );
});

test("times that passed, that the clocks skip or repeat, and zones that are none are refused", () => {
  expect(() => momentOf("2026-11-23", "11:59", "UTC", now)).toThrow("has passed");
  expect(() => momentOf("2027-03-28", "01:30", "Europe/London", now)).toThrow("clocks change");
  expect(() => momentOf("2027-10-31", "01:30", "Europe/London", now)).toThrow("clocks change");
  expect(() => momentOf("2027-02-30", "10:00", "UTC", now)).toThrow(ScheduleError);
  expect(() => momentOf("2027-02-20", "10:00", "Mars/Base", now)).toThrow("is not a time zone");
});

test("a dispatch that ended stays ended", () => {
  for (const state of DISPATCH_STATES) {
    expect(canMove("sent", state)).toBe(false);
    expect(canMove("cancelled", state)).toBe(false);
  }
  expect(canMove("sending", "paused")).toBe(true);
  expect(canMove("scheduled", "sending")).toBe(false);
});
