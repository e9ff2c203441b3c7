/**
 * A bound program that can be kept: as plain data, with the editions it turns into. Of a reader only the edition and what
 * the program writes of them are kept beside it, and the message is the same for ever, whatever becomes of the segments,
 * lists and records that decided it.
 */
import type { Contact } from "../audience";
import type { ListAsk, Picked } from "../picking";
import type { Code } from "../program";
import type { Bound, BoundList } from "./bind";
import { type EditionCount, isAlwaysThere } from "./editions";

/** What makes an edition, and how many readers get it. */
export type FrozenEdition = Pick<EditionCount, "met" | "language" | "fallbacks" | "codes" | "count">;

/** Plain data, equal to itself after having been JSON. */
export interface FrozenProgram {
  bound: Omit<Bound, "rules" | "lists">;
  editions: FrozenEdition[];
  /** The lists that were picked for each reader; missing where there were none. */
  lists?: FrozenList[];
}

/** A list with the items that anybody got, and what each variant writes of them. */
export interface FrozenList {
  ask: ListAsk;
  items: { id: string; title: string }[];
  codes: Record<number, Code[]>;
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

/** By what a reader's facts name what was picked for a list: places in its items, each with the way that led there. */
const listFact = (list: number) => `list.${list}`;

/** Keeps readers of a bound program, one after the other, and then the program. */
export interface Keeper {
  /** What of a contact is to be kept: the values that a program writes, their language, and what was picked for them. */
  facts(contact: Contact): Record<string, unknown>;
  /** The program with its editions, in the order in which readers name them, and with all items that anybody got. */
  freeze(editions: readonly EditionCount[]): FrozenProgram;
}

export function keeperOf(bound: Bound): Keeper {
  const own = factsOf(bound);
  const lists = (bound.lists ?? []).map((list) => ({ list, kept: new Map<number, number>() }));
  return {
    facts(contact) {
      const facts = own(contact);
      for (const [at, { list, kept }] of lists.entries()) {
        const picked = list.pick(contact).map(({ at: item, way }) => {
          const place = kept.get(item) ?? kept.size;
          kept.set(item, place);
          return [place, way];
        });
        if (picked.length > 0) facts[listFact(at)] = picked;
      }
      return facts;
    },
    freeze(editions) {
      // Writing the items may ask for more links: those are part of the program.
      const frozen = lists.map(({ list, kept }, at) => frozenList(bound, at, list, [...kept.keys()]));
      const { rules: _, lists: __, ...rest } = bound;
      return {
        bound: rest,
        editions: editions.map(({ met, language, fallbacks, codes, count }) => ({
          met,
          language,
          fallbacks,
          codes,
          count,
        })),
        ...(frozen.length > 0 && { lists: frozen }),
      };
    },
  };
}

function frozenList(bound: Bound, at: number, list: BoundList, kept: readonly number[]): FrozenList {
  const variants = new Set(
    [bound.html, bound.text].flatMap((code) =>
      code.flatMap((op) => (op.op === "item" && op.list === at ? [op.variant] : [])),
    ),
  );
  return {
    ask: list.ask,
    items: kept.map((item) => ({ id: list.items[item].id, title: list.items[item].title })),
    codes: Object.fromEntries(
      [...variants].map((variant) => [variant, kept.map((item) => list.code(variant, item))]),
    ),
  };
}

/** What was picked for a reader who was kept. */
function keptPicks(contact: Contact, list: number): Picked[] {
  const kept = contact.fields[listFact(list)] as [number, number][] | undefined;
  return (kept ?? []).map(([at, way]) => ({ at, way }));
}

/** What of a contact is to be kept besides what was picked for them. */
function factsOf(bound: Pick<Bound, "slots">): (contact: Contact) => Record<string, unknown> {
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

/** The program ready to run for the readers that `frozenContact` makes; asked of anybody else, no rule is met. */
export function thaw({ bound, editions, lists }: FrozenProgram): Bound {
  const met = editions.map((edition) => edition.met);
  return {
    ...bound,
    ...(lists && {
      lists: lists.map(({ ask, items, codes }, at) => ({
        ask,
        items,
        pick: (contact: Contact) => keptPicks(contact, at),
        code: (variant: number, item: number) => codes[variant][item],
      })),
    }),
    rules: bound.asked.map((_, rule) => (contact) => met[editionOf(contact)]?.[rule] === "2"),
  };
}

const editionOf = (contact: Contact): number => (contact as Contact & { edition?: number }).edition ?? -1;

/** A frozen reader as the contact that a thawed program is run for. */
export function frozenContact({ id, email, edition, facts }: FrozenReader): Contact {
  return { id, email, fields: facts, lists: [], edition } as Contact & { edition: number };
}
