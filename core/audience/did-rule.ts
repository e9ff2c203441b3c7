import { z } from "zod";
import { SpanSchema } from "./dates";

const name = z
  .string()
  .min(1)
  .max(2000)
  .refine((text) => !text.includes("\u0000"), "may not contain NUL");
const often = {
  kind: z.literal("did"),
  /** At least so many times, or at most; "never" is at most 0. */
  often: z.enum(["atLeast", "atMost"]),
  times: z.number().int().min(0).max(10_000),
  /** Only since then; ever when missing. */
  within: SpanSchema.optional(),
};

/**
 * A test on behaviour. Of what was sent, opened, clicked and answered, campaigns are counted and not single events: who
 * opens a letter five times has opened one. Of what was bought, orders.
 */
export const DidRuleSchema = z.discriminatedUnion("what", [
  z.object({ ...often, what: z.enum(["sent", "opened", "answered"]), campaign: name.optional() }),
  z.object({
    ...often,
    what: z.literal("clicked"),
    campaign: name.optional(),
    /** The address a link leads to. */
    link: name.optional(),
  }),
  z.object({ ...often, what: z.literal("bought"), product: name.optional(), category: name.optional() }),
]);
export type DidRule = z.infer<typeof DidRuleSchema>;
