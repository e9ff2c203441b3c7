import type { Valign } from "../email";
import type { RenderContext } from "./context";
import { css, gapShares, TABLE } from "./html";
import { paddingOf, sideOf } from "./sides";
import { classAttribute } from "./tone";

/** The box of a column: what is drawn around its content. */
interface ColumnBox {
  /** The content of a `style` attribute: ground, padding, border, corners. */
  style: string;
  bgcolor?: string;
  tone?: string;
}

/** One column: its share in percent and what stands in it. */
export interface ColumnCell {
  share: number;
  /** More attributes for the column's element, with a leading space. */
  attributes?: string;
  /** Given the width of the column in px, as `write` is. */
  box?(width: number): ColumnBox;
  write(width: number): void;
}

export interface Surroundings {
  gap: number;
  valign?: Valign;
  onPhones?: "stack" | "reverse" | "beside";
}

/** The space between columns that came to stand below each other, in px. */
export const STACKED = 16;

/**
 * Columns side by side that wrap by themselves where there is no room, each in an inline block with a greatest width,
 * held in a ghost table for engines that lay out with tables only. The gap is the difference between a column's block
 * and what stands in it, and disappears with the room: stacked columns begin at the same place and are equally wide,
 * also where no style block is read. With `beside` they stay side by side everywhere.
 */
export function columnsHtml(context: RenderContext, cells: readonly ColumnCell[], how: Surroundings): void {
  const { out, width } = context;
  const valign = how.valign ?? "top";
  // Where there is little room, the columns take most of it.
  const gap = Math.min(how.gap, Math.floor(width / (2 * cells.length)));

  if (cells.length === 1) {
    const [cell] = cells;
    out.raw(`<div${cell.attributes ?? ""} style="${css({ width: "100%" })}">`);
    inBox(cell, width, context);
    out.raw("</div>");
    return;
  }

  if (how.onPhones === "beside") {
    const shares = gapShares(cells.length, gap);
    out.raw(`<table ${TABLE} width="100%" style="table-layout:fixed;"><tr>`);
    for (const [index, cell] of cells.entries()) {
      const { before, after } = shares[index];
      const pad = css({ padding: paddingOf([0, after, 0, before], context) });
      out.raw(`<td width="${cell.share}%" valign="${valign}" style="${pad}"><div${cell.attributes ?? ""}>`);
      const content = Math.max(1, Math.floor((width * cell.share) / 100) - before - after);
      inBox(cell, content, context);
      out.raw("</div></td>");
    }
    out.raw("</tr></table>");
    return;
  }

  // What the gaps leave is shared out, so that equal shares are equally wide to the pixel.
  const room = width - gap * (cells.length - 1);
  const content = cells.map((cell) => Math.max(1, Math.floor((room * cell.share) / 100)));
  const { direction } = context;
  const reverse = how.onPhones === "reverse";
  const flow = reverse ? (direction === "ltr" ? "rtl" : "ltr") : direction;
  const order = cells.map((_, index) => index);
  if (reverse) order.reverse();
  const turned = flow === direction ? "" : ` dir="${flow}"`;
  const back = turned && ` dir="${direction}"`;
  const side = flow === "ltr" ? "left" : "right";
  out.raw(`<div${turned} style="font-size:0;text-align:${side};">`);
  out.raw(`<!--[if mso]><table ${TABLE} width="${width}"${turned}><tr><![endif]-->`);
  for (const [place, index] of order.entries()) {
    const cell = cells[index];
    const last = place === order.length - 1;
    const slot = css({
      display: "inline-block",
      width: "100%",
      "max-width": `${content[index] + (last ? 0 : gap)}px`,
      "vertical-align": valign,
      "font-size": `${context.theme.text.size}px`,
      "padding-bottom": last ? undefined : `${STACKED}px`,
    });
    const inner = css({
      "max-width": `${content[index]}px`,
      "text-align": sideOf("left", context),
    });
    out.raw(`<!--[if mso]><td width="${content[index]}" valign="${valign}"${back}><![endif]-->`);
    out.raw(`<div class="col${last ? "" : " apart"}" style="${slot}">`);
    out.raw(`<div${back} class="fluid"${cell.attributes ?? ""} style="${inner}">`);
    inBox(cell, content[index], context);
    out.raw("</div></div><!--[if mso]></td>");
    if (!last && gap > 0) out.raw(`<td width="${gap}" style="padding:0;font-size:0;">&nbsp;</td>`);
    out.raw("<![endif]-->");
  }
  out.raw("<!--[if mso]></tr></table><![endif]--></div>");
}

/** Draws a box by a cell: on a `div` the word-processor engine would leave it out. */
function inBox(cell: ColumnCell, width: number, { out }: RenderContext): void {
  const box = cell.box?.(width);
  if (!box || box.style === "") {
    cell.write(width);
    return;
  }
  const { style, bgcolor, tone } = box;
  out.raw(
    `<table ${TABLE} width="100%"><tr><td${classAttribute(tone)}${bgcolor ? ` bgcolor="${bgcolor}"` : ""} style="${style}">`,
  );
  cell.write(width);
  out.raw("</td></tr></table>");
}
