import { Temporal } from "../values";

/** A date or time that cannot be used. The message says why and what to do. */
export class ScheduleError extends Error {
  override name = "ScheduleError";
}

/** An instant in milliseconds since 1970, and the zone it was chosen in. */
export interface Moment {
  epoch: number;
  zone: string;
}

/**
 * The instant of a date (`YYYY-MM-DD`) and time (`HH:MM`) in a zone. A time that the clocks skip or repeat is
 * refused rather than guessed.
 * @param now milliseconds since 1970; a moment before it is refused
 * @throws ScheduleError
 */
export function momentOf(date: string, time: string, zone: string, now: number): Moment {
  let local: Temporal.PlainDateTime;
  try {
    local = Temporal.PlainDateTime.from(`${date}T${time}`);
  } catch {
    throw new ScheduleError("Give a date and a time, such as 3 December 2026 at 10:00.");
  }
  let moment: Temporal.ZonedDateTime;
  try {
    moment = local.toZonedDateTime(zone, { disambiguation: "reject" });
  } catch (error) {
    if (!isZone(zone))
      throw new ScheduleError(`“${zone}” is not a time zone. Choose one such as Europe/London.`);
    if (error instanceof RangeError) {
      throw new ScheduleError(
        `The clocks change in ${zone} then: ${time} does not come, or comes twice. Choose another time.`,
      );
    }
    throw error;
  }
  if (moment.epochMilliseconds <= now) {
    throw new ScheduleError(
      `${momentWords({ epoch: moment.epochMilliseconds, zone })} has passed. Choose a later time, or send now.`,
    );
  }
  return { epoch: moment.epochMilliseconds, zone };
}

/** Whether a time zone has that name (IANA). */
export function isZone(zone: string): boolean {
  try {
    Temporal.Instant.fromEpochMilliseconds(0).toZonedDateTimeISO(zone);
    return true;
  } catch {
    return false;
  }
}

/** The moment so that nobody mistakes it: "Thu 3 Dec 2026, 10:00 London (10:00 UTC)". */
export function momentWords({ epoch, zone }: Moment): string {
  const write = (timeZone: string, options: Intl.DateTimeFormatOptions) =>
    new Intl.DateTimeFormat("en-GB", { ...options, timeZone }).format(epoch);
  const day = write(zone, { weekday: "short", day: "numeric", month: "short", year: "numeric" }).replace(
    /^(\w+), /,
    "$1 ",
  );
  const clock: Intl.DateTimeFormatOptions = { hour: "2-digit", minute: "2-digit", hourCycle: "h23" };
  const city = zone.split("/").at(-1)!.replaceAll("_", " ");
  const utc = write("UTC", clock);
  return city === "UTC" ? `${day}, ${utc} UTC` : `${day}, ${write(zone, clock)} ${city} (${utc} UTC)`;
}
