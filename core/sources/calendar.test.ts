/** Calendars: recurring appointments, held to a plain count of days in the zone, and to the library’s own expansion. */
import fc from "fast-check";
import ICAL from "ical.js";
import { describe, expect, test } from "vitest";
import { Temporal } from "../values";
import { parseCalendar } from ".";

const NOW = Date.parse("2026-03-01T00:00:00Z");
const event = (lines: string) =>
  `BEGIN:VEVENT\r\n${lines
    .trim()
    .split(/\s*\n\s*/)
    .join("\r\n")}\r\nEND:VEVENT\r\n`;
const calendar = (...events: string[]) =>
  `BEGIN:VCALENDAR\r\nVERSION:2.0\r\nX-WR-CALNAME:Workshops\r\n${events.join("")}END:VCALENDAR\r\n`;
const datesOf = (text: string) =>
  parseCalendar(text, "https://cal.example/", NOW).items.map(({ date }) => date);

const WEEKLY = event(`UID:w
  SUMMARY:Grafting
  DTSTART;TZID=Europe/London:20260307T100000
  DTEND;TZID=Europe/London:20260307T120000
  LOCATION:Marl Bay
  URL:/grafting
  CONFERENCE;VALUE=URI:tel:+441234
  CONFERENCE;VALUE=URI:https://cal.example/in/grafting
  CATEGORIES:Workshop,Trees
  RRULE:FREQ=WEEKLY;COUNT=6
  EXDATE;TZID=Europe/London:20260314T100000`);

describe("a recurring appointment", () => {
  test("keeps its hour over the change to summer time, without those that were taken out", () => {
    expect(datesOf(calendar(WEEKLY))).toEqual([
      "2026-03-07T10:00:00.000Z",
      "2026-03-21T10:00:00.000Z",
      "2026-03-28T10:00:00.000Z",
      "2026-04-04T09:00:00.000Z",
      "2026-04-11T09:00:00.000Z",
    ]);
    expect(parseCalendar(calendar(WEEKLY), "https://cal.example/", NOW)).toMatchObject({
      title: "Workshops",
      problems: [],
      items: [
        {
          title: "Grafting",
          until: "2026-03-07T12:00:00.000Z",
          zone: "Europe/London",
          place: "Marl Bay",
          link: "https://cal.example/grafting",
          facts: { check_in: "https://cal.example/in/grafting" },
          category: ["Workshop"],
          tags: ["Trees"],
        },
        {},
        {},
        {},
        {},
      ],
    });
  });

  test("is where it was moved to, also to another title, and not where it was cancelled", () => {
    const moved = event(`UID:w
      RECURRENCE-ID;TZID=Europe/London:20260321T100000
      SUMMARY:Grafting, later
      DTSTART;TZID=Europe/London:20260322T150000
      DTEND;TZID=Europe/London:20260322T160000`);
    const cancelled = event(`UID:w
      RECURRENCE-ID;TZID=Europe/London:20260328T100000
      STATUS:CANCELLED
      SUMMARY:Grafting
      DTSTART;TZID=Europe/London:20260328T100000`);
    const { items } = parseCalendar(calendar(WEEKLY, moved, cancelled), null, NOW);
    expect(items.map(({ date, title }) => [date, title])).toEqual([
      ["2026-03-07T10:00:00.000Z", "Grafting"],
      ["2026-03-22T15:00:00.000Z", "Grafting, later"],
      ["2026-04-04T09:00:00.000Z", "Grafting"],
      ["2026-04-11T09:00:00.000Z", "Grafting"],
    ]);
    expect(new Set(items.map(({ id }) => id)).size).toBe(4);
  });

  test("has an id of its own for each day, the same at the next reading", () => {
    const ids = (now: number) => parseCalendar(calendar(WEEKLY), null, now).items.map(({ id }) => id);
    expect(ids(NOW).slice(1)).toEqual(ids(NOW + 10 * 86_400_000));
  });
});

/** A zone with the changes of Europe's, as calendars carry it. */
const ZONE = `BEGIN:VTIMEZONE\r\nTZID:Own/Zone\r\nBEGIN:STANDARD\r\nDTSTART:19701025T030000\r\nRRULE:FREQ=YEARLY;BYDAY=-1SU;BYMONTH=10\r\nTZOFFSETFROM:+0200\r\nTZOFFSETTO:+0100\r\nEND:STANDARD\r\nBEGIN:DAYLIGHT\r\nDTSTART:19700329T020000\r\nRRULE:FREQ=YEARLY;BYDAY=-1SU;BYMONTH=3\r\nTZOFFSETFROM:+0100\r\nTZOFFSETTO:+0200\r\nEND:DAYLIGHT\r\nEND:VTIMEZONE\r\n`;

