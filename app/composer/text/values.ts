import type { Contact } from "~/core/audience";
import type { Brand, MergeTag } from "~/core/email";
import { previewAddresses, readerOf, readerValue } from "~/core/personal";

/** The words a tag shows for a reader: the value, or the fallback, or a gap that can be seen and clicked. */
export function tagWords(tag: MergeTag, contact: Contact, language: string, brand: Brand): string {
  if (tag.field === "brand.name") return brand.name;
  if (tag.field === "brand.address") return brand.address;
  return (
    readerValue(tag.field, tag.format, readerOf(contact, language, previewAddresses(""))) ??
    (tag.fallback || "(nothing)")
  );
}
