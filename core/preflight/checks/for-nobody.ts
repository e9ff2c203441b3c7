/** Parts whose rules none of the readers meet, or that cannot be answered. */
import { RuleError } from "../../audience";
import { blockTitle, blockType } from "../../blocks";
import { type Email, type Located, pathTo, walk } from "../../email";
import type { Check } from "../check";
import type { Circumstances, Finding } from "../finding";
import { wholeRule } from "../said";

const nameOf = (it: Located) =>
  it.kind === "block"
    ? `${blockType(it.node.type)?.label ?? "Block"} “${blockTitle(it.node)}”`
    : `A ${it.kind}`;

/**
 * Parts whose rules, with those around them, none of the readers meet; and those whose rules cannot be answered, or name
 * a list that was deleted, so that whoever was on it, or was not, is not told apart any more.
 */
function forNobody(email: Email, { readers }: Circumstances): Finding[] {
  if (readers.count === 0) return [];
  const reported = new Set<string>();
  const found: Finding[] = [];
  for (const it of walk(email)) {
    const rule = wholeRule(email, it);
    if (!rule || pathTo(email, it.node.id).some(({ node }) => reported.has(node.id))) continue;
    const block = it.kind === "block" ? { block: it.node.id } : {};
    try {
      if (readers.namesGone(rule)) {
        found.push({
          weight: "stops",
          text: `The rule of ${nameOf(it).replace(/^A /, "a ")} names a list that was deleted: nobody is on it any more. Change the rule, or bring the list back.`,
          ...block,
        });
        reported.add(it.node.id);
        continue;
      }
      if (readers.anybody(rule)) continue;
    } catch (error) {
      if (!(error instanceof RuleError)) throw error;
      found.push({
        weight: "stops",
        text: `A rule for who gets something cannot be answered: ${error.message}`,
      });
      reported.add(it.node.id);
      continue;
    }
    reported.add(it.node.id);
    found.push({
      weight: "look",
      text: `${nameOf(it)} is for nobody: none of the readers meets its rule. Change the rule, or delete it.`,
      ...block,
    });
  }
  return found;
}

export const forNobodyCheck: Check = {
  name: "for-nobody",
  group: "readers",
  label: "parts that somebody gets",
  why: "What nobody gets was meant for somebody.",
  design: forNobody,
};
