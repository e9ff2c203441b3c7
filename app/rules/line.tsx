import {
  type DidRule,
  FIELD_OPS,
  type FieldDef,
  type FieldRule,
  fieldRuleFor,
  OPS_BY_KIND,
  type Rule,
  STANDING_GROUPS,
} from "~/core/audience";
import type { RuleWords } from "~/server/audience/words";
import { Choose, type Option } from "../ui/choose";
import { NumberField } from "../ui/number-field";
import { DayField } from "../ui/when-field";
import { SpanField } from "./span-field";
import { ValueField, ValuesField } from "./value-field";

export type Leaf = Exclude<Rule, { of: Rule[] }>;

const DID: readonly { what: DidRule["what"]; label: string; words: string }[] = [
  { what: "sent", label: "Was sent", words: "got received delivered" },
  { what: "opened", label: "Opened", words: "read" },
  { what: "clicked", label: "Clicked", words: "link" },
  { what: "answered", label: "Answered", words: "survey" },
  { what: "bought", label: "Bought", words: "ordered order product" },
];

/** One line of a rule: what is looked at, and what it should be. */
export function RuleLine({
  rule,
  onChange,
  words,
}: {
  rule: Leaf;
  onChange(rule: Leaf): void;
  words: RuleWords;
}) {
  const subject = subjectOf(rule);
  const choose = (value: string) => {
    if (value === subject) return;
    const [kind, rest] = value.split(/:(.*)/s);
    if (kind === "list") onChange({ kind: "list", list: words.lists[0]?.id ?? "", in: true });
    else if (kind === "segment")
      onChange({ kind: "segment", segment: words.segments[0]?.id ?? "", in: true });
    else if (kind === "standing") onChange({ kind: "standing", group: CHOSEN_GROUPS[0].id, in: true });
    else if (kind === "did")
      onChange({ kind: "did", what: rest as "opened", often: "atLeast", times: 1, within: 90 });
    else {
      const def = words.fields.find((field) => field.key === rest);
      if (def) onChange(fieldRuleFor(def, OPS_BY_KIND[def.kind][0], words.today));
    }
  };
  const gone =
    rule.kind === "field" && !words.fields.some(({ key }) => key === rule.field)
      ? [{ value: subject, label: `${rule.field} (gone)` }]
      : [];
  const options: Option[] = [
    ...gone,
    ...words.fields.map(({ key, label }) => ({ value: `field:${key}`, label })),
    ...DID.map(({ what, label, words: more }) => ({
      value: `did:${what}`,
      label,
      words: more,
      aside: "history",
    })),
    ...(words.segments.length > 0 ? [{ value: "segment", label: "Segment" }] : []),
    ...(words.lists.length > 0 ? [{ value: "list", label: "List" }] : []),
    { value: "standing", label: "Standing group" },
  ];
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      <Choose
        label="What is looked at"
        className="w-auto! max-w-full"
        value={subject}
        onChange={choose}
        options={options}
      />
      {rule.kind === "field" && (
        <FieldLine rule={rule} onChange={onChange} fields={words.fields} today={words.today} />
      )}
      {rule.kind === "did" && <DidLine rule={rule} onChange={onChange} words={words} />}
      {(rule.kind === "list" || rule.kind === "segment" || rule.kind === "standing") && (
        <MemberLine rule={rule} onChange={onChange} words={words} />
      )}
    </div>
  );
}

function subjectOf(rule: Leaf): string {
  if (rule.kind === "field") return `field:${rule.field}`;
  return rule.kind === "did" ? `did:${rule.what}` : rule.kind;
}

const CHOSEN_GROUPS = STANDING_GROUPS.filter(({ status }) => status === undefined);

function MemberLine({
  rule,
  onChange,
  words,
}: {
  rule: Extract<Leaf, { in: boolean }>;
  onChange(rule: Leaf): void;
  words: RuleWords;
}) {
  const [id, known] =
    rule.kind === "list"
      ? [rule.list, words.lists]
      : rule.kind === "segment"
        ? [rule.segment, words.segments]
        : [rule.group, CHOSEN_GROUPS];
  const named = (to: string): Leaf =>
    rule.kind === "list"
      ? { ...rule, list: to }
      : rule.kind === "segment"
        ? { ...rule, segment: to }
        : { ...rule, group: to };
  return (
    <>
      <Choose
        label="In or not"
        className="w-auto!"
        value={rule.in ? "in" : "out"}
        onChange={(side) => onChange({ ...rule, in: side === "in" })}
        options={[
          { value: "in", label: rule.kind === "list" ? "they are on" : "they are in" },
          { value: "out", label: rule.kind === "list" ? "they are not on" : "they are not in" },
        ]}
      />
      <Choose
        label="Which one"
        className="w-auto! max-w-full"
        value={id}
        placeholder="(deleted)"
        onChange={(to) => onChange(named(to))}
        options={known.map(({ id: value, name }) => ({ value, label: name }))}
      />
    </>
  );
}

