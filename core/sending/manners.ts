/** How mailboxes behave that do not simply take what comes: said by address, by domain or of all. */
import { z } from "zod";
import { domainOf } from "../mime";

/** At which step something is said: to whoever connects, to the sender, at the reader's address, after the message. */
export const STEPS = ["greeting", "sender", "reader", "message"] as const;

export const MannerSchema = z.object({
  /** An address, a domain with its @ before it, or `*` for everybody. */
  who: z
    .string()
    .trim()
    .regex(/^(\*|@?[^\s@]+(@[^\s@]+)?)$/, "an address, @domain or *")
    .max(300),
  does: z.discriminatedUnion("kind", [
    /** Answers a step with a code and words; only so many times, if a number is given. */
    z.object({
      kind: z.literal("says"),
      at: z.enum(STEPS),
      reply: z.string().regex(/^[45]\d\d [\x20-\x7e]{1,200}$/, "a reply such as “452 4.2.2 Full”"),
      times: z.number().int().min(1).max(1000).nullable(),
    }),
    z.object({ kind: z.literal("closes"), at: z.enum(STEPS) }),
    z.object({ kind: z.literal("slow"), seconds: z.number().min(0.1).max(600) }),
    /** Takes it, and sends it back. */
    z.object({
      kind: z.literal("returns"),
      status: z.string().regex(/^[45]\.\d{1,3}\.\d{1,3}$/, "an enhanced code such as 5.1.1"),
      words: z.string().regex(/^[\x20-\x7e]{1,200}$/, "plain words"),
    }),
    z.object({ kind: z.literal("complains") }),
    z.object({
      kind: z.literal("answers"),
      words: z.string().regex(/^[\x20-\x7e]{1,500}$/, "plain words"),
    }),
  ]),
});
export type Manner = z.infer<typeof MannerSchema>;
export const MannersSchema = z.array(MannerSchema).max(200);

/** What is usual among mailboxes that make trouble, to choose from. */
export const USUAL_MANNERS: { name: string; does: Manner["does"] }[] = [
  {
    name: "There is no such mailbox",
    does: { kind: "says", at: "reader", reply: "550 5.1.1 No such mailbox", times: null },
  },
  {
    name: "The mailbox is full",
    does: { kind: "says", at: "reader", reply: "452 4.2.2 Mailbox full", times: null },
  },
  {
    name: "Come again later, twice",
    does: { kind: "says", at: "reader", reply: "451 4.7.1 Greylisted, come again", times: 2 },
  },
  {
    name: "Refused after the message",
    does: { kind: "says", at: "message", reply: "554 5.7.1 Not wanted here", times: null },
  },
  { name: "The connection is cut after the message", does: { kind: "closes", at: "message" } },
  { name: "It is slow", does: { kind: "slow", seconds: 3 } },
  {
    name: "Taken, and sent back: no such mailbox",
    does: { kind: "returns", status: "5.1.1", words: "550 5.1.1 No such mailbox" },
  },
  {
    name: "Taken, and sent back: full",
    does: { kind: "returns", status: "5.2.2", words: "552 5.2.2 Mailbox full" },
  },
  { name: "Taken, and called spam", does: { kind: "complains" } },
  { name: "Taken, and answered", does: { kind: "answers", words: "Thank you for the letter." } },
];

/** The manners that hold for an address. */
export function mannersFor(manners: readonly Manner[], address: string): Manner[] {
  const own = address.toLowerCase();
  return manners.filter(({ who }) => {
    const wanted = who.toLowerCase();
    return wanted === "*" || wanted === own || wanted === `@${domainOf(own)}`;
  });
}
