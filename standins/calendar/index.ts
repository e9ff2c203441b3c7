/**
 * The calendar: the workshops of the demo nursery's branches, as iCalendar over HTTP. One recurs every week, one every
 * first Saturday, one is full.
 *
 * `workshops` gives the file as of a moment.
 */
const DAY = 86_400_000;

const BRANCHES = ["Alderwick", "Marl Bay", "Stonecross", "Fennimoor"] as const;

/** Title, branch, in how many days, at which hour, for how many hours, and what is said of it. */
const SINGLE: readonly [string, (typeof BRANCHES)[number], number, number, number, string][] = [
  [
    "Sowing for beginners",
    "Alderwick",
    9,
    10,
    2,
    "Trays, compost, labels: what goes right, and what goes wrong.",
  ],
  ["Trees trained flat", "Stonecross", 16, 10, 3, "How an apple fits a fence. Bring a saw."],
  ["A balcony in a morning", "Marl Bay", 18, 11, 2, "Six pots that feed two people."],
  [
    "Grafting",
    "Fennimoor",
    24,
    13,
    3,
    "You take home what you made. This one is full; ask for the waiting list.",
  ],
  ["Seeds to save", "Alderwick", 31, 14, 2, "Lettuce, beans, and why not pumpkins."],
  ["Winter pruning", "Stonecross", 45, 10, 2, "What to leave alone, mostly."],
];

const two = (number: number) => String(number).padStart(2, "0");
const dayOf = (at: number) => new Date(at).toISOString().slice(0, 10).replaceAll("-", "");
const escaped = (text: string) => text.replace(/([\\;,])/g, "\\$1");

function event(uid: string, day: string, hour: number, hours: number, lines: readonly string[]): string {
  return [
    "BEGIN:VEVENT",
    `UID:${uid}@tansyrow.example`,
    "DTSTAMP:20260101T000000Z",
    `DTSTART;TZID=Europe/London:${day}T${two(hour)}0000`,
    `DTEND;TZID=Europe/London:${day}T${two(hour + hours)}0000`,
    ...lines,
    "END:VEVENT",
  ].join("\r\n");
}

/** @param now milliseconds since 1970: the workshops are of the weeks after */
export function workshops(now: number): string {
  const today = Math.floor(now / DAY) * DAY;
  const said = (title: string, branch: string, about: string, slug: string) => [
    `SUMMARY:${escaped(title)}`,
    `LOCATION:${escaped(branch)}`,
    `DESCRIPTION:${escaped(about)}`,
    `URL:https://tansyrow.example/workshops/${slug}`,
    `CONFERENCE;VALUE=URI;FEATURE=CHAT:https://tansyrow.example/check-in/${slug}`,
    `CATEGORIES:Workshop,${escaped(branch)}`,
  ];
  const events = SINGLE.map(([title, branch, inDays, hour, hours, about], at) =>
    event(
      `w${at + 1}`,
      dayOf(today + inDays * DAY),
      hour,
      hours,
      said(title, branch, about, title.toLowerCase().replace(/[^a-z]+/g, "-")),
    ),
  );
  // The Saturday of last week, from which on it is every week.
  const saturday = today - (((new Date(today).getUTCDay() + 1) % 7) + 7) * DAY;
  events.push(
    event("open-bench", dayOf(saturday), 10, 1, [
      "RRULE:FREQ=WEEKLY;COUNT=16",
      ...said("The open bench", "Alderwick", "Bring what ails. Tea is on.", "open-bench"),
    ]),
    event("seed-club", dayOf(saturday - 28 * DAY), 14, 2, [
      "RRULE:FREQ=MONTHLY;BYDAY=1SA;COUNT=9",
      ...said("The seed club meets", "Fennimoor", "Swap, sort and vote on names.", "seed-club"),
    ]),
  );
  return `${["BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:-//Tansy Row//Workshops//EN", "X-WR-CALNAME:Workshops", ...events, "END:VCALENDAR"].join("\r\n")}\r\n`;
}
