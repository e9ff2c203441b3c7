/**
 * A complete letter in HTML taken apart: what it says, where it stands and how it looks become sections, rows, columns
 * and blocks, and its look a theme.
 *
 * `takeApart` does it; `placeholdersIn` and `fillPlaceholders` find what another program would have filled in, and fill
 * it with ours; `lettersWords` gives the words of HTML in reading order, to compare.
 */
import { type ChildNode, type Element, isTag } from "domhandler";
import { parseDocument } from "htmlparser2";
import type { Section, Theme } from "../email";
import { broughtHref } from "../program";
import { commentsIn, seen, within, wordsIn } from "./dom";
import { isHidden } from "./look";
import { made } from "./make";
import { Reader } from "./read";
import { habitOf, themeOf } from "./theme";

export { type Filled, fillPlaceholders, meantField, type Placeholder, placeholdersIn } from "./placeholders";

/** What a letter turned into. */
export interface Apart {
  /** Of `title`; empty when there is none. */
  subject: string;
  preheader: string;
  language: string | null;
  sections: Section[];
  /** A theme that looks as the letter did. */
  theme: Theme;
  /** What is not as it was, in plain words. */
  lost: string[];
}

const elementNamed = (nodes: readonly ChildNode[], name: string): Element | null => {
  for (const node of nodes) {
    if (!isTag(node)) continue;
    if (node.name === name) return node;
    const inside = elementNamed(node.children, name);
    if (inside) return inside;
  }
  return null;
};

const all = (nodes: readonly ChildNode[]): Element[] =>
  nodes.flatMap((node) => (isTag(node) ? [node, ...all(node.children)] : []));

/**
 * Takes a letter apart.
 * @param html with the rules of its style sheets written into its elements already
 * @param sheets the style sheets, for what is said of what they did
 */
