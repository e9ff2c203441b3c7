/** What a check is, and what it looks at. */
import type { AudienceContext, Contact } from "../audience";
import type { Email } from "../email";
import { asSeen, type InboxName, type Outline, outlineOf, type Pair, pairsOf } from "../inboxes";
import type { Message } from "../personal";
import type { Circumstances, Finding } from "./finding";

/** What checks are about, in the order in which they are listed. */
export const GROUPS = {
  content: "Content",
  readers: "Readers",
  law: "Law and delivery",
  reading: "Reading",
  message: "The message itself",
} as const;
export type CheckGroup = keyof typeof GROUPS;

/** What one edition looks like, worked out when it is first asked for. */
export interface Seen {
  /** As one of its readers gets it, its parts marked with their ids. */
  message: Message;
  /** Of the words. */
  language: string;
  /** UTF-8 octets of the HTML without the marks. */
  bytes: number;
  /** Whether it is for nobody but those who get what stands around the content. */
  bare: boolean;
  /** Every pair of words and ground as a class of mail programs shows it. */
  pairs(inbox: InboxName): readonly Pair[];
  /** The same on a phone. */
  phonePairs(): readonly Pair[];
  /** Headings, links and pictures in reading order. */
  outline(): Outline;
}

/** A check: what it looks for, and why that matters. */
export interface Check {
  /** What is set aside is remembered by it: it stays as it is. */
  name: string;
  group: CheckGroup;
  /** What is in order when it finds nothing, as the end of “Fine: …”. */
  label: string;
  /** Why it matters, as a sentence. */
  why: string;
  /** Whether it looks at words: then it looks at those of each language. */
  spoken?: boolean;
  /** What it finds in a design. */
  design?(email: Email, around: Circumstances): Finding[];
  /** Whether what it finds in an edition may stop a sending: then it is looked for again at the last moment. */
  holds?: true;
  /** What it finds in one edition. */
  edition?(seen: Seen, around: Circumstances & { email: Email }): Finding[];
}

/** An edition that is to be looked at. */
export interface EditionSeen {
  message: Message;
  language: string;
  bytes: number;
  bare: boolean;
  /** Whom it stands for. */
  sample: Contact;
  audience: AudienceContext;
  count: number;
}

/** Makes what checks look at of a message. */
export function seen({
  message,
  language,
  bytes,
  bare,
}: Omit<EditionSeen, "sample" | "audience" | "count">): Seen {
  const pairs = new Map<string, readonly Pair[]>();
  const once = (key: string, make: () => readonly Pair[]) => {
    const known = pairs.get(key) ?? make();
    pairs.set(key, known);
    return known;
  };
  let outline: Outline | null = null;
  return {
    message,
    language,
    bytes,
    bare,
    pairs: (inbox) => once(inbox, () => pairsOf(asSeen(message.html, inbox))),
    phonePairs: () => once("phone", () => pairsOf(asSeen(message.html, "light", { phone: true }))),
    outline: () => {
      outline ??= outlineOf(message.html);
      return outline;
    },
  };
}
