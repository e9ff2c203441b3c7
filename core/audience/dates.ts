/** Calendar arithmetic on `YYYY-MM-DD`, in the proleptic Gregorian calendar, and days in zones (Temporal of ECMAScript). */

import { z } from "zod";
import { Temporal } from "../values";

/** A length of time in whole days, or in months of the calendar: a year ago is the same day of the month a year before. */
export const SpanSchema = z.union([
  z.number().int().min(0).max(36_500),
  z.object({ months: z.number().int().min(0).max(1200) }),
]);
export type Span = z.infer<typeof SpanSchema>;

/** The first and last day that four digits can write the year of. */
const FIRST = "0000-01-01";
const LAST = "9999-12-31";

/** A day, held within the years that four digits can write. */
const held = (date: Temporal.PlainDate): string =>
  date.year < 0 ? FIRST : date.year > 9999 ? LAST : date.toString();

function later(date: string, span: Temporal.DurationLike): string {
  try {
    return held(Temporal.PlainDate.from(date).add(span));
  } catch (error) {
    // So far away that there is no such day at all.
    if (error instanceof RangeError) return Temporal.Duration.from(span).sign < 0 ? FIRST : LAST;
    throw error;
  }
}

/** The date `days` later (earlier when negative). */
export const addDays = (date: string, days: number): string => later(date, { days });

/**
 * The date a span later, or earlier with `direction` -1. A month has no 31st or 29th at times: then it is its last day.
 */
export const addSpan = (date: string, span: Span, direction: 1 | -1 = 1): string =>
  later(date, typeof span === "number" ? { days: direction * span } : { months: direction * span.months });

/**
 * The `MM-DD` of all anniversaries from `today` to a span later. Those born on 29 February have theirs on the
 * 28th in common years.
 */
export function anniversaryDays(today: string, span: Span): Set<string> {
  const result = new Set<string>();
  const first = Temporal.PlainDate.from(today);
  const days = Math.min(first.until(addSpan(today, span)).days, 366);
  for (let offset = 0; offset <= days; offset++) {
    const date = first.add({ days: offset });
    const day = date.toString().slice(-5);
    result.add(day);
    if (day === "02-28" && !date.inLeapYear) result.add("02-29");
  }
  return result;
}

/** The shape of a stored date; anything else in a date field counts as missing. */
export const DATE_SHAPE = /^[0-9]{4}-[0-9]{2}-[0-9]{2}$/;

/**
 * The day it is in a zone at a moment.
 * @param at milliseconds since 1970
 * @throws RangeError when there is no such zone
 */
export const dayIn = (zone: string, at: number): string =>
  held(Temporal.Instant.fromEpochMilliseconds(Math.floor(at)).toZonedDateTimeISO(zone).toPlainDate());

/**
 * The moment a day begins in a zone, in milliseconds since 1970: the first at which the clocks there show it, also where
 * they skip midnight.
 * @throws RangeError when there is no such zone
 */
export const dayStart = (day: string, zone: string): number =>
  Temporal.PlainDate.from(day).toZonedDateTime(zone).epochMilliseconds;
