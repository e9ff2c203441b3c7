/** The order of headings. */
import type { Check, Seen } from "../check";
import type { Finding } from "../finding";

function edition({ outline }: Seen): Finding[] {
  const { headings } = outline();
  let before = 0;
  return headings.flatMap(({ level, words, node }): Finding[] => {
    const skips = level > before + 1;
    const first = before === 0;
    before = level;
    if (!skips) return [];
    return [
      {
        weight: "could",
        text: first
          ? `The first heading, “${words}”, has level ${level}. Let the outline choose its level, or give it the first.`
          : `The heading “${words}” skips a level. Let the outline choose its level.`,
        ...(node && { block: node }),
      },
    ];
  });
}

export const headingOrderCheck: Check = {
  name: "heading-order",
  group: "content",
  label: "headings in order",
  why: "Who has it read aloud goes from heading to heading, and takes a skipped level for a part that was missed (WCAG 2.2, 1.3.1).",
  edition,
};
