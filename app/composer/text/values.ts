import type { Contact } from "~/core/audience";
import { type Brand, constantOf, type MergeTag } from "~/core/email";
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

export const NOTHING = "(nothing)";
