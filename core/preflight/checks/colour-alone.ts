/** Links among words that differ from them by colour alone. */
import { contrast, DISTINCT } from "../../color";
import { linksOf } from "../../compose";
import type { Email } from "../../email";
import type { Check } from "../check";
import type { Circumstances, Finding } from "../finding";

/** From this weight on words are told apart by it. */
const BOLD = 600;

function alone(email: Email, { theme: { links, light, dark } }: Circumstances): Finding[] {
  if (links.underline || (links.weight ?? 400) >= BOLD) return [];
  const among = linksOf(email).find(({ run }) => run !== undefined);
  if (!among) return [];
  const [least, where] = (
    [
      [light, ""],
      [dark, " in the dark"],
    ] as const
  )
    .map(([{ link, text }, when]) => [contrast(link, text), when] as const)
    .reduce((one, other) => (other[0] < one[0] ? other : one));
  if (least >= DISTINCT) return [];
  return [
    {
      weight: "could",
      text: `Links among words differ from them by their colour alone, and by ${least.toFixed(1)} to 1${where}. Underline them in the theme, or make them bold; ${DISTINCT} to 1 would do, too.`,
      block: among.block,
    },
  ];
}

export const colourAloneCheck: Check = {
  name: "colour-alone",
  group: "reading",
  label: "links that are told without colours",
  why: "One man in twelve sees some colours as the same (WCAG 2.2, 1.4.1).",
  design: alone,
};
