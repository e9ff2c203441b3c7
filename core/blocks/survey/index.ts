import type { RenderContext } from "../../markup";
import {
  classAttribute,
  css,
  face,
  firstWords,
  ink,
  lineHtml,
  lineStyle,
  phrases,
  sideOf,
  TABLE,
  wordsMark,
  writeInline,
} from "../../markup";
import { escapeHtml } from "../../program";
import { choice, corners, faceLook, line, number, type Properties } from "../../properties";
import { type BlockOf, declareBlock, shows } from "../type";

const properties = {
  content: line("Question", { fresh: "How useful was this letter?", stays: true }),
  /** The scale, both ends included. */
  from: choice(
    "From",
    [
      { value: 0, label: "0" },
      { value: 1, label: "1" },
    ],
    { fresh: 1, under: "Scale" },
  ),
  to: number("To", { min: 2, max: 10, unit: "" }, { fresh: 5, whole: true, under: "Scale" }),
  low: line("Lowest answer", { fresh: "Not at all", part: "ends", stays: true }),
  high: line("Highest answer", { fresh: "Very", part: "ends", stays: true }),
  ...faceLook({ under: "Look", words: "Numbers" }),
  radius: corners({ max: 60, theme: ({ button }) => button.radius }),
} satisfies Properties;
export type SurveyBlock = BlockOf<"survey", typeof properties>;

/** The answers that can be given. */
export function scaleOf({ from, to }: { from: number; to: number }): number[] {
  return Array.from({ length: to - from + 1 }, (_, index) => from + index);
}

/** Writes the address that records an answer: signed for the reader, then the block and the answer. */
function writeAddress(
  block: SurveyBlock,
  answer: number,
  sink: "href" | "text",
  { out }: RenderContext,
): void {
  out
    .value({ field: "system.answer", fallback: "", format: "asIs", sink })
    .raw(`/${encodeURIComponent(block.id)}/${answer}`);
}

export const survey = declareBlock({
  type: "survey",
  label: "Survey",
  group: "actions",
  words: "scale rating question score stars one click",
  properties,
  parts: [{ key: "ends", label: "Words at the ends" }],
  html(block, context) {
    const { out, theme } = context;
    const { text } = theme;
    lineHtml(
      block.content,
      {
        role: "heading",
        size: text.size,
        lineHeight: Math.round(text.size * text.line),
        weight: 700,
        margin: "0 0 10px",
        key: "content",
      },
      context,
    );
    const { inside, ...behind } = face(block.face, context);
    const words = ink(block.color, "onAccent", inside);
    const answers = scaleOf(block);
    const radius = `${block.radius ?? theme.button.radius}px`;
    const gap = answers.length > 7 ? 2 : 6;
    // In percent, so that all of them fill the row whatever its width.
    const between = Math.round(Math.min(gap / context.width, 0.25 / answers.length) * 1000) / 10;
    const share = Math.floor((1000 - 10 * between * (answers.length - 1)) / answers.length) / 10;
    // A face is a cell, and so is the room beside it: the word-processor engine gives both to cells only.
    const step = css({
      "background-color": behind.color,
      "border-radius": radius,
      "mso-padding-alt": "12px 0",
      border: behind.edge?.css,
    });
    const link = css({
      display: "block",
      padding: "12px 0",
      ...lineStyle({ size: 16, lineHeight: 20, weight: 700, align: "center" }, words.color, context),
      "text-decoration": "none",
    });
    out.raw(`<table ${TABLE} width="100%" style="table-layout:fixed;"><tr>`);
    for (const [index, answer] of answers.entries()) {
      if (index > 0) out.raw(`<td width="${between}%" style="padding:0;font-size:0;">&nbsp;</td>`);
      out.raw(
        `<td width="${share}%" align="center" bgcolor="${behind.color}"${classAttribute(behind.tone, behind.edge?.tone)} style="${step}"><a href="`,
      );
      writeAddress(block, answer, "href", context);
      out.raw(
        `"${classAttribute(words.tone)} style="${link}" aria-label="${escapeHtml(phrases(context.language).answer(answer, block.to))}">${answer}</a></td>`,
      );
    }
    out.raw("</tr></table>");
    if (!shows(block, "ends")) return;
    const { color, tone } = ink(undefined, "soft", context);
    out.raw(`<table ${TABLE} width="100%"><tr>`);
    for (const key of ["low", "high"] as const) {
      const align = key === "low" ? "left" : "right";
      const end = css({
        padding: "6px 0 0",
        ...lineStyle({ size: 14, lineHeight: 18, align }, color, context),
      });
      out.raw(
        `<td align="${sideOf(align, context)}"${classAttribute(tone)}${wordsMark(context, "line", key)} style="${end}">`,
      );
      writeInline(block[key], context, { role: "soft" });
      out.raw("</td>");
    }
    out.raw("</tr></table>");
  },
  text(block, context) {
    const { out } = context;
    writeInline(block.content, context);
    out.raw("\n");
    for (const answer of scaleOf(block)) {
      out.raw(`${answer}: `);
      writeAddress(block, answer, "text", context);
      out.raw("\n");
    }
    out.raw("\n");
  },
  title: (block) => firstWords(block.content) || "Survey",
});
