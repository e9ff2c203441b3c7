import { type Filled, fillPlaceholders, type Placeholder, placeholdersIn } from "../apart";
import {
  eachPiece,
  hrefOfMarks,
  type Inline,
  inlineText,
  isRichDoc,
  linesOf,
  type Mark,
  mapLines,
  paragraphOf,
  type RichDoc,
  type RichNode,
  type Words,
} from "../email";
import { type Piece, readMarkdown } from "../writing";
import type { ToldField } from "./wire";

/** Words as an assistant gets them: Markdown with reader data as `{key|otherwise}`; other looks are left out. */
export function writtenOut(words: Words): string {
  return isRichDoc(words) ? nodesOut(words.content, "") : lineOut(words as readonly Inline[]);
}

function nodesOut(nodes: readonly RichNode[], indent: string): string {
  return nodes
    .map((node) => {
      if (node.type === "paragraph") return lineOut(node.content ?? []).replaceAll("\n", `\n${indent}`);
      return node.content
        .map(({ content }, index) => {
          const mark = node.type === "orderedList" ? `${index + 1}. ` : "- ";
          return mark + nodesOut(content, indent + " ".repeat(mark.length));
        })
        .join(`\n${indent}`);
    })
    .join(`\n\n${indent}`);
}

/** What would be read as a sign of Markdown stands behind a backslash. */
const escaped = (text: string) =>
  text
    .replace(/[\\`*_[\]<>~|&]/g, "\\$&")
    .replace(/^(\s*)(?:([-+#=])|(\d+)([.)]))/gm, (_, lead, sign, number, dot) =>
      sign ? `${lead}\\${sign}` : `${lead}${number}\\${dot}`,
    );

function lineOut(line: readonly Inline[]): string {
  const runs: { text: string; marks: readonly Mark[] }[] = [];
  for (const it of line) {
    const text =
      it.type === "text"
        ? escaped(it.text)
        : it.type === "hardBreak"
          ? "\\\n"
          : it.type === "either"
            ? // Wording that differs is read as most get it.
              escaped(inlineText([it]))
            : `{${it.attrs.field}${it.attrs.fallback === "" ? "" : `|${it.attrs.fallback.replace(/[{}|\n]/g, " ")}`}}`;
    const marks = it.type === "hardBreak" ? [] : (it.marks ?? []);
    const last = runs.at(-1);
    if (last && look(last.marks) === look(marks)) last.text += text;
    else runs.push({ text, marks });
  }
  return runs.map(({ text, marks }) => dressed(text, marks)).join("");
}

const is = (marks: readonly Mark[], type: Mark["type"]) => marks.some((mark) => mark.type === type);
const look = (marks: readonly Mark[]) =>
  `${is(marks, "bold")} ${is(marks, "italic")} ${hrefOfMarks({ marks: [...marks] }) ?? ""}`;

function dressed(text: string, marks: readonly Mark[]): string {
  const [, lead, said, tail] = /^(\s*)([\s\S]*?)(\s*)$/.exec(text)!;
  if (said === "") return text;
  const href = hrefOfMarks({ marks: [...marks] });
  let words = is(marks, "italic") ? `*${said}*` : said;
  if (is(marks, "bold")) words = `**${words}**`;
  if (href !== undefined) words = `[${words}](<${href.replace(/[<>\\\n]/g, encodeURIComponent)}>)`;
  return lead + words + tail;
}

/** What no line of a letter may hold: control characters, and signs that turn the direction of all that follows. */
const UNSEEN = /[\u0000-\u0008\u000b-\u001f\u007f-\u009f\u202a-\u202e\u2066-\u2069\ufeff\ufffc]/g;

/** What came, without characters that are not words. */
export const cleaned = (text: string): string =>
  text.replace(/\r\n?/g, "\n").replace(UNSEEN, "").toWellFormed();

/** A subject or preheader with more characters is none. */
export const LONGEST_LINE = 400;

/** Lines of the envelope have no looks. */
export const bare = (line: readonly Inline[]): Inline[] =>
  line.map((it) => {
    if (it.type === "hardBreak") return it;
    const { marks: _, ...rest } = it;
    return rest;
  });

/** What is said of reader data that names no field. */
export const unknownData = (text: string) => `reader data that is not known here: ${text}`;

/** Reads Markdown as it came. */
export const pieces = (markdown: string): Promise<Piece[]> => readMarkdown(cleaned(markdown));

/** Pieces of writing as paragraphs and lists, for words that may have them; pictures and lines have no place there. */
export function proseOf(read: readonly Piece[]): RichDoc {
  const nodes = read.flatMap((piece): RichNode[] => {
    switch (piece.kind) {
      case "words":
      case "quote":
        return piece.nodes;
      case "heading":
        return [paragraphOf(...piece.content)];
      case "button": {
        const link: Mark = { type: "link", attrs: { href: piece.href } };
        const linked = piece.content.map(
          (it): Inline =>
            it.type === "hardBreak" || piece.href === "" || hrefOfMarks(it)
              ? it
              : { ...it, marks: [...(it.marks ?? []), link] },
        );
        return [paragraphOf(...linked)];
      }
      case "table":
        return piece.rows.map((row) =>
          paragraphOf(
            ...row.flatMap((cell, at): (string | Inline)[] => (at === 0 ? cell : [" · ", ...cell])),
          ),
        );
      default:
        return [];
    }
  });
  return { type: "doc", content: nodes };
}

/** Pieces of writing as one line. */
export function lineOf(read: readonly Piece[]): Inline[] {
  return linesOf(proseOf(read)).flatMap((line, at): Inline[] => [
    ...(at > 0 ? [{ type: "text" as const, text: " " }] : []),
    ...line.map((it): Inline => (it.type === "hardBreak" ? { type: "text", text: " " } : it)),
  ]);
}

/**
 * The same parts with reader data that is named `{key|otherwise}` or in any other brackets.
 * @returns the parts, and what named nothing that is known
 */
export function withReaderData<T extends Parameters<typeof fillPlaceholders>[0]>(
  parts: T,
  fields: readonly ToldField[],
): { parts: T; unknown: string[] } {
  const found = placeholdersIn(parts, fields);
  const known = found.filter((one): one is Placeholder & { field: string } => one.field !== null);
  const filled = Object.fromEntries(
    known.map(({ text, field }): [string, Filled] => [text, { field, fallback: otherwise(text) }]),
  );
  return {
    parts: fillPlaceholders(parts, filled),
    unknown: found.filter(({ field, text }) => field === null && /^\{/.test(text)).map(({ text }) => text),
  };
}

const otherwise = (text: string) => /\|([^|{}]*)\}+$/.exec(text)?.[1].trim() ?? "";

/** The same words, where reader data that stood in those before keeps its fallback and its form. */
export function withTagsOf(words: Words, before: Words): Words {
  const had = linesOf(before).flatMap((line) =>
    [...eachPiece(line)].flatMap((it) => (it.type === "mergeTag" ? [it.attrs] : [])),
  );
  return mapLines(words, (line) =>
    line.map((it) => {
      const attrs = it.type === "mergeTag" ? had.find(({ field }) => field === it.attrs.field) : undefined;
      return it.type === "mergeTag" && attrs ? { ...it, attrs } : it;
    }),
  );
}
