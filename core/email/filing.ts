/** What designs are filed under. They stand here, and not with the templates, so that a page that files is not given all of those. */

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
