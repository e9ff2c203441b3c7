import { blockTitle, blockType } from "../blocks";
import {
  type Block,
  blocksOf,
  type Email,
  hrefOfMarks,
  type Inline,
  inlineText,
  linesOf,
  mapLines,
  valueAt,
  type Words,
} from "../email";
import { type Command, commands, plain } from "./commands";

/** One link of the email: where it stands, its words, and where it leads. */
export interface EmailLink {
  block: string;
  /** The path inside the block of the address, or of the words it stands in; null when it cannot be edited here. */
  path: string | null;
  /** Where it stands in words: the line, and the pieces from the first to the one after the last. */
  run?: { line: number; from: number; to: number };
  /** Where that is, as the outline calls it. */
  where: string;
  words: string;
  href: string;
  /** Why it cannot be edited here; null when it can. */
  fixed: string | null;
}

/** All links of an email in reading order. Links of live content are its source's own and not listed. */
export function linksOf(email: Email): EmailLink[] {
  return blocksOf(email).flatMap(blockLinks);
}

function blockLinks(block: Block): EmailLink[] {
  const type = blockType(block.type);
  if (!type) return [];
  const common = { block: block.id, where: blockTitle(block) };
  const placed = (type.links?.(block) ?? []).map(
    (link): EmailLink => ({ ...common, ...link, fixed: link.fixed ?? null }),
  );
  const inWords = type.places(block).flatMap(({ path }) => {
    const words = valueAt(block, path) as Words | undefined;
    const lines = words ? linesOf(words) : [];
    return lines.flatMap((line, at) =>
      runsOf(line).map(
        ({ from, to, href }): EmailLink => ({
          ...common,
          path,
          run: { line: at, from, to },
          words: inlineText(line.slice(from, to)),
          href,
          fixed: null,
        }),
      ),
    );
  });
  return [...placed, ...inWords];
}

/** The runs of pieces that lead to one address. */
function runsOf(line: readonly Inline[]): { from: number; to: number; href: string }[] {
  const runs: { from: number; to: number; href: string }[] = [];
  for (const [index, it] of line.entries()) {
    const href = hrefOfMarks(it);
    if (href === undefined) continue;
    const last = runs.at(-1);
    if (last?.to === index && last.href === href) last.to = index + 1;
    else runs.push({ from: index, to: index + 1, href });
  }
  return runs;
}

/** Gives links other addresses, in one step. */
export const setLinks =
  (changes: readonly { link: EmailLink; href: string }[]): Command =>
  (draft) => {
    for (const { link, href } of changes) {
      const { path, run } = link;
      if (path === null) continue;
      const block = blocksOf(draft).find((it) => it.id === link.block);
      const words = run && block && (valueAt(plain(block), path) as Words | undefined);
      if (run && !words) continue;
      const value =
        run && words
          ? mapLines(words, (line, at) => (at === run.line ? relinked(line, run, href) : line))
          : href;
      commands.setAt(link.block, path, value)(draft);
    }
  };

function relinked(
  line: readonly Inline[],
  { from, to }: { from: number; to: number },
  href: string,
): Inline[] {
  return line.map((it, index) =>
    index < from || index >= to
      ? it
      : {
          ...it,
          marks: it.marks?.map((mark) => (mark.type === "link" ? { ...mark, attrs: { href } } : mark)),
        },
  );
}

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
