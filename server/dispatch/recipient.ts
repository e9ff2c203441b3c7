/** How far the message of one reader has come. */
export const RECIPIENT_STATES = [
  "pending",
  "handing",
  "accepted",
  "failed",
  "skipped",
  "unconfirmed",
] as const;
export type RecipientState = (typeof RECIPIENT_STATES)[number];
