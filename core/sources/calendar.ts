/** Calendars (iCalendar, RFC 5545) as items: each appointment of a recurring one is an item of its own. */
import ICAL from "ical.js";
import { type Item, type ItemFact, itemOf } from "../items";
import { Temporal } from "../values";
import { SourceError } from "./record";
import { GREATEST, sound, webAddress } from "./sound";

/** So far back and ahead appointments are looked for, in days: what has just begun is still of interest. */
const BACK = 1;
const AHEAD = 400;
const DAY = 86_400_000;
/** So many appointments one rule may give, and so many steps may be taken to find them. */
const MOST_OF_ONE = 500;
const MOST_STEPS = 50_000;

/** The address of a calendar that says webcal, as calendars do that are to be subscribed to. */
export const fetchedFrom = (address: string) => address.replace(/^webcals?:/i, "https:");

/** What appointments have besides what all items have. */
export const CALENDAR_FACTS: readonly ItemFact[] = [{ key: "check_in", label: "Check-in", kind: "text" }];

/**
 * Reads a calendar. Recurring appointments are expanded in their own zone, exceptions left out, moved ones where they
 * were moved to, cancelled ones left out.
 * @param base the address it came from; null where it came from a file
 * @param now milliseconds since 1970: those that are over are left out, and those more than 400 days ahead
 * @throws SourceError when it is no calendar, or breaks off
 */
export function parseCalendar(
  document: string,
  base: string | null,
  now: number,
): { title: string; items: Item[]; problems: string[] } {
  const text = document.replace(/^\uFEFF/, "").trim();
  if (!/END:VCALENDAR\s*$/i.test(text))
    throw new SourceError("This calendar breaks off before its end. Try again later.");
  let calendars: ICAL.Component[];
  try {
    const parsed = ICAL.parse(text) as unknown[];
    // One calendar, or several one after the other.
    calendars = (Array.isArray(parsed[0]) ? parsed : [parsed]).map((it) => new ICAL.Component(it as never));
  } catch (error) {
    throw new SourceError(`This calendar cannot be read (${(error as Error).message.slice(0, 200)}).`);
  }
  const problems: string[] = [];
  const items = new Map<string, Item>();
  let broken = 0;
  for (const calendar of calendars) {
    const byUid = new Map<string, ICAL.Component[]>();
    for (const [at, event] of calendar.getAllSubcomponents("vevent").entries()) {
      const uid = String(event.getFirstPropertyValue("uid") ?? `event ${at + 1}`);
      byUid.set(uid, [...(byUid.get(uid) ?? []), event]);
    }
    for (const [uid, events] of byUid) {
      try {
        for (const item of appointmentsOf(uid, events, base, now, problems)) {
          if (items.size < GREATEST.items) items.set(item.id, item);
        }
      } catch {
        broken++;
      }
    }
  }
  if (broken > 0)
    problems.push(
      `${broken} ${broken === 1 ? "appointment" : "appointments"} cannot be read and ${broken === 1 ? "is" : "are"} left out`,
    );
  const name =
    calendars[0]?.getFirstPropertyValue("x-wr-calname") ?? calendars[0]?.getFirstPropertyValue("name");
  return {
    title: sound(String(name ?? "")).slice(0, GREATEST.title),
    items: [...items.values()].sort((a, b) => (a.date ?? "").localeCompare(b.date ?? "")),
    problems,
  };
}

/** The appointments of one uid: those its rule gives, with those that were moved. */
function* appointmentsOf(
  uid: string,
  events: readonly ICAL.Component[],
  base: string | null,
  now: number,
  problems: string[],
): Generator<Item> {
  const main = events.find((event) => !event.hasProperty("recurrence-id"));
  const moved = events.filter((event) => event.hasProperty("recurrence-id"));
  const [from, to] = [now - BACK * DAY, now + AHEAD * DAY];
  const within = (item: Item | null): item is Item => {
    if (item?.date == null) return false;
    const begins = Date.parse(item.date);
    return begins <= to && Math.max(begins, Date.parse(item.until ?? item.date)) >= from;
  };
  if (!main) {
    for (const component of moved) {
      const event = new ICAL.Event(component);
      const item = itemFrom(`${uid}@${event.recurrenceId}`, event, event.startDate, event.endDate, base);
      if (within(item)) yield item;
    }
    return;
  }
  const event = new ICAL.Event(main, { exceptions: moved, strictExceptions: false });
  if (!event.isRecurring()) {
    const item = itemFrom(uid, event, event.startDate, event.endDate, base);
    if (within(item)) yield item;
    return;
  }
  const seen = new Set<string>();
  const iterator = event.iterator();
  let given = 0;
  for (let step = 0; ; step++) {
    const next = iterator.next() as ICAL.Time | undefined;
    if (!next) break;
    if (step >= MOST_STEPS || given >= MOST_OF_ONE) {
      problems.push(
        `“${titleOf(event)}” recurs more often than is followed: only the first ${given} are here`,
      );
      break;
    }
    const { item: said, startDate, endDate, recurrenceId } = event.getOccurrenceDetails(next);
    seen.add(String(recurrenceId));
    // A step further: it may have been moved back.
    if (momentOf(next, zoneOf(event)) > to + 62 * DAY) break;
    const item = itemFrom(`${uid}@${recurrenceId}`, said, startDate, endDate, base);
    if (!within(item)) continue;
    given++;
    yield item;
  }
}

