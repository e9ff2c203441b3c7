import { Plus, Trash2 } from "lucide-react";
import {
  FIELD_OPS,
  type FieldDef,
  type FieldOp,
  fieldRuleFor,
  OPS_BY_KIND,
  type Rule,
} from "~/core/audience";
import { Button, IconButton } from "../ui/button";
import { Input, Select } from "../ui/form";

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
  const first: Rule = fieldRuleFor(words.fields[1] ?? words.fields[0], "is", words.today);
  return (
    <div className={depth > 0 ? "rounded-md border border-teal/40 p-2" : ""}>
      <div className="mb-2 flex items-center gap-2">
        <span>Readers who meet</span>
        <Select
          aria-label="How lines are joined"
          className="w-24!"
          value={rule.kind}
          onChange={(event) => onChange({ ...rule, kind: event.target.value as Group["kind"] })}
        >
          <option value="all">all</option>
          <option value="any">any</option>
          <option value="none">none</option>
        </Select>
        <span>of these</span>
      </div>
      <div className="space-y-2">
        {rule.of.map((part, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: lines have no identity besides their place
          <div key={index} className="flex items-start gap-1.5">
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
      <Select
        aria-label="What is looked at"
        className="w-40!"
        value={subject}
        onChange={(event) => choose(event.target.value)}
      >
        {words.fields.map((field) => (
          <option key={field.key} value={`field:${field.key}`}>
            {field.label}
          </option>
        ))}
        {words.segments.length > 0 && <option value="segment">Segment</option>}
        {words.lists.length > 0 && <option value="list">List</option>}
      </Select>
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
      <Select
        aria-label="In or not"
        className="w-28!"
        value={rule.in ? "in" : "out"}
        onChange={(event) => onChange({ ...rule, in: event.target.value === "in" })}
      >
        <option value="in">is in</option>
        <option value="out">is not in</option>
      </Select>
      <Select
        aria-label="Which one"
        className="w-44!"
        value={rule.kind === "list" ? rule.list : rule.segment}
        onChange={(event) =>
          onChange(
            rule.kind === "list"
              ? { ...rule, list: event.target.value }
              : { ...rule, segment: event.target.value },
          )
        }
      >
        {options.map((option) => (
          <option key={option.id} value={option.id}>
            {option.name}
          </option>
        ))}
      </Select>
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
      <Select
        aria-label="Comparison"
        className="w-36!"
        value={rule.op}
        onChange={(event) => onChange(fieldRuleFor(def, event.target.value as FieldOp, words.today))}
      >
        {OPS_BY_KIND[def.kind].map((op) => (
          <option key={op} value={op}>
            {FIELD_OPS[op].words}
          </option>
        ))}
      </Select>
      {"value" in rule && typeof rule.value === "number" && (
        <span className="flex items-center gap-1">
          <Input
            type="number"
            aria-label="Value"
            className="w-24!"
            min={FIELD_OPS[rule.op].value === "days" ? 0 : undefined}
            value={rule.value}
            onChange={(event) =>
              onChange({ ...rule, value: Math.round(event.target.valueAsNumber) || 0 } as Leaf)
            }
          />
          {FIELD_OPS[rule.op].value === "days" && "days"}
        </span>
      )}
      {"value" in rule && typeof rule.value === "string" && FIELD_OPS[rule.op].value === "date" && (
        <Input
          type="date"
          aria-label="Value"
          className="w-40!"
          value={rule.value}
          onChange={(event) => event.target.value && onChange({ ...rule, value: event.target.value } as Leaf)}
        />
      )}
      {"value" in rule &&
        typeof rule.value === "string" &&
        FIELD_OPS[rule.op].value === "word" &&
        options && (
          <Select
            aria-label="Value"
            className="w-40!"
            value={rule.value}
            onChange={(event) => onChange({ ...rule, value: event.target.value } as Leaf)}
          >
            {options.map((option) => (
              <option key={option.value} value={option.value}>
                {option.label}
              </option>
            ))}
          </Select>
        )}
      {"value" in rule &&
        typeof rule.value === "string" &&
        FIELD_OPS[rule.op].value === "word" &&
        !options && (
          <Input
            aria-label="Value"
            className="w-40!"
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
