import { fontStack, type Inline, type Mark, type MergeTag } from "../email";
import { escapeHtml, type Sink } from "../program";
import type { RenderContext } from "./context";
import { css, styleAttribute } from "./html";
import { hrefOf, textTarget } from "./targets";

/** Writes a merge tag: brand facts as they are, reader data as a value of the program. */
export function writeTag(tag: MergeTag, context: RenderContext): void {
  const { out, brand, part } = context;
  const constant =
    tag.field === "brand.name" ? brand.name : tag.field === "brand.address" ? brand.address : undefined;
  if (constant !== undefined) {
    if (part === "html") out.escaped(constant);
    else out.raw(constant);
    return;
  }
  const sink: Sink = part;
  const slot = { field: tag.field, fallback: tag.fallback, format: tag.format, sink };
  if (context.marks && part === "html") {
    out
      .raw(`<span class="reader-value" data-field="${escapeHtml(tag.field)}">`)
      .value(slot)
      .raw("</span>");
  } else {
    out.value(slot);
  }
}

/** Writes words, soft breaks and merge tags, with their marks in HTML and links spelt out in text. */
export function writeInline(content: readonly Inline[], context: RenderContext): void {
  const { out, part } = context;
  for (const [index, it] of content.entries()) {
    if (part !== "html") {
      if (it.type === "text") out.raw(it.text);
      else if (it.type === "hardBreak") out.raw(part === "text" ? "\n" : " ");
      else writeTag(it.attrs, context);
      const href = linkOf(it);
      if (part === "text" && href !== undefined && linkOf(content[index + 1]) !== href) {
        const spelt = it.type === "text" ? it.text : "";
        if (spelt !== href) out.raw(textTarget(href, context, "brackets"));
      }
      continue;
    }
    const marks = it.marks ?? [];
    for (const mark of marks) out.raw(openTag(mark, context));
    if (it.type === "text") out.escaped(it.text);
    else if (it.type === "hardBreak") out.raw("<br>");
    else writeTag(it.attrs, context);
    for (const mark of [...marks].reverse()) out.raw(CLOSE[mark.type]);
  }
}

function linkOf(it: Inline | undefined): string | undefined {
  const mark = it?.marks?.find((candidate) => candidate.type === "link");
  return mark?.type === "link" ? mark.attrs.href : undefined;
}

const CLOSE: Record<Mark["type"], string> = {
  bold: "</strong>",
  italic: "</em>",
  underline: "</u>",
  strike: "</s>",
  link: "</a>",
  style: "</span>",
};

function openTag(mark: Mark, context: RenderContext): string {
  const { theme } = context;
  switch (mark.type) {
    case "bold":
      return "<strong>";
    case "italic":
      return "<em>";
    case "underline":
      return "<u>";
    case "strike":
      return "<s>";
    case "link":
      return `<a href="${hrefOf(mark.attrs.href, context)}" class="d-link" style="${css({
        color: theme.light.link,
        "text-decoration": "underline",
      })}">`;
    case "style": {
      const { color, highlight, size, font } = mark.attrs;
      const look = css({
        color,
        "background-color": highlight,
        "font-size": size && `${size}px`,
        "line-height": size && `${Math.round(size * theme.text.line)}px`,
        "font-family": fontStack(font),
      });
      return `<span${styleAttribute(look)}>`;
    }
  }
}
