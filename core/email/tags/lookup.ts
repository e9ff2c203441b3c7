/** Lookups: named values that depend on rules, worked out from the top. What they say is typed, with tags. */
import { z } from "zod";
import { FieldKeySchema, RuleSchema } from "../../audience";

/** What a lookup's values consist of, by its kind; the first part is what a tag without a part means. */
export const LOOKUP_PARTS = {
  text: ["text"],
  link: ["address"],
  picture: ["picture", "alt"],
  person: ["name", "address", "portrait"],
} as const;
export type LookupKind = keyof typeof LOOKUP_PARTS;
const LOOKUP_KINDS = Object.keys(LOOKUP_PARTS) as LookupKind[];

/** One value: its parts by their names. */
const ValueSchema = z.record(z.string().max(20), z.string().max(2000));
export type LookupValue = z.infer<typeof ValueSchema>;

export const LookupSchema = z.object({
  /** As tags name it, after `lookup.`. */
  key: FieldKeySchema,
  name: z.string().trim().min(1).max(100),
  kind: z.enum(LOOKUP_KINDS),
  /** The first whose rule a reader meets is what they get. */
  cases: z.array(z.object({ name: z.string().max(100), when: RuleSchema, value: ValueSchema })).max(200),
  /** What everybody else gets. */
  otherwise: ValueSchema,
});
export type Lookup = z.infer<typeof LookupSchema>;

const PREFIX = "lookup.";

/** Which lookup a tag means and which part of its value; null when it means none. */
export function lookupNamed(
  field: string,
  lookups: readonly Lookup[] = [],
): { lookup: Lookup; part: string } | null {
  if (!field.startsWith(PREFIX)) return null;
  const [key, part] = field.slice(PREFIX.length).split(".");
  const lookup = lookups.find((one) => one.key === key);
  if (!lookup) return null;
  const parts: readonly string[] = LOOKUP_PARTS[lookup.kind];
  return part === undefined || parts.includes(part) ? { lookup, part: part ?? parts[0] } : null;
}

/** The tags that a lookup can be asked by. */
export const lookupTags = ({ key, kind }: Pick<Lookup, "key" | "kind">): { field: string; part: string }[] =>
  LOOKUP_PARTS[kind].map((part, index) => ({
    field: index === 0 ? `${PREFIX}${key}` : `${PREFIX}${key}.${part}`,
    part,
  }));
