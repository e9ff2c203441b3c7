import { z } from "zod";
import { BlockBaseSchema, ColorSchema, InlineSchema } from "../../email";
import type { RenderContext } from "../context";
import { css, editMark, styleAttribute, TABLE } from "../html";
import { writeInline } from "../inline";
import { firstWords } from "../prose";
import { hrefOf, textTarget } from "../targets";
import type { BlockType } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("button"),
  content: z.array(InlineSchema),
  href: z.string().max(2000),
  align: z.enum(["left", "center", "right"]),
  full: z.boolean().optional(),
  face: ColorSchema.optional(),
  color: ColorSchema.optional(),
  radius: z.number().min(0).max(60).optional(),
});
export type ButtonBlock = z.infer<typeof schema>;

/** What a button is made of, also where it is part of another block. */
export type ButtonLook = Pick<
  ButtonBlock,
  "content" | "href" | "align" | "full" | "face" | "color" | "radius"
>;

/** Writes one button: a coloured cell that is clickable over its whole face. */
export function buttonHtml(block: ButtonLook, context: RenderContext, key = "content"): void {
  const { out, theme } = context;
  const { button, light, fonts } = theme;
  const face = block.face ?? light.accent;
  const radius = block.radius ?? button.radius;
  const own = block.face || block.color;
  const cell = css({
    "background-color": face,
    "border-radius": `${radius}px`,
    "mso-padding-alt": `${button.padY}px ${button.padX}px`,
  });
  const link = css({
    display: block.full ? "block" : "inline-block",
    padding: `${button.padY}px ${button.padX}px`,
    "font-family": fonts.body,
    "font-size": `${button.size}px`,
    "line-height": `${Math.max(18, Math.round(button.size * 1.25))}px`,
    "font-weight": button.weight,
    color: block.color ?? light.onAccent,
    "text-align": "center",
    "text-decoration": "none",
    "border-radius": `${radius}px`,
  });
  out.raw(
    `<table ${TABLE} align="${block.align}"${block.full ? ' width="100%"' : ""}${styleAttribute(css({ margin: block.align === "center" && "0 auto" }))}><tr>`,
  );
  out.raw(`<td${own ? "" : ' class="d-face"'} align="center" bgcolor="${face}" style="${cell}">`);
  out.raw(
    `<a${editMark(context, "line", key)} href="${hrefOf(block.href, context)}"${own ? "" : ' class="d-onface"'} style="${link}">`,
  );
  writeInline(block.content, context);
  out.raw("</a></td></tr></table>");
}

export const button: BlockType<ButtonBlock> = {
  type: "button",
  label: "Button",
  group: "actions",
  words: "link call to action",
  schema,
  create: (id) => ({
    id,
    type: "button",
    content: [{ type: "text", text: "Read more" }],
    href: "",
    align: "left",
  }),
  look: ["align", "full", "face", "color", "radius"],
  html: (block, context) => buttonHtml(block, context),
  text(block, context) {
    writeInline(block.content, context);
    context.out.raw(`${textTarget(block.href, context, "colon")}\n\n`);
  },
  title: (block) => firstWords(block.content) || "Empty button",
  unready: (block) => (block.href === "" ? ["A button leads nowhere. Give it an address."] : []),
};
