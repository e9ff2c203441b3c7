import type { CampaignLine } from "~/server/campaigns/campaigns";

/** A campaign in the list: its subject as words, and when it goes as words. */
export type Line = Omit<CampaignLine, "subject" | "readers"> & {
  subject: string;
  when: string | null;
  /** When it goes next, of one that repeats. */
  next: string | null;
  /** Whether readers were chosen. */
  chosen: boolean;
};
