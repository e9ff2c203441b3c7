/** How the readers of simulated mailboxes live: what they do with what they get is drawn by chance, the same for the same seed. */
import { z } from "zod";

export const LifeSchema = z.object({
  /** How many times as fast as life. */
  pace: z.number().min(1).max(1_000_000),
  /** Another number is other readers. */
  seed: z.number().int().min(0).max(1_000_000),
});
export type Life = z.infer<typeof LifeSchema>;

/** What readers, and programs before them, do with a message. */
export const DEEDS = ["scan", "open", "press", "answer", "leave", "complain", "return"] as const;
export type DeedKind = (typeof DEEDS)[number];

/** How fast time goes, to choose from. */
export const PACES: readonly { pace: number; name: string }[] = [
  { pace: 1, name: "As in life" },
  { pace: 60, name: "An hour in a minute" },
  { pace: 1440, name: "A day in a minute" },
  { pace: 86_400, name: "A day in a second" },
];

/** How the readers live now, and what they have done since they were let. */
export interface Living {
  life: Life | null;
  done: Record<DeedKind, number>;
  /** What is still to come of what has arrived. */
  waiting: number;
}
