import type { AssistTask } from "~/core/assistant";

type Rules = readonly (readonly [RegExp, string])[];

const SHORTER: Rules = [
  [/\b(really|very|quite|rather|actually|basically|simply|just|certainly|absolutely)\s+/gi, ""],
  [/\bin order to\b/gi, "to"],
  [/\bdue to the fact that\b/gi, "because"],
  [/\bat this point in time\b/gi, "now"],
  [/\ba large number of\b/gi, "many"],
  [/\bwe are (?:pleased|happy|delighted) to (?:announce|tell you|say) that\s+/gi, ""],
  [/\bplease (?:do not hesitate|feel free) to\b/gi, "please"],
  [/\s*\([^)]*\)/g, ""],
  [/,\s+(?:which|so that|as well as)\s[^,.;!?\ufffc]*(?=[.!?]|$)/gi, ""],
];
const OTHER_WORDS: Rules = [
  [/\bbegin\b/gi, "start"],
  [/\bstart\b/gi, "begin"],
  [/\bnow\b/gi, "today"],
  [/\bbig\b/gi, "large"],
  [/\bshow\b/gi, "let you see"],
  [/\bhelp\b/gi, "give a hand"],
  [/\bget\b/gi, "receive"],
  [/\bneed\b/gi, "want"],
  [/\bmonth\b/gi, "few weeks"],
  [/\bevery\b/gi, "each"],
  [/\bsee\b/gi, "look at"],
  [/\bwrite\b/gi, "put down"],
];
const PLAINER: Rules = [
  [/\butili[sz]e\b/gi, "use"],
  [/\bpurchase\b/gi, "buy"],
  [/\bassistance\b/gi, "help"],
  [/\bcommence\b/gi, "begin"],
  [/\badditional\b/gi, "more"],
  [/\bapproximately\b/gi, "about"],
  [/\bprior to\b/gi, "before"],
  [/\bhowever\b/gi, "but"],
  [/;\s*/g, ". "],
];
const FORMAL: Rules = [
  [/\b(ca)n['’]t\b/gi, "$1nnot"],
  [/\bwon['’]t\b/gi, "will not"],
  [/\b(\w+)n['’]t\b/gi, "$1 not"],
  [/\bit['’]s\b/gi, "it is"],
  [/\b(we|you|they)['’]re\b/gi, "$1 are"],
  [/\b(we|you|they|I)['’]ll\b/gi, "$1 will"],
  [/\b(we|you|they|I)['’]ve\b/gi, "$1 have"],
  [/\bhi\b/gi, "dear"],
  [/!+/g, "."],
];
const WARMER: Rules = [
  [/\bcannot\b/gi, "can’t"],
  [/\bdo not\b/gi, "don’t"],
  [/\b(we|you|they) are\b/gi, "$1’re"],
  [/\bit is\b/gi, "it’s"],
  [/\bwe will\b/gi, "we’ll"],
  [/\bdear\b/gi, "hello"],
];

const RULES: Record<AssistTask, Rules> = {
  shorten: SHORTER,
  reword: OTHER_WORDS,
  plainer: [...PLAINER, ...SHORTER.slice(1, 6)],
  formal: FORMAL,
  warmer: WARMER,
};

/** The same first letter, large or small, as what is replaced. */
function alike(before: string, after: string): string {
  const [first] = before;
  return first && first !== first.toLowerCase() && after !== ""
    ? after[0].toUpperCase() + after.slice(1)
    : after;
}

/** Words rewritten by rules, which understand nothing. */
export function rewritten(text: string, task: AssistTask): string {
  let words = text;
  const used: string[] = [];
  for (const [pattern, instead] of RULES[task]) {
    // A word put in by one rule is not taken out by the next.
    if (used.some((put) => put.search(pattern) >= 0)) continue;
    const next = words.replace(pattern, (...match) => {
      const whole = String(match[0]);
      return alike(whole, instead.replace(/\$1/g, String(match[1] ?? "")));
    });
    if (next !== words && instead !== "") used.push(instead);
    words = next;
  }
  return words
    .replace(/ {2,}/g, " ")
    .replace(/(^|[.!?]\s+)(\p{Ll})/gu, (_, lead, letter) => lead + letter.toUpperCase());
}
