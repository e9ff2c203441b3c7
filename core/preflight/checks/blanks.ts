/** What reads wrongly because something was empty for a reader. */
import type { Check, Seen } from "../check";
import type { Finding } from "../finding";

/** A sign that closes, after nothing but a space; brackets and quotation marks around nothing; two commas. */
const BLANKS = [
  /[\p{L}\p{N}]+ [,;](?= |$|\n)/u,
  /(?:^|\n)[ \t]*,\s?[^\n]{0,20}/u,
  /,\s*,/u,
  /\(\s*\)/u,
  /“\s*”/u,
  // A sentence that ends after a space; a list of dots, or a figure that begins with one, is none.
  /\p{Ll}{2,} \.(?=\s|$)/u,
];

/** As many words as are shown before and after a place. */
const AROUND = 3;
const ending = (text: string) => {
  const words = text.split(" ");
  return words.length > AROUND ? `…${words.slice(-AROUND).join(" ")}` : text;
};
const beginning = (text: string) => {
  const words = text.split(" ");
  return words.length > AROUND + 1 ? `${words.slice(0, AROUND + 1).join(" ")}…` : text;
};

/** The place in a text that reads as if something were missing, with what stands around it; null where there is none. */
export function blankIn(text: string): string | null {
  for (const blank of BLANKS) {
    const found = blank.exec(text);
    if (!found) continue;
    const before = text.slice(0, found.index).split("\n").at(-1) ?? "";
    const after = text.slice(found.index + found[0].length).split("\n")[0];
    return `${ending(before)}${found[0].trim() === found[0] ? found[0] : found[0].replace(/\n/g, "")}${beginning(after)}`.trim();
  }
  return null;
}

function edition({ message, pairs }: Seen): Finding[] {
  const heads = (
    [
      ["The subject", message.subject],
      ["The preheader", message.preheader],
    ] as const
  ).flatMap(([where, text]): Finding[] => {
    const said = blankIn(text);
    return said === null ? [] : [{ weight: "look", text: `${where} reads “${said}”. ${REMEDY}` }];
  });
  // The preheader stands in the message, too, where nobody sees it.
  const blocks = new Map<string, string>();
  for (const { kind, alternative, node, words } of pairs("light")) {
    if (kind !== "words" || alternative || node === null) continue;
    blocks.set(node, `${blocks.get(node) ?? ""}${words}\n`);
  }
  const inBlocks = [...blocks].flatMap(([block, text]): Finding[] => {
    const said = blankIn(text);
    return said === null ? [] : [{ weight: "look", text: `Some read “${said}”. ${REMEDY}`, block }];
  });
  return [...heads, ...inBlocks];
}

const REMEDY = "Give the tag a fallback that fits the sentence, or put it into an either/or with its signs.";

export const blanksCheck: Check = {
  name: "blanks",
  group: "readers",
  label: "sentences without gaps",
  why: "“Hello ,” shows that a machine wrote, and that nobody looked.",
  edition,
};
