import { z } from "zod";
import {
  AlignSchema,
  type BlockBase,
  BlockBaseSchema,
  BorderSchema,
  ColorSchema,
  InlineSchema,
  inlineText,
  whenAddress,
} from "../../email";
import type { RenderContext } from "../../markup";
import {
  classAttribute,
  css,
  face,
  firstWords,
  hrefOf,
  ink,
  styleAttribute,
  TABLE,
  tableAt,
  textTarget,
  within,
  wordsMark,
  writeInline,
} from "../../markup";
import type { BlockType } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("button"),
  content: z.array(InlineSchema),
  href: z.string().max(2000),
  align: AlignSchema,
  full: z.boolean().optional(),
  face: ColorSchema.optional(),
  color: ColorSchema.optional(),
  radius: z.number().min(0).max(60).optional(),
  /** Space beside and above the words, in px; from the theme when missing. */
  padX: z.number().min(0).max(80).optional(),
  padY: z.number().min(0).max(40).optional(),
  /** Of the words, in px. */
  size: z.number().min(10).max(40).optional(),
  border: BorderSchema.optional(),
  /** Least width in px. */
  width: z.number().min(40).max(640).optional(),
});
export type ButtonBlock = z.infer<typeof schema>;

/** What a button is made of, also where it is part of another block. */
export type ButtonLook = Omit<ButtonBlock, keyof BlockBase>;

/** Writes one button: a coloured cell that is clickable over its whole face. */
export function buttonHtml(block: ButtonLook, context: RenderContext, key = "content"): void {
  const { out, theme } = context;
  const { button, fonts } = theme;
  const { inside, ...behind } = face(block.face, context);
  const words = ink(block.color, "onAccent", inside);
  const radius = block.radius ?? button.radius;
  const beside = block.padX ?? button.padX;
  const { padding: sides } = within(
    { top: 0, right: beside, bottom: 0, left: beside },
    context.width,
    2 * (block.border?.width ?? 0),
  );
  const padding = `${block.padY ?? button.padY}px ${sides.left}px`;
  const size = block.size ?? button.size;
  const { border } = block;
  const place = tableAt(block.full ? "left" : block.align, context);
  const width = block.full ? undefined : block.width && Math.min(block.width, context.width);
  const cell = css({
    "background-color": behind.color,
    "border-radius": `${radius}px`,
    "mso-padding-alt": padding,
    border: border ? `${border.width}px ${border.style} ${border.color}` : behind.edge?.css,
  });
  const link = css({
    display: block.full || width ? "block" : "inline-block",
    padding,
    "font-family": fonts.body,
    "font-size": `${size}px`,
    "line-height": `${Math.max(18, Math.round(size * 1.25))}px`,
    "font-weight": button.weight,
    color: words.color,
    "text-align": "center",
    "text-decoration": "none",
    "border-radius": `${radius}px`,
  });
  whenAddress(block.href, "link", context, () => {
    out.raw(
      `${place.open}<table ${TABLE}${place.align}${block.full ? ' width="100%"' : width ? ` width="${width}"` : ""}${styleAttribute(css({ margin: place.margin }))}><tr>`,
    );
    out.raw(
      `<td${classAttribute(behind.tone, !border && behind.edge?.tone)} align="center" bgcolor="${behind.color}" style="${cell}">`,
    );
    out.raw(
      `<a${wordsMark(context, "face", key)} href="${hrefOf(block.href, context)}"${classAttribute(words.tone)} style="${link}">`,
    );
    writeInline(
      block.content,
      { ...inside, linked: true },
      { role: "onAccent", own: block.color, links: "onAccent" },
    );
    out.raw(`</a></td></tr></table>${place.close}`);
  });
}

/** Writes one button for the text part, on a line of its own. */
export function buttonText(block: Pick<ButtonLook, "content" | "href">, context: RenderContext): void {
  whenAddress(block.href, "textLink", context, () => {
    writeInline(block.content, { ...context, linked: true });
    context.out.raw(`${textTarget(block.href, context, "colon")}\n`);
  });
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
  look: ["align", "full", "width", "padX", "padY", "size", "face", "color", "border", "radius"],
  html: (block, context) => buttonHtml(block, context),
  text(block, context) {
    buttonText(block, context);
    context.out.raw("\n");
  },
  places: () => [{ path: "content", kind: "line" }],
  links: (block) => [{ path: "href", words: inlineText(block.content), href: block.href }],
  needs: ({ href }) => ({ href }),
  title: (block) => firstWords(block.content) || "Empty button",
  unready: (block) => (block.href === "" ? ["A button leads nowhere. Give it an address."] : []),
};
