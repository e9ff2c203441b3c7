import { Plus, Trash2 } from "lucide-react";
import { FIELD_OPS, type FieldDef, fieldRuleFor, OPS_BY_KIND, type Rule } from "~/core/audience";
import { Button, IconButton } from "../ui/button";
import { Choose } from "../ui/choose";
import { Input } from "../ui/form";
import { NumberField } from "../ui/number-field";
import { DayField } from "../ui/when-field";

/** What a rule may speak of. */
export interface RuleWords {
  fields: readonly FieldDef[];
  lists: readonly { id: string; name: string }[];
  segments: readonly { id: string; name: string }[];
  today: string;
}

type Group = Extract<Rule, { of: Rule[] }>;

/** Any rule as a group, so that lines can be added to it. */
export function asGroup(rule: Rule): Group {
  return "of" in rule ? rule : { kind: "all", of: [rule] };
}

/** A line to begin with. */
export function firstLine(words: RuleWords): Rule {
  return fieldRuleFor(words.fields[1] ?? words.fields[0], "is", words.today);
}

/** Writes a rule: lines that must all, any or none be met, and groups of lines inside. */
export function RuleEditor({
  rule,
  onChange,
  words,
  depth = 0,
}: {
  rule: Group;
  onChange(rule: Group): void;
  words: RuleWords;
  depth?: number;
}) {
  const setPart = (index: number, part: Rule) =>
    onChange({ ...rule, of: rule.of.map((old, at) => (at === index ? part : old)) });
  const removePart = (index: number) => onChange({ ...rule, of: rule.of.filter((_, at) => at !== index) });
  const first = firstLine(words);
  return (
    <div className={depth > 0 ? "rounded-md border border-teal/40 p-2" : ""}>
      <div className="mb-2 flex flex-wrap items-center gap-x-2 gap-y-1">
        <span>Who meet</span>
        <Choose
          label="How lines are joined"
          className="w-20!"
          value={rule.kind}
          onChange={(kind) => onChange({ ...rule, kind })}
          options={[
            { value: "all", label: "all" },
            { value: "any", label: "any" },
            { value: "none", label: "none" },
          ]}
        />
        <span>of these</span>
      </div>
      <div className="space-y-2">
        {rule.of.map((part, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: lines have no identity besides their place
          <div key={index} className="flex items-start gap-1 border-t border-teal/20 pt-2">
            <div className="min-w-0 grow">
              {"of" in part ? (
                <RuleEditor
                  rule={part}
                  onChange={(next) => setPart(index, next)}
                  words={words}
                  depth={depth + 1}
                />
              ) : (
                <RuleLine rule={part} onChange={(next) => setPart(index, next)} words={words} />
              )}
            </div>
            <IconButton label="Remove this line" onClick={() => removePart(index)}>
              <Trash2 className="size-4" />
            </IconButton>
          </div>
        ))}
      </div>
      <div className="mt-2 flex gap-2">
        <Button onClick={() => onChange({ ...rule, of: [...rule.of, first] })}>
          <Plus className="size-4" aria-hidden /> Line
        </Button>
        {depth < 2 && (
          <Button
            kind="quiet"
            onClick={() => onChange({ ...rule, of: [...rule.of, { kind: "any", of: [first] }] })}
          >
            <Plus className="size-4" aria-hidden /> Group
          </Button>
        )}
      </div>
    </div>
  );
}

type Leaf = Exclude<Rule, Group>;

function RuleLine({ rule, onChange, words }: { rule: Leaf; onChange(rule: Leaf): void; words: RuleWords }) {
  const subject = rule.kind === "field" ? `field:${rule.field}` : rule.kind;
  const choose = (value: string) => {
    if (value === "list") onChange({ kind: "list", list: words.lists[0]?.id ?? "", in: true });
    else if (value === "segment")
      onChange({ kind: "segment", segment: words.segments[0]?.id ?? "", in: true });
    else {
      const def = words.fields.find((field) => `field:${field.key}` === value);
      if (def) onChange(fieldRuleFor(def, OPS_BY_KIND[def.kind][0], words.today));
    }
  };
  return (
    <div className="flex flex-wrap gap-1.5">
      <Choose
        label="What is looked at"
        className="grow basis-28"
        value={subject}
        onChange={choose}
        options={[
          ...words.fields.map((field) => ({ value: `field:${field.key}`, label: field.label })),
          ...(words.segments.length > 0 ? [{ value: "segment", label: "Segment" }] : []),
          ...(words.lists.length > 0 ? [{ value: "list", label: "List" }] : []),
        ]}
      />
      {rule.kind === "field" ? (
        <FieldLine rule={rule} onChange={onChange} words={words} />
      ) : (
        <MemberLine rule={rule} onChange={onChange} words={words} />
      )}
    </div>
  );
}

