import { z } from "zod";
import { ItemRuleSchema } from "./rule";

/**
 * What leads a list to items. Some put what a rule means in an order that is the same for all; the others follow from what
 * readers did: `days` is how far back they look, `by` says that they go by one of the reader's fields.
 */
export const WAYS = {
  newest: { label: "Newest first" },
  soonest: { label: "Soonest first" },
  cheapest: { label: "Cheapest first" },
  saving: { label: "Biggest saving first" },
  name: { label: "By name" },
  given: { label: "As the source gives them" },
  random: { label: "At random, each reader their own" },
  popular: { label: "Popular", days: 30 },
  near: { label: "Popular where the reader belongs", days: 90, by: true },
  seen: { label: "Looked at and not bought", days: 30 },
  goesWith: { label: "Goes with what they bought", days: 365 },
  like: { label: "Like what they looked at", days: 30 },
  due: { label: "Bought before and due again", days: 365 },
  back: { label: "Back in stock", days: 14 },
  dropped: { label: "Price dropped", days: 14 },
} as const satisfies Record<string, { label: string; days?: number; by?: true }>;
export type WayName = keyof typeof WAYS;

/** How far back a way looks where nothing else is said, in days; null for one that looks at no time. */
export function daysOf(by: WayName): number | null {
  const way = WAYS[by];
  return "days" in way ? way.days : null;
}

export const WaySchema = z.object({
  by: z.enum(Object.keys(WAYS) as [WayName, ...WayName[]]),
  /** Which items it is about; all that the list is about when missing. */
  filter: ItemRuleSchema.optional(),
  /** How far back it looks. */
  days: z.number().int().min(1).max(400).optional(),
  /** The reader's field it goes by. */
  field: z.string().max(60).optional(),
});
/** One way of a list to find items: those that meet a rule, in an order. */
export type Way = z.infer<typeof WaySchema>;

export const ListAskSchema = z.object({
  /** Which list of the email it is. */
  block: z.string(),
  source: z.string(),
  /** One after the other, until there are enough. */
  ways: z.array(WaySchema).min(1).max(6),
  filter: ItemRuleSchema.optional(),
  count: z.number().int().min(1).max(24),
  /** Nothing that stands above it in the same email. */
  apart: z.boolean(),
  /** Nothing that the reader got in so many campaigns before. */
  unsent: z.number().int().min(0).max(50),
  /** Nothing that the reader bought in so many days before. */
  unbought: z.number().int().min(0).max(400),
  /** Also what is sold out. */
  sold: z.boolean(),
  /** Only what has come since the one before. */
  sinceLast: z.boolean().optional(),
});
/** What a list of an email asks: how many items of a source, which, and in which order. */
export type ListAsk = z.infer<typeof ListAskSchema>;

/** Whether a list looks at what its reader bought and looked at, and whether at what all readers bought. */
export function looksAt({ ways, unbought }: ListAsk): { past: boolean; market: boolean } {
  const some = (...names: WayName[]) => ways.some(({ by }) => names.includes(by));
  return {
    past: unbought > 0 || some("seen", "goesWith", "like", "due"),
    market: some("popular", "near", "goesWith", "due"),
  };
}
