import { fontStack, hrefOfMarks, type Inline, kindOf, type Mark, type Toggle } from "../email";
import type { RenderContext } from "./context";
import { css, styleAttribute } from "./html";
import { hrefOf, textTarget } from "./targets";

/** Writes words and what stands in them, with their marks in HTML and links spelt out in text. */
export function writeInline(content: readonly Inline[], context: RenderContext): void {
  const { out, part } = context;
  for (const [index, it] of content.entries()) {
    const kind = kindOf(it);
    if (part === "html") {
      const marks = it.marks ?? [];
      for (const mark of marks) out.raw(openTag(mark, context));
      kind.write(it, context);
      for (const mark of [...marks].reverse()) out.raw(closeTag(mark));
      continue;
    }
    kind.write(it, context);
    const href = hrefOfMarks(it);
    if (part === "text" && href !== undefined && hrefOfMarks(content[index + 1]) !== href) {
      // An address that stands there in so many letters need not be said again.
      if (kind.atom || kind.words(it) !== href) out.raw(textTarget(href, context, "brackets"));
    }
  }
}

/** The element of each mark that says yes or no. */
export const TOGGLE_ELEMENTS: Record<Toggle, string> = {
  bold: "strong",
  italic: "em",
  underline: "u",
  strike: "s",
  superscript: "sup",
  subscript: "sub",
};

/** Raised and lowered letters keep the line they stand in as high as it was. */
const RAISED = css({ "font-size": "75%", "line-height": "0" });

function closeTag(mark: Mark): string {
  return mark.type === "link"
    ? "</a>"
    : mark.type === "style"
      ? "</span>"
      : `</${TOGGLE_ELEMENTS[mark.type]}>`;
}

function openTag(mark: Mark, context: RenderContext): string {
  const { theme } = context;
  switch (mark.type) {
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
    case "superscript":
    case "subscript":
      return `<${TOGGLE_ELEMENTS[mark.type]} style="${RAISED}">`;
    default:
      return `<${TOGGLE_ELEMENTS[mark.type]}>`;
  }
}
