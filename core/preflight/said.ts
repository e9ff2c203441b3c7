import type { Rule } from "../audience";
import { blockTitle, blockType, wordsOf } from "../blocks";
import {
  atStart,
  type Block,
  blocksOf,
  type Email,
  ENVELOPE_LINES,
  eachPiece,
  hasTyped,
  type Inline,
  type Located,
  type Lookup,
  linesOf,
  lookupNamed,
  type MergeTag,
  pathTo,
  type TagFacts,
  tagsIn,
} from "../email";
import type { Finding } from "./finding";

/** Where something stands in a design. */
export interface Where {
  /** As a sentence begins with it. */
  where: string;
  block?: string;
}

/** A line of words and where it stands. */
interface Said extends Where {
  line: readonly Inline[];
}

/** A block as a sentence names it. */
export const whereIn = (block: Block): Where => ({
  where: `${blockType(block.type)?.label} “${blockTitle(block)}”`,
  block: block.id,
});

/** All words of a design. */
export function saidIn(email: Email): Said[] {
  return [
    ...ENVELOPE_LINES.map((it) => ({ line: it.of(email.envelope), where: atStart(it) })),
    ...blocksOf(email).flatMap((block) =>
      wordsOf(block).flatMap(({ words }) => linesOf(words).map((line) => ({ line, ...whereIn(block) }))),
    ),
  ];
}

/** What holds no typed words of this language: rules, the tags of words, and what is said in other languages. */
const NO_WORDS = new Set(["show", "when", "attrs", "translations"]);

/** All texts in something that hold typed tags; words themselves have tags of another kind. */
function typedWithin(it: unknown): string[] {
  if (typeof it === "string") return hasTyped(it) ? [it] : [];
  if (typeof it !== "object" || it === null) return [];
  if (Array.isArray(it)) return it.flatMap(typedWithin);
  const { type } = it as { type?: unknown };
  return Object.entries(it).flatMap(([key, value]) => {
    if (type === "text" && key === "text") return [];
    if (key === "attrs" && type === "link") return typedWithin(value);
    if (key === "attrs" && type === "either")
      return (value as { cases: { words: unknown }[]; otherwise: unknown }).cases
        .map(({ words }) => words)
        .concat((value as { otherwise: unknown }).otherwise)
        .flatMap(typedWithin);
    return NO_WORDS.has(key) ? [] : typedWithin(value);
  });
}

/** All texts of a design that hold typed tags: addresses, alternative texts, HTML of one's own. */
export function typedIn(email: Email): (Where & { text: string })[] {
  const { sender } = email.envelope;
  const own = [
    { text: sender.address, where: "The sender’s address" },
    { text: sender.replyTo ?? "", where: "The address for answers" },
  ];
  return [
    ...own.filter(({ text }) => hasTyped(text)),
    ...blocksOf(email).flatMap((block) => typedWithin(block).map((text) => ({ text, ...whereIn(block) }))),
  ];
}

/** All tags of a design, in words and typed. */
export function tagsOf(email: Email): (Where & { tag: MergeTag })[] {
  const within = (line: readonly Inline[]) =>
    [...eachPiece(line)].flatMap((it) => (it.type === "mergeTag" ? [it.attrs] : []));
  return [
    ...saidIn(email).flatMap(({ line, ...where }) => within(line).map((tag) => ({ tag, ...where }))),
    ...blocksOf(email).flatMap((block) =>
      (blockType(block.type)?.tags?.(block) ?? []).map((tag) => ({ tag, ...whereIn(block) })),
    ),
    ...typedIn(email).flatMap(({ text, ...where }) => tagsIn(text).map((tag) => ({ tag, ...where }))),
  ];
}

/** The fields that a tag asks, in order. */
export const fieldsOfTag = ({ field, or }: MergeTag): string[] => (or === undefined ? [field] : [field, or]);

/** The cases of either/ors in a line. */
export const casesIn = (line: readonly Inline[]) =>
  [...eachPiece(line)].flatMap((it) => (it.type === "either" ? it.attrs.cases : []));

/** A finding that begins with where it is. */
export const finding = (weight: Finding["weight"], { where, block }: Where, text: string): Finding => ({
  weight,
  text: `${where} ${text}`,
  ...(block !== undefined && { block }),
});

/** The lookups that a design asks. */
export function lookupsIn(email: Email, { lookups }: TagFacts): Lookup[] {
  const asked = tagsOf(email).flatMap(({ tag }) => lookupNamed(tag.field, lookups)?.lookup ?? []);
  return [...new Set(asked)];
}

/** Who meets none of the rules of a lookup. */
export const nobodyElse = ({ cases }: Lookup): Rule => ({ kind: "none", of: cases.map(({ when }) => when) });

/** The rules that tell the cases of a lookup apart, and those who meet none. */
export const lookupRules = (lookup: Lookup): Rule[] => [
  ...lookup.cases.map(({ when }) => when),
  nobodyElse(lookup),
];

/** The rule of a part together with those of what it stands in; undefined when it has none of its own. */
export function wholeRule(email: Email, it: Located): Rule | undefined {
  return it.kind === "column" || !it.node.show ? undefined : ruleAround(email, it.node.id);
}

/** The rules of a part and of what it stands in; undefined where everybody gets it. */
export function ruleAround(email: Email, id: string): Rule | undefined {
  const of = pathTo(email, id).flatMap((one) =>
    one.kind !== "column" && one.node.show ? [one.node.show] : [],
  );
  return of.length > 0 ? { kind: "all", of } : undefined;
}

/** Words as a finding quotes them: the beginning of long ones. */
export const short = (words: string, most = 40) =>
  words.length > most ? `${words.slice(0, most - 2)}…` : words;

/** Several things as a sentence names them. */
export const inWords = (words: readonly string[]) =>
  words.length < 2 ? words.join("") : `${words.slice(0, -1).join(", ")} and ${words[words.length - 1]}`;
