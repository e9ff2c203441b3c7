import { type BlockBase, type Theme, whenAddress } from "../../email";
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
import {
  address,
  align,
  border,
  corners,
  faceLook,
  line,
  number,
  type Properties,
  toggle,
} from "../../properties";
import { type BlockOf, declareBlock } from "../type";

const properties = {
  content: line("Words", { fresh: "Read more", stays: true }),
  href: address("Leads to", {
    fresh: "",
    of: ["content"],
    under: "Button",
    missing: "A button leads nowhere. Give it an address.",
    needed: true,
  }),
  align: align({ fresh: "left", under: "Button" }),
  full: toggle("Over the full width", { look: true, under: "Button" }),
  /** At least. */
  width: number(
    "Width",
    { min: 40, max: 640 },
    {
      look: true,
      under: "Button",
      when: { full: false },
      own: { words: "A width of its own", start: 240 },
    },
  ),
  ...faceLook({ under: "Look" }),
  radius: corners({ max: 60, theme: ({ button }) => button.radius }),
  size: number(
    "Words",
    { min: 10, max: 40 },
    { look: true, phone: true, under: "Look", theme: ({ button }) => button.size },
  ),
  /** Space beside and above the words. */
  padX: number("Beside", { max: 80 }, { look: true, under: "Look", theme: ({ button }) => button.padX }),
  padY: number("Above", { max: 40 }, { look: true, under: "Look", theme: ({ button }) => button.padY }),
  border: border("Border", { under: "Look", theme: ({ light }) => light.accent }),
} satisfies Properties;
type ButtonBlock = BlockOf<"button", typeof properties>;

/** What a button is made of, also where it is part of another block. */
export type ButtonLook = Omit<ButtonBlock, keyof BlockBase>;

/** Of the words on a button, in px. */
const lineOf = (size: number) => Math.max(18, Math.round(size * 1.25));

/** How high a button is that is pressed on a phone, in px: a line of words and the space around it. */
export function buttonHeight(
  block: Pick<ButtonBlock, "size" | "padY" | "border" | "phone">,
  { button }: Pick<Theme, "button">,
): number {
  const size = block.phone?.size ?? block.size ?? button.size;
  return lineOf(size) + 2 * (block.padY ?? button.padY) + 2 * (block.border?.width ?? 0);
}

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
    "line-height": `${lineOf(size)}px`,
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

export const button = declareBlock({
  type: "button",
  label: "Button",
  group: "actions",
  words: "link call to action",
  properties,
  html: (block, context) => buttonHtml(block, context),
  text(block, context) {
    buttonText(block, context);
    context.out.raw("\n");
  },
  title: (block) => firstWords(block.content) || "Empty button",
});
