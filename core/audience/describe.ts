import type { FieldDef } from "./contact";
import type { Span } from "./dates";
import type { DidRule } from "./did-rule";
import { FIELD_OPS } from "./operators";
import type { FieldRule, Rule } from "./rule";
import { standingGroup } from "./standing";

/** A sentence in pieces; `strong` marks the parts that carry the meaning. */
export type Words = { text: string; strong?: boolean }[];

/** What the ids in a rule are called. */
export interface RuleNames {
  fields: readonly FieldDef[];
  lists: ReadonlyMap<string, string>;
  segments: ReadonlyMap<string, string>;
  campaigns?: ReadonlyMap<string, string>;
  products?: ReadonlyMap<string, string>;
}

type Named = readonly { id: string; name: string }[];

/** What the ids in rules are called, from lists of all there are. */
export function ruleNames(known: {
  fields: readonly FieldDef[];
  lists: Named;
  segments: Named;
  behaviour: { campaigns: Named; products: Named };
}): RuleNames {
  const named = (all: Named) => new Map(all.map(({ id, name }) => [id, name]));
  return {
    fields: known.fields,
    lists: named(known.lists),
    segments: named(known.segments),
    campaigns: named(known.behaviour.campaigns),
    products: named(known.behaviour.products),
  };
}

const joints = { all: " and ", any: " or ", none: " or " } as const;
const ofNothing = { all: "everyone", any: "no one", none: "everyone" } as const;

/** Spells a rule out as the end of a sentence that starts with "Readers". */
export function describeRule(rule: Rule, names: RuleNames): Words {
  switch (rule.kind) {
    case "all":
    case "any":
    case "none": {
      if (rule.of.length === 0) return [{ text: ofNothing[rule.kind] }];
      const joined = join(rule.of, joints[rule.kind], names);
      return rule.kind === "none" ? [{ text: "not: " }, ...joined] : joined;
    }
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
    case "standing":
      return [
        { text: rule.in ? "in " : "not in " },
        { text: standingGroup(rule.group)?.name ?? "(unknown group)", strong: true },
      ];
    case "status":
      return [{ text: "who are " }, { text: rule.status, strong: true }];
    case "did":
      return describeDid(rule, names);
    case "field":
      return describeField(rule, names.fields);
  }
}

function join(rules: Rule[], joint: string, names: RuleNames): Words {
  return rules.flatMap((rule, index) => {
    const inner = describeRule(rule, names);
    const wrapped = "of" in rule && rule.of.length > 1 ? [{ text: "(" }, ...inner, { text: ")" }] : inner;
    return index === 0 ? wrapped : [{ text: joint }, ...wrapped];
  });
}

/** A length of time in words: "30 days", "a year", "3 months". */
function spanWords(span: Span): string {
  if (typeof span === "number") return span === 1 ? "day" : `${span} days`;
  const { months } = span;
  if (months > 0 && months % 12 === 0) return months === 12 ? "year" : `${months / 12} years`;
  return months === 1 ? "month" : `${months} months`;
}

/** The same with the article that a single one needs. */
const spanOf = (span: Span) => spanWords(span).replace(/^(?=[a-z])/, "a ");

const DID = {
  sent: { words: "were sent", one: "campaign" },
  opened: { words: "opened", one: "campaign" },
  clicked: { words: "clicked in", one: "campaign" },
  answered: { words: "answered in", one: "campaign" },
  bought: { words: "ordered", one: "time" },
} as const;

function describeDid(rule: DidRule, names: RuleNames): Words {
  const { words, one } = DID[rule.what];
  const within: Words = rule.within === undefined ? [] : [{ text: ` in the last ${spanWords(rule.within)}` }];
  const named = whatOf(rule, names);
  const never = rule.often === "atMost" && rule.times === 0;
  if (never)
    return [{ text: "who " }, { text: `never ${words}`, strong: true }, ...named(`any ${one}`), ...within];
  const bound = rule.often === "atLeast" ? "at least" : "at most";
  if (rule.often === "atLeast" && rule.times === 1 && (rule.what !== "bought" || hasName(rule)))
    return [{ text: "who " }, { text: words, strong: true }, ...named(`a ${one}`), ...within];
  const times =
    rule.what === "bought" || hasName(rule)
      ? rule.times === 1
        ? "once"
        : `${rule.times} times`
      : `${rule.times} ${one}${rule.times === 1 ? "" : "s"}`;
  return [
    { text: "who " },
    { text: words, strong: true },
    ...named(""),
    { text: ` ${bound} ` },
    { text: times, strong: true },
    ...within,
  ];
}

/** How often somebody did what a rule asks for, as the end of a sentence about them. */
export function didWords(rule: DidRule, names: RuleNames, times: number): Words {
  const { words, one } = DID[rule.what];
  const within: Words = rule.within === undefined ? [] : [{ text: ` in the last ${spanWords(rule.within)}` }];
  const named = whatOf(rule, names);
  if (times === 0) return [{ text: `never ${words}`, strong: true }, ...named(`any ${one}`), ...within];
  const counted = rule.what === "bought" || hasName(rule) ? "time" : one;
  const often = times === 1 && counted === "time" ? "once" : `${times} ${counted}${times === 1 ? "" : "s"}`;
  return [
    { text: words, strong: true },
    ...named(""),
    { text: " " },
    { text: often, strong: true },
    ...within,
  ];
}

const hasName = (rule: DidRule) =>
  rule.what === "bought"
    ? rule.product !== undefined || rule.category !== undefined
    : rule.campaign !== undefined || (rule.what === "clicked" && rule.link !== undefined);

/** What exactly, or else what is said when it may be any. */
function whatOf(rule: DidRule, names: RuleNames): (any: string) => Words {
  if (!hasName(rule)) {
    if (rule.what === "bought") return () => [];
    return (any) => (any === "" ? [] : [{ text: ` ${any}` }]);
  }
  const found: Words = [];
  if (rule.what === "bought") {
    if (rule.product !== undefined)
      found.push({ text: " " }, { text: names.products?.get(rule.product) ?? rule.product, strong: true });
    if (rule.category !== undefined)
      found.push({ text: " something from " }, { text: rule.category, strong: true });
    return () => found;
  }
  if (rule.what === "clicked" && rule.link !== undefined)
    found.push({ text: " the link " }, { text: rule.link, strong: true });
  if (rule.campaign !== undefined)
    found.push(
      { text: found.length > 0 ? " of " : " " },
      { text: names.campaigns?.get(rule.campaign) ?? "(deleted campaign)", strong: true },
    );
  return () => found;
}

function describeField(rule: FieldRule, fields: readonly FieldDef[]): Words {
  const def = fields.find((field) => field.key === rule.field);
  const label = (value: string) => def?.options?.find((option) => option.value === value)?.label ?? value;
  const subject: Words = [
    { text: "whose " },
    { text: (def?.label ?? rule.field).toLowerCase(), strong: true },
  ];
  const verb = FIELD_OPS[rule.op].words;
  if (!("value" in rule)) return [...subject, { text: ` ${verb}` }];
  const { value } = rule;
  const written =
    typeof value === "string"
      ? label(value)
      : Array.isArray(value)
        ? value.map(label).join(", ")
        : typeof value === "object" || FIELD_OPS[rule.op].value === "span"
          ? verb.includes("…")
            ? spanOf(value)
            : spanWords(value)
          : String(value);
  const [before, after = ""] = verb.split("…");
  return [
    ...subject,
    { text: ` ${before.trimEnd()} ` },
    { text: written === "" ? "(nothing)" : written, strong: true },
    ...(after === "" ? [] : [{ text: after }]),
  ];
}
