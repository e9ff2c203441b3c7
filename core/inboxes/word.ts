/** What the word-processor engine leaves of a message. */
import { type Document, Element, elementsOf } from "./page";
import { type Declarations, readDeclarations, writeDeclarations } from "./style";

/** Takes what is written for that engine out of its comments, and leaves out what is written for all others. */
export function takeConditional(html: string): string {
  return html
    .replace(/<!--\[if (?:gte |gt )?mso[^\]]*\]>([\s\S]*?)<!\[endif\]-->/g, "$1")
    .replace(/<xml>[\s\S]*?<\/xml>/g, "")
    .replace(/<!--\[if !mso[^\]]*\]><!-->[\s\S]*?<!--<!\[endif\]-->/g, "");
}

/** What it does not know, wherever it stands. */
const UNKNOWN =
  /^(max-width|min-width|max-height|min-height|border-radius|box-shadow|overflow|overflow-wrap|word-break|opacity|columns|column-gap|filter|float|position|flex|align-items|background-image|background-size|background-position|background-repeat)$/;

/**
 * Changes a page to what that engine lays out: tables, cells and paragraphs. Room inside belongs to cells alone, widths
 * to attributes, pictures behind content to VML, and colours that can be seen through to nobody.
 */
export function likeWordProcessor(page: Document): void {
  for (const element of elementsOf(page)) {
    if (element.name.startsWith("v:")) fromVml(element);
    delete element.attribs.background;
    if (element.attribs.style === undefined) continue;
    const kept = known(readDeclarations(element.attribs.style), element);
    if (kept.length > 0) element.attribs.style = writeDeclarations(kept);
    else delete element.attribs.style;
  }
}

function known(declarations: Declarations, element: Element): Declarations {
  const isCell = element.name === "td" || element.name === "th";
  const ownVml = element.attribs["data-vml"] !== undefined;
  if (ownVml) return declarations;
  const kept: Declarations = [];
  for (const [name, value] of declarations) {
    if (UNKNOWN.test(name) || /rgba\(/.test(value)) continue;
    if (name === "display" && value !== "none" && value !== "block") continue;
    if (name === "mso-padding-alt" && isCell) {
      kept.push(["padding", value]);
      continue;
    }
    if (name === "mso-hide") kept.push(["display", "none"]);
    if (name.startsWith("mso-")) continue;
    if (name.startsWith("padding") && !isCell) continue;
    if ((name === "width" || name === "height") && !isCell && element.name !== "table") continue;
    kept.push([name, value]);
  }
  return kept;
}

/** Drawings become boxes that a browser shows: the fill as ground and picture, the text box as what stands on it. */
function fromVml(element: Element): void {
  if (element.name === "v:rect") {
    const fill = element.children.find((child) => child instanceof Element && child.name === "v:fill");
    const { src, color, type } = (fill as Element | undefined)?.attribs ?? {};
    const style = readDeclarations(element.attribs.style ?? "").filter(
      ([name]) => name === "width" || name === "height",
    );
    if (style.length === 0) style.push(["width", "100%"]);
    if (color) style.push(["background-color", color]);
    if (src) style.push(["background-image", `url('${src}')`]);
    if (src && type === "frame") style.push(["background-size", "cover"]);
    element.children = element.children.filter((child) => child !== fill);
    element.name = "div";
    element.attribs = { "data-vml": "rect", style: writeDeclarations(style) };
  } else if (element.name === "v:textbox") {
    element.name = "div";
    element.attribs = { "data-vml": "textbox" };
  }
}
