import { type ChildNode, type Comment, type Element, isComment, isTag, isText } from "domhandler";
import { parseDocument } from "htmlparser2";
import { leads } from "../../markup";
import { escapeHtml, isSafeHref } from "../../program";

/** What was taken out of a piece of HTML, and how often. */
interface Removed {
  what: string;
  count: number;
}

export interface CleanHtml {
  html: string;
  /** The words of it, for the plain-text part. */
  text: string;
  removed: readonly Removed[];
}

export const TAGS: ReadonlySet<string> = new Set(
  "a abbr address b big blockquote br caption center cite code dd del div dl dt em figcaption figure font h1 h2 h3 h4 h5 h6 hr i img ins kbd li mark ol p pre q s section article small span strike strong sub sup table tbody td tfoot th thead tr tt u ul var wbr".split(
    " ",
  ),
);
/** Gone with everything inside; all other unknown elements leave their content. */
const SWALLOWED = new Set(
  "script style title noscript template iframe object embed applet svg math select textarea audio video canvas frameset noembed noframes plaintext xmp".split(
    " ",
  ),
);
/** Elements whose disappearance changes nothing that is seen. */
const UNREMARKABLE = new Set([
  "html",
  "head",
  "body",
  "title",
  "main",
  "header",
  "footer",
  "nav",
  "col",
  "colgroup",
]);
const VOID = new Set(["br", "hr", "img", "wbr"]);
const BLOCKS = new Set(
  "address blockquote center dd div dl dt figure h1 h2 h3 h4 h5 h6 hr li ol p pre section article table tr ul".split(
    " ",
  ),
);
const ATTRIBUTES = new Set(
  "align alt aria-hidden aria-label bgcolor border cellpadding cellspacing color colspan dir face height hspace lang noshade nowrap role rowspan scope size start title type valign vspace width".split(
    " ",
  ),
);
const PROPERTIES =
  /^(background(-(color|image|position|repeat|size))?|border(-[a-z-]+)?|box-shadow|box-sizing|caption-side|clear|color|column-(count|gap|width)|columns|direction|display|float|font(-[a-z-]+)?|height|letter-spacing|line-height|list-style(-[a-z]+)?|margin(-[a-z]+)?|max-(height|width)|min-(height|width)|mso-[a-z-]+|opacity|overflow(-wrap)?|padding(-[a-z]+)?|table-layout|text-[a-z-]+|vertical-align|white-space|width|word-(break|spacing|wrap)|-(webkit|ms)-text-size-adjust)$/;

/** Where each part of a table may stand; anywhere else it would break the table around the block. */
const INSIDE: Record<string, readonly string[]> = {
  caption: ["table"],
  thead: ["table"],
  tbody: ["table"],
  tfoot: ["table"],
  tr: ["table", "thead", "tbody", "tfoot"],
  td: ["tr"],
  th: ["tr"],
};
const TABLE_PARTS = new Set(["table", "thead", "tbody", "tfoot", "tr"]);

/**
 * Makes somebody's own HTML harmless. The result is written anew from a list of elements, attributes and style
 * properties that are allowed, so nothing that is not named here can pass; and it is balanced, with parts of tables
 * only inside tables, so it cannot break out of the block it stands in.
 * @param classes the names of classes that stay, and what each is called then
 */
export function cleanHtml(source: string, classes: Kept = NO_CLASSES): CleanHtml {
  const removed = new Map<string, number>();
  const note = (what: string) => void removed.set(what, (removed.get(what) ?? 0) + 1);
  const root = parseDocument(source, { decodeEntities: true });
  const text: string[] = [];
  const html = nodes(root.children, null, { note, text, classes });
  return {
    html,
    text: text
      .join("")
      .replace(/[^\S\n]+/g, " ")
      .replace(/ ?\n ?/g, "\n")
      .replace(/\n{3,}/g, "\n\n")
      .trim(),
    removed: [...removed].map(([what, count]) => ({ what, count })),
  };
}

/** The names of classes that stay, with what each is called then. */
export type Kept = ReadonlyMap<string, string>;
const NO_CLASSES: Kept = new Map();

/** What goes along while elements are written. */
interface Writing {
  note: Note;
  text: string[];
  classes: Kept;
}

/** Hears of what is left out. */
export type Note = (what: string) => void;

function nodes(children: readonly ChildNode[], parent: string | null, writing: Writing): string {
  const { note, text } = writing;
  const revealed = pairedReveals(children);
  const inTable = parent !== null && TABLE_PARTS.has(parent);
  let html = "";
  for (const child of children) {
    if (isText(child)) {
      if (inTable) {
        if (child.data.trim() !== "") note("words between the cells of a table");
        continue;
      }
      html += escapeHtml(child.data);
      text.push(child.data.replace(/\s+/g, " "));
    } else if (isTag(child)) html += element(child, parent, writing);
    else if (isComment(child)) {
      const kept = revealed.get(child) ?? (inTable ? null : drawnForOne(child.data, writing));
      // What only opens or closes something for one program cannot stay: it would not be balanced.
      if (kept === null)
        note(/\[if [^\]]*mso/i.test(child.data) ? "comments for one mail program" : "comments");
      else html += kept;
    }
  }
  return html;
}

