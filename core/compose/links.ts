import { blockTitle, cleanCode } from "../blocks";
import { type Block, type Email, type Inline, inlineText, walk } from "../email";
import { type Command, commands } from "./commands";

/** One link of the email: where it stands, its words, and where it leads. */
export interface EmailLink {
  block: string;
  /** The dotted paths inside the block that hold the address: several when its words have different looks. */
  paths: readonly string[];
  /** Where that is, as the outline calls it. */
  where: string;
  words: string;
  href: string;
  /** Why it cannot be edited here; null when it can. */
  fixed: string | null;
}

const PROPERTIES = new Set(["href", "secondHref"]);

/** All links of an email in reading order. Links of live content are its source's own and not listed. */
export function linksOf(email: Email): EmailLink[] {
  const links: EmailLink[] = [];
  for (const it of walk(email)) if (it.kind === "block") links.push(...blockLinks(it.node));
  return links;
}

function blockLinks(block: Block): EmailLink[] {
  const where = blockTitle(block);
  const links: EmailLink[] = [];
  const add = (paths: string[], words: string, href: string, fixed: string | null = null) =>
    links.push({ block: block.id, paths, where, words, href, fixed });
  const visit = (value: unknown, path: string) => {
    if (Array.isArray(value)) {
      if (value.some(isInline)) inlineLinks(value as Inline[], path, add);
      else for (const [index, one] of value.entries()) visit(one, join(path, index));
      return;
    }
    if (typeof value !== "object" || value === null) return;
    const record = value as Record<string, unknown>;
    for (const [key, one] of Object.entries(record)) {
      if (key === "show" || key === "ownText") continue;
      if (PROPERTIES.has(key)) {
        if (typeof one === "string") add([join(path, key)], wordsBeside(record, key), one);
      } else visit(one, join(path, key));
    }
  };
  visit(block, "");
  if (block.type === "footer") add([], String(block.unsubscribeWords), "", "Made for each reader");
  if (block.type === "code") {
    const { html } = cleanCode(block as never);
    for (const [, href, words] of html.matchAll(/<a [^>]*?href="([^"]*)"[^>]*>([\s\S]*?)<\/a>/g)) {
      const plain = words
        .replace(/<[^>]*>/g, " ")
        .replace(/\s+/g, " ")
        .trim();
      add([], plain, href.replaceAll("&amp;", "&"), "Stands in the block’s HTML");
    }
  }
  return links;
}

const join = (path: string, key: string | number) => (path === "" ? String(key) : `${path}.${key}`);

const isInline = (it: unknown) =>
  typeof it === "object" &&
  it !== null &&
  ["text", "hardBreak", "mergeTag"].includes((it as { type: string }).type);

function inlineLinks(
  content: readonly Inline[],
  path: string,
  add: (paths: string[], words: string, href: string) => void,
): void {
  let open: { paths: string[]; words: Inline[]; href: string } | null = null;
  const close = () => {
    if (open) add(open.paths, inlineText(open.words), open.href);
    open = null;
  };
  for (const [index, it] of content.entries()) {
    const at = it.marks?.findIndex((mark) => mark.type === "link") ?? -1;
    const mark = at < 0 ? undefined : it.marks?.[at];
    const href = mark?.type === "link" ? mark.attrs.href : null;
    if (open && href !== (open as { href: string }).href) close();
    if (href === null) continue;
    open ??= { paths: [], words: [], href };
    open.paths.push(`${path}.${index}.marks.${at}.attrs.href`);
    open.words.push(it);
  }
  close();
}

/** What a reader presses: the words that stand in the same thing as the address. */
function wordsBeside(record: Record<string, unknown>, key: string): string {
  const content = key === "secondHref" ? record.second : record.content;
  if (Array.isArray(content)) return inlineText(content as Inline[]);
  for (const name of ["label", "title", "alt", "words"]) {
    const words = record[name];
    if (typeof words === "string" && words !== "") return words;
  }
  return record.src === undefined ? "" : "Picture";
}

/** Gives links other addresses, in one step. */
export const setLinks =
  (changes: readonly { link: EmailLink; href: string }[]): Command =>
  (draft) => {
    for (const { link, href } of changes)
      for (const path of link.paths) commands.setAt(link.block, path, href)(draft);
  };

/** The links whose address holds the words sought, with the address they would get. */
export function replacedLinks(
  links: readonly EmailLink[],
  sought: string,
  instead: string,
): { link: EmailLink; href: string }[] {
  if (sought === "") return [];
  return links
    .filter((link) => link.fixed === null && link.href.includes(sought))
    .map((link) => ({ link, href: link.href.replaceAll(sought, instead) }));
}
