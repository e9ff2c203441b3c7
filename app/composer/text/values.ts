import { type AudienceContext, type Contact, predicate } from "~/core/audience";
import { type Brand, constantOf, type Either, type Inline, type MergeTag } from "~/core/email";
import { previewAddresses, readerOf, readerValue } from "~/core/personal";

/** What a reader gets for a tag: the value or the fallback; empty when there is neither. */
export function valueWords(tag: MergeTag, contact: Contact, language: string, brand: Brand): string {
  const constant = constantOf(tag, brand);
  if (constant !== undefined) return constant;
  return (
    readerValue(tag.field, tag.format, readerOf(contact, language, previewAddresses(""))) ?? tag.fallback
  );
}

/** The same as it is shown in an editor: with a gap that can be seen and pressed where the reader gets nothing. */
export function tagWords(tag: MergeTag, contact: Contact, language: string, brand: Brand): string {
  return valueWords(tag, contact, language, brand) || NOTHING;
}

/** Words as a reader gets them, without their looks. @throws RuleError when a wording's rule cannot be answered */
export function lineWords(
  content: readonly Inline[],
  contact: Contact,
  around: { language: string; brand: Brand; audience: AudienceContext },
): string {
  return content
    .map((it) => {
      switch (it.type) {
        case "text":
          return it.text;
        case "hardBreak":
          return " ";
        case "mergeTag":
          return valueWords(it.attrs, contact, around.language, around.brand);
        case "either":
          return lineWords(wordingFor(it, contact, around.audience), contact, around);
      }
    })
    .join("");
}

/** The wording that a reader gets. @throws RuleError */
export function wordingFor(it: Either<Inline>, contact: Contact, audience: AudienceContext): Inline[] {
  const { cases, otherwise } = it.attrs;
  return cases.find(({ when }) => predicate(when, audience)(contact))?.words ?? otherwise;
}

export const NOTHING = "(nothing)";
