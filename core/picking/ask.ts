import { z } from "zod";
import { ItemRuleSchema } from "./rule";

/** In which order items come that a rule means, and what that is called. */
export const WAYS = {
  newest: { label: "Newest first" },
  soonest: { label: "Soonest first" },
  cheapest: { label: "Cheapest first" },
  saving: { label: "Biggest saving first" },
  name: { label: "By name" },
  given: { label: "As the source gives them" },
  random: { label: "At random, each reader their own" },
} as const;
export type WayName = keyof typeof WAYS;

export const WaySchema = z.object({
  by: z.enum(Object.keys(WAYS) as [WayName, ...WayName[]]),
  /** Which items it is about; all that the list is about when missing. */
  filter: ItemRuleSchema.optional(),
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
  /** Also what is sold out. */
  sold: z.boolean(),
});
/** What a list of an email asks: how many items of a source, which, and in which order. */
export type ListAsk = z.infer<typeof ListAskSchema>;