/** What a field should be. */
export function FieldLine({
  rule,
  onChange,
  fields,
  today,
  further = [],
  onFurther,
}: {
  rule: FieldRule;
  onChange(rule: FieldRule): void;
  fields: readonly FieldDef[];
  today: string;
  /** Comparisons besides those of fields. */
  further?: readonly Option[];
  onFurther?(value: string): void;
}) {
  const def = fields.find((field) => field.key === rule.field);
  if (!def) return <span className="text-red">This field is gone: choose another, or remove the line.</span>;
  const offered = OPS_BY_KIND[def.kind];
  const ops = offered.includes(rule.op) ? offered : [rule.op, ...offered];
  const operand = FIELD_OPS[rule.op].value;
  const value = "value" in rule ? rule.value : undefined;
  const set = (next: unknown) => onChange({ ...rule, value: next } as FieldRule);
  return (
    <>
      <Choose
        label="Comparison"
        className="w-auto! max-w-full"
        value={rule.op as string}
        onChange={(op: string) =>
          op in FIELD_OPS ? onChange(fieldRuleFor(def, op as FieldRule["op"], today, rule)) : onFurther?.(op)
        }
        options={[...ops.map((op) => ({ value: op as string, label: FIELD_OPS[op].words })), ...further]}
      />
      {operand === "number" && (
        <NumberField
          label="Value"
          className="w-24!"
          min={-1_000_000_000}
          max={1_000_000_000}
          fraction
          value={value as number}
          onChange={set}
        />
      )}
      {operand === "number" && def.kind === "money" && <span className="text-ink-soft">{def.currency}</span>}
      {operand === "span" && <SpanField value={value as number} onChange={set} />}
      {operand === "date" && (
        <DayField
          label="Value"
          className="w-40!"
          value={value as string}
          onChange={(day) => day && set(day)}
        />
      )}
      {operand === "word" && <ValueField field={def} value={value as string} onChange={set} />}
      {operand === "words" && <ValuesField field={def} values={value as string[]} onChange={set} />}
    </>
  );
}

const OFTEN: readonly Option<"atLeast" | "atMost" | "never">[] = [
  { value: "atLeast", label: "at least" },
  { value: "atMost", label: "at most" },
  { value: "never", label: "never" },
];

function DidLine({
  rule,
  onChange,
  words: { behaviour },
}: {
  rule: DidRule;
  onChange(rule: Leaf): void;
  words: RuleWords;
}) {
  const never = rule.often === "atMost" && rule.times === 0;
  const unit = rule.what === "bought" ? ["time", "times"] : ["campaign", "campaigns"];
  const any = (label: string) => ({ value: "", label });
  /** What has no value goes out of the rule: it is compared as it is written. */
  const set = (part: Partial<Record<"campaign" | "link" | "product" | "category", string>>) => {
    const next = { ...rule, ...part };
    for (const key of Object.keys(part) as (keyof typeof part)[])
      if (!part[key]) delete (next as typeof part)[key];
    onChange(next as DidRule);
  };
  const withGone = (options: Option[], value: string | undefined): Option[] =>
    value === undefined || options.some((option) => option.value === value)
      ? options
      : [...options, { value, label: `${value} (gone)` }];
  return (
    <>
      <Choose
        label="How often"
        className="w-auto!"
        value={never ? "never" : rule.often}
        options={OFTEN}
        onChange={(often) =>
          onChange(
            often === "never"
              ? { ...rule, often: "atMost", times: 0 }
              : { ...rule, often, times: Math.max(1, rule.times) },
          )
        }
      />
      {!never && (
        <>
          <NumberField
            label="Times"
            className="w-14!"
            min={1}
            max={10_000}
            value={rule.times}
            onChange={(times) => onChange({ ...rule, times })}
          />
          <span>{unit[rule.times === 1 ? 0 : 1]}</span>
        </>
      )}
      {rule.what === "bought" ? (
        <>
          <Choose
            label="Product"
            className="w-auto! max-w-full"
            value={rule.product ?? ""}
            options={withGone(
              [any("anything"), ...behaviour.products.map(({ id, name }) => ({ value: id, label: name }))],
              rule.product,
            )}
            onChange={(product) => set({ product })}
          />
          <Choose
            label="Category"
            className="w-auto! max-w-full"
            value={rule.category ?? ""}
            options={withGone(
              [
                any("from any category"),
                ...behaviour.categories.map((category) => ({ value: category, label: `from ${category}` })),
              ],
              rule.category,
            )}
            onChange={(category) => set({ category })}
          />
        </>
      ) : (
        <>
          {rule.what === "clicked" && (
            <Choose
              label="Link"
              className="w-auto! max-w-full"
              value={rule.link ?? ""}
              options={withGone(
                [any("any link"), ...behaviour.links.map((link) => ({ value: link, label: link }))],
                rule.link,
              )}
              onChange={(link) => set({ link })}
            />
          )}
          <Choose
            label="Campaign"
            className="w-auto! max-w-full"
            value={rule.campaign ?? ""}
            options={withGone(
              [
                any("of any campaign"),
                ...behaviour.campaigns.map(({ id, name }) => ({ value: id, label: `of ${name}` })),
              ],
              rule.campaign,
            )}
            onChange={(campaign) => set({ campaign })}
          />
        </>
      )}
      <Choose
        label="Period"
        className="w-auto!"
        value={rule.within === undefined ? "ever" : "within"}
        options={[
          { value: "ever", label: "ever" },
          { value: "within", label: "in the last" },
        ]}
        onChange={(period) => {
          const { within: _, ...rest } = rule;
          onChange(period === "ever" ? (rest as DidRule) : { ...rule, within: rule.within ?? 90 });
        }}
      />
      {rule.within !== undefined && (
        <SpanField value={rule.within} onChange={(within) => onChange({ ...rule, within })} />
      )}
    </>
  );
}
