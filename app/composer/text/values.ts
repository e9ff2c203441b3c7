import { type AudienceContext, type Contact, predicate, RuleError } from "~/core/audience";
import { type Brand, constantOf, type Either, type Inline, type MergeTag } from "~/core/email";
import { previewAddresses, readerOf, tagValue } from "~/core/personal";

/** What a reader gets for a tag: the value or the fallback; empty when there is neither. */
export function valueWords(tag: MergeTag, contact: Contact, language: string, brand: Brand): string {
  const constant = constantOf(tag, brand);
  if (constant !== undefined) return constant;
  return tagValue(tag, readerOf(contact, language, previewAddresses(""))) ?? tag.fallback;
}

/** The same as it is shown in an editor: with a gap that can be seen and pressed where the reader gets nothing. */
export function tagWords(tag: MergeTag, contact: Contact, language: string, brand: Brand): string {
  return valueWords(tag, contact, language, brand) || NOTHING;
}

/** Words as a reader gets them, without their looks. */
export function lineWords(
  content: readonly Inline[],
  contact: Contact,
  around: { language: string; brand: Brand; audience: AudienceContext },
): string {
  const words = (it: Inline): string =>
    it.type === "text"
      ? it.text
      : it.type === "hardBreak"
        ? " "
        : it.type === "mergeTag"
          ? valueWords(it.attrs, contact, around.language, around.brand)
          : lineWords(wordingFor(it.attrs, contact, around.audience), contact, around);
  return content.map(words).join("");
}

/** Which case a reader gets, from 0; -1 for what everybody else gets. A rule that cannot be answered is met by nobody. */
export function caseFor(
  { cases }: Either<Inline>["attrs"],
  contact: Contact,
  audience: AudienceContext,
): number {
  return cases.findIndex(({ when }) => {
    try {
      return predicate(when, audience)(contact);
    } catch (error) {
      if (error instanceof RuleError) return false;
      throw error;
    }
  });
}

/** The wording that a reader gets. */
export const wordingFor = (
  attrs: Either<Inline>["attrs"],
  contact: Contact,
  audience: AudienceContext,
): Inline[] => attrs.cases[caseFor(attrs, contact, audience)]?.words ?? attrs.otherwise;

export const NOTHING = "(nothing)";
