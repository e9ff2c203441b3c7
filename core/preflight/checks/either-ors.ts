/** Cases of either/ors that nobody gets, or whose rules cannot be answered. */
import { RuleError } from "../../audience";
import { type Email, inlineText } from "../../email";
import type { Check } from "../check";
import type { Circumstances, Finding } from "../finding";
import { casesIn, saidIn, short } from "../said";

/** Cases of either/ors that nobody gets, or whose rules cannot be answered or name a list that was deleted. */
function eitherOrs(email: Email, { readers }: Circumstances): Finding[] {
  if (readers.count === 0) return [];
  return saidIn(email).flatMap(({ line, where, block }) =>
    casesIn(line).flatMap(({ when, words }): Finding[] => {
      const said = inlineText(words);
      const one = `the case “${short(said, 50)}”`;
      const finding = (weight: Finding["weight"], text: string): Finding => ({
        weight,
        text: `${where}: ${text}`,
        ...(block !== undefined && { block }),
      });
      try {
        if (readers.namesGone(when))
          return [
            finding(
              "stops",
              `the rule of ${one} names a list that was deleted: nobody is on it any more. Change the rule, or bring the list back.`,
            ),
          ];
        if (readers.anybody(when)) return [];
        return [finding("look", `${one} is for nobody: none of the readers meets its rule.`)];
      } catch (error) {
        if (!(error instanceof RuleError)) throw error;
        return [finding("stops", `the rule of ${one} cannot be answered: ${error.message}`)];
      }
    }),
  );
}

export const eitherOrsCheck: Check = {
  name: "either-ors",
  group: "readers",
  label: "cases that somebody gets",
  why: "What nobody gets was meant for somebody.",
  spoken: true,
  design: eitherOrs,
};
