import { z } from "zod";
import { parseEmail } from "~/core/blocks";
import type { Email } from "~/core/email";
import { PackedStepsSchema } from "~/core/steps";
import type { Question } from "../state/saving";
import type { Keep, Kept } from "./autosave";

const PREFIX = "septima draft";
const keyOf = (campaign: string, window: string) => `${PREFIX} ${campaign} ${window}`;
const baseKeyOf = (campaign: string, window: string) => `${keyOf(campaign, window)} base`;

const KeptSchema = z.object({
  revision: z.number(),
  steps: PackedStepsSchema,
  sent: z.object({ save: z.string(), steps: PackedStepsSchema }).nullable(),
  questions: z.array(z.looseObject({ key: z.string() })),
});

/** What a window keeps in the browser's store of a design. The base, which seldom changes, is written by itself. */
export function browserKeep(campaign: string, window: string, store: Storage): Keep {
  let base: Email | null = null;
  return {
    put({ base: now, ...rest }) {
      try {
        if (now !== base) store.setItem(baseKeyOf(campaign, window), JSON.stringify(now));
        base = now;
        store.setItem(keyOf(campaign, window), JSON.stringify(rest));
        return true;
      } catch {
        // There is no room, or the store is closed. Half of it would be no use.
        base = null;
        return false;
      }
    },
    drop() {
      base = null;
      dropKept(campaign, window, store);
    },
  };
}

export function dropKept(campaign: string, window: string, store: Storage): void {
  store.removeItem(keyOf(campaign, window));
  store.removeItem(baseKeyOf(campaign, window));
}

/** What a window kept of a design; null when there is nothing, or nothing that can be read. */
export function keptBy(campaign: string, window: string, store: Storage): Kept | null {
  try {
    const [text, base] = [keyOf(campaign, window), baseKeyOf(campaign, window)].map((key) =>
      store.getItem(key),
    );
    if (!text || !base) return null;
    const kept = KeptSchema.parse(JSON.parse(text));
    return {
      ...kept,
      questions: kept.questions as unknown as Question[],
      base: parseEmail(JSON.parse(base)),
    };
  } catch {
    return null;
  }
}

/** The windows that kept something of a design. */
export function keepers(campaign: string, store: Storage): string[] {
  const start = `${PREFIX} ${campaign} `;
  return Object.keys(store).flatMap((key) =>
    key.startsWith(start) && !key.endsWith(" base") ? [key.slice(start.length)] : [],
  );
}
