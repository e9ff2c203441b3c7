import { blockTitle } from "../../blocks";
import { blocksOf, type Email } from "../../email";
import type { Check } from "../check";
import type { Circumstances, Finding } from "../finding";

const readersWords = (count: number) => `${count.toLocaleString("en")} ${count === 1 ? "reader" : "readers"}`;
const get = (count: number) => (count === 1 ? "gets" : "get");

/** How many readers a list gives less than it is asked for, as a sentence; null where all get as many. */
export function fewerWords({
  asked,
  readers,
  none,
  fewer,
}: {
  asked: number;
  readers: number;
  none: number;
  fewer: number;
}): string | null {
  if (readers === 0 || none + fewer === 0) return null;
  if (none === readers) return `None of ${readersWords(readers)} gets any.`;
  const parts = [
    ...(fewer > 0 ? [`${readersWords(fewer)} ${get(fewer)} fewer than ${asked}`] : []),
    ...(none > 0 ? [`${none.toLocaleString("en")} ${get(none)} none`] : []),
  ];
  return `Of ${readersWords(readers)}, ${parts.join(" and ")}.`;
}

/** Lists by rule that give some readers nothing: those read its own words, or the block is not there for them. */
export function listsShort(email: Email, { lists = [] }: Pick<Circumstances, "lists">): Finding[] {
  return lists.flatMap(({ block, asked, readers, none }): Finding[] => {
    const node = blocksOf(email).find(({ id }) => id === block);
    if (!node || none === 0) return [];
    const words = fewerWords({ asked, readers, none, fewer: 0 });
    return [
      {
        weight: "look",
        text: `“${blockTitle(node)}” is filled for each reader. ${words} Widen its rule, add a way, or leave it at that.`,
        block,
      },
    ];
  });
}

export const listsCheck: Check = {
  name: "lists",
  group: "readers",
  label: "lists that are full",
  why: "A heading over three things where there is one reads as a mistake.",
  design: listsShort,
};
