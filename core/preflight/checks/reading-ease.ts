/** How easily an English letter is read. */
import { readingEase } from "../../advice";
import type { Check, Seen } from "../check";
import type { Finding } from "../finding";
import { wordsByBlock } from "../words-seen";

/** Under this, sentences ask for a good education (R. Flesch, 1948: “difficult”). */
const DIFFICULT = 45;

function hard(seen: Seen): Finding[] {
  if (!seen.language.startsWith("en")) return [];
  // Only what is a sentence: buttons, names and prices say nothing of how one writes.
  const sentences = [...wordsByBlock(seen).values()].flat().filter((words) => /[.!?…]$/.test(words));
  const ease = readingEase(sentences.join(" "));
  if (ease === null || ease >= DIFFICULT) return [];
  return [
    {
      weight: "could",
      text: "Its sentences are hard to read. Part the long ones, and take the shorter of two words.",
    },
  ];
}

export const readingEaseCheck: Check = {
  name: "reading-ease",
  group: "reading",
  label: "sentences that are read easily",
  why: "A letter is read in seconds, between two other things.",
  edition: hard,
};
