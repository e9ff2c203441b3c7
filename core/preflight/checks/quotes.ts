/** Quotation marks of two kinds. */
import { blocksOf, type Email } from "../../email";
import type { Check } from "../check";
import { type Finding, mendBy } from "../finding";
import { rewritten, textsIn } from "../rewrite";

const CURLY = /[“”„«»]/g;
const STRAIGHT = /"/g;
const count = (texts: readonly string[], mark: RegExp) =>
  texts.reduce((sum, text) => sum + (text.match(mark)?.length ?? 0), 0);

/** Straight marks become those of English, opening after a space or at the beginning. */
const curled = (text: string) => text.replace(/(^|[\s([—–-])"/g, "$1“").replace(STRAIGHT, "”");

function quotes(email: Email): Finding[] {
  const blocks = blocksOf(email).map((block) => ({ block, texts: textsIn(block) }));
  if (blocks.every(({ texts }) => count(texts, CURLY) === 0)) return [];
  return blocks.flatMap(({ block, texts }): Finding[] => {
    if (count(texts, STRAIGHT) === 0) return [];
    return [
      {
        weight: "could",
        text: "Straight quotation marks stand among curly ones. Use one kind.",
        block: block.id,
        ...(email.language.startsWith("en") && {
          mend: mendBy("Make them curly", email, rewritten(block, curled)),
        }),
      },
    ];
  });
}

export const quotesCheck: Check = {
  name: "quotes",
  group: "content",
  label: "quotation marks of one kind",
  why: "Two kinds show that the words come from two places.",
  spoken: true,
  design: quotes,
};
