/** Days and times as people write them, read and written so that nobody mistakes them. */

import { addDays } from "~/core/audience";
import { Temporal } from "~/core/values";

const MONTHS = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];

const iso = (year: number, month: number, day: number): string | null => {
  try {
    return Temporal.PlainDate.from({ year, month, day }, { overflow: "reject" }).toString();
  } catch {
    return null;
  }
};

/** "Thu 3 Dec 2026" of `2026-12-03`; empty for what is no day. */
export function dayText(date: string): string {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(date) || Number.isNaN(Date.parse(date))) return "";
  return new Intl.DateTimeFormat("en-GB", {
    weekday: "short",
    day: "numeric",
    month: "short",
    year: "numeric",
    timeZone: "UTC",
  })
    .format(new Date(`${date}T00:00Z`))
    .replace(",", "");
}

/**
 * The day of what somebody wrote, as `YYYY-MM-DD`: "3 Dec 2026", "Dec 3", "3.12.2026", "2026-12-03", "today",
 * "tomorrow". Numbers alone are day first, as the picture of the day beside it shows. Without a year the next such day
 * from `today` on is meant. Null for what is no day.
 */
export function readDay(text: string, today: string): string | null {
  const words = text
    .trim()
    .toLowerCase()
    .replace(/(\d)(st|nd|rd|th)\b/g, "$1");
  const shift = { today: 0, tomorrow: 1 }[words];
  if (shift !== undefined) return addDays(today, shift);
  const whole = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(words);
  if (whole) return iso(Number(whole[1]), Number(whole[2]), Number(whole[3]));
  const numbers = /^(\d{1,2})[./\s-]+(\d{1,2})(?:[./\s-]+(\d{4}))?\.?$/.exec(words);
  const named = /^(?:\p{L}{2,9},?\s+)?(\d{1,2})\.?\s+(\p{L}{3,})\.?(?:,?\s+(\d{4}))?$/u.exec(words);
  const turned = /^(?:\p{L}{2,9},\s+)?(\p{L}{3,})\.?\s+(\d{1,2})(?:,?\s+(\d{4}))?$/u.exec(words);
  const found = numbers
    ? { day: numbers[1], month: Number(numbers[2]), year: numbers[3] }
    : named
      ? { day: named[1], month: MONTHS.indexOf(named[2].slice(0, 3)) + 1, year: named[3] }
      : turned
        ? { day: turned[2], month: MONTHS.indexOf(turned[1].slice(0, 3)) + 1, year: turned[3] }
        : null;
  if (!found || found.month < 1) return null;
  if (found.year) return iso(Number(found.year), found.month, Number(found.day));
  const year = Number(today.slice(0, 4));
  const soon = iso(year, found.month, Number(found.day));
  return soon !== null && soon >= today ? soon : iso(year + 1, found.month, Number(found.day));
}

/** The time of what somebody wrote, as `HH:MM` of 24 hours: "18:00", "18.30", "6 pm", "1800", "9". Null for none. */
export function readTime(text: string): string | null {
  const match = /^(\d{1,2})(?:[:.h]?(\d{2}))?\s*([ap])?\.?(?:m\.?)?$/.exec(text.trim().toLowerCase());
  if (!match) return null;
  let hours = Number(match[1]);
  const minutes = Number(match[2] ?? 0);
  if (match[3] && (hours < 1 || hours > 12)) return null;
  if (match[3] === "p" && hours < 12) hours += 12;
  if (match[3] === "a" && hours === 12) hours = 0;
  if (hours > 23 || minutes > 59) return null;
  return `${String(hours).padStart(2, "0")}:${String(minutes).padStart(2, "0")}`;
}

/** The days of a month in weeks from Monday on, filled up with those around it, as `YYYY-MM-DD`. */
export function weeksOf(month: string): string[][] {
  const first = Temporal.PlainDate.from(`${month}-01`);
  const weeks: string[][] = [];
  for (let at = first.subtract({ days: first.dayOfWeek - 1 }); weeks.length < 6; at = at.add({ weeks: 1 })) {
    const week = Array.from({ length: 7 }, (_, day) => at.add({ days: day }).toString());
    if (weeks.length > 0 && !week.some((day) => day.startsWith(month))) break;
    weeks.push(week);
  }
  return weeks;
}

/** A month so many on, as `YYYY-MM`. */
export const monthsOn = (month: string, by: number): string =>
  Temporal.PlainYearMonth.from(month).add({ months: by }).toString();