/** Elements that the word-processor engine draws buttons with (VML). */
const DRAWN = new Set(["v:roundrect", "v:rect", "v:fill", "v:stroke", "v:textbox", "w:anchorlock"]);
const DRAWN_ATTRIBUTES =
  /^(arcsize|fill|fillcolor|stroke|strokecolor|strokeweight|stroked|filled|inset|type|color|xmlns:[vwo])$/;

/**
 * Comments that open and close what all but the word-processor engine show, where both stand beside each other.
 * @returns them with what they are written as
 */
function pairedReveals(children: readonly ChildNode[]): Map<ChildNode, string> {
  const found = new Map<ChildNode, string>();
  let open: Comment | null = null;
  for (const child of children) {
    if (!isComment(child)) continue;
    if (/^\[if !mso\]><!(--)?\s*$/i.test(child.data.trim())) open = child;
    else if (open && /^<!\[endif\]$/i.test(child.data.trim())) {
      found.set(open, "<!--[if !mso]><!-->").set(child, "<!--<![endif]-->");
      open = null;
    }
  }
  return found;
}

/**
 * What a comment holds for the word-processor engine, written anew as everything is; null when it is no such comment, or
 * only begins or ends something.
 */
function drawnForOne(data: string, writing: Writing): string | null {
  const [, condition, inner] =
    /^\[if ((?:gte )?mso(?: \d+)?)\]>([\s\S]*)<!\[endif\]$/i.exec(data.trim()) ?? [];
  if (inner === undefined || !/<v:(round)?rect\b/i.test(inner)) return null;
  const opened = inner.match(/<v:[a-z]+\b[^>]*>/gi)?.filter((tag) => !tag.endsWith("/>")).length ?? 0;
  const closed = inner.match(/<\/v:[a-z]+>/gi)?.length ?? 0;
  if (opened !== closed) return null;
  const root = parseDocument(inner, { decodeEntities: true, recognizeSelfClosing: true });
  // Its words are those of the button beside it, which the text part has.
  const drawn = drawing(root.children, { ...writing, text: [] });
  return /<v:/.test(drawn) ? `<!--[if ${condition.toLowerCase()}]>${drawn}<![endif]-->` : null;
}

