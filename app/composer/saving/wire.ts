import { z } from "zod";
import { parseEmail } from "~/core/blocks";
import { PackedStepsSchema } from "~/core/steps";
import type { SaveAnswer, SaveRequest } from "~/server/campaigns/saving";
import type { Wire } from "./autosave";

/** Longer than this no answer is waited for, in milliseconds. */
const PATIENCE = 20_000;

const ClashSchema = z.object({
  reason: z.enum(["changed", "gone", "kept", "moved"]),
  id: z.string().nullable(),
  path: z.string(),
  mine: z.unknown().optional(),
  theirs: z.unknown().optional(),
});
const AnswerSchema = z.discriminatedUnion("state", [
  z.object({
    state: z.literal("saved"),
    revision: z.number(),
    at: z.string(),
    theirs: PackedStepsSchema,
    clashes: z.array(ClashSchema),
    reordered: z.boolean(),
    fingerprint: z.string(),
  }),
  z.object({ state: z.literal("behind"), revision: z.number(), at: z.string(), email: z.unknown() }),
  z.object({ state: z.literal("refused"), why: z.string(), locked: z.boolean() }),
]);
const WholeSchema = z.object({ email: z.unknown(), revision: z.number(), at: z.string() });

/** How the server says a design stands: in how many other windows it is open, and its newest revision. */
export const StandingSchema = z.object({ others: z.number(), revision: z.number() });

/** The way to the server over HTTP. An answer that is none, or makes no sense, is thrown. */
export function httpWire(campaign: string): Wire {
  const address = `/campaigns/${campaign}/save`;
  return {
    async save(request: SaveRequest) {
      const body = JSON.stringify(request);
      const response = await fetch(address, {
        method: "POST",
        headers: { "content-type": "application/json" },
        body,
        // A small save goes through even when the window closes meanwhile.
        keepalive: body.length < 60_000,
        signal: AbortSignal.timeout(PATIENCE),
      });
      if (response.status === 404)
        return {
          state: "refused",
          why: "This campaign was deleted. Bring it back from the bin to go on.",
          locked: false,
        };
      if (!response.ok) throw new Error(`The server answered ${response.status}`);
      const answer = AnswerSchema.parse(await response.json());
      return (
        answer.state === "behind" ? { ...answer, email: parseEmail(answer.email) } : answer
      ) as SaveAnswer;
    },
    async whole() {
      const response = await fetch(address, { signal: AbortSignal.timeout(PATIENCE) });
      if (!response.ok) throw new Error(`The server answered ${response.status}`);
      const answer = WholeSchema.parse(await response.json());
      return { ...answer, email: parseEmail(answer.email) };
    },
  };
}
