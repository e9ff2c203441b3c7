/** What other systems may say at the door: one schema for each, which checks what comes and describes it. */
import { z } from "zod";
import { isAddress } from "~/core/audience";

/** So many entries a batch has at most. */
export const MOST_ENTRIES = 1000;

const Address = z
  .string()
  .max(254)
  .refine(isAddress, "is not an email address")
  .describe("An email address (RFC 5322, addr-spec).");
const Moment = z.iso
  .datetime({ offset: true })
  .describe("A moment with its offset from UTC (RFC 3339). Now when missing.");
const Text = (most: number) =>
  z
    .string()
    .min(1)
    .max(most)
    .refine((text) => !text.includes("\u0000"), "may not contain NUL");
const FieldValue = z
  .union([Text(2000), z.number(), z.boolean(), z.array(Text(500)).max(200), z.null()])
  .describe("Text, a number, yes or no, a date as YYYY-MM-DD, or several words; null takes it away.");

const ContactEntry = z.strictObject({
  email: Address,
  fields: z.record(z.string(), FieldValue).optional().describe("By the key of each field, as under Fields."),
  join: z.array(Text(60)).max(100).optional().describe("Lists to be on, by their ids."),
  leave: z.array(Text(60)).max(100).optional().describe("Lists to be on no longer."),
});
export type ContactEntry = z.infer<typeof ContactEntry>;

const UnsubscribeEntry = z.strictObject({ email: Address });
export type UnsubscribeEntry = z.infer<typeof UnsubscribeEntry>;

const EventEntry = z.strictObject({
  email: Address,
  what: z
    .string()
    .regex(/^[a-z][a-z0-9_]{0,59}$/, "is lower case letters, digits and underscores")
    .describe("“viewed” for looking at an item; any other word is one of your own."),
  item: Text(500).optional().describe("The item it was about, by its id in the catalogue."),
  at: Moment.optional(),
});
export type EventEntry = z.infer<typeof EventEntry>;

const OrderEntry = z.strictObject({
  number: Text(100).describe(
    "Your own number. An order that comes again under it takes the place of the one before.",
  ),
  email: Address,
  at: Moment.optional(),
  currency: z
    .string()
    .regex(/^[A-Z]{3}$/, "is a code of three capital letters")
    .describe("ISO 4217."),
  lines: z
    .array(
      z.strictObject({
        item: Text(500).describe("The item’s id in the catalogue."),
        name: Text(500),
        category: z.string().max(200).optional(),
        quantity: z.number().int().min(1).max(1_000_000),
        price: z.number().min(0).max(1_000_000_000).describe("Of one, in units of the currency."),
      }),
    )
    .min(1)
    .max(200),
});
export type OrderEntry = z.infer<typeof OrderEntry>;

const CodeEntry = z.strictObject({
  list: Text(60).describe("The batch of codes, by its short name under Sources."),
  code: z.string().trim().min(1).max(200),
});
export type CodeEntry = z.infer<typeof CodeEntry>;

const ItemEntry = z.strictObject({
  id: Text(500),
  title: Text(500),
  text: z.string().max(20_000).optional(),
  link: z
    .url({ protocol: /^https?$/ })
    .max(2000)
    .optional(),
  picture: z
    .url({ protocol: /^https?$/ })
    .max(2000)
    .optional(),
  price: z.number().min(0).max(1_000_000_000).optional().describe("In units of the currency."),
  sale: z.number().min(0).max(1_000_000_000).optional().describe("What it costs now, where that is less."),
  currency: z
    .string()
    .regex(/^[A-Z]{3}$/)
    .optional(),
  stock: z.number().int().min(0).max(1_000_000_000).optional().describe("Missing where nobody counts."),
  category: z.array(Text(100)).max(10).optional().describe("From the broadest to the narrowest."),
  tags: z.array(Text(100)).max(50).optional(),
  date: z.union([z.iso.date(), z.iso.datetime({ offset: true })]).optional(),
  gone: z.literal(true).optional().describe("It is not there any more."),
});
export type ItemEntry = z.infer<typeof ItemEntry>;

const batched = <S extends z.ZodType>(entry: S) =>
  z.strictObject({
    batch: Text(100).describe(
      "Your own name for this batch. Sent again under it, it counts once, and the answer is the one from before.",
    ),
    entries: z.array(entry).min(1).max(MOST_ENTRIES),
  });

/** What a key may be used for: for each a path below `/in/`, what comes, what it does, and an example. */
export const PURPOSES = {
  contacts: {
    label: "Contacts",
    does: "Adds contacts, or changes those there are, by their address. Who unsubscribed stays so.",
    entry: ContactEntry,
    example: { email: "ines@post.example", fields: { first_name: "Ines" }, join: ["letter"] },
  },
  unsubscribes: {
    label: "Unsubscribing",
    does: "Ends all letters to an address.",
    entry: UnsubscribeEntry,
    example: { email: "ines@post.example" },
  },
  events: {
    label: "Events",
    does: "Says what contacts did elsewhere.",
    entry: EventEntry,
    example: { email: "ines@post.example", what: "viewed", item: "1001", at: "2026-03-02T09:30:00Z" },
  },
  orders: {
    label: "Orders",
    does: "Says what contacts bought.",
    entry: OrderEntry,
    example: {
      number: "S-10041",
      email: "ines@post.example",
      at: "2026-03-03T10:00:00+01:00",
      currency: "GBP",
      lines: [{ item: "1001", name: "Runner bean", category: "Seeds", quantity: 2, price: 3.2 }],
    },
  },
  items: {
    label: "Items",
    does: "Adds items to the catalogue of this key, or changes or ends those there are.",
    entry: ItemEntry,
    example: {
      id: "1001",
      title: "Runner bean “Lantern Red”",
      link: "https://shop.example/1001",
      price: 3.2,
      currency: "GBP",
      stock: 40,
      category: ["Seeds", "Beans"],
    },
  },
  codes: {
    label: "Codes",
    does: "Adds codes to a batch there is.",
    entry: CodeEntry,
    example: { list: "spring", code: "BEAN-7Q2M" },
  },
} as const;
export type Purpose = keyof typeof PURPOSES;
export const PURPOSE_NAMES = Object.keys(PURPOSES) as Purpose[];

/** The schema of a batch. */
export const batchSchema = (purpose: Purpose) => batched(PURPOSES[purpose].entry as z.ZodType);

/** Something that is wrong with a batch, and where: `entries/3/lines/0/price`. */
export const WrongSchema = z.object({ at: z.string(), says: z.string() });
export type Wrong = z.infer<typeof WrongSchema>;

/** What is said of a batch that was taken. */
export const TakenSchema = z.object({
  taken: z.number().int().describe("How many entries count."),
  left: z.array(WrongSchema).describe("Entries that do not, and why."),
  repeated: z.boolean().describe("Whether it came before: then nothing was counted again."),
});
export type Taken = z.infer<typeof TakenSchema>;

/** What is said of a request that was not taken; nothing of it counts. */
export const RefusedSchema = z.object({
  problem: z.string(),
  wrong: z.array(WrongSchema).describe("The fields that are wrong; the first hundred."),
});
