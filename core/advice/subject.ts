/** What a subject or preheader could do better. */
export interface SubjectAdvice {
  about: "subject" | "preheader";
  why: string;
}

const PROMISES =
  /\b(100 ?%|act now|best price|buy now|cash|cheap|click here|congratulations|double your|earn money|free|guaranteed?|last chance|limited time|lowest price|miracle|no cost|no risk|once in a lifetime|risk[- ]free|urgent|winner|won)\b/gi;

/** Looks at subject and preheader as an inbox shows them. Lengths are those preflight uses (30–60, cut at 70; 40–110). */
export function adviseSubject(subject: string, preheader: string): SubjectAdvice[] {
  const found: SubjectAdvice[] = [];
  const add = (about: SubjectAdvice["about"], why: string) => found.push({ about, why });
  const length = [...subject].length;
  if (length === 0) add("subject", "There is no subject yet.");
  else if (length > 70)
    add("subject", `${length} characters: phones cut it at about 70. Say the first thing first.`);
  else if (length > 60) add("subject", `${length} characters: some inboxes show about 60.`);
  const letters = subject.replace(/[^\p{L}]/gu, "");
  const capitals = subject.replace(/[^\p{Lu}]/gu, "");
  if (letters.length >= 8 && capitals.length / letters.length > 0.5)
    add("subject", "Mostly capitals: it reads as shouting.");
  if (/[!?]{2,}|!.*!/.test(subject)) add("subject", "One exclamation mark is enough.");
  const promises = [...new Set([...subject.matchAll(PROMISES)].map(([word]) => word.toLowerCase()))];
  if (promises.length > 0)
    add(
      "subject",
      `${promises.map((word) => `“${word}”`).join(", ")}: words that spam filters and readers distrust.`,
    );
  const pre = [...preheader].length;
  if (pre === 0) add("preheader", "Without a preheader, inboxes show the first words of the email instead.");
  else if (pre < 40)
    add("preheader", `${pre} characters: there is room for about 90, and the email’s first words follow.`);
  else if (pre > 110) add("preheader", `${pre} characters: inboxes show up to about 110.`);
  if (length > 0 && pre > 0 && overlap(subject, preheader) > 0.6)
    add("preheader", "It repeats the subject. Say the second thing.");
  return found;
}

/** Which share of the words of the first stands in the second too. */
function overlap(first: string, second: string): number {
  const words = (text: string) => new Set(text.toLowerCase().match(/\p{L}{3,}/gu) ?? []);
  const [a, b] = [words(first), words(second)];
  if (a.size < 2) return 0;
  return [...a].filter((word) => b.has(word)).length / a.size;
}
