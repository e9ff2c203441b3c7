import { escapeHtml } from "../program";
import type { RenderContext } from "./context";
import { absolute, css } from "./html";

/** A picture behind content, and the colour that stands in for it where none is shown. */
export interface Backdrop {
  src: string;
  color: string;
  /** Which part stays in view when it is cut; the middle when missing. */
  position?: "top" | "center" | "bottom";
  /** Repeated at its own size instead of filling the place. */
  tile?: boolean;
}

/** The attributes of a cell with a picture behind it: `background` for old programs, CSS for the rest. */
export function backdropCell(
  { src, color, position, tile }: Backdrop,
  origin: string,
): { attributes: string; style: string } {
  const address = absolute(src, origin);
  return {
    attributes: ` background="${escapeHtml(address)}" bgcolor="${color}"`,
    style: css({
      "background-color": color,
      "background-image": `url('${address.replace(/['()\\\s]/g, encodeURIComponent)}')`,
      "background-position": `center ${position ?? "center"}`,
      "background-size": tile ? undefined : "cover",
      "background-repeat": tile ? "repeat" : "no-repeat",
    }),
  };
}

/**
 * Writes content over a picture for the word-processor engine, which shows pictures behind content by VML only.
 * @param size width in px, and height in px where the place has one of its own; `full` is as wide as the window
 */
export function vmlBackdrop(
  { src, color, tile }: Backdrop,
  size: { width: number; height?: number } | "full",
  { out, origin }: RenderContext,
  body: () => void,
): void {
  const address = escapeHtml(absolute(src, origin));
  const height = size === "full" ? undefined : size.height;
  const box =
    size === "full"
      ? "mso-width-percent:1000;"
      : `width:${size.width}px;${height ? `height:${height}px;` : ""}`;
  const fit = height ? "" : 'style="mso-fit-shape-to-text:true" ';
  out.raw(
    `<!--[if gte mso 9]><v:rect xmlns:v="urn:schemas-microsoft-com:vml" fill="true" stroke="false" style="${box}"><v:fill type="${tile ? "tile" : "frame"}" src="${address}" color="${color}"/><v:textbox ${fit}inset="0,0,0,0"><![endif]-->`,
  );
  body();
  out.raw("<!--[if gte mso 9]></v:textbox></v:rect><![endif]-->");
}
