import { FIELD_OPS, type FieldDef, type FieldRule, fieldRuleFor, OPS_BY_KIND } from "~/core/audience";
import { describeItemRule, type ItemRule, type ItemTest, LIKENESSES, type Likeness } from "~/core/picking";
import { Choose, type Option } from "../ui/choose";
import type { GroupOf } from "./groups";
import { FieldLine } from "./line";
import { LinesEditor } from "./rule-editor";
import { ValuesOfSource } from "./use-field-values";

/** What rules over items speak of. */
export interface ItemWords {
  source: string;
  /** What can be asked of its items. */
  items: readonly FieldDef[];
  /** What readers have, to be compared with. */
  readers: readonly FieldDef[];
  today: string;
}

const AMOUNTS: readonly FieldDef["kind"][] = ["number", "money", "date"];
const isAmount = ({ kind }: FieldDef) => AMOUNTS.includes(kind);

/** The reader's fields that a fact of an item can stand beside: words beside words, days beside days. */
function comparable(def: FieldDef, readers: readonly FieldDef[]): FieldDef[] {
  const fits = (other: FieldDef) =>
    other.kind !== "boolean" &&
    isAmount(other) === isAmount(def) &&
    (!isAmount(def) || (other.kind === "date") === (def.kind === "date"));
  return readers.filter((other) => other.key !== "email" && fits(other));
}

/** What is called alike is likely meant (“Zones” and “Growing zone”), and what is chosen from few rather than written. */
function likeliest(def: FieldDef | undefined, others: readonly FieldDef[]): FieldDef | undefined {
  const stem = def?.label.toLowerCase().slice(0, 4) ?? "";
  const weight = ({ label, kind }: FieldDef) =>
    (label.toLowerCase().includes(stem) ? 2 : 0) + (["choice", "set", "record"].includes(kind) ? 1 : 0);
  return others.toSorted((one, other) => weight(other) - weight(one))[0];
}

/** The comparisons of a fact with what a reader has. */
function likenesses(def: FieldDef, readers: readonly FieldDef[]): Option<Likeness>[] {
  if (def.kind === "boolean" || comparable(def, readers).length === 0) return [];
  return (Object.keys(LIKENESSES) as Likeness[])
    .filter((op) => (LIKENESSES[op].of === "amounts") === isAmount(def))
    .map((op) => ({ value: op, label: LIKENESSES[op].words }));
}

/** One line of a rule over items. */
function ItemLine({
  rule,
  onChange,
  words: { items, readers, today },
}: {
  rule: ItemTest;
  onChange(rule: ItemTest): void;
  words: ItemWords;
}) {
  const def = items.find(({ key }) => key === rule.field);
  const gone = def ? [] : [{ value: rule.field, label: `${rule.field} (gone)` }];
  const likes = def ? likenesses(def, readers) : [];
  const others = def ? comparable(def, readers) : [];
  const like = (op: string) =>
    onChange({
      kind: "like",
      field: rule.field,
      op: op as Likeness,
      // What is called alike is likely meant.
      reader: rule.kind === "like" ? rule.reader : (likeliest(def, others)?.key ?? ""),
    });
  const plain = (op: FieldRule["op"]) => def && onChange(fieldRuleFor(def, op, today));
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      <Choose
        label="What is looked at"
        className="w-auto! max-w-full"
        value={rule.field}
        onChange={(key) => {
          const next = items.find((one) => one.key === key);
          if (next && key !== rule.field) onChange(fieldRuleFor(next, OPS_BY_KIND[next.kind][0], today));
        }}
        options={[...gone, ...items.map(({ key, label }) => ({ value: key, label }))]}
      />
      {rule.kind === "field" ? (
        <FieldLine
          rule={rule}
          onChange={onChange}
          fields={items}
          today={today}
          further={likes}
          onFurther={like}
        />
      ) : (
        def && (
          <>
            <Choose
              label="Comparison"
              className="w-auto! max-w-full"
              value={rule.op as string}
              onChange={(op: string) => (op in LIKENESSES ? like(op) : plain(op as FieldRule["op"]))}
              options={[
                ...likes,
                ...OPS_BY_KIND[def.kind].map((op) => ({
                  value: op as string,
                  label: FIELD_OPS[op].words,
                })),
              ]}
            />
            <Choose
              label="Of the reader"
              className="w-auto! max-w-full"
              value={rule.reader}
              placeholder={`${rule.reader} (gone)`}
              onChange={(reader) => onChange({ ...rule, reader })}
              options={others.map(({ key, label }) => ({ value: key, label }))}
            />
          </>
        )
      )}
    </div>
  );
}

const ITEMS = { outer: "Items that", inner: "that" };

/** Writes a rule about items. */
export function ItemRuleEditor({
  words,
  ...editing
}: {
  rule: GroupOf<ItemTest>;
  onChange(rule: GroupOf<ItemTest>): void;
  words: ItemWords;
}) {
  return (
    <ValuesOfSource.Provider value={words.source}>
      <LinesEditor<ItemTest>
        {...editing}
        about={ITEMS}
        first={firstItemTest(words)}
        line={(rule, onChange) => <ItemLine rule={rule} onChange={onChange} words={words} />}
      />
    </ValuesOfSource.Provider>
  );
}

/** A line to begin with: one that says something as it stands. */
export function firstItemTest({ items, today }: ItemWords): ItemTest {
  return fieldRuleFor(items[0], "known", today);
}

/** A rule about items in words. */
export function ItemRuleSentence({ rule, words }: { rule: ItemRule; words: ItemWords }) {
  return (
    <>
      Items{" "}
      {describeItemRule(rule, words.items, words.readers).map(({ text, strong }, at) =>
        // biome-ignore lint/suspicious/noArrayIndexKey: pieces of a sentence have no identity besides their place
        strong ? <strong key={at}>{text}</strong> : <span key={at}>{text}</span>,
      )}
    </>
  );
}
