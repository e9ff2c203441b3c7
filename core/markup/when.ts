import { z } from "zod";
import { dateFormat, dateWords, localeOf } from "../program";

/** A date and time on a wall clock. */
export const LocalTimeSchema = z
  .string()
  .regex(/^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}$/, "a time is written YYYY-MM-DDTHH:MM")
  .or(z.literal(""));

/** How far a zone's clocks are ahead of UTC at an instant, in milliseconds. */
function offsetAt(epoch: number, zone: string): number {
  const parts = dateFormat("en-GB", {
    timeZone: zone,
    hourCycle: "h23",
    year: "numeric",
    month: "2-digit",
    day: "2-digit",
    hour: "2-digit",
    minute: "2-digit",
    second: "2-digit",
  }).formatToParts(epoch);
  const part = (type: string) => Number(parts.find((one) => one.type === type)?.value);
  const wall = Date.UTC(
    part("year"),
    part("month") - 1,
    part("day"),
    part("hour"),
    part("minute"),
    part("second"),
  );
  return wall - Math.floor(epoch / 1000) * 1000;
}

/**
 * The instant of a wall-clock time in a zone, in milliseconds since 1970; null when it is not filled in or wrong. Of a
 * time that comes twice the first is meant; one that the clocks skip becomes the one an hour later.
 */
export function epochOf(local: string, zone: string): number | null {
  const utc = Date.parse(`${local}:00Z`);
  if (local === "" || Number.isNaN(utc) || !new Date(utc).toISOString().startsWith(local)) return null;
  try {
    const [before, after] = [offsetAt(utc - DAY, zone), offsetAt(utc + DAY, zone)];
    const fits = [before, after].find((offset) => offsetAt(utc - offset, zone) === offset);
    return utc - (fits ?? before);
  } catch (error) {
    if (error instanceof RangeError) return null;
    throw error;
  }
}

const DAY = 86_400_000;

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
