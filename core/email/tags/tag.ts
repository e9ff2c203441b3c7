import { z } from "zod";

/** How a value may be written; which of them apply depends on the field's kind. */
export const TAG_FORMATS = [
  "asIs",
  "capital",
  "upper",
  "lower",
  "dayMonth",
  "longDate",
  "shortDate",
  "weekday",
  "monthYear",
  "year",
  "number",
  "money",
  "list",
] as const;
export type TagFormat = (typeof TAG_FORMATS)[number];

export const MergeTagSchema = z.object({
  /**
   * A contact field by its key, a fact of a record it points to (`branch.phone`), a lookup (`lookup.<key>`), a code
   * (`code.<batch>`), the day (`date.today`), where an item of a source leads (`item.link`), or what is the same for everybody: `brand.…`, `campaign.…`, `sender.…`.
   */
  field: z.string(),
  /** Another field, for readers who lack this. */
  or: z.string().optional(),
  /** What readers get who lack it all. */
  fallback: z.string().max(200).default(""),
  format: z.enum(TAG_FORMATS).default("asIs"),
  /** Of money: its code (ISO 4217). */
  currency: z
    .string()
    .regex(/^[A-Z]{3}$/)
    .optional(),
  /** Of `item.…`: which item, by its source and its id there. */
  of: z.object({ source: z.string().min(1).max(60), item: z.string().min(1).max(2000) }).optional(),
  /** A date is so many days later; earlier below 0. */
  days: z.number().int().min(-9999).max(9999).optional(),
});
/** A placeholder for a reader's data. */
export type MergeTag = z.infer<typeof MergeTagSchema>;
