import { type AudienceContext, type Contact, predicate, type Rule } from "../audience";
import type { Email } from "../email";
import { same } from "../values";
import { translated } from "./translated";
import { languagesOf } from "./units";

/** The field that holds a reader's language. */
const FIELD = "language";

/** What a language is without its region, script and the like. */
export const baseOf = (language: string): string => language.split(/[-_]/)[0].toLowerCase();

const test = (op: "is" | "startsWith", value: string): Rule => ({ kind: "field", field: FIELD, op, value });

/** The rule that readers meet whose language is one, or a kind of it: `de` and `de-AT` for `de`. */
function speaks(language: string): Rule {
  const ways = [...new Set([language, language.replaceAll("-", "_")])];
  const kinds = ways.flatMap((way) => [test("startsWith", `${way}-`), test("startsWith", `${way}_`)]);
  return { kind: "any", of: [...ways.map((way) => test("is", way)), ...kinds] };
}

/** A version of an email, and who gets it; everybody else where no rule stands. */
export interface Version {
  language: string;
  when?: Rule;
  email: Email;
}

/**
 * The versions of an email, in the order in which readers are looked at: the most particular language first, then those
 * who speak another kind of a language that is there (RFC 4647, 3.4, and further than it), then everybody else.
 */
export function versionsOf(email: Email): Version[] {
  const own = email.language;
  const others = languagesOf(email).filter((language) => language !== own);
  if (others.length === 0) return [{ language: own, email }];
  const exact = [own, ...others]
    .map((language) => ({ language, parts: language.split("-").length }))
    .sort((one, other) => other.parts - one.parts)
    .map(({ language }) => ({ language, when: speaks(language) }));
  const plain = new Set([own, ...others].map((language) => language.toLowerCase()));
  const loose = [own, ...others].flatMap((language) => {
    const base = baseOf(language);
    if (plain.has(base)) return [];
    plain.add(base);
    return [{ language, when: speaks(base) }];
  });
  const asked = [...exact, ...loose];
  // Who would get the design's own language in the end need not be asked for it.
  while (asked.at(-1)?.language === own) asked.pop();
  const needed = asked.filter(({ language }, at) => language !== own || overlaps(asked, at));
  return [
    ...needed.map((one) => ({ ...one, email: translated(email, one.language) })),
    { language: own, email },
  ];
}

/** Whether a later version would take readers of this one. */
const overlaps = (asked: readonly { language: string }[], at: number) =>
  asked.slice(at + 1).some(({ language }) => baseOf(language) === baseOf(asked[at].language));

const NO_AUDIENCE: AudienceContext = { today: "2000-01-01", segments: new Map() };
const chosen = new WeakMap<object, { own: string; choose(contact: Contact): string }>();

/** The language in which a reader gets an email. */
export function languageFor(email: Email, contact: Contact): string {
  const { translations, language: own } = email;
  if (!translations) return own;
  let known = chosen.get(translations);
  if (known?.own !== own) {
    const cases = versionsOf({ ...email, sections: [] }).map(({ language, when }) => ({
      language,
      meets: when ? predicate(when, NO_AUDIENCE) : () => true,
    }));
    known = { own, choose: (reader) => cases.find(({ meets }) => meets(reader))?.language ?? own };
    chosen.set(translations, known);
  }
  return known.choose(contact);
}

/** The language that a rule made by `versionsOf` asks for; null for any other rule. */
export function languageAsked(rule: Rule): string | null {
  if (rule.kind !== "any") return null;
  const [first] = rule.of;
  if (first?.kind !== "field" || first.field !== FIELD || first.op !== "is") return null;
  return same(speaks(first.value), rule) ? first.value : null;
}

/** What a language is called, in English. */
export function languageName(language: string): string {
  try {
    return new Intl.DisplayNames("en", { type: "language" }).of(language.replaceAll("_", "-")) ?? language;
  } catch {
    return language;
  }
}
