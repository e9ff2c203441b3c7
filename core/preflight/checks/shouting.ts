/** What shouts. */
import { adviseText } from "../../advice";
import type { Check, Seen } from "../check";
import type { Finding } from "../finding";
import { wordsByBlock } from "../words-seen";

/** Whether capitals are part of a code, such as BULBS-2026. */
const isCode = (text: string, from: number, to: number) =>
  /[-_\d]/.test(text[to] ?? "") || /[-_\d]/.test(text[from - 1] ?? "");

function shouts(seen: Seen): Finding[] {
  return [...wordsByBlock(seen)].flatMap(([block, texts]): Finding[] => {
    const [found] = texts.flatMap((text) =>
      adviseText(text).filter(({ kind, from, to }) => kind === "shouting" && !isCode(text, from, to)),
    );
    if (!found) return [];
    return [{ weight: "could", text: `“${found.words}” shouts. Write it as the rest.`, block }];
  });
}

export const shoutingCheck: Check = {
  name: "shouting",
  group: "law",
  label: "a quiet tone",
  why: "Capitals and rows of exclamation marks are counted by filters, and read as shouting.",
  edition: shouts,
};
