import { absolute, escapeHtml } from "../program";
import type { RenderContext } from "./context";
import { css, quotable, TABLE } from "./html";

/** A picture behind content, and the colour that stands in for it where none is shown. */
export interface Backdrop {
  src: string;
  color: string;
  /** Which part stays in view when it is cut: an edge, or a point in shares of it; the middle when missing. */
  position?: "top" | "center" | "bottom" | { x: number; y: number };
  /** Repeated at its own size instead of filling the place. */
  tile?: boolean;
}

/** The attributes of a cell with a picture behind it: `background` for old programs, CSS for the rest. */
export function backdropCell(
  { src, color, position, tile }: Backdrop,
  origin: string,
): { attributes: string; style: string } {
  const address = quotable(absolute(src, origin));
  return {
    attributes: `${address === "" ? "" : ` background="${escapeHtml(address)}"`} bgcolor="${color}"`,
    style: css({
      "background-color": color,
      ...(address !== "" && {
        "background-image": `url('${address}')`,
        "background-position":
          typeof position === "object"
            ? `${Math.round(position.x * 100)}% ${Math.round(position.y * 100)}%`
            : `center ${position ?? "center"}`,
        "background-size": tile ? undefined : "cover",
        "background-repeat": tile ? "repeat" : "no-repeat",
      }),
    }),
  };
}

/**
 * Writes content over a picture for the word-processor engine, which shows pictures behind content by VML only. The box
 * is as high as its words, or as a cell of the height that is asked for.
 * @param size width in px, and the least height where the place has one; `full` is as wide as the window
 * @param anchor where the words stand in a place that is higher than they are
 */
export function vmlBackdrop(
  { src, color, tile }: Backdrop,
  size: { width: number; height: number } | "full",
  { out, origin }: RenderContext,
  body: () => void,
  anchor: "top" | "middle" | "bottom" = "top",
): void {
  const address = escapeHtml(quotable(absolute(src, origin)));
  const full = size === "full";
  const box = full ? "mso-width-percent:1000;" : `width:${size.width}px;`;
  const picture = address === "" ? 'type="solid"' : `type="${tile ? "tile" : "frame"}" src="${address}"`;
  const cell = full
    ? ["", ""]
    : [
        `<table ${TABLE} width="${size.width}"><tr><td height="${size.height}" valign="${anchor}">`,
        "</td></tr></table>",
      ];
  out.raw(
    `<!--[if gte mso 9]><v:rect fill="true" stroke="false" style="${box}v-text-anchor:${anchor};"><v:fill ${picture} color="${color}"/><v:textbox style="mso-fit-shape-to-text:true;" inset="0,0,0,0">${cell[0]}<![endif]-->`,
  );
  body();
  out.raw(`<!--[if gte mso 9]>${cell[1]}</v:textbox></v:rect><![endif]-->`);
}
