import { z } from "zod";

/** What a further fact can be; as in contacts' fields, so that rules speak of both in one way. */
export const FACT_KINDS = ["text", "number", "money", "date", "boolean", "set"] as const;
export type FactKind = (typeof FACT_KINDS)[number];

export const ItemFactSchema = z.object({
  key: z.string().min(1).max(60),
  label: z.string().min(1).max(100),
  kind: z.enum(FACT_KINDS),
});
/** A further fact that the items of a source have: what they have besides the parts all items share. */
export type ItemFact = z.infer<typeof ItemFactSchema>;

const FactValueSchema = z.union([z.string(), z.number(), z.boolean(), z.array(z.string())]);
export type FactValue = z.infer<typeof FactValueSchema>;

export const ItemSchema = z.object({
  /** What its source tells it by; its link or title where the source has no number for it. */
  id: z.string().min(1),
  title: z.string(),
  /** Plain text, entities resolved and markup gone. */
  text: z.string(),
  /** An http or https address; empty when the source gave none. */
  link: z.string(),
  picture: z.string().nullable(),
  /** Of the picture, in px; missing where it could not be found out. */
  size: z.object({ width: z.number().positive(), height: z.number().positive() }).optional(),
  /** The address of a film it shows. */
  film: z.string().optional(),
  /** When it was published, or begins: ISO 8601 in UTC, or a day alone; null when the source gave none that can be read. */
  date: z.string().nullable(),
  /** When it ends, written as `date` is. */
  until: z.string().optional(),
  /** The zone it takes place in (IANA). */
  zone: z.string().optional(),
  place: z.string().optional(),
  /** In whole units of its currency. */
  price: z.number().nonnegative().optional(),
  /** What it costs now, where that is less than its price. */
  sale: z.number().nonnegative().optional(),
  /** ISO 4217. */
  currency: z.string().optional(),
  /** How many there are; missing where nobody says, which counts as enough. */
  stock: z.number().int().nonnegative().optional(),
  /** From the broadest to the narrowest. */
  category: z.array(z.string()),
  tags: z.array(z.string()),
  facts: z.record(z.string(), FactValueSchema),
});
/** One thing of a source: an article, a product, an appointment, a record. They differ in their facts, not in their code. */
export type Item = z.infer<typeof ItemSchema>;

/** An item that has nothing but these. */
export function itemOf(given: Partial<Item> & Pick<Item, "id">): Item {
  return {
    title: "",
    text: "",
    link: "",
    picture: null,
    date: null,
    category: [],
    tags: [],
    facts: {},
    ...given,
  };
}

/** What it costs now; null where nobody says. */
export function costs({ price, sale }: Item): number | null {
  return sale ?? price ?? null;
}

/** How much less it costs than usual, as a share of its price from 0 to 1; 0 where it costs the same. */
export function saving({ price, sale }: Item): number {
  return price === undefined || sale === undefined || price <= 0 ? 0 : Math.max(0, 1 - sale / price);
}

/** The same in whole percent. */
export const savingPercent = (item: Item): number => Math.round(saving(item) * 100);

/** Whether its source says that there is none left. */
export function isSoldOut({ stock }: Item): boolean {
  return stock === 0;
}

/** What a source may be, and what its items are called. */
export const SOURCE_KINDS = {
  feed: { label: "Feed", item: "article" },
  catalogue: { label: "Catalogue", item: "product" },
  calendar: { label: "Calendar", item: "appointment" },
  records: { label: "Records", item: "record" },
} as const;
export type SourceKind = keyof typeof SOURCE_KINDS;
