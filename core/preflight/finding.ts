import {
  type AudienceContext,
  type Contact,
  lacksField,
  namesGoneList,
  predicate,
  type Rule,
} from "../audience";
import { type Command, changeEmail } from "../compose";
import type { Brand, Email, NamedItem, TagFacts, Theme } from "../email";
import type { Step } from "../steps";

/** Looks words up in a dictionary. */
export interface Speller {
  knows(word: string): boolean;
  /** What may be meant, the likeliest first. It takes longer. */
  suggests(word: string): readonly string[];
}

/** How much harm it does: it cannot go out like this; somebody should look first; it could be better. */
export const WEIGHTS = ["stops", "look", "could"] as const;
export type Weight = (typeof WEIGHTS)[number];

/** What makes a finding go at one press. */
export interface Mend {
  /** As a button says it. */
  label: string;
  steps: Step[];
}

/** Something to be done before an email goes out. */
export interface Finding {
  weight: Weight;
  /** What it is and where, in the first sentence; what to do about it, in those after it. */
  text: string;
  /** The block it is about; without one, the email as a whole. */
  block?: string;
  /** Of the readers who get that block, the only ones it touches. */
  when?: Rule;
  mend?: Mend;
  /** Words that no dictionary knows, and that may be kept as words of one’s own. */
  unknown?: readonly string[];
}

export const stops = (text: string): Finding => ({ weight: "stops", text });

/** A mend by a command. */
export const mendBy = (label: string, email: Email, command: Command): Mend => ({
  label,
  steps: changeEmail(email, command).steps,
});

/** Those an email would go to, as far as it is asked. */
export interface Recipients {
  count: number;
  /** How many of them have nothing stored in any of these fields. */
  lacking(fields: readonly string[]): number;
  /** Whether any of them meets a rule. @throws RuleError */
  anybody(rule: Rule): boolean;
  /** Whether a rule names a list that was deleted. @throws RuleError */
  namesGone(rule: Rule): boolean;
  /** Whether they are chosen by a list that was deleted. */
  chosenByGone: boolean;
  /** Those of them who meet a rule. @throws RuleError */
  those(rule: Rule): Recipients;
}

/** Contacts that are at hand, as those an email would go to. */
export function recipients(contacts: readonly Contact[], audience: AudienceContext): Recipients {
  return {
    count: contacts.length,
    lacking: (fields) =>
      contacts.filter((contact) => fields.every((field) => lacksField(contact, field))).length,
    anybody: (rule) => contacts.some(predicate(rule, audience)),
    namesGone: (rule) => namesGoneList(rule, audience),
    chosenByGone: false,
    those: (rule) => recipients(contacts.filter(predicate(rule, audience)), audience),
  };
}

/** A batch whose codes a design shows: how many it still wants for its readers, and how many nobody has. */
interface CodesWanted {
  key: string;
  name: string;
  wanted: number;
  free: number;
  /** From so few on somebody is told. */
  low: number;
  /** The last day its codes are worth something, `YYYY-MM-DD`. */
  ends: string | null;
}

/** What is known when a design is looked at. */
export interface Circumstances {
  readers: Recipients;
  brand: Brand;
  theme: Theme;
  /** What tags may ask besides. */
  tags?: TagFacts;
  /** The batches whose codes it shows: how many it still wants, and how many nobody has. */
  codes?: readonly CodesWanted[];
  /** Its lists by rule: how many items each is asked for, and how many of the readers get none, or fewer. */
  lists?: readonly { block: string; asked: number; readers: number; none: number; fewer: number }[];
  /** `YYYY-MM-DD`. */
  today?: string;
  /** The keys of what is known of readers, and the ids of the sources, where they are to be looked for. */
  there?: { fields: ReadonlySet<string>; sources: ReadonlySet<string> };
  /** Sources that cannot be read: how old the last good copy is in milliseconds, and after how many hours a sending stops. */
  failing?: readonly {
    id: string;
    name: string;
    why: string;
    age: number | null;
    stopsAfter: number | null;
  }[];
  /** The address under which readers reach this program, and whether it is sent to mailboxes here, anywhere, or has nowhere to go. */
  reached?: { origin: string; from: "here" | "anywhere" | "nowhere" };
  /** The domains it would come from for which nothing signs. */
  unsigned?: readonly string[];
  /** What its pictures weigh, in octets, with what is light. */
  weights?: {
    pictures: readonly { name: string; src: string | null; bytes: number | null }[];
    total: number;
    light: { all: number; each: number };
  };
  /** How many its series usually goes to: the middle one of the last so many times. */
  usual?: { series: string; times: number; readers: number } | null;
  /** What most of its readers had last, and how many of them, in so many days. */
  recent?: { name: string; days: number; readers: number; of: number } | null;
  /** What was placed in it by hand, as its sources have it now; what is gone is missing. */
  catalogue?: readonly NamedItem[];
  /** Looks words up in the dictionary of a language; null where there is none. */
  spelling?: (language: string) => Speller | null;
  /** Why the keys that sign for its domain cannot be opened, where they cannot. */
  sealed?: string | null;
}
