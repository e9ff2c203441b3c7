import { escapeHtml } from "../program";

/** The attributes of every layout table. */
export const TABLE = 'role="presentation" cellpadding="0" cellspacing="0" border="0"';

/** A `style` attribute's value from properties in order; those without a value are left out. */
export function css(properties: Record<string, string | number | undefined | false>): string {
  let text = "";
  for (const [name, value] of Object.entries(properties)) {
    if (value !== undefined && value !== false && value !== "") text += `${name}:${value};`;
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

/** An absolute address for a picture of our own; others stay as they are. */
export function absolute(src: string, origin: string): string {
  return src.startsWith("/") ? origin + src : src;
}

/** The side paddings that give `count` columns in a row equal content width with a gap between them, in px. */
export function gapShares(count: number, gap: number): { left: number; right: number }[] {
  return Array.from({ length: count }, (_, index) => ({
    left: Math.round((gap * index) / count),
    right: Math.round((gap * (count - 1 - index)) / count),
  }));
}
