/** Emoji that older programs do not have. */
import type { Check, Seen } from "../check";
import type { Finding } from "../finding";
import { wordsByBlock } from "../words-seen";

/** Those of Unicode 14 (2021) and later that are a character of their own; a test holds them against the published list. */
const NEW =
  /[\u{1F6D8}\u{1F6DC}-\u{1F6DF}\u{1F7F0}\u{1F979}\u{1F9CC}\u{1FA75}-\u{1FA77}\u{1FA7B}\u{1FA7C}\u{1FA87}-\u{1FA8F}\u{1FAA9}-\u{1FAAF}\u{1FAB7}-\u{1FABF}\u{1FAC3}-\u{1FACF}\u{1FAD7}-\u{1FAFF}]/u;

/** The first emoji in a text that older programs show as an empty box. */
export const newEmoji = (text: string): string | null => NEW.exec(text)?.[0] ?? null;

const REMEDY = "Choose one that has been there for longer.";

function boxes(seen: Seen): Finding[] {
  const { senderName, subject, preheader } = seen.message;
  const said = (where: string, texts: readonly string[], block?: string): Finding[] => {
    const emoji = newEmoji(texts.join(" "));
    if (emoji === null) return [];
    const text = `${where} has “${emoji}”, which programs from before 2022 show as an empty box. ${REMEDY}`;
    return [{ weight: "could", text, ...(block !== undefined && { block }) }];
  };
  return [
    ...said("The sender’s name", [senderName]),
    ...said("The subject", [subject]),
    ...said("The preheader", [preheader]),
    ...[...wordsByBlock(seen)].flatMap(([block, texts]) => said("It", texts, block)),
  ];
}

export const emojiCheck: Check = {
  name: "emoji",
  group: "law",
  label: "emoji that everybody can see",
  why: "An empty box in a subject looks like a mistake, or like a trick.",
  edition: boxes,
};