function MemberLine({
  rule,
  onChange,
  words,
}: {
  rule: Extract<Leaf, { in: boolean }>;
  onChange(rule: Leaf): void;
  words: RuleWords;
}) {
  const options = rule.kind === "list" ? words.lists : words.segments;
  return (
    <>
      <Choose
        label="In or not"
        className="grow basis-24"
        value={rule.in ? "in" : "out"}
        onChange={(side) => onChange({ ...rule, in: side === "in" })}
        options={[
          { value: "in", label: "is in" },
          { value: "out", label: "is not in" },
        ]}
      />
      <Choose
        label="Which one"
        className="grow basis-32"
        value={rule.kind === "list" ? rule.list : rule.segment}
        onChange={(id) => onChange(rule.kind === "list" ? { ...rule, list: id } : { ...rule, segment: id })}
        options={options.map(({ id, name }) => ({ value: id, label: name }))}
      />
    </>
  );
}

function FieldLine({
  rule,
  onChange,
  words,
}: {
  rule: Extract<Leaf, { kind: "field" }>;
  onChange(rule: Leaf): void;
  words: RuleWords;
}) {
  const def = words.fields.find((field) => field.key === rule.field);
  if (!def) return <span className="text-red">This field is gone.</span>;
  const options = def.options;
  return (
    <>
      <Choose
        label="Comparison"
        className="grow basis-28"
        value={rule.op}
        onChange={(op) => onChange(fieldRuleFor(def, op, words.today))}
        options={OPS_BY_KIND[def.kind].map((op) => ({ value: op, label: FIELD_OPS[op].words }))}
      />
      {"value" in rule && typeof rule.value === "number" && (
        <span className="flex items-center gap-1">
          <NumberField
            label="Value"
            className="w-20!"
            min={FIELD_OPS[rule.op].value === "days" ? 0 : -1_000_000_000}
            max={1_000_000_000}
            value={rule.value}
            onChange={(value) => onChange({ ...rule, value } as Leaf)}
          />
          {FIELD_OPS[rule.op].value === "days" && "days"}
        </span>
      )}
      {"value" in rule && typeof rule.value === "string" && FIELD_OPS[rule.op].value === "date" && (
        <DayField
          label="Value"
          className="grow basis-36"
          value={rule.value}
          onChange={(value) => value && onChange({ ...rule, value } as Leaf)}
        />
      )}
      {"value" in rule &&
        typeof rule.value === "string" &&
        FIELD_OPS[rule.op].value === "word" &&
        options && (
          <Choose
            label="Value"
            className="grow basis-28"
            value={rule.value}
            onChange={(value) => onChange({ ...rule, value } as Leaf)}
            options={options}
          />
        )}
      {"value" in rule &&
        typeof rule.value === "string" &&
        FIELD_OPS[rule.op].value === "word" &&
        !options && (
          <Input
            aria-label="Value"
            className="grow basis-28"
            value={rule.value}
            onChange={(event) => onChange({ ...rule, value: event.target.value } as Leaf)}
          />
        )}
      {rule.op === "anyOf" && (
        <fieldset className="flex flex-wrap items-center gap-2" aria-label="Values">
          {(options ?? []).map((option) => (
            <label key={option.value} className="flex items-center gap-1">
              <input
                type="checkbox"
                checked={rule.value.includes(option.value)}
                onChange={(event) =>
                  onChange({
                    ...rule,
                    value: event.target.checked
                      ? [...rule.value, option.value]
                      : rule.value.filter((old) => old !== option.value),
                  })
                }
              />
              {option.label}
            </label>
          ))}
        </fieldset>
      )}
    </>
  );
}
