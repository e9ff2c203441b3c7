import { z } from "zod";
import { escapeHtml } from "../../program";
import { marksShape } from "../marks";
import type { BrandFacts, InlineKind } from "./kind";

/** How a value may be written; which of them apply depends on the field's kind. */
export const TAG_FORMATS = [
  "asIs",
  "capital",
  "upper",
  "lower",
  "dayMonth",
  "longDate",
  "number",
  "list",
] as const;
export type TagFormat = (typeof TAG_FORMATS)[number];

export const MergeTagSchema = z.object({
  /** A contact field by its key, or one of the brand's own: `brand.name`, `brand.address`, `brand.address.<key>`, `brand.<key>`. */
  field: z.string(),
  /** Another field, for readers who lack this. */
  or: z.string().optional(),
  /** What readers get who lack it all. */
  fallback: z.string().max(200).default(""),
  format: z.enum(TAG_FORMATS).default("asIs"),
});
/** A placeholder for a reader's data. */
export type MergeTag = z.infer<typeof MergeTagSchema>;

const schema = z.object({ type: z.literal("mergeTag"), attrs: MergeTagSchema, ...marksShape });

/** A brand's own fact is the same for every reader; undefined when the tag asks for the reader's. */
export function constantOf(tag: MergeTag, brand: BrandFacts): string | undefined {
  if (!tag.field.startsWith("brand.")) return undefined;
  const key = tag.field.slice("brand.".length);
  if (key === "name" || key === "address") return brand[key];
  const found = key.startsWith("address.")
    ? brand.addresses?.find((one) => `address.${one.key}` === key)
    : brand.constants?.find((one) => one.key === key);
  // One that is gone is what the tag falls back to, or a gap that is found before sending.
  return found?.text ?? (tag.fallback || undefined);
}

/** A reader's data within words: brand facts are written as they are, the rest is a value of the program. */
export const mergeTag: InlineKind<z.infer<typeof schema>> = {
  schema,
  atom: true,
  words: ({ attrs }) => attrs.fallback || `‹${attrs.field.replaceAll("_", " ")}›`,
  sign: () => "\ufffc",
  write({ attrs: tag }, { out, part, brand, marks }) {
    const constant = constantOf(tag, brand);
    if (constant !== undefined) {
      if (part === "html") out.escaped(constant);
      else out.raw(constant);
      return;
    }
    const slot = { ...tag, sink: part };
    if (marks && part === "html")
      out
        .raw(`<span class="reader-value" data-field="${escapeHtml(tag.field)}">`)
        .value(slot)
        .raw("</span>");
    else out.value(slot);
  },
};
