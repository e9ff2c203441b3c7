import { z } from "zod";
import { blockType, parseEmail, unreadable } from "../blocks";
import {
  type Block,
  type Column,
  type Email,
  mapEmail,
  type Node,
  type Row,
  SCHEMA_VERSION,
  type Section,
} from "../email";
import { freshCopy, type IdMaker } from "./ids";
import type { Carried } from "./places";

/** The type under which a copied part stands in the clipboard. */
export const CLIP_TYPE = "application/x-septima-part";

const ClipSchema = z.object({
  /** The schema it was copied with. */
  septima: z.number().int().min(1).max(SCHEMA_VERSION),
  kind: z.enum(["section", "row", "block"]),
  node: z.looseObject({ id: z.string() }),
});

/** Several blocks as text for the clipboard: they travel in a row of one column. */
export function toClipMany(blocks: readonly Block[]): string {
  const row = { id: "row", columns: [{ id: "column", width: 100, blocks }] };
  return JSON.stringify({ septima: SCHEMA_VERSION, kind: "row", node: row });
}

/**
 * A part of an email as text for the clipboard. Null for what cannot come back from there: columns by themselves, the
 * footer, of which there is one, and a block that cannot be read.
 */
export function toClip(it: Node): string | null {
  if (it.kind === "column") return null;
  if (it.kind === "block" && (blockType(it.node.type)?.fixed || it.node.type === unreadable.type))
    return null;
  return JSON.stringify({ septima: SCHEMA_VERSION, kind: it.kind, node: it.node });
}

/**
 * Reads a part back from the clipboard, with new ids and checked like any document from outside. A footer inside is
 * left out, since an email has one already. Null when it is no part of an email, or nothing is left of it.
 */
export function fromClip(
  text: string,
  newId: IdMaker,
): { kind: Carried["kind"]; node: Section | Row | Block } | null {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return null;
  }
  const clip = ClipSchema.safeParse(json);
  if (!clip.success) return null;
  const { kind, node } = clip.data;
  const row = kind === "row" ? node : { id: "row", columns: [{ id: "column", width: 100, blocks: [node] }] };
  let email: Email;
  try {
    email = parseEmail({
      schema: clip.data.septima,
      language: "en",
      theme: "",
      envelope: { subject: [], preheader: [], sender: { name: [], address: "" } },
      sections: [kind === "section" ? node : { id: "section", rows: [row] }],
    });
  } catch (error) {
    if (error instanceof z.ZodError) return null;
    throw error;
  }
  const [section] = mapEmail(email, (one, at) => {
    if (at !== "column") return one;
    const { blocks, ...column } = one as Column;
    return { ...column, blocks: blocks.filter(({ type }) => type !== "footer") };
  }).sections;
  const [first] = section.rows;
  const found = kind === "section" ? section : kind === "row" ? first : first.columns[0].blocks[0];
  return found && (found as Block).type !== unreadable.type
    ? { kind, node: freshCopy(kind, found, newId) }
    : null;
}
