import type { FieldDef } from "./contact";
import { FIELD_OPS, type FieldRule, type Rule } from "./rule";

/** A sentence in pieces; `strong` marks the parts that carry the meaning. */
export type Words = { text: string; strong?: boolean }[];

interface Names {
  fields: readonly FieldDef[];
  lists: ReadonlyMap<string, string>;
  segments: ReadonlyMap<string, string>;
}

/** Spells a rule out as the end of a sentence that starts with "Readers". */
export function describeRule(rule: Rule, names: Names): Words {
  switch (rule.kind) {
    case "all":
      return rule.of.length === 0 ? [{ text: "everyone" }] : join(rule.of, " and ", names);
    case "any":
      return rule.of.length === 0 ? [{ text: "no one" }] : join(rule.of, " or ", names);
    case "none":
      return rule.of.length === 0
        ? [{ text: "everyone" }]
        : [{ text: "not: " }, ...join(rule.of, " or ", names)];
    case "list":
      return [
        { text: rule.in ? "on the list " : "not on the list " },
        { text: names.lists.get(rule.list) ?? "(deleted list)", strong: true },
      ];
    case "segment":
      return [
        { text: rule.in ? "in " : "not in " },
        { text: names.segments.get(rule.segment) ?? "(deleted segment)", strong: true },
      ];
    case "field":
      return describeField(rule, names.fields);
  }
}

function join(rules: Rule[], joint: string, names: Names): Words {
  return rules.flatMap((rule, index) => {
    const inner = describeRule(rule, names);
    const wrapped = "of" in rule && rule.of.length > 1 ? [{ text: "(" }, ...inner, { text: ")" }] : inner;
    return index === 0 ? wrapped : [{ text: joint }, ...wrapped];
  });
}

function describeField(rule: FieldRule, fields: readonly FieldDef[]): Words {
  const def = fields.find((field) => field.key === rule.field);
  const label = (value: string) => def?.options?.find((option) => option.value === value)?.label ?? value;
  const subject = { text: `whose ` };
  const name = { text: (def?.label ?? rule.field).toLowerCase(), strong: true };
  const verb = { text: ` ${FIELD_OPS[rule.op].words}` };
  if (!("value" in rule)) return [subject, name, verb];
  const value =
    typeof rule.value === "number"
      ? FIELD_OPS[rule.op].value === "days"
        ? `${rule.value} days`
        : String(rule.value)
      : Array.isArray(rule.value)
        ? rule.value.map(label).join(", ")
        : label(rule.value);
  return [
    subject,
    name,
    { text: `${verb.text} ` },
    { text: value === "" ? "(nothing)" : value, strong: true },
  ];
}
