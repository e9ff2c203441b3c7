/** Everything in a design that depends on its reader, with what one of them gets, and why. */
import {
  type AudienceContext,
  type Contact,
  describeRule,
  explainRule,
  factsInWords,
  type Rule,
  RuleError,
  type RuleNames,
  type Words,
} from "../audience";
import {
  blocksOf,
  constantOf,
  type Email,
  eachPiece,
  type Known,
  type Located,
  lookupNamed,
  type MergeTag,
  pathTo,
  walk,
} from "../email";
import {
  batchOf,
  caseFor,
  caseReason,
  isCode,
  lineSaid,
  type Telling,
  tagReason,
  tagSaid,
} from "../personal";
import type { Recipients } from "./finding";
import { fieldsOfTag, nobodyElse, ruleAround, saidIn, tagsOf, type Where, whereIn, wholeRule } from "./said";

/** What depends on the reader. */
export type SeenKind = "tag" | "lookup" | "code" | "either" | "part" | "list";

/** One thing that depends on the reader, and what becomes of it for one of them. */
export interface SeenThing extends Where {
  kind: SeenKind;
  /** What it is: a field, a lookup, what is asked. */
  what: string;
  /** What the reader gets; empty for nothing. */
  gets: string;
  /** Why, in a sentence; empty where there is nothing to tell. */
  why: Words;
  /** How many of all readers get what is left where this has nothing for them; null where that cannot be told, or nobody can. */
  others: number | null;
}

/** What a reader gets in a list by rule. */
export interface ListSeen {
  block: string;
  titles: readonly string[];
  /** Why each was picked. */
  because: readonly string[];
  /** How many readers get less than it is asked for. */
  fewer: number | null;
}

export interface SeenWith {
  contact: Contact;
  audience: AudienceContext;
  names: RuleNames;
  /** What tags may speak of, and the language of the words. */
  known: Known;
  language: string;
  lookups: Telling["lookups"];
  label(field: string): string | undefined;
  /** What a code of a batch is called. */
  codeName(batch: string): string;
  lists: readonly ListSeen[];
  /** All who get the campaign; null where they cannot be told. */
  readers: Recipients | null;
}

const counted = (work: () => number | undefined): number | null => {
  try {
    return work() ?? null;
  } catch (error) {
    if (error instanceof RuleError) return null;
    throw error;
  }
};

/**
 * What depends on the reader of a design, in the order in which it is read.
 * @param email the design as its reader gets it, in their language
 */
export function whoSeesWhat(email: Email, given: SeenWith): SeenThing[] {
  const { contact, audience, known, language, readers } = given;
  const about = { language, known, audience };
  /** Those who get a block. */
  const gets = (block: string | undefined): Recipients | null => {
    const rule = block === undefined ? undefined : ruleAround(email, block);
    return rule && readers ? readers.those(rule) : readers;
  };
  const ofTag = ({ tag, ...where }: Where & { tag: MergeTag }): SeenThing[] => {
    // What an item says stands with its list; addresses that each reader has are of no interest.
    if (/^(item|system|date)\./.test(tag.field) || constantOf(tag, known) !== undefined) return [];
    const said = tagSaid(tag, contact, about);
    if (isCode(tag.field)) {
      const why = [
        { text: "An example stands here; each reader is handed one of their own when it is sent." },
      ];
      const what = given.codeName(batchOf(tag.field));
      return [{ ...where, kind: "code", what, gets: said, why, others: null }];
    }
    const lookup = lookupNamed(tag.field, given.lookups)?.lookup;
    return [
      {
        ...where,
        kind: lookup ? "lookup" : "tag",
        what: lookup?.name ?? given.label(tag.field) ?? tag.field.replaceAll("_", " "),
        gets: said,
        why: tagReason(tag, contact, given) ?? [],
        others: counted(() => {
          const those = gets(where.block);
          return lookup ? those?.those(nobodyElse(lookup)).count : those?.lacking(fieldsOfTag(tag));
        }),
      },
    ];
  };
  const eithers = saidIn(email).flatMap(({ line, ...where }) =>
    [...eachPiece(line)].flatMap((piece): SeenThing[] => {
      if (piece.type !== "either") return [];
      const { cases } = piece.attrs;
      const whens = cases.map(({ when }) => when);
      const at = caseFor({ cases }, contact, audience);
      return [
        {
          ...where,
          kind: "either",
          what: `Either/or of ${cases.length + 1}`,
          gets: lineSaid([piece], contact, about),
          why: [
            { text: at < 0 ? "What everybody else gets" : `Case ${at + 1}` },
            ...caseReason(whens, at, contact, given),
            { text: "." },
          ],
          others: counted(() => gets(where.block)?.those({ kind: "none", of: whens }).count),
        },
      ];
    }),
  );
  const parts = [...walk(email)].flatMap((it): SeenThing[] => {
    const whole = wholeRule(email, it);
    if (it.kind === "column" || !it.node.show || !whole) return [];
    const own = it.node.show;
    return [
      {
        ...wherePart(email, it),
        kind: "part",
        what: `For readers ${describeRule(own, given.names)
          .map(({ text }) => text)
          .join("")}`,
        ...shownOrNot(own, given),
        others: counted(() => (readers ? readers.count - readers.those(whole).count : undefined)),
      },
    ];
  });
  const lists = given.lists.flatMap(({ block, titles, because, fewer }): SeenThing[] => {
    const found = pathTo(email, block).at(-1);
    if (!found) return [];
    return [
      {
        ...wherePart(email, found),
        kind: "list",
        what: "List by rule",
        gets: titles.join(", "),
        why: because.some((one) => one !== "")
          ? [{ text: `${[...new Set(because.filter((one) => one !== ""))].join("; ")}.` }]
          : [],
        others: fewer,
      },
    ];
  });
  const places = new Map(blocksOf(email).map(({ id }, at) => [id, at]));
  const placeOf = ({ block }: SeenThing) => (block === undefined ? -1 : (places.get(block) ?? -1));
  return [...parts, ...lists, ...eithers, ...tagsOf(email).flatMap(ofTag)].sort(
    (one, other) => placeOf(one) - placeOf(other),
  );
}

/** Whether a reader gets a part, and why. */
function shownOrNot(rule: Rule, { contact, audience, names }: SeenWith): Pick<SeenThing, "gets" | "why"> {
  try {
    const { met, facts } = explainRule(rule, contact, audience, names);
    const because = facts.length === 0 ? [] : [{ text: "Because " }, ...factsInWords(facts), { text: "." }];
    return { gets: met ? "Shown" : "", why: because };
  } catch (error) {
    if (!(error instanceof RuleError)) throw error;
    return { gets: "", why: [{ text: `It is for nobody: ${error.message}` }] };
  }
}

/** Where a part stands: at its first block, if it is none itself. */
function wherePart(email: Email, it: Located): Where {
  if (it.kind === "block") return whereIn(it.node);
  const what = it.kind === "section" ? "The section" : "The row";
  const first = blocksOf(email).find(({ id }) =>
    pathTo(email, id).some(({ node }) => node.id === it.node.id),
  );
  if (!first) return { where: what };
  return { where: `${what} with ${whereIn(first).where}`, block: first.id };
}