export function takeApart(html: string, sheets: string, newId: () => string, name: string): Apart {
  const document = parseDocument(html, { decodeEntities: true });
  const found = elementNamed(document.children, "body");
  const body = found ?? ({ name: "body", attribs: {}, children: document.children } as unknown as Element);
  const reader = new Reader();
  reader.read(body);
  const vml = vmlButtons(body);
  const { bands, noticed } = reader;
  const habit = habitOf(bands);
  const [linkColour = null] = ranked(noticed.links.filter((color) => color !== habit.color));
  const theme = themeOf(bands, habit, linkColour, reader.width, `From ${name.slice(0, 60)}`);
  const { sections, unsubscribe, webVersion } = made(bands, habit, theme, newId);
  const title = elementNamed(document.children, "title");
  const root = elementNamed(document.children, "html");
  const words = (count: number, one: string, many: string) => (count === 1 ? one : `${count} ${many}`);
  const everything = all(body.children);
  const has = (names: RegExp) => everything.filter((element) => names.test(element.name)).length;
  const lost: string[] = [];
  const say = (condition: boolean, text: string) => {
    if (condition) lost.push(text);
  };
  say(
    noticed.counters > 0,
    words(
      noticed.counters,
      "a picture that shows nothing and counts openings or holds a place",
      "pictures that show nothing and count openings or hold places",
    ),
  );
  say(noticed.nested > 0, "what stood side by side within a column stands one below the other");
  say(unsubscribe !== null, `the link “${unsubscribe}”: Septima’s own takes its place in the footer`);
  say(webVersion !== null, `where “${webVersion}” led: to the letter as it was sent then`);
  say(has(/^(form|input|select|textarea)$/) > 0, "forms and fields: mail programs hardly show them");
  say(has(/^(script|iframe|object|embed)$/) > 0, "scripts and what was embedded from elsewhere");
  say(has(/^(video|audio)$/) > 0, "films and sounds: use a video block with a still");
  say(has(/^svg$/) > 0, "drawings written into the HTML: mail programs do not show them");
  say(/@media[^{]*(max|min)-(device-)?width/i.test(sheets), "its rules for phones: blocks bring their own");
  say(/prefers-color-scheme/i.test(sheets), "its colours for dark: the theme’s are used");
  say(
    /@font-face|@import/i.test(sheets) || /<link[^>]+(fonts?|css)[^>]*>/i.test(html),
    "fonts it fetched: name them in the brand to use them again",
  );
  say(
    /@keyframes|animation\s*:|transition\s*:|:hover/i.test(sheets),
    "motion, and what happened under the pointer",
  );
  say(
    vml.missing.length > 0,
    `${words(vml.missing.length, "a button", "buttons")} that only one mail program showed: ${vml.missing.join(", ")}`,
  );
  say(
    /text-transform\s*:\s*(upper|lower)case|font-variant\s*:\s*small-caps/i.test(html),
    "capitals that a style made: words stand as they are written",
  );
  say(/letter-spacing\s*:\s*[^0;\s]/i.test(html), "space between letters");
  const behind = bands.some(({ picture }) => picture !== null);
  say(behind, "the exact place of pictures behind content");
  const hollow = all(body.children).filter(
    (element) =>
      element.name === "a" && /^#/.test(element.attribs.href ?? "") && wordsIn(element.children) !== "",
  );
  say(hollow.length > 0, `${words(hollow.length, "a link", "links")} to places within the letter`);
  const unsafe = everything.filter(
    (element) =>
      element.name === "a" &&
      (element.attribs.href ?? "").trim() !== "" &&
      !/^#/.test(element.attribs.href) &&
      broughtHref(element.attribs.href) === null,
  );
  say(
    unsafe.length > 0,
    `${words(unsafe.length, "a link", "links")} with an address that is none: ${unsafe
      .slice(0, 3)
      .map(({ attribs }) => attribs.href.slice(0, 40))
      .join(", ")}`,
  );
  return {
    subject: title ? raw(title).trim().slice(0, 300) : "",
    preheader: preheaderIn(body),
    language: root?.attribs.lang?.trim() || null,
    sections,
    theme,
    lost,
  };
}

function ranked(values: readonly string[]): string[] {
  const counts = new Map<string, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  return [...counts].sort((one, other) => other[1] - one[1]).map(([value]) => value);
}

const raw = (element: Element): string =>
  element.children.map((child) => ("data" in child ? String(child.data) : "")).join("");

/** The words that are hidden at the beginning of a letter, which the inbox shows behind the subject. */
function preheaderIn(body: Element): string {
  const first = all(body.children).slice(0, 60);
  for (const element of first) {
    if (!isHidden(element) || /^(script|style|title)$/.test(element.name)) continue;
    const words = wordsOfHidden(element.children)
      .replace(/[\s\u00a0\u200b-\u200f\u00ad\u2007\ufeff]|\u034f/g, " ")
      .replace(/ +/g, " ")
      .trim();
    if (words !== "") return words.slice(0, 300);
  }
  return "";
}

const wordsOfHidden = (nodes: readonly ChildNode[]): string =>
  nodes
    .map((node) =>
      isTag(node)
        ? wordsOfHidden(node.children)
        : node.type === "text"
          ? (node as { data: string }).data
          : "",
    )
    .join("");

/** Buttons that are drawn for the word-processor engine, in comments; those that nothing else shows. */
function vmlButtons(body: Element): { missing: string[] } {
  const shown = new Set(within(body, ({ name }) => name === "a").map(({ attribs }) => attribs.href?.trim()));
  const missing = commentsIn(body.children).flatMap((comment) =>
    [
      ...comment.matchAll(/<v:(?:round)?rect[^>]*href=["']([^"']+)["'][\s\S]*?<\/v:(?:round)?rect>/gi),
    ].flatMap(([whole, href]) => {
      if (shown.has(href.trim())) return [];
      const words = whole
        .replace(/<[^>]*>/g, " ")
        .replace(/\s+/g, " ")
        .trim();
      return words === "" ? [] : [`“${words}” (${href})`];
    }),
  );
  return { missing };
}

/** The words that a letter shows, in reading order, to compare what was taken with what was there. */
export function lettersWords(html: string): string[] {
  const document = parseDocument(html, { decodeEntities: true });
  const body = elementNamed(document.children, "body");
  const text = wordsIn(body ? body.children : seen(document.children));
  return text.match(/[\p{L}\p{N}]+/gu) ?? [];
}

/** The name of the file that an address leads to, in small letters: its end, or what a `cid:` names. */
export function fileNameOf(address: string): string {
  const end =
    address
      .replace(/[?#].*$/, "")
      .split(/[\\/:]/)
      .at(-1) ?? address;
  try {
    return decodeURIComponent(end).toLowerCase();
  } catch {
    return end.toLowerCase();
  }
}
