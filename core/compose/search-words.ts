import { wordsOf } from "../blocks";
import { type Email, inlineText, walk, wordSigns } from "../email";
import { linksOf } from "./links";

/**
 * What a design is found by, in small letters: its subject and preheader, all words of its body, the addresses its links
 * lead to, and the names and alternative texts of what it shows.
 */
export function searchWords(email: Email): string {
  const { subject, preheader, sender } = email.envelope;
  const blocks = [...walk(email)].flatMap((it) => (it.kind === "block" ? [it.node] : []));
  const shown = JSON.stringify(email.sections).matchAll(
    /"(?:src|alt|label|title|place)":"((?:[^"\\]|\\.)*)"/g,
  );
  const names = [...walk(email)].map(({ node }) => ("name" in node && node.name) || "");
  return [
    inlineText(subject),
    inlineText(preheader),
    inlineText(sender.name),
    sender.address,
    ...blocks.flatMap((block) => wordsOf(block).map(({ words }) => wordSigns(words))),
    ...linksOf(email).map(({ href }) => href),
    ...[...shown].map(([, value]) => value),
    ...names,
  ]
    .join("\n")
    .toLowerCase()
    .replaceAll("\ufffc", "")
    .slice(0, 60_000);
}
