import { directionOf, escapeHtml } from "../program";
import type { RenderContext } from "./context";

/** The attributes of every layout table. */
export const TABLE = 'role="presentation" cellpadding="0" cellspacing="0" border="0"';

/** Lets a word that is wider than its place break, in all kinds of mail programs. */
export const LONG_WORDS = { "overflow-wrap": "anywhere", "word-break": "break-word" };

/** The size of letters from which on a line height belongs to words, in px: below, it is the height of an empty place. */
const LETTERS = 8;

/**
 * A line height as a style says it. The word-processor engine is told that it is exact (it would take it for the least
 * otherwise), and in px; for all others it has no unit, so that it grows with the letters where only they do.
 */
function lineHeight(height: string, size: string): string {
  const [line, letters] = [Number.parseFloat(height), Number.parseFloat(size)];
  if (!height.endsWith("px") || !size.endsWith("px") || letters < LETTERS)
    return `mso-line-height-rule:exactly;line-height:${height};`;
  return `mso-line-height-rule:exactly;mso-line-height-alt:${height};line-height:${Math.round((line / letters) * 1000) / 1000};`;
}

/** A `style` attribute's value from properties in order; those without a value are left out. */
export function css(properties: Record<string, string | number | undefined | false>): string {
  let text = "";
  for (const [name, value] of Object.entries(properties)) {
    if (value === undefined || value === false || value === "") continue;
    text +=
      name === "line-height"
        ? lineHeight(String(value), String(properties["font-size"]))
        : `${name}:${value};`;
  }
  return escapeHtml(text);
}

/** A `style` attribute with a leading space, or nothing when there is nothing to say. */
export function styleAttribute(text: string): string {
  return text === "" ? "" : ` style="${text}"`;
}

/**
 * The attributes of an element that holds words: the canvas is told that they can be edited in place, and everybody which
 * language they are in where it is not the message's, and which way they run where that is not its way.
 * @param kind a `face` is a line that is a link as a whole, in which no other can stand, a `cell` stands among others
 * @param key the property of the block that holds them
 */
export function wordsMark(
  context: Pick<RenderContext, "marks" | "block" | "untranslated" | "language">,
  kind: "prose" | "line" | "face" | "cell",
  key = "content",
): string {
  const { marks, block = "", untranslated } = context;
  const edit = marks ? ` data-edit="${key}" data-edit-kind="${kind}"` : "";
  if (!untranslated?.paths.get(block)?.has(key)) return edit;
  const { language } = untranslated;
  const direction = directionOf(language);
  const turned = direction === directionOf(context.language) ? "" : ` dir="${direction}"`;
  return `${edit} lang="${escapeHtml(language)}"${turned}`;
}

const UNSEEN = css({
  display: "inline-block",
  width: "1px",
  "max-height": "0",
  overflow: "hidden",
  "mso-hide": "all",
  "font-size": "1px",
  "line-height": "0",
  opacity: "0",
});

/** Words for who listens, which nobody sees: clipped, since what is not displayed is not read aloud either. @param words escaped */
export const spoken = (words: string): string => `<span style="${UNSEEN}">${words}</span>`;

/** An address that can stand in quotes: whatever could end them is percent-encoded (RFC 3986, 2.1). */
export function quotable(address: string): string {
  return address.replace(
    /["'()\\<>\s\u0000-\u001f\u007f]/g,
    (sign) => `%${sign.charCodeAt(0).toString(16).toUpperCase().padStart(2, "0")}`,
  );
}

/** The side paddings that give `count` columns in a row equal content width with a gap between them, in px. */
export function gapShares(count: number, gap: number): { before: number; after: number }[] {
  return Array.from({ length: count }, (_, index) => ({
    before: Math.round((gap * index) / count),
    after: Math.round((gap * (count - 1 - index)) / count),
  }));
}
