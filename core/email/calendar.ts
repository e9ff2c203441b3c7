import { z } from "zod";
import type { Item } from "../items";
import { shortened } from "../program";

/** An entry of a calendar. Times in milliseconds since 1970. */
const CalendarEntrySchema = z.object({
  title: z.string().min(1).max(200),
  start: z.number().int().nonnegative(),
  end: z.number().int().nonnegative(),
  place: z.string().max(300),
  about: z.string().max(2000),
});
export type CalendarEntry = z.infer<typeof CalendarEntrySchema>;

/** What goes into readers' calendars of an item; null where it says no hours. */
export function calendarEntryOf(item: Item, title = item.title): CalendarEntry | null {
  const { date, until, place = "", text } = item;
  if (date === null || until === undefined || date.length === 10 || until.length === 10) return null;
  const [start, end] = [Date.parse(date), Date.parse(until)];
  const name = title.trim().slice(0, 200);
  if (name === "" || !(end >= start)) return null;
  return { title: name, start, end, place: place.slice(0, 300), about: shortened(text, 300) };
}

/** The address under which Septima serves an entry as an iCalendar file. Everything is in it, nothing is stored. */
export function calendarAddress(entry: CalendarEntry, origin: string): string {
  const query = new URLSearchParams({
    title: entry.title,
    start: String(entry.start),
    end: String(entry.end),
    ...(entry.place && { place: entry.place }),
    ...(entry.about && { about: entry.about }),
  });
  return `${origin}/calendar.ics?${query}`;
}

/** Reads an entry back from its address; null when it is not whole. */
export function calendarEntry(query: URLSearchParams): CalendarEntry | null {
  const entry = CalendarEntrySchema.safeParse({
    title: query.get("title") ?? "",
    start: Number(query.get("start") ?? Number.NaN),
    end: Number(query.get("end") ?? Number.NaN),
    place: query.get("place") ?? "",
    about: query.get("about") ?? "",
  });
  return entry.success && entry.data.end >= entry.data.start ? entry.data : null;
}

/**
 * An entry as an iCalendar file (RFC 5545): CRLF, lines folded at 75 octets, text escaped as 3.3.11 asks.
 * @param uid the same for the same entry, so that opening the file twice adds it once
 * @param now milliseconds since 1970, for DTSTAMP
 */
export function iCalendar(entry: CalendarEntry, uid: string, now: number): string {
  const lines = [
    "BEGIN:VCALENDAR",
    "VERSION:2.0",
    "PRODID:-//Septima//Appointment//EN",
    "METHOD:PUBLISH",
    "BEGIN:VEVENT",
    `UID:${uid}`,
    `DTSTAMP:${utc(now)}`,
    `DTSTART:${utc(entry.start)}`,
    `DTEND:${utc(entry.end)}`,
    `SUMMARY:${escaped(entry.title)}`,
    ...(entry.place ? [`LOCATION:${escaped(entry.place)}`] : []),
    ...(entry.about ? [`DESCRIPTION:${escaped(entry.about)}`] : []),
    "END:VEVENT",
    "END:VCALENDAR",
  ];
  return `${lines.map(folded).join("\r\n")}\r\n`;
}

function utc(epoch: number): string {
  return new Date(epoch).toISOString().replace(/[-:]|\.\d+/g, "");
}

function escaped(text: string): string {
  return text
    .replace(/[\\;,]/g, "\\$&")
    .replace(/\r\n?|\n/g, "\\n")
    .replace(/[\u0000-\u001f\u007f]/g, " ");
}

/** A content line in pieces of at most 75 octets, never cut inside a character. */
function folded(line: string): string {
  const pieces: string[] = [];
  let piece = "";
  let octets = 0;
  for (const sign of line) {
    const size = new TextEncoder().encode(sign).length;
    if (octets + size > (pieces.length === 0 ? 75 : 74)) {
      pieces.push(piece);
      piece = "";
      octets = 0;
    }
    piece += sign;
    octets += size;
  }
  return [...pieces, piece].join("\r\n ");
}
