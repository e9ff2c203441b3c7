/** A class of mail programs, by what it does to a message. */
export interface Inbox {
  name: InboxName;
  label: string;
  /** Whether it chooses between light and dark by itself, or shows dark whatever the message says. */
  dark: boolean;
}

export type InboxName = "light" | "dark" | "stripped" | "word" | "picturesOff" | "partial" | "full";

export const INBOXES: readonly Inbox[] = [
  { name: "light", label: "Modern engine, light", dark: false },
  { name: "dark", label: "Modern engine, dark", dark: true },
  { name: "stripped", label: "Style block removed", dark: false },
  { name: "word", label: "Word-processor engine", dark: false },
  { name: "picturesOff", label: "Pictures off", dark: false },
  { name: "partial", label: "Colours partly inverted", dark: true },
  { name: "full", label: "All colours inverted", dark: true },
];
