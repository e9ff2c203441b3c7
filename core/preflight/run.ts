/** All checks on a design and on its editions. */
import { type AudienceContext, type Contact, predicateOrNobody } from "../audience";
import { blocksOf, type Email } from "../email";
import { languageName } from "../translation";
import { canonical, hashOf } from "../values";
import { type Check, type Seen, seen } from "./check";
import { CHECKS } from "./checks";
import { type Circumstances, type Finding, WEIGHTS } from "./finding";
import { byLanguage } from "./languages";

/** A finding and the check that made it. */
export type Found = Finding & { check: string };

type Look = (email: Email, around: Circumstances) => Finding[];

/** The same fault in another language: what is quoted and counted differs. */
const kindOf = ({ text, block }: Finding) => `${block} ${text.replaceAll(/“[^”]*”|[\d,]+/g, "")}`;

/**
 * What is wrong in the words of all languages. A fault that a design has in its own language and in others is said once,
 * for all readers; one that only a translation has is said with its language, and is mended there by hand.
 */
function inAllLanguages(
  look: Look,
  email: Email,
  around: Circumstances,
  { own, others }: ReturnType<typeof byLanguage>,
): Finding[] {
  if (others.length === 0) return look(email, around);
  const here = look(email, { ...around, readers: own });
  const everywhere = look(email, around);
  const known = new Set(here.map(kindOf));
  const spread = new Set<string>();
  const elsewhere = others.flatMap(({ language, email: version, readers, when }) =>
    look(version, { ...around, readers }).flatMap(({ mend: _, ...one }) => {
      if (!known.has(kindOf(one)))
        return [
          {
            ...one,
            text: `In ${languageName(language)}: ${one.text}`,
            when: one.when ? { kind: "all" as const, of: [when, one.when] } : when,
          },
        ];
      spread.add(kindOf(one));
      return [];
    }),
  );
  const uncounted = ({ text, block }: Finding) => `${block} ${text.replaceAll(/[\d,]+/g, "")}`;
  const all = (one: Finding) => everywhere.find((other) => uncounted(other) === uncounted(one)) ?? one;
  return [...here.map((one) => (spread.has(kindOf(one)) ? all(one) : one)), ...elsewhere];
}

const byWeight = <T extends Finding>(found: readonly T[]): T[] =>
  WEIGHTS.flatMap((weight) => found.filter((one) => one.weight === weight));

/** What is wrong in a design, what stops it first. */
export function designFindings(
  email: Email,
  around: Circumstances,
  checks: readonly Check[] = CHECKS,
): Found[] {
  const languages = byLanguage(email, around.readers);
  const found = checks.flatMap(({ name, spoken, design }) => {
    if (!design) return [];
    const those = spoken ? inAllLanguages(design, email, around, languages) : design(email, around);
    return those.map((one): Found => ({ ...one, check: name }));
  });
  const said = new Set<string>();
  return byWeight(
    found.filter(({ text, block }) => {
      const key = `${block} ${text}`;
      if (said.has(key)) return false;
      said.add(key);
      return true;
    }),
  );
}

/** What is wrong in one edition. */
export function editionFindings(
  it: Seen,
  around: Circumstances & { email: Email },
  checks: readonly Check[] = CHECKS,
): Found[] {
  return checks.flatMap(({ name, edition }) =>
    (edition?.(it, around) ?? []).map((one): Found => ({ ...one, check: name })),
  );
}

/** An edition that was looked at: what was found in it, and which blocks its readers get. */
export interface EditionLooked {
  count: number;
  sample: Contact;
  found: Found[];
  blocks: ReadonlySet<string>;
}

/** A finding as it is told: where it is, and whom it touches. */
export interface Told extends Found {
  /** The same for the same fault at the same place. */
  id: string;
  /** Differs once the place is another than it was. */
  state: string;
  /** The numbers of the editions it touches, from 1; null where it touches all. */
  editions: number[] | null;
  /** How many readers it touches. */
  readers: number;
}

/** The blocks in a message whose blocks are marked. */
export const blocksIn = (html: string): ReadonlySet<string> =>
  new Set([...html.matchAll(/ data-node="([^"]*)"/g)].map(([, id]) => id));

/** Looks one edition over. @param it its message with its blocks marked */
export function lookOver(
  it: Parameters<typeof seen>[0] & { count: number; sample: Contact },
  around: Circumstances & { email: Email },
  checks: readonly Check[] = CHECKS,
): EditionLooked {
  const { count, sample, message } = it;
  return { count, sample, found: editionFindings(seen(it), around, checks), blocks: blocksIn(message.html) };
}

/** What is told of a design and its editions: each fault once, with the editions and readers it touches. */
export function told(
  email: Email,
  design: readonly Found[],
  editions: readonly EditionLooked[],
  audience: AudienceContext,
): Told[] {
  const numbered = editions.map((edition, at) => ({ ...edition, number: at + 1 }));
  const all = [...design];
  const touched = new Map<string, Set<number>>();
  const keyOf = ({ check, block, text }: Found) => `${check} ${block} ${text}`;
  for (const { number, found } of numbered)
    for (const one of found) {
      const known = touched.get(keyOf(one));
      if (known) known.add(number);
      else {
        touched.set(keyOf(one), new Set([number]));
        all.push(one);
      }
    }
  return byWeight(all).map((one): Told => {
    const { block, when } = one;
    const meets = when && predicateOrNobody(when, audience);
    const those = numbered.filter(({ number, blocks, sample }) => {
      const seenIn = touched.get(keyOf(one));
      if (seenIn) return seenIn.has(number);
      return (block === undefined || blocks.has(block)) && (!meets || meets(sample));
    });
    return {
      ...one,
      id: hashOf(keyOf(one).replaceAll(/\d+/g, "")).toString(36),
      state: hashOf(canonical(placeOf(email, block))).toString(36),
      editions: those.length === editions.length ? null : those.map(({ number }) => number),
      readers: those.reduce((sum, { count }) => sum + count, 0),
    };
  });
}

/** What stands where a finding is. */
function placeOf(email: Email, block: string | undefined): unknown {
  const { sections, ...around } = email;
  if (block === undefined) return around;
  return blocksOf(email).find(({ id }) => id === block);
}
