/** The same words that lead to different places. */
import { type EmailLink, linksOf } from "../../compose";
import type { Email } from "../../email";
import type { Check } from "../check";
import type { Finding } from "../finding";
import { said } from "./links-words";

function alike(email: Email): Finding[] {
  const byWords = new Map<string, EmailLink[]>();
  for (const link of linksOf(email)) {
    const words = said(link).toLowerCase();
    if (words !== "" && link.href !== "") byWords.set(words, [...(byWords.get(words) ?? []), link]);
  }
  return [...byWords.values()].flatMap((those): Finding[] => {
    const places = new Set(those.map(({ href }) => href.trim().replace(/\/$/, "")));
    if (places.size < 2) return [];
    const last = those[those.length - 1];
    return [
      {
        weight: "could",
        text: `“${last.words.trim()}” leads to ${places.size} different places. Say what is different, or lead to one.`,
        block: last.block,
      },
    ];
  });
}

export const linksAlikeCheck: Check = {
  name: "links-alike",
  group: "content",
  label: "different words for different places",
  why: "Whoever has read one believes to know the other.",
  spoken: true,
  design: alike,
};
