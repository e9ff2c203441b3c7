import type { Letter } from "~/core/assistant";
import { rewritten } from "./rewrite";

interface Answer {
  text: string;
  for?: string;
}

const plain = (markdown: string) =>
  markdown
    .replace(/\{[^{}]*\}/g, "")
    .replace(/[*_\\`#]|\]\([^)]*\)|\[/g, "")
    .replace(/\s+/g, " ")
    .trim();
const small = (text: string) =>
  /^\p{Lu}\p{Lu}/u.test(text) ? text : text.slice(0, 1).toLowerCase() + text.slice(1);
const cut = (text: string, most: number) =>
  text.length <= most ? text : text.slice(0, most).replace(/[\s,;:–-]+\S*$/, "");

/** The sentences that name no reader, when there are any: what somebody is called is not what a letter is about. */
function withoutReaders(text: string): string {
  const without = text.split(/(?<=[.!?])\s+/).filter((one) => !one.includes("{"));
  return without.length > 0 ? without.join(" ") : text.replace(/[\s,]*\{[^{}]*\}/g, "");
}

/** What a letter is about, as far as rules can tell: its headings, or else its first words. */
function topics({ subject, places }: Letter): string[] {
  const said = places
    .filter(({ kind }) => kind === "heading")
    .map(({ text }) => cut(plain(withoutReaders(text)).replace(/[.!?,:]+$/, ""), 45))
    .filter((text) => text.length >= 4);
  const [words] = places.filter(({ form, text }) => form === "paragraphs" && plain(text) !== "");
  const otherwise = cut(plain(subject), 45) || cut(plain(words?.text ?? ""), 45);
  const found = said.length > 0 ? said : [otherwise].filter(Boolean);
  return [...new Set(found)];
}

/** Answers by what words the question holds. */
export function answersTo(question: string, letter: Letter): Answer[] {
  const about = topics(letter);
  const [first = "this letter", second, third] = about;
  if (/\bpreheader|preview (line|text)/i.test(question))
    return [
      second
        ? `Also: ${small(second)}${third ? `, and ${small(third)}` : ""}`
        : `More about ${small(first)} inside`,
      `What to know about ${small(first)}, in two minutes`,
      `From us to you: ${small(first)}`,
    ].map((text) => ({ text: cut(text, 110), for: "preheader" }));
  if (/\bsubject/i.test(question))
    return [
      first,
      second ? `${first}, and ${small(second)}` : `${first}: what to know`,
      `Your guide to ${small(first)}`,
      `${first}? Begin here`,
      `Before the week is over: ${small(first)}`,
    ].map((text) => ({ text: cut(text, 60), for: "subject" }));
  if (/\b(open|begin|start|first|intro)\w*/i.test(question)) {
    const opening = letter.places.find(({ form, text }) => form === "paragraphs" && plain(text).length > 20);
    if (!opening) return [{ text: "There is no opening yet that could be shorter." }];
    const [paragraph, ...more] = rewritten(opening.text, "shorten").split(/\n\n+/);
    const sentences = paragraph.split(/(?<=[.!?])\s+/);
    const kept = sentences.slice(0, Math.max(1, Math.ceil(sentences.length / 2))).join(" ");
    return [{ text: [kept, ...more].join("\n\n"), for: opening.id }];
  }
  if (/\bidea/i.test(question))
    return [
      `## A question you asked us\n\nThis month somebody asked about ${small(first)}. Here is what we answered.`,
      `## In the next letter\n\nMore on ${small(second ?? first)}: tell us what you would like to know.`,
      `> “What I learned about ${small(first)} was worth the wait.”`,
    ].map((text) => ({ text, for: "new" }));
  const words = letter.places.reduce(
    (sum, { text }) => sum + plain(text).split(" ").filter(Boolean).length,
    0,
  );
  return [
    {
      text: `I am simulated, and understand nothing. This email has ${words} words under ${about.length === 1 ? "one heading" : `${about.length} headings`}. Ask me for subjects, a preheader, a shorter opening or ideas.`,
    },
  ];
}