test("by whatever rule, it is what the library expands: in a zone of the world and in one of the calendar’s own", () => {
  const rules = fc.record({
    freq: fc.constantFrom("DAILY", "WEEKLY", "MONTHLY", "YEARLY"),
    interval: fc.integer({ min: 1, max: 5 }),
    ends: fc.constantFrom("", ";COUNT=9", ";UNTIL=20261001T000000Z"),
    day: fc.constantFrom("", ";BYDAY=MO,TH", ";BYDAY=SU"),
    hour: fc.integer({ min: 4, max: 23 }),
    start: fc.integer({ min: 1, max: 28 }),
    out: fc.boolean(),
  });
  fc.assert(
    fc.property(rules, ({ freq, interval, ends, day, hour, start, out }) => {
      const local = `202602${String(start).padStart(2, "0")}T${String(hour).padStart(2, "0")}0000`;
      const lines = (zone: string) =>
        event(`UID:u
          SUMMARY:Sowing
          DTSTART;TZID=${zone}:${local}
          DURATION:PT1H
          RRULE:FREQ=${freq};INTERVAL=${interval}${freq === "WEEKLY" ? day : ""}${ends}
          ${out ? `EXDATE;TZID=${zone}:${local}` : "X-NOTE:none"}`);
      const own = calendar(ZONE, lines("Own/Zone"));
      const root = new ICAL.Component(ICAL.parse(own));
      const iterator = new ICAL.Event(root.getFirstSubcomponent("vevent") ?? undefined).iterator();
      const expanded: string[] = [];
      for (let step = 0; step < 2000; step++) {
        const next = iterator.next() as ICAL.Time | undefined;
        if (!next) break;
        const at = next.toUnixTime() * 1000;
        if (at > NOW + 400 * 86_400_000) break;
        if (at + 3_600_000 >= NOW - 86_400_000) expanded.push(new Date(at).toISOString());
      }
      expect(datesOf(own)).toEqual(expanded.slice(0, 500));
      // The same hours in a zone of the world with the same changes, known to the machine and not to the calendar.
      expect(datesOf(calendar(lines("Europe/Berlin")))).toEqual(expanded.slice(0, 500));
    }),
    { numRuns: 60 },
  );
});

test("whole days, a night over the change, one without an end, and what is over", () => {
  const { items } = parseCalendar(
    calendar(
      event("UID:a\nSUMMARY:Open days\nDTSTART;VALUE=DATE:20260502\nDTEND;VALUE=DATE:20260504"),
      event(
        "UID:b\nSUMMARY:Night walk\nDTSTART;TZID=Europe/London:20260328T230000\nDTEND;TZID=Europe/London:20260329T030000",
      ),
      event("UID:c\nSUMMARY:Talk\nDTSTART:20260310T180000Z"),
      event("UID:d\nSUMMARY:Over\nDTSTART:20260110T180000Z"),
      event("UID:e\nSUMMARY:Far off\nDTSTART:20290110T180000Z"),
    ),
    null,
    NOW,
  );
  expect(items.map(({ title, date, until }) => [title, date, until])).toEqual([
    ["Talk", "2026-03-10T18:00:00.000Z", undefined],
    ["Night walk", "2026-03-28T23:00:00.000Z", "2026-03-29T02:00:00.000Z"],
    ["Open days", "2026-05-02", "2026-05-03"],
  ]);
});

test("a rule without end is followed as far as anybody looks; what cannot be read is told", () => {
  const daily = event("UID:x\nSUMMARY:Watering\nDTSTART:20200101T060000Z\nRRULE:FREQ=HOURLY");
  const found = parseCalendar(calendar(daily), null, NOW);
  expect(found.items.length).toBeLessThanOrEqual(500);
  expect(found.problems.join()).toContain("recurs more often");
  expect(() => parseCalendar(calendar(daily).slice(0, -40), null, NOW)).toThrow(/breaks off/);
  const wrong = event("UID:y\nSUMMARY:Wrong\nDTSTART:tomorrow");
  expect(
    parseCalendar(
      calendar(wrong, event("UID:z\nSUMMARY:Right\nDTSTART:20260310T180000Z")),
      null,
      NOW,
    ).items.map(({ title }) => title),
  ).toContain("Right");
});

test("hours of a zone are those of the world", () => {
  const at = Temporal.ZonedDateTime.from("2026-07-04T09:30[America/New_York]");
  expect(
    datesOf(calendar(event("UID:n\nSUMMARY:Call\nDTSTART;TZID=America/New_York:20260704T093000"))),
  ).toEqual([new Date(at.epochMilliseconds).toISOString()]);
});
