/** Links whose words do not say where they lead. */
import { type EmailLink, linksOf } from "../../compose";
import type { Email } from "../../email";
import type { Check } from "../check";
import type { Finding } from "../finding";

/** Words that say nothing by themselves, when read aloud one link after the other (WCAG 2.2, 2.4.4). */
const EMPTY =
  /^(?:click(?: here)?|here|this|link|this link|more|info|press here|tap here|hier(?: klicken)?|klick(?:en sie)?(?: hier)?|mehr|ici|cliquez(?: ici)?|plus|aquí|haz clic(?: aquí)?|qui|clicca(?: qui)?)$/i;

/** The words of a link without what points on. */
export const said = ({ words }: EmailLink) => words.replace(/[\s.…!»›→]+$/u, "").trim();

function empty(email: Email): Finding[] {
  return linksOf(email).flatMap((link): Finding[] => {
    if (!EMPTY.test(said(link))) return [];
    return [
      {
        weight: "could",
        text: `The link “${link.words.trim()}” does not say where it leads. Let its words name what comes: “See what to sow in March”.`,
        block: link.block,
      },
    ];
  });
}

export const linksWordsCheck: Check = {
  name: "links-words",
  group: "content",
  label: "links that say where they lead",
  why: "Many look for links first, or have them read aloud, one after the other.",
  spoken: true,
  design: empty,
};
