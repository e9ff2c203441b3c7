/** Dates in the words of the interface; `now` in milliseconds tells today from other days. */

const format = (options: Intl.DateTimeFormatOptions) =>
  new Intl.DateTimeFormat("en-GB", { ...options, timeZone: "UTC" });
const clock = format({ hour: "2-digit", minute: "2-digit", hourCycle: "h23" });
const day = format({ weekday: "short", day: "numeric", month: "short" });
const dayWithYear = format({ day: "numeric", month: "short", year: "numeric" });

/** "10:42 UTC" today, "Thu 3 Dec, 10:42 UTC" this year, "3 Dec 2025" before. */
export function timeWords(iso: string, now: number): string {
  const at = new Date(iso);
  const today = new Date(now);
  if (at.toDateString() === today.toDateString()) return `${clock.format(at)} UTC`;
  if (Math.abs(today.getTime() - at.getTime()) < 300 * 86_400_000)
    return `${day.format(at).replace(",", "")}, ${clock.format(at)} UTC`;
  return dayWithYear.format(at);
}

export function count(number: number): string {
  return number.toLocaleString("en");
}

/** "1 reader", "1,204 readers". */
export function counted(number: number, one: string, many = `${one}s`): string {
  return `${count(number)} ${number === 1 ? one : many}`;
}

export function kilobytes(bytes: number): string {
  return `${Math.max(1, Math.round(bytes / 1024))} KB`;
}
