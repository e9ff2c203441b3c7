import type { Raw } from "../../email";
import { readyList } from "../items/looks";

/** What the parts of a block of articles are called among those of items. */
const PARTS: Readonly<Record<string, string>> = { excerpt: "text", link: "button" };

/** To schema 3: a block of the newest articles of a feed is a list by rule, set as it was. */
export function fromArticles({ excerptLength, parts, off, ...raw }: Raw): Raw {
  // Before schema 2 parts were on or off by their names.
  const was = Array.isArray(off)
    ? off
    : Object.entries(Object(parts)).flatMap(([key, on]) => (on ? [] : [key]));
  const { off: unsaid = [], count: _, ...look } = readyList("articles");
  const others = unsaid.filter((part) => part !== "date");
  return {
    ...look,
    across: 1,
    gap: 20,
    onPhones: "stack",
    align: "left",
    shorten: "letters",
    textLines: 3,
    facts: [],
    badges: [],
    wasWords: "was",
    soldWords: "Sold out",
    calendarWords: "Add to my calendar",
    sinceLast: false,
    apart: false,
    sold: true,
    unsent: 0,
    unbought: 0,
    least: 1,
    instead: "",
    title: "",
    ...raw,
    type: "picks",
    textLength: excerptLength,
    off: [...was.map((part: string) => PARTS[part] ?? part), ...others],
  };
}
