/**
 * Words as XLIFF has them: text with inline codes. Marks are paired codes (`pc`), tags and breaks stand-alone ones
 * (`ph`), and so is an either/or, whose cases are sub-flows: units of their own (XLIFF 2.1, 4.7).
 */
import { type Either, type Inline, inlineText, type Mark, same, typedTag } from "../../email";

/** A piece of a line: text, the beginning and end of a paired code, or a code that stands alone. */
export type Token = string | { open: string } | { close: true } | { alone: string };

/** What the codes of a unit stand for, by their ids. */
export interface Codes {
  marks: Map<string, readonly Mark[]>;
  pieces: Map<string, Inline>;
}

export const noCodes = (): Codes => ({ marks: new Map(), pieces: new Map() });

/** How a code that stands alone is shown to whoever translates. */
export function codeWords(piece: Inline): string {
  if (piece.type === "mergeTag") return typedTag(piece.attrs);
  return piece.type === "hardBreak" ? "line break" : inlineText([piece]);
}

/** The eithers of a unit's codes, in order, with their ids. */
export const eithersIn = ({ pieces }: Codes): [id: string, it: Either<Inline>][] =>
  [...pieces].flatMap(([id, it]) => (it.type === "either" ? [[id, it]] : []));

/** Whether two pieces are one for whoever translates: eithers by their rules, for their words are units of their own. */
function samePiece(one: Inline, other: Inline): boolean {
  const bare = ({ marks: _, ...it }: Inline) => it;
  if (one.type !== "either" || other.type !== "either") return same(bare(one), bare(other));
  const rules = (it: Either<Inline>) => it.attrs.cases.map(({ when }) => when);
  return same(rules(one), rules(other));
}

/**
 * A line as tokens. What stands in the codes already, from the source, is named alike; each id stands once in a unit, and
 * a further one of the same has an id of its own (4.2.3.1).
 * @param used the ids that stand in the lines before it
 */
export function tokensOf(line: readonly Inline[], codes: Codes, used: Set<string>): Token[] {
  const tokens: Token[] = [];
  let open: readonly Mark[] | null = null;
  const named = <T>(all: Map<string, T>, it: T, alike: (one: T, other: T) => boolean, prefix: string) => {
    for (const [id, known] of all)
      if (!used.has(id) && alike(known, it)) {
        used.add(id);
        return id;
      }
    const id = `${prefix}${all.size + 1}`;
    all.set(id, it);
    used.add(id);
    return id;
  };
  const marked = (marks: readonly Mark[]) => {
    if (same(open ?? [], marks)) return;
    if (open !== null) tokens.push({ close: true });
    open = marks.length > 0 ? marks : null;
    if (open !== null) tokens.push({ open: named(codes.marks, marks, same, "m") });
  };
  for (const it of line) {
    marked(it.marks ?? []);
    if (it.type !== "text") tokens.push({ alone: named(codes.pieces, it, samePiece, "p") });
    else if (typeof tokens.at(-1) === "string") tokens[tokens.length - 1] += it.text;
    else tokens.push(it.text);
  }
  marked([]);
  return tokens;
}

/** A line read back from tokens; `stray` is told of codes that are not known. */
export function lineOf(
  tokens: readonly Token[],
  { marks, pieces }: Codes,
  within: (id: string, it: Inline) => Inline,
  stray: (id: string) => void,
): Inline[] {
  const line: Inline[] = [];
  const open: (readonly Mark[])[] = [];
  const put = (it: Inline) => {
    const around = open.flat();
    const { marks: _, ...bare } = it;
    const own = around.filter((mark, at) => around.findIndex(({ type }) => type === mark.type) === at);
    const last = line.at(-1);
    if (it.type === "text" && last?.type === "text" && same(last.marks ?? [], own))
      line[line.length - 1] = { ...last, text: last.text + it.text };
    else line.push({ ...bare, ...(own.length > 0 && { marks: own }) } as Inline);
  };
  for (const token of tokens) {
    if (typeof token === "string") {
      if (token !== "") put({ type: "text", text: token });
    } else if ("close" in token) open.pop();
    else if ("open" in token) {
      const known = marks.get(token.open);
      if (!known) stray(token.open);
      open.push(known ?? []);
    } else {
      const known = pieces.get(token.alone);
      if (known) put(within(token.alone, known));
      else stray(token.alone);
    }
  }
  return line;
}
