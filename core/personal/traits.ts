/** What makes an edition, in words. */
import { describeRule, type Rule, type RuleNames } from "../audience";
import { languageAsked, languageName } from "../translation";
import type { EditionCount } from "./editions";
import { answerTo, type Split, splitsOf } from "./splits";

type Told = Pick<EditionCount, "met" | "fallbacks" | "language" | "codes">;

const said = (rule: Rule, names: RuleNames) =>
  describeRule(rule, names)
    .map(({ text }) => text)
    .join("")
    .replace(/^(whose|who are|who) /, "");

const OPPOSITES: Readonly<Record<string, string>> = {
  is: "isNot",
  anyOf: "noneOf",
  contains: "containsNot",
  includes: "includesNot",
  yes: "no",
  known: "unknown",
};

/** A rule that is met by all others, said as plainly as can be. */
function opposite(rule: Rule): Rule {
  if (rule.kind === "list" || rule.kind === "segment" || rule.kind === "standing")
    return { ...rule, in: !rule.in };
  if (rule.kind === "field" && OPPOSITES[rule.op]) return { ...rule, op: OPPOSITES[rule.op] } as Rule;
  return { kind: "none", of: [rule] };
}

/** Of a rule that a field is something, what it is. */
function valueAsked(rule: Rule, { fields }: RuleNames): string | null {
  const language = languageAsked(rule);
  if (language !== null) return languageName(language);
  if (rule.kind !== "field" || rule.op !== "is") return null;
  const options = fields.find(({ key }) => key === rule.field)?.options;
  return options?.find(({ value }) => value === rule.value)?.label ?? null;
}

const labelOf = (field: string, { fields }: RuleNames) => fields.find(({ key }) => key === field)?.label;
const asksLanguage = ({ rules: [{ rule }] }: Split) => languageAsked(rule) !== null;

/** What splits an audience into editions, and what makes each of them. */
export interface EditionWords {
  /** What is asked, and in how many ways it is answered. */
  splits: { label: string; ways: number }[];
  /** What makes an edition, in a few words each, in the order of the splits. */
  traits(edition: Told): string[];
}

/**
 * Puts in words what tells the editions of an email apart.
 * @param asked the rules of the email, as the editions answer them
 * @param own the email's own language, as a tag of BCP 47
 */
export function editionWords(
  asked: readonly Rule[],
  editions: readonly Told[],
  names: RuleNames,
  own: string,
): EditionWords {
  const all = splitsOf(asked, editions);
  // The language comes first, wherever in the design it is asked.
  const splits = [...all.filter(asksLanguage), ...all.filter((split) => !asksLanguage(split))];
  const spoken = splits.some(asksLanguage);
  const languages = new Set(editions.map(({ language }) => language)).size;
  const lacking = [...new Set(editions.flatMap(({ fallbacks }) => fallbacks))];
  const quietly = (field: string) => (labelOf(field, names) ?? field.replaceAll(/[_.]/g, " ")).toLowerCase();

  const answered = (split: Split, met: string): string[] => {
    const answer = answerTo(split, { met });
    if (!answer) return [];
    if (answer.meets.length > 0)
      return answer.meets.map((rule) => valueAsked(rule, names) ?? said(rule, names));
    const [{ rule }] = split.rules;
    if (languageAsked(rule) !== null) return [languageName(own)];
    return [split.rules.length > 1 ? `another ${quietly(split.field ?? "")}` : said(opposite(rule), names)];
  };

  return {
    splits: [
      ...(languages > 1 && !spoken ? [{ label: "Language", ways: languages }] : []),
      ...splits.map(({ field, rules: [{ rule }], ways }) => ({
        label: field === null ? said(rule, names) : (labelOf(field, names) ?? field),
        ways,
      })),
      ...lacking
        .filter((field) => editions.some(({ fallbacks }) => !fallbacks.includes(field)))
        .map((field) => ({ label: `${labelOf(field, names) ?? field} missing`, ways: 2 })),
    ],
    traits: ({ met, fallbacks, language, codes }) => [
      ...(language === null || spoken ? [] : [languageName(language)]),
      ...splits.flatMap((split) => answered(split, met)),
      ...fallbacks.map((field) => `no ${quietly(field)}`),
      ...(codes.length > 0 ? ["a code"] : []),
    ],
  };
}
