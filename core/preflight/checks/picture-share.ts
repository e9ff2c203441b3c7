/** How much of an edition is words when pictures are off. */
import type { Check, Seen } from "../check";
import type { Finding } from "../finding";

/** Of all that is seen with pictures off, in percent. */
const LEAST = 60;

function edition({ pairs }: Seen): Finding[] {
  let words = 0;
  let alternative = 0;
  for (const pair of pairs("picturesOff")) {
    if (pair.kind !== "words") continue;
    if (pair.alternative) alternative += pair.words.length;
    else words += pair.words.length;
  }
  const share = Math.round((100 * words) / Math.max(1, words + alternative));
  if (alternative === 0 || share >= LEAST) return [];
  return [
    {
      weight: "could",
      text: `With pictures off, less than ${LEAST} % of what is left are words of the message: the rest stands in for pictures. Say in words what matters.`,
    },
  ];
}

export const pictureShareCheck: Check = {
  name: "picture-share",
  group: "law",
  label: "words beside pictures",
  why: "Filters distrust messages that are mostly pictures, and many readers have them off.",
  edition,
};
