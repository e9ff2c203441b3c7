import type { Align, Inline } from "../email";
import { type Direction, directionOfWords } from "../program";
import type { Level, RenderContext } from "./context";
import { css, wordsMark } from "./html";
import { writeInline } from "./inline";
import { sideOf } from "./sides";
import { classAttribute, ink, type TextRole } from "./tone";

/** How a line of words looks. Sizes in px. */
export interface LineLook {
  element?: "p" | `h${Level}`;
  /** The theme's colour that it takes, unless it has one of its own. */
  role: TextRole;
  own?: string;
  font?: "body" | "heading";
  size: number;
  lineHeight: number;
  weight?: number;
  /** Space between letters, as CSS writes it. */
  tracking?: string;
  capitals?: boolean;
  /** A class that changes it on phones. */
  phone?: string;
  align?: Align;
  /** As CSS writes it; none when missing. */
  margin?: string;
  /** The property of the block that holds the words, where they can be edited in place. */
  key?: string;
}

/** Writes one line of words in an element of its own. */
export function lineHtml(content: readonly Inline[], look: LineLook, context: RenderContext): void {
  const { out } = context;
  const element = look.element ?? "p";
  const { direction, attribute } = runs(content, context);
  const { color, tone } = ink(look.own, look.role, context);
  const style = css({ margin: look.margin ?? "0", ...lineStyle(look, color, { ...context, direction }) });
  const mark = look.key === undefined ? "" : wordsMark(context, "line", look.key);
  out.raw(`<${element}${mark}${attribute}${classAttribute(tone, look.phone)} style="${style}">`);
  writeInline(content, context, look);
  out.raw(`</${element}>`);
}

/** Which way a line of words runs, with the attribute that says so where it is not the message's way. */
export function runs(
  content: readonly Inline[],
  { direction }: Pick<RenderContext, "direction">,
): { direction: Direction; attribute: string } {
  const said = content.map((it) => (it.type === "text" ? it.text : "")).join("");
  const own = directionOfWords(said) ?? direction;
  return { direction: own, attribute: own === direction ? "" : ` dir="${own}"` };
}

/** The properties of a line's type, for whatever element it stands in. */
export function lineStyle(
  { font, size, lineHeight, weight, tracking, capitals, align }: Omit<LineLook, "role">,
  color: string,
  context: RenderContext,
): Record<string, string | number | undefined | false> {
  return {
    "font-family": context.theme.fonts[font ?? "body"],
    "font-size": `${size}px`,
    "line-height": `${lineHeight}px`,
    "font-weight": weight,
    "letter-spacing": tracking,
    "text-transform": capitals && "uppercase",
    color,
    "text-align": sideOf(align, context),
  };
}

/** How the theme sets a heading of one of its three looks, at a size of its own where one is asked for. */
export function headingLook(
  look: 1 | 2 | 3,
  { theme }: Pick<RenderContext, "theme">,
  own?: number,
): Pick<LineLook, "role" | "font" | "size" | "lineHeight" | "weight" | "tracking" | "capitals" | "phone"> {
  const { size, line, weight, phone, tracking, capitals, role = "heading" } = theme.headings[`h${look}`];
  return {
    role,
    font: "heading",
    size: own ?? size,
    lineHeight: Math.round((own ?? size) * line),
    weight,
    tracking: tracking ? `${Math.round((own ?? size) * tracking) / 1000}px` : undefined,
    capitals,
    phone: phone && own === undefined ? `look-${look}` : undefined,
  };
}

/** Writes a line of small words below something; editable in place when it has a key. */
export function smallWords(
  content: readonly Inline[],
  key: string | undefined,
  align: Align,
  context: RenderContext,
): void {
  lineHtml(content, { role: "soft", size: 14, lineHeight: 20, margin: "8px 0 0", align, key }, context);
}
