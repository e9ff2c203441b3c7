import {
  type AudienceContext,
  type Contact,
  lacksField,
  namesGoneList,
  predicate,
  type Rule,
} from "../audience";
import type { Brand, TagFacts, Theme } from "../email";

/** Something to be done before an email goes out. */
export interface Finding {
  /** Whether it cannot go out like this, or somebody should look first. */
  weight: "stops" | "look";
  /** What it is, where, and what to do, as a sentence. */
  text: string;
  /** The block it is about. */
  block?: string;
}

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
  /** Why the keys that sign for its domain cannot be opened, where they cannot. */
  sealed?: string | null;
}
