import { picturesOf, textsOf, wordsOf } from "../blocks";
import {
  type Block,
  type Email,
  ENVELOPE_LINES,
  inlineText,
  remembered,
  type Section,
  walkIn,
  wordSigns,
} from "../email";
import { aroundPart, type Clipping } from "./clippings";
import { linksIn } from "./links";

/**
 * What a design is found by, in small letters: its subject and preheader, all words of its body, the addresses its links
 * lead to, and the names and alternative texts of what it shows.
 */
export function searchWords(email: Email): string {
  const { envelope } = email;
  const lines = ENVELOPE_LINES.filter(({ apart }) => !apart).map(({ of }) => inlineText(of(envelope)));
  return small([...lines, envelope.sender.address, ...wordsInside(email)]);
}

/** The same for a part that is kept by itself. */
export function partWords({ part, node }: Pick<Clipping, "part" | "node">): string {
  return small(wordsInside(aroundPart(part, node) as Email));
}

/** The words, addresses, alternative texts and names within a design. */
function wordsInside(email: Email): string[] {
  return email.sections.flatMap(wordsInSection);
}

const wordsInSection = remembered((node: Section): string[] =>
  [{ kind: "section" as const, node }, ...walkIn({ kind: "section", node })].flatMap((it) => [
    ...(it.kind === "block" ? wordsInBlock(it.node) : []),
    ("name" in it.node && it.node.name) || "",
  ]),
);

const wordsInBlock = remembered((block: Block): string[] => [
  ...wordsOf(block).map(({ words }) => wordSigns(words)),
  ...textsOf(block).map(({ text }) => text),
  ...picturesOf(block).map(({ picture }) => picture.src),
  ...linksIn(block).map(({ href }) => href),
]);

const small = (words: readonly string[]) =>
  words.join("\n").toLowerCase().replaceAll("\ufffc", "").slice(0, 60_000);
