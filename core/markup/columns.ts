import type { Valign } from "../email";
import type { RenderContext } from "./context";
import { css, gapShares, styleAttribute, TABLE } from "./html";

/** One column: its share in percent and what stands in it. */
export interface ColumnCell {
  share: number;
  /** More attributes for the column's element, with a leading space. */
  attributes?: string;
  style?: string;
  /** Given the width of the content in px. */
  write(width: number): void;
}

export interface Surroundings {
  gap: number;
  valign?: Valign;
  onPhones?: "stack" | "reverse" | "beside";
}

/**
 * Columns side by side that wrap by themselves where there is no room: inline blocks with a greatest width, held
 * in a ghost table for engines that lay out with tables only. With `beside` they stay side by side everywhere.
 */
export function columnsHtml(context: RenderContext, cells: readonly ColumnCell[], how: Surroundings): void {
  const { out, width } = context;
  const valign = how.valign ?? "top";
  const shares = gapShares(cells.length, how.gap);
  const sizes = cells.map((cell) => Math.floor((width * cell.share) / 100));

  if (cells.length === 1) {
    const [cell] = cells;
    out.raw(`<div${cell.attributes ?? ""} style="${css({ width: "100%" })}${cell.style ?? ""}">`);
    cell.write(width);
    out.raw("</div>");
    return;
  }

  const pad = (index: number) => css({ padding: `0 ${shares[index].right}px 0 ${shares[index].left}px` });
  const content = (index: number) => sizes[index] - shares[index].left - shares[index].right;

  if (how.onPhones === "beside") {
    out.raw(`<table ${TABLE} width="100%" style="table-layout:fixed;"><tr>`);
    for (const [index, cell] of cells.entries()) {
      out.raw(
        `<td width="${cell.share}%" valign="${valign}" style="${pad(index)}"><div${cell.attributes ?? ""}${styleAttribute(cell.style ?? "")}>`,
      );
      cell.write(content(index));
      out.raw("</div></td>");
    }
    out.raw("</tr></table>");
    return;
  }

  const reverse = how.onPhones === "reverse";
  const order = cells.map((_, index) => index);
  if (reverse) order.reverse();
  out.raw(`<div${reverse ? ' dir="rtl"' : ""} style="font-size:0;text-align:left;">`);
  out.raw(`<!--[if mso]><table ${TABLE} width="${width}"${reverse ? ' dir="rtl"' : ""}><tr><![endif]-->`);
  for (const index of order) {
    const cell = cells[index];
    out.raw(
      `<!--[if mso]><td width="${sizes[index]}" valign="${valign}"${reverse ? ' dir="ltr"' : ""}><![endif]-->`,
    );
    const style = css({
      display: "inline-block",
      width: "100%",
      "max-width": `${sizes[index]}px`,
      "vertical-align": valign,
      "font-size": `${context.theme.text.size}px`,
    });
    out.raw(
      `<div class="col"${reverse ? ' dir="ltr"' : ""} style="${style}"><div class="colpad" style="${pad(index)}"><div${cell.attributes ?? ""}${styleAttribute(cell.style ?? "")}>`,
    );
    cell.write(content(index));
    out.raw("</div></div></div><!--[if mso]></td><![endif]-->");
  }
  out.raw("<!--[if mso]></tr></table><![endif]--></div>");
}
