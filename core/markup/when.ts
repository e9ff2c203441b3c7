import { z } from "zod";
import { dateWords, localeOf } from "../program";
import { Temporal } from "../values";

/** A date and time on a wall clock. */
export const LocalTimeSchema = z
  .string()
  .regex(/^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}$/, "a time is written YYYY-MM-DDTHH:MM")
  .or(z.literal(""));

/**
 * The instant of a wall-clock time in a zone, in milliseconds since 1970; null when it is not filled in or wrong. Of a
 * time that comes twice the first is meant; one that the clocks skip becomes the one an hour later.
 */
export function epochOf(local: string, zone: string): number | null {
  if (local === "") return null;
  try {
    return Temporal.PlainDateTime.from(local).toZonedDateTime(zone).epochMilliseconds;
  } catch (error) {
    if (error instanceof RangeError) return null;
    throw error;
  }
}

/** "Thursday, 3 December 2026 at 18:00", with the zone where it is not the one of the words' own clock. */
export function timeWords(epoch: number, zone: string, language: string): string {
  const look = {
    weekday: "long",
    day: "numeric",
    month: "long",
    year: "numeric",
    hour: "2-digit",
    minute: "2-digit",
    timeZone: zone,
    timeZoneName: "short",
  } as const;
  return dateWords(localeOf(language), look, new Date(epoch));
}
