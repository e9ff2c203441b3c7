/** Words that cannot be read on their ground, in light, in dark and in both inversions. */
import { type InboxName, type Pair, wanted } from "../../inboxes";
import type { Check, Seen } from "../check";
import type { Finding } from "../finding";
import { inWords, short } from "../said";

const WHERE: readonly [InboxName, string][] = [
  ["light", "in light"],
  ["dark", "in dark"],
  ["partial", "where colours are partly inverted"],
  ["full", "where all colours are inverted"],
];

/** Rounded down: 4.47 is not 4.5. */
const ratio = (value: number) => (Math.floor(value * 10) / 10).toFixed(1);

function edition({ pairs }: Seen): Finding[] {
  /** The worst pair of each block, and where else it falls short. */
  const worst = new Map<string, { pair: Pair; where: string[] }>();
  for (const [inbox, where] of WHERE)
    for (const pair of pairs(inbox)) {
      if (pair.ratio >= wanted(pair) - 0.005) continue;
      const key = `${pair.node} ${pair.kind}`;
      const known = worst.get(key);
      const places = [...new Set([...(known?.where ?? []), where])];
      const share = (one: Pair) => one.ratio / wanted(one);
      worst.set(key, { pair: known && share(known.pair) <= share(pair) ? known.pair : pair, where: places });
    }
  return [...worst.values()].map(({ pair, where }): Finding => {
    const what =
      pair.kind === "face" ? "The button" : pair.alternative ? "The alternative text" : "The words";
    return {
      weight: where.includes("in light") || where.includes("in dark") ? "look" : "could",
      text: `${what} “${short(pair.words)}” can hardly be ${pair.kind === "face" ? "told from the ground" : "read"} ${inWords(where)}: contrast ${ratio(pair.ratio)}, and ${ratio(wanted(pair))} is needed. Choose a colour further from the one behind it.`,
      ...(pair.node && { block: pair.node }),
    };
  });
}

export const contrastCheck: Check = {
  name: "contrast",
  group: "reading",
  label: "contrast in light and in dark",
  why: "One reader in twelve sees colours differently, and everybody reads in the sun (WCAG 2.2, 1.4.3).",
  edition,
};
