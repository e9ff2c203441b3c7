/**
 * The kinds of inline content, each declared once in a file of its own: its schema, and how it reads as words, counts
 * in an editor and is written. `INLINE_KINDS` is the registry; what is missing in it does not compile.
 */
import { z } from "zod";
import { caseWordsOf, type Either, eitherKind, eitherSchema, mapCaseWords } from "./either";
import { hardBreak } from "./hard-break";
import type { InlineKind } from "./kind";
import { mergeTag } from "./merge-tag";
import { text } from "./text";

/** A run of words, a soft break or a merge tag. */
type PlainInline =
  | z.infer<typeof text.schema>
  | z.infer<typeof hardBreak.schema>
  | z.infer<typeof mergeTag.schema>;
/** The same, or an either/or. */
export type Inline = PlainInline | Either<Inline>;
type InlineOf<Type extends Inline["type"]> = Extract<Inline, { type: Type }>;

const PlainSchema: z.ZodType<PlainInline> = z.union([text.schema, hardBreak.schema, mergeTag.schema]);

/** So deep either/ors stand in each other at most. */
export const DEEPEST = 4;

function inlineSchema(deep: number): z.ZodType<Inline> {
  return deep === 0 ? PlainSchema : z.union([PlainSchema, eitherSchema(inlineSchema(deep - 1))]);
}

export const InlineSchema = inlineSchema(DEEPEST);

const INLINE_KINDS: { [Type in Inline["type"]]: InlineKind<InlineOf<Type>, Inline> } = {
  text,
  hardBreak,
  mergeTag,
  either: eitherKind(eitherSchema(InlineSchema), inlineText),
};

/** The same words, where either/ors that stand too deep in others are what everybody else gets of them. */
export function notTooDeep(content: readonly Inline[], deepest = DEEPEST): Inline[] {
  return content.flatMap((it): Inline[] => {
    if (it.type !== "either") return [it];
    const within = (words: readonly Inline[]) => notTooDeep(words, Math.max(0, deepest - 1));
    return deepest === 0 ? within(it.attrs.otherwise) : [mapCaseWords(it, within)];
  });
}

/** All pieces of words, those within either/ors among them. */
export function* eachPiece(content: readonly Inline[]): Generator<Inline> {
  for (const it of content) {
    yield it;
    if (it.type === "either") for (const words of caseWordsOf(it)) yield* eachPiece(words);
  }
}

/** The kind a piece is of. */
export function kindOf(it: Inline): InlineKind<Inline, Inline> {
  // Each kind's functions take that kind's pieces, and `type` picks the one this piece says it is.
  return INLINE_KINDS[it.type] as unknown as InlineKind<Inline, Inline>;
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

export { caseWordsOf, type Either, mapCaseWords } from "./either";