const zoneOf = (event: ICAL.Event): string | undefined =>
  event.component.getFirstProperty("dtstart")?.getFirstParameter("tzid") || undefined;

const titleOf = (event: ICAL.Event) => sound(event.summary ?? "").slice(0, GREATEST.title);

/** Whether a zone is one of the world's, by name. */
function isZone(name: string | undefined): name is string {
  try {
    return name !== undefined && Boolean(Temporal.Instant.from("2026-01-01T00:00Z").toZonedDateTimeISO(name));
  } catch {
    return false;
  }
}

/** Milliseconds since 1970. The world knows its zones better than a file does; others are as the file defines them. */
function momentOf(time: ICAL.Time, zone: string | undefined): number {
  if (time.isDate) return Date.UTC(time.year, time.month - 1, time.day);
  if (time.zone?.tzid !== "UTC" && isZone(zone)) {
    const { year, month, day, hour, minute, second } = time;
    return Temporal.PlainDateTime.from({
      year,
      month,
      day,
      hour,
      minute,
      second: Math.min(second, 59),
    }).toZonedDateTime(zone).epochMilliseconds;
  }
  return time.toUnixTime() * 1000;
}

function itemFrom(
  id: string,
  event: ICAL.Event,
  start: ICAL.Time,
  end: ICAL.Time | null,
  base: string | null,
): Item | null {
  const { component } = event;
  const text = (name: string) => {
    const value = component.getFirstPropertyValue(name);
    return value === null || value === undefined ? "" : sound(String(value)).trim();
  };
  if (/^cancelled$/i.test(text("status"))) return null;
  const zone = zoneOf(event);
  const begins = momentOf(start, zone);
  const ends = end
    ? momentOf(end, component.getFirstProperty("dtend")?.getFirstParameter("tzid") || zone)
    : begins;
  const day = (moment: number) => new Date(moment).toISOString().slice(0, 10);
  // The end of whole days is the first day after them.
  const [date, until] = start.isDate
    ? [day(begins), day(Math.max(begins, ends - DAY))]
    : [new Date(begins).toISOString(), new Date(ends).toISOString()];
  const place = text("location").slice(0, GREATEST.place);
  const title = titleOf(event).trim() || place;
  if (title === "") return null;
  const attached = component.getAllProperties("attach").concat(component.getAllProperties("image"));
  const picture = attached
    .filter((it) => it.name === "image" || /^image\//i.test(it.getFirstParameter("fmttype") ?? ""))
    .map((it) => webAddress(String(it.getFirstValue()), base))
    .find((it) => it !== null);
  // Where those who take part come in (RFC 7986, 5.11).
  const checkIn = component
    .getAllProperties("conference")
    .map((it) => webAddress(String(it.getFirstValue()), base))
    .find((it) => it !== null);
  const [category, ...tags] = component
    .getAllProperties("categories")
    .flatMap((it) => it.getValues() as unknown[])
    .map((it) => sound(String(it)).trim().slice(0, GREATEST.category))
    .filter((it) => it !== "")
    .slice(0, GREATEST.categories);
  return itemOf({
    id: sound(id).slice(0, GREATEST.id),
    title,
    text: text("description").replace(/\s+/g, " ").slice(0, GREATEST.excerpt),
    link: webAddress(text("url"), base) ?? "",
    picture: picture ?? null,
    date,
    ...(until > date && { until }),
    ...(isZone(zone) && { zone }),
    ...(place && { place }),
    category: category ? [category] : [],
    tags,
    facts: checkIn ? { check_in: checkIn } : {},
  });
}
