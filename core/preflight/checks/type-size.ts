/** Type that is too small on a phone. */
import { blocksOf, type Email } from "../../email";
import type { Check, Seen } from "../check";
import type { Circumstances, Finding } from "../finding";
import { short } from "../said";

/** In px; what stands in the footer may be a little smaller. */
const LEAST = { words: 14, footer: 13 };

function edition({ phonePairs }: Seen, { email }: Circumstances & { email: Email }): Finding[] {
  const footers = new Set(blocksOf(email).flatMap(({ id, type }) => (type === "footer" ? [id] : [])));
  const smallest = new Map<string, { size: number; words: string }>();
  for (const { kind, alternative, node, size, words } of phonePairs()) {
    if (kind !== "words" || alternative || node === null) continue;
    if (size >= (footers.has(node) ? LEAST.footer : LEAST.words) || !/[\p{L}\p{N}]/u.test(words)) continue;
    const known = smallest.get(node);
    if (!known || size < known.size) smallest.set(node, { size, words });
  }
  return [...smallest].map(([block, { size, words }]): Finding => {
    return {
      weight: size < 11 ? "look" : "could",
      text: `“${short(words)}” is ${Math.round(size * 10) / 10} px on phones. Give it ${LEAST.words} px there, at least.`,
      block,
    };
  });
}

export const typeSizeCheck: Check = {
  name: "type-size",
  group: "reading",
  label: "type of 14 px on phones",
  why: "Whoever has to enlarge a message with two fingers puts it away.",
  edition,
};
