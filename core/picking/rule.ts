/** Which items of a source are meant: by their own facts, and by what they share with a reader. */
import { z } from "zod";
import {
  type Contact,
  describeRule,
  type FieldDef,
  type FieldRule,
  type RuleNames,
  RuleSchema,
  type Words,
} from "../audience";
import { costs, type Item, type ItemFact, savingPercent } from "../items";

/** How a fact of an item can stand to one of a reader's fields. */
export const LIKENESSES = {
  shares: { words: "is the reader’s own", of: "words" },
  sharesNot: { words: "is not the reader’s own", of: "words" },
  atLeast: { words: "is at least the reader’s", of: "amounts" },
  atMost: { words: "is at most the reader’s", of: "amounts" },
} as const;
export type Likeness = keyof typeof LIKENESSES;

const LikeRuleSchema = z.object({
  kind: z.literal("like"),
  /** Of the item. */
  field: z.string(),
  op: z.enum(Object.keys(LIKENESSES) as [Likeness, ...Likeness[]]),
  /** The reader's field it is compared with. */
  reader: z.string(),
});
/**
 * Compares a fact of an item with what a reader has. Words are shared where one of the item's is one of the reader's,
 * whatever their case; of who has nothing, no item shares anything, is at least or at most anything.
 */
export type LikeRule = z.infer<typeof LikeRuleSchema>;

export type ItemRule = { kind: "all" | "any" | "none"; of: ItemRule[] } | FieldRule | LikeRule;
/** A line of such a rule. */
export type ItemTest = Exclude<ItemRule, { of: ItemRule[] }>;

const FieldTestSchema = RuleSchema.refine((rule) => rule.kind === "field", "not a test of a fact");

export const ItemRuleSchema: z.ZodType<ItemRule> = z.lazy(() =>
  z.union([
    z.object({ kind: z.enum(["all", "any", "none"]), of: z.array(ItemRuleSchema).max(100) }),
    LikeRuleSchema,
    FieldTestSchema as unknown as z.ZodType<FieldRule>,
  ]),
);

/** The facts that every item may have, as fields that rules ask. */
const SHARED: readonly FieldDef[] = [
  { key: "category", label: "Category", kind: "set" },
  { key: "tags", label: "Tags", kind: "set" },
  { key: "price", label: "Price", kind: "money" },
  { key: "saving", label: "Saving in percent", kind: "number" },
  { key: "stock", label: "Stock", kind: "number" },
  { key: "date", label: "Date", kind: "date" },
  { key: "place", label: "Place", kind: "text" },
  { key: "title", label: "Title", kind: "text" },
  { key: "text", label: "Text", kind: "text" },
];

/** What can be asked of the items of a source that has these further facts. */
export function itemFields(facts: readonly ItemFact[]): FieldDef[] {
  return [...SHARED, ...facts.map(({ key, label, kind }) => ({ key: `fact.${key}`, label, kind }))];
}

/** A fact of an item, as a field's value: dates are days, in UTC. */
export function itemValue(item: Item, field: string): unknown {
  switch (field) {
    case "price":
      return costs(item);
    case "saving":
      return savingPercent(item);
    case "date":
      return item.date?.slice(0, 10) ?? null;
    case "category":
    case "tags":
    case "stock":
    case "place":
    case "title":
    case "text":
      return item[field];
    default:
      return field.startsWith("fact.") ? item.facts[field.slice(5)] : undefined;
  }
}

/** An item as what tests of fields are asked of. */
export function asAsked(item: Item): Contact {
  const fields = new Proxy<Record<string, unknown>>({}, { get: (_, key) => itemValue(item, String(key)) });
  return { id: 0, email: "", fields, lists: [] };
}

/** The fields of a reader that a rule asks. */
export function readerFields(rule: ItemRule | undefined): string[] {
  if (!rule) return [];
  if ("of" in rule) return [...new Set(rule.of.flatMap(readerFields))];
  return rule.kind === "like" ? [rule.reader] : [];
}

const JOINTS = { all: " and ", any: " or ", none: " or " } as const;

/**
 * Spells out which items a rule means, as the end of a sentence that starts with "Items".
 * @param items what can be asked of the items; `readers` of readers
 */
export function describeItemRule(
  rule: ItemRule,
  items: readonly FieldDef[],
  readers: readonly FieldDef[],
): Words {
  if ("of" in rule) {
    if (rule.of.length === 0) return [{ text: rule.kind === "any" ? "none" : "all of them" }];
    const parts = rule.of.flatMap((part, at): Words => {
      const inner = describeItemRule(part, items, readers);
      const wrapped: Words =
        "of" in part && part.of.length > 1 ? [{ text: "(" }, ...inner, { text: ")" }] : inner;
      return at === 0 ? wrapped : [{ text: JOINTS[rule.kind] }, ...wrapped];
    });
    return rule.kind === "none" ? [{ text: "not: " }, ...parts] : parts;
  }
  if (rule.kind === "field") {
    const names: RuleNames = { fields: items, lists: new Map(), segments: new Map() };
    return describeRule(rule, names);
  }
  const called = (fields: readonly FieldDef[], key: string) =>
    (fields.find((field) => field.key === key)?.label ?? `${key} (gone)`).toLowerCase();
  return [
    { text: `whose ${called(items, rule.field)} ` },
    { text: LIKENESSES[rule.op].words },
    { text: ` ${called(readers, rule.reader)}`, strong: true },
  ];
}
