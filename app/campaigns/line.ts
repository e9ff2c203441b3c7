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

/** Where a campaign stands: what repeats does so between its dates. */
export function standingOf({ dispatch, repeats }: Pick<Line, "dispatch" | "repeats">) {
  if (repeats && (dispatch === null || dispatch.state === "sent")) return "repeats" as const;
  if (dispatch === null) return "draft" as const;
  return dispatch.state === "gathering" ? ("sending" as const) : dispatch.state;
}
