import {
  classAttribute,
  css,
  edge,
  firstWords,
  ink,
  lineHtml,
  lineStyle,
  paddingOf,
  proseHtml,
  proseText,
  wordsMark,
  writeInline,
} from "../../markup";
import { dateWords, localeOf } from "../../program";
import { colour, day, line, list, number, type Properties, prose, text, wordLook } from "../../properties";
import { type BlockOf, declareBlock, shows } from "../type";

const properties = {
  rows: list(
    "row",
    {
      days: line("Days", { fresh: "", stays: true }),
      hours: line("Hours", { fresh: "", stays: true }),
    },
    {
      most: 14,
      least: 1,
      under: "Opening hours",
      fresh: [
        { days: "Monday to Friday", hours: "9 to 6" },
        { days: "Saturday", hours: "9 to 1" },
        { days: "Sunday", hours: "closed" },
      ],
      more: { days: "Holidays", hours: "closed" },
    },
  ),
  closedWords: text("Words before", 60, {
    fresh: "Closed on",
    part: "closed",
    under: "Closed days",
    stays: true,
  }),
  closed: list(
    "closed day",
    { on: day("Day", {}) },
    { most: 20, under: "Closed days", part: "closed", fresh: [] },
  ),
  note: prose("Note", { fresh: "Ring first when it snows.", part: "note" }),
  ...wordLook({ under: "Look", phone: true }),
  /** Between a row and the next. */
  gap: number("Gap", { max: 40 }, { fresh: 6, look: true, under: "Look" }),
  rule: colour("Lines", { under: "Look", theme: ({ light }) => light.line }),
} satisfies Properties;
export type HoursBlock = BlockOf<"hours", typeof properties>;

/** "Closed on 24 December 2026, 1 January 2027"; empty where no day is named, or the part is switched off. */
function closedOn(block: HoursBlock, language: string): string {
  const look = { day: "numeric", month: "long", year: "numeric", timeZone: "UTC" } as const;
  const days = shows(block, "closed") ? block.closed.flatMap(({ on }) => on ?? []) : [];
  const words = days.map((on) => dateWords(localeOf(language), look, new Date(`${on}T00:00:00Z`)));
  return words.length === 0 ? "" : `${block.closedWords} ${words.join(", ")}`.trim();
}

export const hours = declareBlock({
  type: "hours",
  label: "Opening hours",
  group: "words",
  words: "open closed shop times days",
  drawing: "clock",
  properties,
  parts: [
    { key: "closed", label: "Closed days" },
    { key: "note", label: "Note" },
  ],
  html(block, context) {
    const { out, theme } = context;
    const size = block.size ?? theme.text.size;
    const { color, tone } = ink(block.color, "text", context);
    const rule = edge(block.rule, "line", context);
    const words = lineStyle({ size, lineHeight: Math.round(size * 1.4), weight: 400 }, color, context);
    out.raw('<table role="table" cellpadding="0" cellspacing="0" border="0" width="100%">');
    for (const row of block.rows) {
      const below = row === block.rows.at(-1) ? undefined : `1px solid ${rule.color}`;
      const cell = (key: "days" | "hours", tag: string, after: number) => {
        const padding = paddingOf([block.gap, after, block.gap, 0], context);
        const style = css({ padding, ...words, "vertical-align": "top", "border-bottom": below });
        const mark = wordsMark(context, "cell", `rows/${row.id}/${key}`);
        out.raw(`<${tag}${mark}${classAttribute(tone, rule.tone)} style="${style}">`);
        writeInline(row[key], context, { role: "text", own: block.color });
      };
      out.raw("<tr>");
      cell("days", 'th scope="row"', 16);
      out.raw("</th>");
      cell("hours", "td", 0);
      out.raw("</td></tr>");
    }
    out.raw("</table>");
    const small = { role: "text", own: block.color, size: 14, lineHeight: 20, margin: "12px 0 0" } as const;
    const closed = closedOn(block, context.language);
    if (closed !== "") lineHtml([{ type: "text", text: closed }], small, context);
    if (!shows(block, "note")) return;
    out.raw(
      `<div style="${css({ height: "12px", "line-height": "12px", "font-size": "1px" })}">&nbsp;</div>`,
    );
    proseHtml(block.note, { size: 14, color: block.color }, context, "note");
  },
  text(block, context) {
    const { out } = context;
    for (const row of block.rows) {
      writeInline(row.days, context);
      out.raw(": ");
      writeInline(row.hours, context);
      out.raw("\n");
    }
    const closed = closedOn(block, context.language);
    out.raw(closed === "" ? "\n" : `${closed}\n\n`);
    if (shows(block, "note")) proseText(block.note.content, context);
  },
  title: (block) => firstWords(block.rows[0]?.days ?? []) || "Opening hours",
});
