/** Calendar arithmetic on `YYYY-MM-DD`, in the proleptic Gregorian calendar and without any clock. */
import { z } from "zod";

const DAY = 86_400_000;

/** A length of time in whole days, or in months of the calendar: a year ago is the same day of the month a year before. */
export const SpanSchema = z.union([
  z.number().int().min(0).max(36_500),
  z.object({ months: z.number().int().min(0).max(1200) }),
]);
export type Span = z.infer<typeof SpanSchema>;

const FIRST = "0000-01-01";
const LAST = "9999-12-31";

/** A time as a day, held within the years that four digits can write. */
function dayOf(at: number): string {
  if (Number.isNaN(at) || at > Date.parse(`${LAST}T00:00:00Z`)) return LAST;
  return at < Date.parse(`${FIRST}T00:00:00Z`) ? FIRST : new Date(at).toISOString().slice(0, 10);
}

/** The date `days` later (earlier when negative). */
export function addDays(date: string, days: number): string {
  return dayOf(Date.parse(`${date}T00:00:00Z`) + days * DAY);
}

/**
 * The date a span later, or earlier with `direction` -1. A month has no 31st or 29th at times: then it is its last day
 * (as `constrain` in the Temporal proposal of ECMAScript).
 */
export function addSpan(date: string, span: Span, direction: 1 | -1 = 1): string {
  if (typeof span === "number") return addDays(date, direction * span);
  const [year, month, day] = date.split("-").map(Number);
  const months = year * 12 + month - 1 + direction * span.months;
  if (months < 0) return FIRST;
  const [toYear, toMonth] = [Math.floor(months / 12), months % 12];
  const lengths = [31, isLeapYear(toYear) ? 29 : 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];
  if (toYear > 9999) return LAST;
  const two = (number: number) => String(number).padStart(2, "0");
  return `${String(toYear).padStart(4, "0")}-${two(toMonth + 1)}-${two(Math.min(day, lengths[toMonth]))}`;
}

/** How many days lie from one date to a later one. */
function daysBetween(from: string, to: string): number {
  return Math.round((Date.parse(`${to}T00:00:00Z`) - Date.parse(`${from}T00:00:00Z`)) / DAY);
}

export function isLeapYear(year: number): boolean {
  return (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;
}

/**
 * The `MM-DD` of all anniversaries from `today` to a span later. Those born on 29 February have theirs on the
 * 28th in common years.
 */
export function anniversaryDays(today: string, span: Span): Set<string> {
  const result = new Set<string>();
  const days = Math.min(daysBetween(today, addSpan(today, span)), 366);
  for (let offset = 0; offset <= days; offset++) {
    const date = addDays(today, offset);
    const day = date.slice(5);
    result.add(day);
    if (day === "02-28" && !isLeapYear(Number(date.slice(0, 4)))) result.add("02-29");
  }
  return result;
}

/** The shape of a stored date; anything else in a date field counts as missing. */
export const DATE_SHAPE = /^[0-9]{4}-[0-9]{2}-[0-9]{2}$/;

const formats = new Map<string, Intl.DateTimeFormat>();

function clockIn(zone: string): Intl.DateTimeFormat {
  const known = formats.get(zone);
  if (known) return known;
  const format = new Intl.DateTimeFormat("en-GB", {
    timeZone: zone,
    hourCycle: "h23",
    year: "numeric",
    month: "2-digit",
    day: "2-digit",
    hour: "2-digit",
    minute: "2-digit",
    second: "2-digit",
  });
  formats.set(zone, format);
  return format;
}

/** How far the clocks of a zone are ahead of UTC at a moment, in milliseconds. */
function aheadBy(at: number, zone: string): number {
  const parts = Object.fromEntries(
    clockIn(zone)
      .formatToParts(at)
      .map(({ type, value }) => [type, Number(value)]),
  );
  const shown = Date.UTC(parts.year, parts.month - 1, parts.day, parts.hour, parts.minute, parts.second);
  return shown - Math.floor(at / 1000) * 1000;
}

/**
 * The day it is in a zone at a moment.
 * @param at milliseconds since 1970
 * @throws RangeError when there is no such zone
 */
export function dayIn(zone: string, at: number): string {
  return dayOf(at + aheadBy(at, zone));
}

/**
 * The moment a day begins in a zone, in milliseconds since 1970: the first at which the clocks there show it, also where
 * they skip midnight.
 * @throws RangeError when there is no such zone
 */
export function dayStart(day: string, zone: string): number {
  const midnight = Date.parse(`${day}T00:00:00Z`);
  const candidates = [-1, 0, 1].map((days) => midnight - aheadBy(midnight + days * DAY, zone));
  const first = Math.min(...candidates.filter((at) => dayIn(zone, at) === day && dayIn(zone, at - 1) < day));
  if (Number.isFinite(first)) return first;
  // Where midnight is skipped the day begins when the clocks have gone forward.
  let [before, after] = [Math.min(...candidates) - DAY, Math.max(...candidates) + DAY];
  while (after - before > 1) {
    const middle = Math.floor((before + after) / 2);
    if (dayIn(zone, middle) < day) before = middle;
    else after = middle;
  }
  return after;
}
