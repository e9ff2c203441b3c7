import { blockTitle, placedLinksOf, wordsOf } from "../blocks";
import {
  type Block,
  blocksOf,
  caseWordsOf,
  type Email,
  hrefOfMarks,
  type Inline,
  inlineText,
  linesOf,
  mapCaseWords,
  mapLines,
  valueAt,
  type Words,
} from "../email";
import { type Command, commands } from "./commands";

/** One link of the email: where it stands, its words, and where it leads. */
export interface EmailLink {
  block: string;
  /** The path inside the block of the address, or of the words it stands in; null when it cannot be edited here. */
  path: string | null;
  /**
   * Where it stands in words: the line, in an either/or the way there (which piece, which of its words, and
   * so on), and the pieces from the first to the one after the last.
   */
  run?: { line: number; within: readonly number[]; from: number; to: number };
  /** Where that is, as the outline calls it. */
  where: string;
  words: string;
  href: string;
  /** Why it cannot be edited here; null when it can. */
  fixed: string | null;
}

/** All links of an email in reading order. Links of live content are its source's own and not listed. */
export function linksOf(email: Email): EmailLink[] {
  return blocksOf(email).flatMap(linksIn);
}

/** The links of one block. */
export function linksIn(block: Block): EmailLink[] {
  const common = { block: block.id, where: blockTitle(block) };
  const placed = placedLinksOf(block).map(
    (link): EmailLink => ({ ...common, ...link, fixed: link.fixed ?? null }),
  );
  const inWords = wordsOf(block).flatMap(({ path, words }) =>
    linesOf(words).flatMap((line, at) =>
      runsOf(line).map(
        ({ words: pressed, href, ...run }): EmailLink => ({
          ...common,
          path,
          run: { line: at, ...run },
          words: inlineText(pressed),
          href,
          fixed: null,
        }),
      ),
    ),
  );
  return [...placed, ...inWords];
}

interface Run {
  within: readonly number[];
  from: number;
  to: number;
  words: readonly Inline[];
  href: string;
}

/** The runs of pieces that lead to one address, those in either/ors among them. */
function runsOf(line: readonly Inline[], within: readonly number[] = []): Run[] {
  const runs: Run[] = [];
  const inside: Run[] = [];
  for (const [index, it] of line.entries()) {
    const href = hrefOfMarks(it);
    const last = runs.at(-1);
    if (href !== undefined && last?.to === index && last.href === href) last.to = index + 1;
    else if (href !== undefined) runs.push({ within, from: index, to: index + 1, words: [], href });
    if (it.type === "either")
      for (const [which, words] of caseWordsOf(it).entries())
        inside.push(...runsOf(words, [...within, index, which]));
  }
  return [...runs.map((run) => ({ ...run, words: line.slice(run.from, run.to) })), ...inside];
}

/** Gives links other addresses, in one step. */
export const setLinks =
  (changes: readonly { link: EmailLink; href: string }[]): Command =>
  (edit) => {
    for (const { link, href } of changes) {
      const { path, run } = link;
      if (path === null) continue;
      const block = edit.find(link.block);
      const words = run && block && (valueAt(block.node, path) as Words | undefined);
      if (run && !words) continue;
      const value =
        run && words
          ? mapLines(words, (line, at) => (at === run.line ? relinked(line, run, href) : line))
          : href;
      commands.setAt(link.block, path, value)(edit);
    }
  };

function relinked(
  line: readonly Inline[],
  { within: [at, which, ...deeper], from, to }: Pick<Run, "within" | "from" | "to">,
  href: string,
): Inline[] {
  return line.map((it, index): Inline => {
    if (at !== undefined)
      return index === at && it.type === "either"
        ? mapCaseWords(it, (words, one) =>
            one === which ? relinked(words, { within: deeper, from, to }, href) : words,
          )
        : it;
    if (index < from || index >= to) return it;
    const marks = it.marks?.map((mark) => (mark.type === "link" ? { ...mark, attrs: { href } } : mark));
    return { ...it, marks };
  });
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
