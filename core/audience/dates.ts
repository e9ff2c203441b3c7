/** Calendar arithmetic on `YYYY-MM-DD`, in the proleptic Gregorian calendar and without any clock. */

const DAY = 86_400_000;

/** The date `days` later (earlier when negative). */
export function addDays(date: string, days: number): string {
  return new Date(Date.parse(`${date}T00:00:00Z`) + days * DAY).toISOString().slice(0, 10);
}

function isLeapYear(year: number): boolean {
  return (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;
}

/**
 * The `MM-DD` of all anniversaries from `today` to `days` later. Those born on 29 February have theirs on the
 * 28th in common years.
 */
export function anniversaryDays(today: string, days: number): Set<string> {
  const result = new Set<string>();
  for (let offset = 0; offset <= Math.min(days, 366); offset++) {
    const date = addDays(today, offset);
    const day = date.slice(5);
    result.add(day);
    if (day === "02-28" && !isLeapYear(Number(date.slice(0, 4)))) result.add("02-29");
  }
  return result;
}

/** The shape of a stored date; anything else in a date field counts as missing. */
export const DATE_SHAPE = /^[0-9]{4}-[0-9]{2}-[0-9]{2}$/;
