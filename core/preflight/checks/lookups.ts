/** Lookups whose rules cannot be answered, and those that say nothing to some readers. */
import { type Rule, RuleError } from "../../audience";
import { type Email, lookupNamed } from "../../email";
import type { Check } from "../check";
import type { Circumstances, Finding } from "../finding";
import { finding, lookupsIn, nobodyElse, tagsOf } from "../said";

/** Lookups whose rules cannot be answered, and those that say nothing to some readers. */
function lookupCases(email: Email, { readers: those, tags = {} }: Circumstances): Finding[] {
  if (those.count === 0) return [];
  const rules = lookupsIn(email, tags).flatMap((lookup): Finding[] =>
    lookup.cases.flatMap(({ name, when }, at): Finding[] => {
      const where = { where: `The lookup “${lookup.name}”` };
      const which = name === "" ? `case ${at + 1}` : `the case “${name}”`;
      try {
        if (!those.namesGone(when)) return [];
        return [finding("stops", where, `asks in ${which} for a list that was deleted. Change its rule.`)];
      } catch (error) {
        if (!(error instanceof RuleError)) throw error;
        return [finding("stops", where, `cannot answer the rule of ${which}: ${error.message}`)];
      }
    }),
  );
  if (rules.length > 0) return rules;
  return tagsOf(email).flatMap(({ tag, ...where }): Finding[] => {
    const found = lookupNamed(tag.field, tags.lookups);
    if (!found || tag.fallback !== "") return [];
    const { lookup, part } = found;
    const before: Rule[] = [];
    for (const { name, when, value } of lookup.cases) {
      const only: Rule = { kind: "all", of: [when, { kind: "none", of: [...before] }] };
      before.push(when);
      if ((value[part] ?? "").trim() === "" && those.anybody(only))
        return [
          {
            ...finding(
              "look",
              where,
              `writes nothing for readers of the case “${name}” of “${lookup.name}”.`,
            ),
            when: only,
          },
        ];
    }
    if ((lookup.otherwise[part] ?? "").trim() !== "" || !those.anybody(nobodyElse(lookup))) return [];
    const text = `writes nothing for readers who are in no case of “${lookup.name}”. Say there what everybody else gets, or give the tag a fallback.`;
    return [{ ...finding("look", where, text), when: nobodyElse(lookup) }];
  });
}

export const lookupsCheck: Check = {
  name: "lookups",
  group: "readers",
  label: "lookups that say something to everybody",
  why: "Some readers would get a gap in the middle of a sentence.",
  spoken: true,
  design: lookupCases,
};
