import type { CampaignLine } from "~/server/campaigns/campaigns";
import type { Waiting } from "~/server/review/reviews";
import { counted } from "../ui/time";

/** A campaign in the list: its subject as words, and when it goes as words. */
export type Line = Omit<CampaignLine, "subject" | "readers"> & {
  subject: string;
  when: string | null;
  /** When it goes next, of one that repeats. */
  next: string | null;
  /** Whether readers were chosen. */
  chosen: boolean;
  /** Who waits for whom; null where nobody was asked, and nothing said. */
  waiting: Waiting | null;
};

/** Where a campaign stands: what repeats does so between its dates. */
export function standingOf({ dispatch, repeats }: Pick<Line, "dispatch" | "repeats">) {
  if (repeats && (dispatch === null || dispatch.state === "sent")) return "repeats" as const;
  if (dispatch === null) return "draft" as const;
  return dispatch.state === "gathering" ? ("sending" as const) : dispatch.state;
}

const named = (names: readonly string[]) =>
  names.length <= 2 ? names.join(" and ") : `${names.slice(0, 2).join(", ")} and ${names.length - 2} more`;

/** Who waits for whom, in the order in which it matters to whoever made it: first what they are to do. */
export function waitingWords({ waiting, changes, approved, outdated, open }: Waiting): {
  words: string;
  todo: boolean;
} {
  const said = [
    changes.length > 0 && `${named(changes)} ${changes.length === 1 ? "wants" : "want"} changes`,
    open > 0 && counted(open, "open comment"),
    outdated.length > 0 && `changed since ${named(outdated)} approved it`,
    waiting.length > 0 && `waits for ${named(waiting)}`,
    approved.length > 0 && `approved by ${named(approved)}`,
  ].filter((one) => one !== false);
  return { words: said.join(" · "), todo: changes.length + open + outdated.length > 0 };
}
