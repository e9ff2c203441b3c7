import {
  fontStack,
  hrefOfMarks,
  type Inline,
  kindOf,
  type Mark,
  type Theme,
  type Toggle,
  whenAddress,
} from "../email";
import type { RenderContext } from "./context";
import { css, styleAttribute } from "./html";
import { hrefOf, textTarget } from "./targets";
import { classAttribute, ground, ink, type TextRole } from "./tone";

/** How words look where no mark says otherwise. */
export interface Voice {
  role: TextRole;
  own?: string;
  /** The theme's colour of links; its own for them when missing. */
  links?: TextRole;
}

/** Writes words and what stands in them, with their marks in HTML and links spelt out in text. */
export function writeInline(
  content: readonly Inline[],
  context: RenderContext,
  voice: Voice = { role: "text" },
): void {
  const { out, part } = context;
  const within = (inside: RenderContext) => (words: readonly Inline[]) => writeInline(words, inside, voice);
  for (const [index, it] of content.entries()) {
    const kind = kindOf(it);
    if (part === "html") {
      const marks = (it.marks ?? []).filter(({ type }) => type !== "link" || !context.linked);
      let inner = context;
      for (const mark of marks) inner = openTag(mark, voice, inner);
      kind.write(it, context, within(inner));
      for (const mark of [...marks].reverse()) closeMark(mark, context);
      continue;
    }
    kind.write(it, context, within(context));
    const href = context.linked ? undefined : hrefOfMarks(it);
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

function closeMark(mark: Mark, context: RenderContext): void {
  const { out } = context;
  if (mark.type === "link") whenAddress(mark.attrs.href, "link", context, () => out.raw("</a>"));
  else out.raw(mark.type === "style" ? "</span>" : `</${TOGGLE_ELEMENTS[mark.type]}>`);
}

/** What tells a link in words apart from them, beside its colour: a line, a weight, or both. */
export function linkLook({ links: { underline, weight } }: Theme): {
  "text-decoration": string;
  "font-weight": number | undefined;
} {
  return { "text-decoration": underline ? "underline" : "none", "font-weight": weight };
}

/** Opens a mark's element; gives the context within it. */
function openTag(mark: Mark, voice: Voice, context: RenderContext): RenderContext {
  const { theme, out } = context;
  switch (mark.type) {
    case "link": {
      const { color, tone } = ink(undefined, voice.links ?? "link", context);
      const look = css({ color, ...linkLook(theme) });
      const { href } = mark.attrs;
      whenAddress(href, "link", context, () =>
        out.raw(`<a href="${hrefOf(href, context)}"${classAttribute(tone)} style="${look}">`),
      );
      return context;
    }
    case "style": {
      const { highlight, size, font } = mark.attrs;
      const behind = highlight === undefined ? undefined : ground(highlight, "paper", context);
      const inside = behind?.inside ?? context;
      // On a ground of their own words need a colour that was chosen for it.
      const own = mark.attrs.color ?? (behind && voice.own);
      const words = own !== undefined || behind ? ink(own, voice.role, inside) : undefined;
      const look = css({
        color: words?.color,
        "background-color": highlight,
        "font-size": size && `${size}px`,
        "line-height": size && `${Math.round(size * theme.text.line)}px`,
        "font-family": fontStack(font),
      });
      out.raw(`<span${classAttribute(behind?.tone, words?.tone)}${styleAttribute(look)}>`);
      return inside;
    }
    case "superscript":
    case "subscript":
      out.raw(`<${TOGGLE_ELEMENTS[mark.type]} style="${RAISED}">`);
      return context;
    default:
      out.raw(`<${TOGGLE_ELEMENTS[mark.type]}>`);
      return context;
  }
}
