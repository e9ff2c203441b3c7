import { type CalendarEntry, calendarAddress } from "../../email";
import { css, epochOf, headingLook, lineHtml, smallWords, TABLE, timeWords, writeInline } from "../../markup";
import { align, line, moment, type Properties, text, zone } from "../../properties";
import { buttonHtml } from "../button";
import { type BlockOf, declareBlock, shows } from "../type";

const properties = {
  title: text("Title", 200, { fresh: "", under: "Calendar entry" }),
  start: moment("Starts", { under: "Calendar entry", history: "Choosing the start" }),
  end: moment("Ends", { under: "Calendar entry", history: "Choosing the end" }),
  zone: zone({ under: "Calendar entry", history: "Choosing the zone" }),
  place: text("Place", 300, { fresh: "", under: "Calendar entry" }),
  about: text("About", 2000, { fresh: "", under: "Calendar entry" }),
  content: line("Words on the button", { fresh: "Add to my calendar", stays: true }),
  align: align({ fresh: "left", under: "Calendar entry" }),
} satisfies Properties;
export type AppointmentBlock = BlockOf<"appointment", typeof properties>;

const HOUR = 3_600_000;

/** What goes into readers' calendars; null while the start is missing. Without an end it takes an hour. */
function entryOf(block: AppointmentBlock): CalendarEntry | null {
  const start = epochOf(block.start, block.zone);
  if (start === null || block.title.trim() === "") return null;
  const end = epochOf(block.end, block.zone);
  return {
    title: block.title.trim(),
    start,
    end: end === null || end < start ? start + HOUR : end,
    place: block.place.trim(),
    about: block.about.trim(),
  };
}

export const appointment = declareBlock({
  type: "appointment",
  label: "Calendar",
  group: "actions",
  words: "add to calendar event date appointment iCalendar save",
  properties,
  parts: [
    { key: "title", label: "Title" },
    { key: "date", label: "Date" },
    { key: "place", label: "Place" },
  ],
  heading: (block) => (shows(block, "title") && entryOf(block) ? 3 : null),
  html(block, context) {
    const { out } = context;
    const entry = entryOf(block);
    if (!entry) {
      if (context.marks) out.raw('<div class="waiting">Give the title and the start on the right</div>');
      return;
    }
    if (shows(block, "title")) {
      lineHtml(
        [{ type: "text", text: entry.title }],
        { element: `h${context.level}`, ...headingLook(3, context), align: block.align },
        context,
      );
    }
    if (shows(block, "date")) {
      const date = timeWords(entry.start, block.zone, context.language);
      smallWords([{ type: "text", text: date }], undefined, block.align, context);
    }
    if (shows(block, "place") && entry.place !== "")
      smallWords([{ type: "text", text: entry.place }], undefined, block.align, context);
    out.raw(`<table ${TABLE} width="100%"><tr><td style="${css({ padding: "12px 0 0" })}">`);
    buttonHtml(
      { content: block.content, href: calendarAddress(entry, context.origin), align: block.align },
      context,
    );
    out.raw("</td></tr></table>");
  },
  text(block, context) {
    const { out } = context;
    const entry = entryOf(block);
    if (!entry) return;
    out.raw(`${entry.title}\n${timeWords(entry.start, block.zone, context.language)}\n`);
    if (entry.place !== "") out.raw(`${entry.place}\n`);
    writeInline(block.content, context);
    out.raw(`: ${calendarAddress(entry, context.origin)}\n\n`);
  },
  annotation(block) {
    const entry = entryOf(block);
    if (!entry || !shows(block, "title") || !shows(block, "date")) return null;
    return {
      "@type": "Event",
      name: entry.title,
      startDate: new Date(entry.start).toISOString(),
      endDate: new Date(entry.end).toISOString(),
      ...(entry.about !== "" && { description: entry.about }),
      ...(shows(block, "place") &&
        entry.place !== "" && {
          location: { "@type": "Place", name: entry.place, address: entry.place },
        }),
    };
  },
  title: (block) => block.title || "Add to calendar",
  unready: (block) =>
    entryOf(block) ? [] : ["A calendar entry has no title or no start. Fill in both, or delete it."],
});
