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

/** An either/or stands in a letter as if it were data of this name and its number in the words. */
const DIFFERING = "wording_by_reader_";

/** What an answer to written-out words may name besides fields: the either/ors in them. */
export const differingIn = (text: string): ToldField[] =>
  [...new Set(text.match(new RegExp(`(?<=\\{)${DIFFERING}\\d+(?=\\|)`, "g")))].map((key) => ({
    key,
    label: key.replaceAll("_", " "),
  }));

/**
 * Words as an assistant gets them: Markdown with reader data as `{key|otherwise}`; other looks are left out. Of an either/or
 * it gets what everybody else does, and can only keep it, move it or leave it out.
 */
export function writtenOut(words: Words): string {
  let differing = 0;
  const nameOf = () => `${DIFFERING}${++differing}`;
  return isRichDoc(words) ? nodesOut(words.content, "", nameOf) : lineOut(words as readonly Inline[], nameOf);
}

type NameOf = () => string;

function nodesOut(nodes: readonly RichNode[], indent: string, nameOf: NameOf): string {
  return nodes
    .map((node) => {
      if (node.type === "paragraph")
        return lineOut(node.content ?? [], nameOf).replaceAll("\n", `\n${indent}`);
      return node.content
        .map(({ content }, index) => {
          const mark = node.type === "orderedList" ? `${index + 1}. ` : "- ";
          return mark + nodesOut(content, indent + " ".repeat(mark.length), nameOf);
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

/** Longer words in brackets would not be taken for reader data on their way back. */
const shortened = (text: string) => (text.length > 70 ? `${text.slice(0, 69)}…` : text);

/** Signs of Markdown in what stands for those without are left out: the words are put back from where they stood. */
const placeholder = (key: string, otherwise: string) =>
  `{${key}${otherwise === "" ? "" : `|${otherwise.replace(/[\\`*_[\]<>~|&{}\n]/g, " ")}`}}`;

function lineOut(line: readonly Inline[], nameOf: NameOf): string {
  const runs: { text: string; marks: readonly Mark[] }[] = [];
  for (const it of line) {
    const text =
      it.type === "text"
        ? escaped(it.text)
        : it.type === "hardBreak"
          ? "\\\n"
          : it.type === "either"
            ? placeholder(nameOf(), shortened(inlineText([it])) || " ")
            : placeholder(it.attrs.field, it.attrs.fallback);
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

/**
 * The same words, where reader data that stood in those before keeps its fallback and its form, and an either/or
 * all its cases. Of an either/or that is gone meanwhile what everybody else got is left.
 */
export function withTagsOf(words: Words, before: Words): Words {
  const lines = linesOf(before);
  const had = lines.flatMap((line) =>
    [...eachPiece(line)].flatMap((it) => (it.type === "mergeTag" ? [it.attrs] : [])),
  );
  const differing = lines.flatMap((line) => line.filter((it) => it.type === "either"));
  return mapLines(words, (line) =>
    line.flatMap((it): Inline[] => {
      if (it.type !== "mergeTag") return [it];
      if (it.attrs.field.startsWith(DIFFERING)) {
        const kept = differing[Number(it.attrs.field.slice(DIFFERING.length)) - 1];
        const text = it.attrs.fallback.trim();
        return kept ? [kept] : text === "" ? [] : [{ type: "text", text }];
      }
      const attrs = had.find(({ field }) => field === it.attrs.field);
      return [attrs ? { ...it, attrs } : it];
    }),
  );
}
