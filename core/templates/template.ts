import type { Email } from "../email";

/** What one wants to say; the question a start begins with. */
export const PURPOSES = [
  { key: "tell", label: "Tell news" },
  { key: "sell", label: "Sell" },
  { key: "invite", label: "Invite" },
  { key: "ask", label: "Ask" },
  { key: "thank", label: "Thank" },
  { key: "remind", label: "Remind" },
  { key: "welcome", label: "Welcome" },
  { key: "regular", label: "Every month" },
] as const;
export type Purpose = (typeof PURPOSES)[number]["key"];

export const SEASONS = ["spring", "summer", "autumn", "winter"] as const;
export type Season = (typeof SEASONS)[number];

/** A finished design that comes with the program. */
export interface Template {
  id: string;
  name: string;
  about: string;
  purpose: Purpose;
  season?: Season;
  /** Its own theme. */
  theme: string;
  /** @param feed the source its live blocks take from */
  sections(feed: string): Email["sections"];
  subject: string;
  preheader: string;
}
