import { z } from "zod";
import { BlockBaseSchema, ColorSchema, InlineSchema } from "../../email";
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
import { type BlockType, shows } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("survey"),
  content: z.array(InlineSchema),
  /** The scale, both ends included. */
  from: z.number().int().min(0).max(1),
  to: z.number().int().min(2).max(10),
  low: z.array(InlineSchema),
  high: z.array(InlineSchema),
  face: ColorSchema.optional(),
  color: ColorSchema.optional(),
  radius: z.number().min(0).max(60).optional(),
});
export type SurveyBlock = z.infer<typeof schema>;

/** The answers that can be given. */
export function scaleOf({ from, to }: Pick<SurveyBlock, "from" | "to">): number[] {
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

export const survey: BlockType<SurveyBlock> = {
  type: "survey",
  label: "Survey",
  group: "actions",
  words: "scale rating question score stars one click",
  schema,
  create: (id) => ({
    id,
    type: "survey",
    content: [{ type: "text", text: "How useful was this letter?" }],
    from: 1,
    to: 5,
    low: [{ type: "text", text: "Not at all" }],
    high: [{ type: "text", text: "Very" }],
  }),
  parts: [{ key: "ends", label: "Words at the ends" }],
  look: ["face", "color", "radius"],
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
  places: () => [
    { path: "content", kind: "line" },
    { path: "low", kind: "line" },
    { path: "high", kind: "line" },
  ],
  title: (block) => firstWords(block.content) || "Survey",
};
