import type { RenderContext } from "../markup";
import { escapeHtml } from "../program";

/** Says which node an element is, on the canvas and to those who look a message over; one that is sent carries no such mark. */
export function nodeMark(id: string, kind: string, conditional: boolean, context: RenderContext): string {
  if (context.places && kind === "block") return ` data-node="${escapeHtml(id)}"`;
  return context.marks
    ? ` data-node="${escapeHtml(id)}" data-kind="${kind}"${conditional ? " data-conditional" : ""}`
    : "";
}

/** The classes of a part, for phones: hidden there or only there, and what is different. */
export function classesOf(
  node: { id: string; hideOn?: "phone" | "desktop"; phone?: object },
  ...more: (string | false | undefined)[]
): { attribute: string; style: string } {
  const names = [
    node.hideOn === "phone" && "hide-phone",
    node.hideOn === "desktop" && "only-phone",
    ...more,
  ].filter(Boolean);
  return {
    attribute: names.length > 0 ? ` class="${names.join(" ")}"` : "",
    style: node.hideOn === "desktop" ? "display:none;mso-hide:all;" : "",
  };
}
