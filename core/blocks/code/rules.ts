/**
 * Rules for phones and for dark that come with a letter kept whole: only they need a style sheet, since all else stands
 * in the elements. Written anew from what is allowed, and for the block alone.
 */
import { cleanStyle, type Note, TAGS } from "./clean";

export interface OwnRules {
  /** For the style block; empty when nothing is left. */
  css: string;
  /** The names of classes that the rules speak of, as the letter writes them. */
  classes: ReadonlySet<string>;
  /** Whether they make something of narrow windows. */
  narrow: boolean;
}

/** What a class of the letter is called in the message, where it stands beside others. */
export const ownClass = (name: string) => `o-${name}`;

/** The class that the rules of a block begin with. */
export const scopeOf = (id: string) => `own-${id.replace(/[^\w-]/g, "")}`;

/** Conditions under which rules may count: the width of the window, and dark. */
const CONDITION =
  /^(?:(?:only )?(?:screen|all)(?: and )?)?(?:\((?:(?:min|max)-(?:device-)?width ?: ?[\d.]+(?:px|em)|prefers-color-scheme ?: ?(?:dark|light)|-webkit-[\w-]+ ?: ?[\d.]+)\)(?: and )?)*$/i;
const NAME = "[a-zA-Z_][\\w-]*";
/** One part of a selector: an element, a class or several, and what browsers know of it being the first or the last. */
const SIMPLE = new RegExp(`^(\\*|[a-z][a-z0-9]*)?((?:\\.${NAME})*)((?::(?:first|last)-child)?)$`);

/** Pairs of what stands before braces and what stands in them, at one level. */
function blocksOf(css: string): { head: string; body: string }[] {
  const found: { head: string; body: string }[] = [];
  let depth = 0;
  let head = "";
  let body = "";
  for (const sign of css) {
    if (sign === "{") {
      if (depth++ === 0) continue;
    } else if (sign === "}") {
      if (depth === 0) continue;
      if (--depth === 0) {
        found.push({ head: head.trim(), body });
        head = "";
        body = "";
        continue;
      }
    } else if (sign === ";" && depth === 0) {
      // A rule without braces, such as an import.
      head = "";
      continue;
    }
    if (depth === 0) head += sign;
    else body += sign;
  }
  return found;
}

/** A selector within the block; null when it speaks of what is not allowed. */
function scoped(selector: string, scope: string, classes: Set<string>): string | null {
  const parts = selector
    .replace(/\s*>\s*/g, " > ")
    .trim()
    .split(/\s+/);
  const written: string[] = [];
  for (const part of parts) {
    if (part === ">" || part === "+") {
      if (part === "+" || written.length === 0) return null;
      written.push(part);
      continue;
    }
    const [, element = "", names = "", place = ""] = SIMPLE.exec(part) ?? [];
    if (element === "" && names === "") return null;
    if (element !== "" && element !== "*" && element !== "body" && element !== "html" && !TAGS.has(element))
      return null;
    const own = names.split(".").filter(Boolean);
    for (const name of own) classes.add(name);
    const chain = own.map((name) => `.${ownClass(name)}`).join("");
    // The body of the letter is the block.
    if (element === "body" || element === "html") {
      if (own.length > 0) written.push(chain);
      continue;
    }
    written.push(`${element}${chain}${place}`);
  }
  if (written[0] === ">") written.shift();
  return [`.${scope}`, ...written].join(" ");
}

/** The most that the rules of one block may have, in octets: mail programs drop style blocks that are too large. */
const GREATEST = 8000;

/**
 * The rules of a letter's style sheets that need a style sheet.
 * @param scope the class of the block that they are for
 */
export function ownRules(sheets: string, scope: string, note: Note): OwnRules {
  const classes = new Set<string>();
  let narrow = false;
  let css = "";
  for (const { head, body } of blocksOf(sheets.replace(/\/\*[\s\S]*?\*\//g, "").replace(/<!--|-->/g, ""))) {
    const condition = /^@media\s*(.*)$/is.exec(head)?.[1].replace(/\s+/g, " ").trim();
    if (condition === undefined) continue;
    const conditions = condition.split(/\s*,\s*/).filter((one) => CONDITION.test(one));
    if (conditions.length === 0) {
      if (!/print/i.test(condition)) note("rules for certain screens");
      continue;
    }
    let inside = "";
    for (const rule of blocksOf(body)) {
      if (rule.head.startsWith("@")) continue;
      const style = cleanStyle(rule.body, note);
      if (style === "") continue;
      const selectors = rule.head.split(",").flatMap((selector) => {
        const one = scoped(selector.trim(), scope, classes);
        if (one === null) note("rules for what it does not have here");
        return one === null ? [] : [one];
      });
      if (selectors.length > 0) inside += `${selectors.join(",")}{${style}}`;
    }
    if (inside === "") continue;
    if (/max-(device-)?width/i.test(condition)) narrow = true;
    css += `@media ${conditions.join(",")}{${inside}}`;
  }
  if (css.length > GREATEST) {
    note("rules for certain screens, which are too long for mail programs");
    return { css: "", classes: new Set(), narrow: false };
  }
  return { css, classes, narrow };
}

/** Pictures from this width on fill the window of a phone, in px. */
const WIDE = 300;

/**
 * What keeps a letter that is kept whole within a phone's window, where its own rules do not: tables as wide as there is
 * room, pictures no wider, and cells below each other where it has no rules for phones.
 * @param pictures how wide its pictures say that they are, in px: in a cell a greatest width alone does not bind them
 */
export function withinPhones(scope: string, narrow: boolean, pictures: readonly number[]): string {
  const all = (...elements: string[]) => elements.map((element) => `.${scope} ${element}`).join(",");
  const stacked = `${all("td", "th")}{display:block!important;width:auto!important;box-sizing:border-box}`;
  const wide = [...new Set(pictures)]
    .filter((width) => width >= WIDE)
    .map((width) => `img[width="${width}"]`);
  const filling = wide.length > 0 ? `${all(...wide)}{width:100%!important}` : "";
  return `${filling}${all("table")}{width:100%!important;min-width:0!important;max-width:100%!important}${all("img")}{max-width:100%!important;height:auto!important}${all("td", "th", "div")}{min-width:0!important;max-width:100%!important}${narrow ? `${all("td", "th")}{width:auto!important}` : stacked}`;
}
