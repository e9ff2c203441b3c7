/** Links that lead to a file. */
import { linksOf } from "../../compose";
import type { Email } from "../../email";
import type { Check } from "../check";
import type { Finding } from "../finding";

const FILE = /\.(pdf|docx?|xlsx?|pptx?|zip|rar|7z|exe|dmg|msi|apk|js|iso)$/i;
/** What filters block at once. */
const DANGEROUS = /^(?:exe|dmg|msi|apk|js|iso|rar|7z|zip)$/i;

function design(email: Email): Finding[] {
  return linksOf(email).flatMap((link): Finding[] => {
    if (!URL.canParse(link.href)) return [];
    const kind = FILE.exec(new URL(link.href).pathname)?.[1].toLowerCase();
    if (!kind || new RegExp(`\\b${kind}\\b`, "i").test(link.words)) return [];
    const words = link.words.trim() === "" ? `A link in “${link.where}”` : `“${link.words.trim()}”`;
    return [
      DANGEROUS.test(kind)
        ? {
            weight: "look",
            text: `${words} leads straight to a .${kind} file. Lead to a page that offers it.`,
            block: link.block,
          }
        : {
            weight: "could",
            text: `${words} leads to a ${kind.toUpperCase()} file and does not say so. Say it in its words, with its size.`,
            block: link.block,
          },
    ];
  });
}

export const linksFileCheck: Check = {
  name: "links-file",
  group: "content",
  label: "links to files that say so",
  why: "On a phone a file is a surprise that costs time; what filters take for a program costs the whole message.",
  spoken: true,
  design,
};
