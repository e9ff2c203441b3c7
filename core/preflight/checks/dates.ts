/** Dates in words: over already, or on another day of the week. */
import { wordsOf } from "../../blocks";
import { blocksOf, type Email, inlineText, linesOf } from "../../email";
import { Temporal } from "../../values";
import type { Check } from "../check";
import { type Circumstances, type Finding, mendBy } from "../finding";
import { rewritten } from "../rewrite";

/** Months and days of the week as a language calls them, by their numbers from 1. */
interface Names {
  months: Map<string, number>;
  days: Map<string, number>;
  /** The long name of each day of the week. */
  long: string[];
  pattern: RegExp;
}

const known = new Map<string, Names>();
const literal = (name: string) => name.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");

function namesIn(language: string): Names {
  const before = known.get(language);
  if (before) return before;
  const months = new Map<string, number>();
  const days = new Map<string, number>();
  const long: string[] = [];
  const name = (options: Intl.DateTimeFormatOptions, date: Date) =>
    new Intl.DateTimeFormat(language, { ...options, timeZone: "UTC" }).formatToParts(date);
  for (const month of ["long", "short"] as const)
    for (let at = 0; at < 12; at++) {
      const found = name({ month, day: "numeric" }, new Date(Date.UTC(2024, at, 5))).find(
        ({ type }) => type === "month",
      );
      if (found && /\p{L}/u.test(found.value))
        months.set(found.value.toLowerCase().replace(/\.$/, ""), at + 1);
    }
  for (const weekday of ["long", "short"] as const)
    for (let at = 1; at <= 7; at++) {
      // The first of January 2024 was a Monday.
      const found = name({ weekday }, new Date(Date.UTC(2024, 0, at))).find(({ type }) => type === "weekday");
      if (!found) continue;
      if (weekday === "long") long[at] = found.value;
      days.set(found.value.toLowerCase().replace(/\.$/, ""), at);
    }
  const either = (of: Iterable<string>) =>
    [...of]
      .sort((a, b) => b.length - a.length)
      .map(literal)
      .join("|");
  const day = "(?<day>\\d{1,2})(?:\\.|st|nd|rd|th|er|º)?";
  const month = `(?<month>${either(months.keys())})\\.?`;
  const pattern = new RegExp(
    `(?<![\\p{L}\\p{N}])(?:(?<weekday>${either(days.keys())})\\.?,?\\s+(?:the\\s+|den\\s+|le\\s+)?)?(?:${day}\\s+(?:of\\s+|de\\s+)?${month}|${month.replace("<month>", "<month2>")}\\s+${day.replace("<day>", "<day2>")})(?:,?\\s+(?:de\\s+)?(?<year>\\d{4}))?(?![\\p{L}\\p{N}])`,
    "giu",
  );
  const names = { months, days, long, pattern };
  known.set(language, names);
  return names;
}

/** A date as it is written. */
interface Written {
  words: string;
  date: Temporal.PlainDate;
  /** Whether the year stands there; else it is the next such day. */
  dated: boolean;
  /** From 1, Monday; null where none is written. */
  weekday: { words: string; day: number } | null;
}

/** The dates in a text. @param today `YYYY-MM-DD` */
export function datesIn(text: string, language: string, today: string): Written[] {
  const { months, days, pattern } = namesIn(language);
  const now = Temporal.PlainDate.from(today);
  return [...text.matchAll(pattern)].flatMap(({ 0: words, groups = {} }): Written[] => {
    const month = months.get((groups.month ?? groups.month2).toLowerCase());
    const day = Number(groups.day ?? groups.day2);
    if (!month || day < 1) return [];
    const dated = groups.year !== undefined;
    const in_ = (year: number) => {
      try {
        return Temporal.PlainDate.from({ year, month, day }, { overflow: "reject" });
      } catch {
        return null;
      }
    };
    const soon = in_(now.year);
    const date = dated
      ? in_(Number(groups.year))
      : soon && Temporal.PlainDate.compare(soon, now) >= 0
        ? soon
        : in_(now.year + 1);
    if (!date) return [];
    const named = groups.weekday;
    const weekday = named ? { words: named, day: days.get(named.toLowerCase()) ?? 0 } : null;
    return [{ words, date, dated, weekday }];
  });
}

function design(email: Email, { today }: Circumstances): Finding[] {
  if (!today) return [];
  const now = Temporal.PlainDate.from(today);
  const { long } = namesIn(email.language);
  return blocksOf(email).flatMap((block) =>
    wordsOf(block).flatMap(({ words }) =>
      linesOf(words).flatMap((line): Finding[] =>
        datesIn(inlineText(line), email.language, today).flatMap((one): Finding[] => {
          const { date, dated, weekday } = one;
          if (weekday && weekday.day !== date.dayOfWeek && (dated || near(date, now))) {
            const right = long[date.dayOfWeek];
            const mended = one.words.replace(weekday.words, right);
            return [
              {
                weight: "look",
                text: `“${one.words}” is a ${right}. Correct the day or the date.`,
                block: block.id,
                mend: mendBy(
                  `Write “${mended}”`,
                  email,
                  rewritten(block, (text) => text.replace(one.words, () => mended)),
                ),
              },
            ];
          }
          if (dated && Temporal.PlainDate.compare(date, now) < 0)
            return [
              {
                weight: "look",
                text: `“${one.words}” is over. Take it out, or write the next one.`,
                block: block.id,
              },
            ];
          return [];
        }),
      ),
    ),
  );
}

/** Whether a day without a year is meant to come soon: nobody writes the weekday of a day in ten months. */
const near = (date: Temporal.PlainDate, now: Temporal.PlainDate) => now.until(date).days <= 183;

export const datesCheck: Check = {
  name: "dates",
  group: "content",
  label: "dates to come, on their day of the week",
  why: "Readers come on the wrong day, or believe to have missed it.",
  spoken: true,
  design,
};
