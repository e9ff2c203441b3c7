/** When something that repeats takes place. */
import { z } from "zod";
import { Temporal } from "../values";
import { isZone } from "./schedule";

const WEEKDAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"] as const;
export const WEEKDAY_NAMES: readonly string[] = WEEKDAYS;

/** Which of the weekdays of a month: the first to the fourth, or the last. */
export const NTHS = [1, 2, 3, 4, -1] as const;
const NTH_WORDS: Record<(typeof NTHS)[number], string> = {
  1: "first",
  2: "second",
  3: "third",
  4: "fourth",
  [-1]: "last",
};
export const nthWords = (nth: (typeof NTHS)[number]): string => NTH_WORDS[nth];

const weekday = z.number().int().min(1).max(7);
const EverySchema = z.discriminatedUnion("every", [
  z.object({ every: z.literal("day") }),
  z.object({ every: z.literal("workday") }),
  /** On weekdays: 1 is Monday, 7 Sunday (ISO 8601). */
  z.object({ every: z.literal("week"), on: z.array(weekday).min(1, "Choose a day of the week.") }),
  /** On a day of the month; on its last where it has fewer. */
  z.object({ every: z.literal("monthDay"), day: z.number().int().min(1).max(31) }),
  z.object({ every: z.literal("monthWeekday"), nth: z.literal(NTHS), weekday }),
]);

export const RhythmSchema = z.object({
  days: EverySchema,
  /** `HH:MM` on the clock of the zone. */
  time: z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, "Give a time, such as 09:00."),
  zone: z.string().refine(isZone, "Choose a time zone, such as Europe/London."),
  /** Ends after a day, or after so many sendings; never when missing. */
  ends: z
    .discriminatedUnion("by", [
      z.object({ by: z.literal("date"), date: z.iso.date("Choose the last day.") }),
      z.object({ by: z.literal("number"), number: z.number().int().min(1).max(1000) }),
    ])
    .optional(),
});
/** How something repeats: on which days, at which time on the clock of a zone, and until when. */
export type Rhythm = z.infer<typeof RhythmSchema>;

/** Whether a rhythm has a date on a day. */
function falls(day: Temporal.PlainDate, { days }: Rhythm): boolean {
  switch (days.every) {
    case "day":
      return true;
    case "workday":
      return day.dayOfWeek <= 5;
    case "week":
      return days.on.includes(day.dayOfWeek);
    case "monthDay":
      return day.day === Math.min(days.day, day.daysInMonth);
    case "monthWeekday": {
      if (day.dayOfWeek !== days.weekday) return false;
      return days.nth === -1 ? day.day + 7 > day.daysInMonth : Math.ceil(day.day / 7) === days.nth;
    }
  }
}

/** The instant of a day. A time that the clocks skip comes when they have been put forward, one that comes twice the first time. */
const instantOf = (day: Temporal.PlainDate, { time, zone }: Rhythm): number =>
  day.toPlainDateTime(Temporal.PlainTime.from(time)).toZonedDateTime(zone, { disambiguation: "compatible" })
    .epochMilliseconds;

const dayAt = (epoch: number, zone: string): Temporal.PlainDate =>
  Temporal.Instant.fromEpochMilliseconds(epoch).toZonedDateTimeISO(zone).toPlainDate();

/** A rhythm falls at least once in so many days. */
const FARTHEST = 64;

/**
 * The next dates of a rhythm, as instants in milliseconds since 1970.
 * @param after the first is later than this
 * @param most at most so many
 * @param left how many sendings are left of a number that ends it
 */
export function nextDates(
  rhythm: Rhythm,
  after: number,
  most: number,
  left = Number.POSITIVE_INFINITY,
): number[] {
  const { ends, zone } = rhythm;
  const last = ends?.by === "date" ? Temporal.PlainDate.from(ends.date) : null;
  const wanted = Math.min(most, ends?.by === "number" ? left : most);
  const dates: number[] = [];
  let day = dayAt(after, zone);
  for (let idle = 0; dates.length < wanted && idle < FARTHEST; idle++, day = day.add({ days: 1 })) {
    if (last && Temporal.PlainDate.compare(day, last) > 0) break;
    if (!falls(day, rhythm)) continue;
    const at = instantOf(day, rhythm);
    if (at <= after) continue;
    dates.push(at);
    idle = 0;
  }
  return dates;
}

/** The last date of a rhythm before an instant, whatever ends it. */
export function dateBefore(rhythm: Rhythm, before: number): number {
  let day = dayAt(before, rhythm.zone);
  for (let at = 0; at < FARTHEST; at++, day = day.subtract({ days: 1 })) {
    const found = falls(day, rhythm) ? instantOf(day, rhythm) : before;
    if (found < before) return found;
  }
  return before;
}

const listed = new Intl.ListFormat("en-GB", { type: "conjunction" });
const ordinals = new Intl.PluralRules("en-GB", { type: "ordinal" });
const ENDINGS: Readonly<Record<string, string>> = { one: "st", two: "nd", few: "rd", other: "th" };

/** "Every week on Monday and Thursday at 09:00, London, until 3 March 2027". */
export function rhythmWords(rhythm: Rhythm): string {
  const { days, time, zone, ends } = rhythm;
  const on = () => {
    switch (days.every) {
      case "day":
        return "Every day";
      case "workday":
        return "From Monday to Friday";
      case "week":
        return `Every week on ${listed.format([...days.on].sort((a, b) => a - b).map((it) => WEEKDAYS[it - 1]))}`;
      case "monthDay":
        return days.day === 31
          ? "On the last day of every month"
          : `On the ${days.day}${ENDINGS[ordinals.select(days.day)]} of every month`;
      case "monthWeekday":
        return `On the ${NTH_WORDS[days.nth]} ${WEEKDAYS[days.weekday - 1]} of every month`;
    }
  };
  const until =
    ends?.by === "date"
      ? `, until ${new Intl.DateTimeFormat("en-GB", { dateStyle: "long", timeZone: "UTC" }).format(new Date(ends.date))}`
      : ends?.by === "number"
        ? `, ${ends.number === 1 ? "once" : `${ends.number} times`}`
        : "";
  return `${on()} at ${time}, ${zone.split("/").at(-1)!.replaceAll("_", " ")}${until}`;
}
