/**
 * A bound program that can be kept: as plain data, with the editions it turns into. Of a reader only the edition and what
 * the program writes of them are kept beside it, and the message is the same for ever, whatever becomes of the segments,
 * lists and records that decided it.
 */
import type { Contact } from "../audience";
import type { Bound } from "./bind";
import { type EditionCount, isAlwaysThere } from "./editions";

/** What makes an edition, and how many readers get it. */
export type FrozenEdition = Pick<EditionCount, "met" | "language" | "fallbacks" | "codes" | "count">;

/** Plain data, equal to itself after having been JSON. */
export interface FrozenProgram {
  bound: Omit<Bound, "rules">;
  editions: FrozenEdition[];
}

/** A reader as a frozen program knows them. */
export interface FrozenReader {
  id: number;
  email: string;
  /** The place of theirs among the editions. */
  edition: number;
  /** What the program writes of them, by field. */
  facts: Readonly<Record<string, unknown>>;
}

/** What of a contact is to be kept: the values that a program writes, and the language they are written in. */
export function factsOf(bound: Pick<Bound, "slots">): (contact: Contact) => Record<string, unknown> {
  const fields = new Set(["language"]);
  for (const { field, or } of bound.slots)
    for (const one of [field, or]) if (one !== undefined && !isAlwaysThere(one)) fields.add(one);
  fields.delete("email");
  return (contact) => {
    const facts: Record<string, unknown> = {};
    for (const field of fields) {
      const value = contact.fields[field];
      if (value !== undefined && value !== null) facts[field] = value;
    }
    return facts;
  };
}

/** Keeps a bound program with its editions, in the order in which readers name them. */
export function freeze({ rules: _, ...bound }: Bound, editions: readonly EditionCount[]): FrozenProgram {
  return {
    bound,
    editions: editions.map(({ met, language, fallbacks, codes, count }) => ({
      met,
      language,
      fallbacks,
      codes,
      count,
    })),
  };
}

/** The program ready to run for the readers that `frozenContact` makes; asked of anybody else, no rule is met. */
export function thaw({ bound, editions }: FrozenProgram): Bound {
  const met = editions.map((edition) => edition.met);
  return {
    ...bound,
    rules: bound.asked.map((_, rule) => (contact) => met[editionOf(contact)]?.[rule] === "2"),
  };
}

const editionOf = (contact: Contact): number => (contact as Contact & { edition?: number }).edition ?? -1;

/** A frozen reader as the contact that a thawed program is run for. */
export function frozenContact({ id, email, edition, facts }: FrozenReader): Contact {
  return { id, email, fields: facts, lists: [], edition } as Contact & { edition: number };
}
