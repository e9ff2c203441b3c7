import { z } from "zod";
import { type Rule, RuleSchema } from "../../audience";
import { type Mark, marksShape } from "../marks";
import type { InlineKind } from "./kind";

/** So many cases an either/or has at most besides what everybody else gets. */
const MOST_CASES = 20;
/** So many pieces the words of a case have at most. */
const MOST_PIECES = 200;

/** An either/or: words that differ from reader to reader, with words that may themselves differ. */
export interface Either<Piece> {
  type: "either";
  attrs: {
    /** The first whose rule a reader meets is what they get. */
    cases: { when: Rule; words: Piece[] }[];
    /** What everybody else gets. */
    otherwise: Piece[];
  };
  marks?: Mark[];
}

/** The schema of an either/or whose cases hold words of another schema. */
export const eitherSchema = <Piece>(words: z.ZodType<Piece>): z.ZodType<Either<Piece>> =>
  z.object({
    type: z.literal("either"),
    attrs: z.object({
      cases: z
        .array(z.object({ when: RuleSchema, words: z.array(words).max(MOST_PIECES) }))
        .min(1)
        .max(MOST_CASES),
      otherwise: z.array(words).max(MOST_PIECES).default([]),
    }),
    ...marksShape,
  }) as z.ZodType<Either<Piece>>;

/** All words of it, in the order they are tried. */
export const caseWordsOf = <Piece>({ attrs: { cases, otherwise } }: Either<Piece>): Piece[][] => [
  ...cases.map(({ words }) => words),
  otherwise,
];

/** The same either/or with each of its words, by their places in `caseWordsOf`, made into others. */
export function mapCaseWords<Piece>(
  it: Either<Piece>,
  change: (words: Piece[], which: number) => Piece[],
): Either<Piece> {
  const { cases, otherwise } = it.attrs;
  const attrs = {
    cases: cases.map(({ when, words }, which) => ({ when, words: change(words, which) })),
    otherwise: change(otherwise, cases.length),
  };
  return { ...it, attrs };
}

/** The kind, for pieces of which a function gives the plain words. */
export const eitherKind = <Piece>(
  schema: z.ZodType<Either<Piece>>,
  plain: (words: readonly Piece[]) => string,
): InlineKind<Either<Piece>, Piece> => ({
  schema,
  atom: true,
  words: (it) =>
    caseWordsOf(it)
      .map(plain)
      .findLast((words) => words !== "") ?? "",
  sign: () => "\ufffc",
  write({ attrs: { cases, otherwise } }, { out, part, marks }, inner) {
    const seen = marks && part === "html";
    if (seen) out.raw('<span class="reader-value" data-either="">');
    out.either(
      cases.map(({ when, words }) => ({ when, body: () => inner(words) })),
      () => inner(otherwise),
    );
    if (seen) out.raw("</span>");
  },
});
