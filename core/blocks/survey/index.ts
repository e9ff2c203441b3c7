import { z } from "zod";
import { BlockBaseSchema, ColorSchema, InlineSchema } from "../../email";
import type { RenderContext } from "../../markup";
import { css, editMark, firstWords, TABLE, writeInline } from "../../markup";
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
    const face = block.face ?? theme.light.accent;
    const own = block.face || block.color;
    const question = css({
      margin: "0 0 10px",
      "font-family": theme.fonts.body,
      "font-size": `${theme.text.size}px`,
      "line-height": `${Math.round(theme.text.size * theme.text.line)}px`,
      "font-weight": "700",
      color: theme.light.heading,
    });
    out.raw(`<p class="d-head"${editMark(context, "line")} style="${question}">`);
    writeInline(block.content, context);
    out.raw("</p>");
    const answers = scaleOf(block);
    const radius = block.radius ?? theme.button.radius;
    out.raw(`<table ${TABLE} width="100%" style="table-layout:fixed;"><tr>`);
    for (const [index, answer] of answers.entries()) {
      const gap = index === answers.length - 1 ? 0 : answers.length > 7 ? 2 : 6;
      const link = css({
        display: "block",
        padding: "12px 0",
        "background-color": face,
        "border-radius": `${radius}px`,
        "font-family": theme.fonts.body,
        "font-size": "16px",
        "line-height": "20px",
        "font-weight": "700",
        color: block.color ?? theme.light.onAccent,
        "text-align": "center",
        "text-decoration": "none",
      });
      out.raw(`<td width="${Math.floor(100 / answers.length)}%" style="padding:0 ${gap}px 0 0;"><a href="`);
      writeAddress(block, answer, "href", context);
      out.raw(
        `"${own ? "" : ' class="d-face d-onface"'} style="${link}" aria-label="${escapeHtml(`Answer ${answer} of ${block.to}`)}">${answer}</a></td>`,
      );
    }
    out.raw("</tr></table>");
    if (!shows(block, "ends")) return;
    const end = css({
      padding: "6px 0 0",
      "font-family": theme.fonts.body,
      "font-size": "13px",
      "line-height": "18px",
      color: theme.light.soft,
    });
    out.raw(`<table ${TABLE} width="100%"><tr>`);
    for (const key of ["low", "high"] as const) {
      out.raw(
        `<td class="d-soft" align="${key === "low" ? "left" : "right"}"${editMark(context, "line", key)} style="${end}">`,
      );
      writeInline(block[key], context);
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
