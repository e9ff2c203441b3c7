/**
 * Two people's changes to the same words, brought together word by word (after diff3: Khanna, Kunal and Pierce, "A
 * formal investigation of diff3", 2007). On the differences of a package; the packages that merge call it a conflict
 * where both add something at one place in the words, which here stands one after the other.
 */
import { diffArrays } from "diff";
import {
  canonical,
  type Inline,
  isRichDoc,
  type ListType,
  mapLines,
  type Paragraph,
  type RichDoc,
  type RichNode,
  same,
  type Words,
} from "../email";

/** A piece that is kept or changed as a whole: a word, what parts words, one thing, or the beginning of a line. */
interface Token {
  /** Equal for equal pieces. */
  key: string;
  inline?: Inline;
  line?: LineStart;
}
interface LineStart {
  paragraph: Omit<Paragraph, "content">;
  /** The lists it stands in, from the outside in, and what begins with it. */
  lists: readonly { type: ListType; begins: "list" | "item" | "nothing" }[];
}

/**
 * Words with the changes of both sides; null where both replaced the same words by others. What both added at one
 * place stands one after the other.
 */
export function mergeWords(base: Words, left: Words, right: Words): Words | null {
  if (isRichDoc(base) !== isRichDoc(left) || isRichDoc(base) !== isRichDoc(right)) return null;
  const [from, one, other] = [base, left, right].map(tokens);
  for (const [words, cut] of [
    [base, from],
    [left, one],
    [right, other],
  ] as const)
    if (!same(fromTokens(cut, isRichDoc(base)), joined(words))) return null;
  // Where there was nothing, two beginnings do not make one text.
  if (!from.some(({ inline }) => inline)) return null;
  const merged = mergeLists(from, one, other);
  return merged && fromTokens(merged, isRichDoc(base));
}

/** The same words with neighbouring pieces of one look joined. */
function joined(words: Words): Words {
  return mapLines(words, (line) => inlinesOf(line.map((inline) => ({ key: "", inline }))));
}

function tokens(words: Words): Token[] {
  if (!isRichDoc(words)) return words.flatMap(inlineTokens);
  const out: Token[] = [];
  const visit = (nodes: readonly RichNode[], lists: LineStart["lists"]) => {
    for (const node of nodes) {
      if (node.type === "paragraph") {
        const { content, ...paragraph } = node;
        const line = { paragraph: content ? { ...paragraph, content: [] as never[] } : paragraph, lists };
        out.push({ key: canonical(line), line }, ...(content ?? []).flatMap(inlineTokens));
        lists = lists.map((list) => ({ ...list, begins: "nothing" }));
        continue;
      }
      for (const [index, item] of node.content.entries()) {
        visit(item.content, [...lists, { type: node.type, begins: index === 0 ? "list" : "item" }]);
        lists = lists.map((list) => ({ ...list, begins: "nothing" }));
      }
    }
  };
  visit(words.content, []);
  return out;
}

function inlineTokens(it: Inline): Token[] {
  if (it.type !== "text") return [{ key: canonical(it), inline: it }];
  const pieces = it.text.match(/[\p{L}\p{N}\p{M}]+|\s+|[^\p{L}\p{N}\p{M}\s]/gu) ?? [];
  return pieces.map((text) => {
    const inline = { ...it, text };
    return { key: canonical(inline), inline };
  });
}

function fromTokens(list: readonly Token[], rich: boolean): Words {
  if (!rich) return inlinesOf(list);
  const content: RichNode[] = [];
  const doc: RichDoc = { type: "doc", content };
  // The list and the item that stand open at each level.
  let open: { type: ListType; items: { type: "listItem"; content: RichNode[] }[] }[] = [];
  let at = 0;
  while (at < list.length) {
    const start = list[at++].line ?? { paragraph: { type: "paragraph" as const, content: [] }, lists: [] };
    let end = at;
    while (end < list.length && !list[end].line) end++;
    let into = content;
    const next: typeof open = [];
    let fresh = false;
    for (const [level, { type, begins }] of start.lists.entries()) {
      let list = fresh || begins === "list" ? undefined : open[level];
      if (list?.type !== type) list = undefined;
      if (!list) {
        list = { type, items: [] };
        into.push({ type, content: list.items });
        fresh = true;
      }
      if (list.items.length === 0 || begins === "item") {
        list.items.push({ type: "listItem", content: [] });
        fresh = true;
      }
      next.push(list);
      into = (list.items.at(-1) as { content: RichNode[] }).content;
    }
    open = next;
    const words = inlinesOf(list.slice(at, end));
    const had = "content" in start.paragraph || words.length > 0;
    into.push({ ...start.paragraph, ...(had && { content: words }) });
    at = end;
  }
  return doc;
}

/** Pieces of the same look become one again. */
function inlinesOf(list: readonly Token[]): Inline[] {
  const out: Inline[] = [];
  for (const { inline } of list) {
    if (!inline) continue;
    const last = out.at(-1);
    if (last?.type === "text" && inline.type === "text" && same(last.marks, inline.marks))
      out[out.length - 1] = { ...last, text: last.text + inline.text };
    else out.push(inline);
  }
  return out;
}

/** What replaces a run of the base. */
interface Hunk {
  from: number;
  to: number;
  tokens: readonly Token[];
}

function mergeLists(base: Token[], left: Token[], right: Token[]): Token[] | null {
  const [ours, theirs] = [hunks(base, left), hunks(base, right)];
  const all: Hunk[] = [...ours];
  for (const hunk of theirs) {
    const clash = ours.filter((other) => touches(hunk, other));
    if (clash.length === 0) all.push(hunk);
    else if (!clash.some((other) => equal(hunk, other))) return null;
  }
  all.sort((a, b) => a.from - b.from || a.to - b.to);
  const out: Token[] = [];
  let at = 0;
  for (const hunk of all) {
    out.push(...base.slice(at, hunk.from), ...hunk.tokens);
    at = Math.max(at, hunk.to);
  }
  return [...out, ...base.slice(at)];
}

const equal = (a: Hunk, b: Hunk) =>
  a.from === b.from && a.to === b.to && same(a.tokens.map(keyOf), b.tokens.map(keyOf));
const keyOf = (token: Token) => token.key;

/** Whether both change the same thing: what is only added beside the other's change does not. */
function touches(a: Hunk, b: Hunk): boolean {
  if (equal(a, b)) return true;
  if (a.from === a.to) return b.from < a.from && a.from < b.to;
  if (b.from === b.to) return a.from < b.from && b.from < a.to;
  return a.from < b.to && b.from < a.to;
}

/** Beyond so many changes the whole is taken for one. */
const MOST_CHANGES = 4000;

function hunks(base: readonly Token[], other: readonly Token[]): Hunk[] {
  const changes = diffArrays(base.map(keyOf), other.map(keyOf), { maxEditLength: MOST_CHANGES });
  if (!changes) return [{ from: 0, to: base.length, tokens: other }];
  const out: Hunk[] = [];
  let [i, j] = [0, 0];
  let open: Hunk | null = null;
  for (const { added, removed, count } of changes) {
    if (!added && !removed) {
      [i, j, open] = [i + count, j + count, null];
      continue;
    }
    if (!open) {
      open = { from: i, to: i, tokens: [] };
      out.push(open);
    }
    if (removed) {
      i += count;
      open.to = i;
    } else {
      open.tokens = [...open.tokens, ...other.slice(j, j + count)];
      j += count;
    }
  }
  return out;
}
