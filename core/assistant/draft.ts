import { createBlock } from "../blocks";
import { type Block, equalWidths, type Inline, type Row, type Section } from "../email";
import { isSafeHref } from "../program";
import { blocksFrom } from "../writing";
import {
  AssistantError,
  DraftedSchema,
  PartSchema,
  type PlainPart,
  plainPart,
  readShape,
  type ToldField,
} from "./wire";
import { bare, cleaned, LONGEST_LINE, lineOf, pieces, proseOf, unknownData, withReaderData } from "./words";

/** A first draft, ready to become a design: its body without the footer. */
export interface Draft {
  subject: Inline[];
  preheader: Inline[];
  /** As BCP 47 names it, when the assistant said so. */
  language: string | null;
  section: Section;
  /** In words, what of the draft could not be used. */
  dropped: string[];
}

/** More than anybody reads. */
const MOST_PARTS = 100;

/**
 * Reads a draft as an assistant sent it. A part that is wrong is left out and said.
 * @throws AssistantError when nothing of it can be used
 */
export async function readDraft(
  raw: unknown,
  fields: readonly ToldField[],
  newId: () => string,
): Promise<Draft> {
  const { parts, language, ...lines } = readShape(DraftedSchema, raw);
  const dropped = new Set<string>();
  const row = (columns: Block[][]): Row => {
    const widths = equalWidths(columns.length);
    return {
      id: newId(),
      columns: columns.map((blocks, at) => ({ id: newId(), width: widths[at], blocks })),
    };
  };
  const known = <T extends Block[] | Inline[]>(made: T): T => {
    const { parts: filled, unknown } = withReaderData(made, fields);
    for (const text of unknown) dropped.add(unknownData(text));
    return filled;
  };
  const plain = async (part: PlainPart): Promise<Block[]> => known(await blocksOfPart(part, newId, dropped));
  const rows: Row[] = [];
  let running: Block[] = [];
  const flush = () => {
    if (running.length > 0) rows.push(row([running]));
    running = [];
  };
  if (parts.length > MOST_PARTS)
    dropped.add(`what came after the first ${MOST_PARTS} of ${parts.length} parts`);
  for (const one of parts.slice(0, MOST_PARTS)) {
    const part = PartSchema.safeParse(one).data;
    if (!part) dropped.add(strangePart(one));
    else if (part.kind !== "columns") running.push(...(await plain(part)));
    else {
      flush();
      const columns: Block[][] = [];
      for (const column of part.columns) {
        const blocks: Block[] = [];
        for (const inner of column.slice(0, MOST_PARTS)) {
          const read = plainPart(inner);
          if (read) blocks.push(...(await plain(read)));
          else dropped.add(strangePart(inner));
        }
        columns.push(blocks);
      }
      if (columns.some((blocks) => blocks.length > 0)) rows.push(row(columns));
    }
  }
  flush();
  if (rows.length === 0) throw new AssistantError("the draft holds no part that could be used");
  const line = async (name: "subject" | "preheader") => {
    const text = cleaned(lines[name]).replace(/\s+/g, " ").trim();
    if (text.length <= LONGEST_LINE) return bare(known(lineOf(await pieces(text))));
    dropped.add(`a ${name} of ${text.length} characters`);
    return [];
  };
  return {
    subject: await line("subject"),
    preheader: await line("preheader"),
    language: language && /^[a-z]{2,3}(-[a-z0-9]{2,8})*$/i.test(language) ? language : null,
    section: { id: newId(), rows },
    dropped: [...dropped],
  };
}

function strangePart(part: unknown): string {
  const kind = typeof part === "object" && part !== null ? (part as { kind?: unknown }).kind : undefined;
  return typeof kind === "string"
    ? `a part of the kind “${cleaned(kind).slice(0, 40)}”`
    : "a part of no kind";
}

async function blocksOfPart(part: PlainPart, newId: () => string, dropped: Set<string>): Promise<Block[]> {
  switch (part.kind) {
    case "heading":
      return [
        { ...createBlock("heading", newId()), level: part.level, content: lineOf(await pieces(part.text)) },
      ];
    case "words":
      return blocksFrom(await pieces(part.text), newId);
    case "button": {
      const safe = isSafeHref(part.href.trim());
      if (!safe && part.href.trim() !== "")
        dropped.add(`where “${cleaned(part.text).slice(0, 60)}” would lead`);
      return [
        {
          ...createBlock("button", newId()),
          content: bare(lineOf(await pieces(part.text))),
          href: safe ? part.href.trim() : "",
        },
      ];
    }
    case "picture":
      return [{ ...createBlock("image", newId()), alt: cleaned(part.about).trim() }];
    case "quote": {
      const by = part.by.trim() === "" ? [] : lineOf(await pieces(part.by));
      return [
        {
          ...createBlock("quote", newId()),
          content: proseOf(await pieces(part.text)),
          source: by,
          off: by.length > 0 ? [] : ["source"],
        },
      ];
    }
    case "divider":
      return [createBlock("divider", newId())];
  }
}