function drawing(children: readonly ChildNode[], writing: Writing): string {
  return children
    .map((child) => {
      if (isText(child)) return escapeHtml(child.data);
      if (!isTag(child)) return "";
      const name = child.name.toLowerCase();
      if (!DRAWN.has(name))
        return TAGS.has(name)
          ? `<${name}${attributes(child, name, writing)}>${VOID.has(name) ? "" : `${drawing(child.children, writing)}</${name}>`}`
          : drawing(child.children, writing);
      let written = "";
      for (const [given, value] of Object.entries(child.attribs)) {
        const key = given.toLowerCase();
        if (key === "style") {
          const style = value.replace(/[^\w\s:;.%#-]/g, "");
          if (style !== "") written += ` style="${escapeHtml(style)}"`;
        } else if (key === "href") {
          if (isSafeHref(strip(value))) written += ` href="${escapeHtml(strip(value))}"`;
        } else if (key === "src") {
          if (isPicture(strip(value))) written += ` src="${escapeHtml(strip(value))}"`;
        } else if (DRAWN_ATTRIBUTES.test(key)) written += ` ${key}="${escapeHtml(value)}"`;
      }
      return `<${name}${written}>${drawing(child.children, writing)}</${name}>`;
    })
    .join("");
}

function element(it: Element, parent: string | null, writing: Writing): string {
  const { note, text } = writing;
  const name = it.name.toLowerCase();
  if (SWALLOWED.has(name)) {
    if (!UNREMARKABLE.has(name)) note(`<${printable(name)}>`);
    return "";
  }
  if (!TAGS.has(name)) {
    if (!UNREMARKABLE.has(name)) note(`<${printable(name)}>`);
    attributes(it, name, writing);
    return nodes(it.children, parent, writing);
  }
  const places = INSIDE[name];
  const misplaced = places
    ? parent === null || !places.includes(parent)
    : parent !== null && TABLE_PARTS.has(parent);
  if (misplaced) {
    note(`<${name}> where no table can have it`);
    // Inside a table there is no place for its content either.
    return parent !== null && TABLE_PARTS.has(parent) ? "" : nodes(it.children, parent, writing);
  }
  const open = `<${name}${attributes(it, name, writing)}>`;
  if (name === "br") text.push("\n");
  if (name === "img") {
    const alt = it.attribs.alt ?? "";
    if (alt !== "") text.push(`[${alt}]`);
  }
  if (VOID.has(name)) return open;
  if (BLOCKS.has(name)) text.push("\n");
  const inner = nodes(it.children, name, writing);
  if (name === "td" || name === "th") text.push(" ");
  if (BLOCKS.has(name)) text.push("\n");
  const href = it.attribs.href;
  if (name === "a" && href && /^https?:/i.test(href.trim())) text.push(` (${href.trim()})`);
  return `${open}${inner}</${name}>`;
}

function attributes(it: Element, tag: string, { note, classes }: Writing): string {
  let html = "";
  for (const [given, value] of Object.entries(it.attribs)) {
    const name = given.toLowerCase();
    if (name === "style") {
      const style = cleanStyle(value, note);
      if (style !== "") html += ` style="${escapeHtml(style)}"`;
    } else if (name === "href" && tag === "a") {
      if (leads(strip(value))) html += ` href="${escapeHtml(strip(value))}"`;
      else if (value.trim() !== "") note("addresses that are not http, https, mailto or tel");
    } else if ((name === "src" && tag === "img") || name === "background") {
      if (isPicture(strip(value))) html += ` ${name}="${escapeHtml(strip(value))}"`;
      else note("pictures that are not fetched by http or https");
    } else if (ATTRIBUTES.has(name)) {
      html += ` ${name}="${escapeHtml(value)}"`;
    } else if (/^on/.test(name)) note("event handlers");
    else if (["action", "formaction", "srcdoc", "http-equiv", "xlink:href", "srcset", "ping"].includes(name))
      note(`“${name}”`);
    else if (name === "class") {
      const names = value.split(/\s+/).flatMap((one) => classes.get(one) ?? []);
      if (names.length > 0) html += ` class="${escapeHtml(names.join(" "))}"`;
      if (names.length < value.split(/\s+/).filter(Boolean).length) note("class and id names");
    } else if (name === "id") note("class and id names");
  }
  if (tag === "img" && it.attribs.alt === undefined) html += ' alt=""';
  return html;
}

/** Without the control characters and spaces that browsers overlook in an address. */
function strip(address: string): string {
  return address
    .replace(/[\u0000-\u0020\u007f-\u00a0\u2028\u2029]+/g, (gap) => (/^ +$/.test(gap) ? " " : ""))
    .trim();
}

function isPicture(src: string): boolean {
  return /^https?:\/\//i.test(src) || /^\/(pictures|glyphs)\/[^/\\]/.test(src) || src.startsWith("{$");
}

/** The declarations of a `style` attribute that are on the list, each checked for what its value may do. */
export function cleanStyle(style: string, note: Note): string {
  const kept: string[] = [];
  for (const declaration of declarations(style)) {
    const colon = declaration.indexOf(":");
    const name = declaration.slice(0, colon).trim().toLowerCase();
    const value = declaration.slice(colon + 1).trim();
    if (colon < 0 || name === "" || value === "") continue;
    if (!PROPERTIES.test(name)) note(`the style “${printable(name)}”`);
    else if (!isHarmless(name, value)) note(`a value of the style “${name}”`);
    else kept.push(`${name}:${value}`);
  }
  return kept.join(";");
}

function isHarmless(name: string, value: string): boolean {
  if (/[\\<>{}@]|\/\*|expression|javascript:|vbscript:|behaviou?r|-moz-binding/i.test(value)) return false;
  if (/^margin/.test(name) && /(^|\s)-/.test(value)) return false;
  const addresses = value.match(/url\s*\(/gi)?.length ?? 0;
  const safe =
    value.match(/url\(\s*(["']?)(https?:\/\/|\/(pictures|glyphs)\/)[^"'()\s]*\1\s*\)/gi)?.length ?? 0;
  return addresses === safe;
}

/** Cuts a style at the semicolons that stand outside of quotes and brackets. */
function declarations(style: string): string[] {
  const parts: string[] = [];
  let part = "";
  let quote = "";
  let depth = 0;
  for (const sign of style) {
    if (quote !== "") {
      if (sign === quote) quote = "";
    } else if (sign === '"' || sign === "'") quote = sign;
    else if (sign === "(") depth++;
    else if (sign === ")") depth = Math.max(0, depth - 1);
    else if (sign === ";" && depth === 0) {
      parts.push(part);
      part = "";
      continue;
    }
    part += sign;
  }
  return [...parts, part];
}

/** The name of something refused, as a note may show it. */
function printable(name: string): string {
  return name.replace(/[^a-z0-9:_-]/gi, "").slice(0, 24) || "unnamed";
}
