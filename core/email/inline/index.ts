/**
 * The kinds of inline content, each declared once in a file of its own: its schema, and how it reads as words, counts
 * in an editor and is written. `INLINE_KINDS` is the registry; what is missing in it does not compile.
 */
import { z } from "zod";
import { hardBreak } from "./hard-break";
import type { InlineContext, InlineKind } from "./kind";
import { mergeTag } from "./merge-tag";
import { text } from "./text";

export type Inline =
  | z.infer<typeof text.schema>
  | z.infer<typeof hardBreak.schema>
  | z.infer<typeof mergeTag.schema>;
export type InlineOf<Type extends Inline["type"]> = Extract<Inline, { type: Type }>;

export const INLINE_KINDS: { [Type in Inline["type"]]: InlineKind<InlineOf<Type>> } = {
  text,
  hardBreak,
  mergeTag,
};

/** A run of words, a soft break or a merge tag. */
export const InlineSchema: z.ZodType<Inline> = z.union([text.schema, hardBreak.schema, mergeTag.schema]);

/** The kind a piece is of. */
export function kindOf(it: Inline): InlineKind<Inline> {
  // Each kind's functions take that kind's pieces, and `type` picks the one this piece says it is.
  return INLINE_KINDS[it.type] as unknown as InlineKind<Inline>;
}

export function isInline(it: unknown): it is Inline {
  return typeof it === "object" && it !== null && Object.hasOwn(INLINE_KINDS, String((it as Inline).type));
}

/** The words of inline content: merge tags by their fallback, or their field in angle brackets. */
export function inlineText(content: readonly Inline[]): string {
  return content.map((it) => kindOf(it).words(it)).join("");
}

/** The same with one sign for each thing that cannot be cut, so that offsets can be found again in an editor. */
export function inlineSigns(content: readonly Inline[]): string {
  return content.map((it) => kindOf(it).sign(it)).join("");
}

export { constantOf, type MergeTag, MergeTagSchema, TAG_FORMATS, type TagFormat } from "./merge-tag";
export type { InlineContext };
