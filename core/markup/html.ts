import { escapeHtml } from "../program";

/** The attributes of every layout table. */
export const TABLE = 'role="presentation" cellpadding="0" cellspacing="0" border="0"';

/** Lets a word that is wider than its place break, in all kinds of mail programs. */
export const LONG_WORDS = { "overflow-wrap": "anywhere", "word-break": "break-word" };

/**
 * A `style` attribute's value from properties in order; those without a value are left out. A line height is told to
 * the word-processor engine as exact: it would take it for the least otherwise.
 */
export function css(properties: Record<string, string | number | undefined | false>): string {
  let text = "";
  for (const [name, value] of Object.entries(properties)) {
    if (value === undefined || value === false || value === "") continue;
    if (name === "line-height") text += "mso-line-height-rule:exactly;";
    text += `${name}:${value};`;
  }
  return escapeHtml(text);
}

/** A `style` attribute with a leading space, or nothing when there is nothing to say. */
export function styleAttribute(text: string): string {
  return text === "" ? "" : ` style="${text}"`;
}

/**
 * Marks the element whose words can be edited in place, for the canvas.
 * @param key the property of the block that holds them
 */
export function editMark(context: { marks: boolean }, kind: "prose" | "line", key = "content"): string {
  return context.marks ? ` data-edit="${key}" data-edit-kind="${kind}"` : "";
}

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
