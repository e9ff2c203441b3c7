import { Pencil } from "lucide-react";
import { useState } from "react";
import { contactName } from "~/core/audience";
import { listAsks, placedIn, type TypedBlock } from "~/core/blocks";
import { daysOf, type ItemRule, type ItemTest, itemFields, WAYS, type WayName } from "~/core/picking";
import { fewerWords } from "~/core/preflight";
import type { PickNumbers } from "~/server/sources/picks";
import { tell } from "../../../requests";
import { asGroup, type GroupOf, ruleOf } from "../../../rules/groups";
import { firstItemTest, ItemRuleEditor, ItemRuleSentence, type ItemWords } from "../../../rules/item-rule";
import { ItemPicture } from "../../../sources/item-row";
import { Button } from "../../../ui/button";
import { Choose } from "../../../ui/choose";
import { Line, Problem } from "../../../ui/form";
import { NumberField } from "../../../ui/number-field";
import { counted } from "../../../ui/time";
import { useAnswer } from "../../../ui/use-answer";
import { ItemList } from "../../controls/items";
import { newId, useComposer } from "../../state/store";
import { useSet } from "../lines";

type PicksBlock = TypedBlock<"picks">;
type Way = PicksBlock["ways"][number];

/** What rules over the items of a source speak of; null where there is no source. */
function useItemWords(source: string): ItemWords | null {
  const { sources, words } = useComposer((state) => state.facts);
  const found = sources.find(({ id }) => id === source);
  if (!found) return null;
  return { source, items: itemFields(found.facts), readers: words.fields, today: words.today };
}

/** A rule over items: said in words, and written line by line. */
function ItemRuleField({
  rule,
  words,
  everything,
  onChange,
}: {
  rule: ItemRule | undefined;
  words: ItemWords;
  /** What it is where there is no rule. */
  everything: string;
  onChange(rule: ItemRule | undefined): void;
}) {
  // While it is being written, with lines that are still empty; what it says so far holds at once.
  const [draft, setDraft] = useState<GroupOf<ItemTest> | null>(null);
  const write = (next: GroupOf<ItemTest>) => {
    setDraft(next);
    onChange(ruleOf(next) as ItemRule | undefined);
  };
  return (
    <div className="space-y-2">
      {rule && (
        <p className="rounded-md border border-teal/30 bg-teal-wash/60 px-2.5 py-2 text-teal">
          <ItemRuleSentence rule={rule} words={words} />
        </p>
      )}
      {draft ? (
        <>
          <ItemRuleEditor rule={draft} onChange={write} words={words} />
          <Button onClick={() => setDraft(null)}>Done</Button>
        </>
      ) : rule ? (
        <div className="flex gap-2">
          <Button onClick={() => setDraft(asGroup(rule))}>
            <Pencil className="size-4" aria-hidden /> Change
          </Button>
          <Button kind="quiet" onClick={() => onChange(undefined)}>
            Without
          </Button>
        </div>
      ) : (
        <div className="flex items-center justify-between gap-2">
          <span className="text-ink-soft">{everything}</span>
          <Button onClick={() => write({ kind: "all", of: [firstItemTest(words)] })}>Add a rule</Button>
        </div>
      )}
    </div>
  );
}

/** Which items the list is about. */
export function PicksFilter({ block }: { block: PicksBlock }) {
  const set = useSet<PicksBlock>(block.id);
  const words = useItemWords(block.source);
  if (!words) return null;
  return (
    <ItemRuleField
      rule={block.filter}
      words={words}
      everything="All its items"
      onChange={(filter) => set({ filter }, "Changing which items")}
    />
  );
}

const ORDERS = Object.entries(WAYS).map(([value, { label }]) => ({ value: value as WayName, label }));

/** In which order, and what follows where there are not enough. */
export function PicksWays({ block }: { block: PicksBlock }) {
  const set = useSet<PicksBlock>(block.id);
  const words = useItemWords(block.source);
  const allFields = useComposer((state) => state.facts.words.fields);
  const fields = allFields.filter(
    ({ key, kind }) => !key.includes(".") && (kind === "choice" || kind === "record"),
  );
  return (
    <ItemList<Way>
      items={block.ways}
      noun="way"
      least={1}
      most={6}
      fresh={() => ({ id: newId(), by: "newest" })}
      onChange={(ways, label) => set({ ways }, label)}
    >
      {(way, index, change) => (
        <>
          {index > 0 && <p className="text-xs text-ink-soft">Where there are not enough, then</p>}
          <Choose
            label={`Order, way ${index + 1}`}
            value={way.by}
            options={ORDERS}
            onChange={(by) =>
              change({
                by,
                days: undefined,
                field: by === "near" ? (fields[0]?.key ?? undefined) : undefined,
              })
            }
          />
          {daysOf(way.by) !== null && (
            <Line label="In the last">
              <NumberField
                label={`Days, way ${index + 1}`}
                className="w-20!"
                min={1}
                max={400}
                value={way.days ?? daysOf(way.by) ?? 30}
                onChange={(days) => change({ days })}
              />
              <span className="text-ink-soft">days</span>
            </Line>
          )}
          {"by" in WAYS[way.by] && (
            <Line label="By their">
              <Choose
                label={`Field, way ${index + 1}`}
                value={way.field ?? ""}
                placeholder="Choose a field…"
                options={fields.map(({ key, label }) => ({ value: key, label }))}
                onChange={(field) => change({ field })}
              />
            </Line>
          )}
          {words && block.ways.length > 1 && (
            <ItemRuleField
              rule={way.filter}
              words={words}
              everything={block.filter ? "All of those" : "All its items"}
              onChange={(filter) => change({ filter })}
            />
          )}
        </>
      )}
    </ItemList>
  );
}

/** What the reader on the canvas gets, and how many get less than is asked for. */
export function PicksGiven({ block }: { block: PicksBlock }) {
  const reader = useComposer((state) => state.reader);
  const picked = useComposer((state) => state.facts.picks.get(block.id));
  const campaign = useComposer((state) => state.facts.campaign);
  const email = useComposer((state) => state.email);
  const lists = { asks: listAsks(email), placed: placedIn(email) };
  const asked = lists.asks.some((ask) => ask.block === block.id);
  const { last, problem } = useAnswer(
    asked ? JSON.stringify(lists) : null,
    (signal) =>
      tell("/campaigns/:campaign/picks", { intent: "count", ...lists }, { at: { campaign }, signal }),
    600,
  );
  const numbers = last?.find((one) => one.block === block.id);
  if (!asked) return null;
  return (
    <section aria-label="What is picked" className="space-y-2 rounded-md border p-2.5">
      <p className="font-medium">{contactName(reader)} gets</p>
      {picked && picked.items.length > 0 ? (
        <ol className="space-y-1">
          {picked.items.map((item, at) => (
            <li key={item.id} className="flex items-center gap-2">
              <ItemPicture item={item} className="h-7 w-9" />
              <span className="min-w-0">
                <span className="block truncate" title={item.title}>
                  {item.title}
                </span>
                <span className="block truncate text-xs text-ink-soft">
                  {picked.because[at] || whyOf(block, picked.ways[at])}
                </span>
              </span>
            </li>
          ))}
        </ol>
      ) : (
        <p className="text-ink-soft">nothing.</p>
      )}
      {problem && <Problem mild>{problem}</Problem>}
      {numbers && (
        <p className="text-xs text-ink-soft" aria-live="polite">
          {numbersWords(numbers)}
        </p>
      )}
    </section>
  );
}

/** Which way of a list led to an item. */
function whyOf({ ways }: PicksBlock, at: number): string {
  const way = ways[at];
  if (!way) return "";
  return ways.length > 1 ? `Way ${at + 1}: ${WAYS[way.by].label.toLowerCase()}` : WAYS[way.by].label;
}

const numbersWords = (numbers: PickNumbers): string =>
  numbers.readers === 0
    ? "No readers are chosen yet."
    : (fewerWords(numbers) ?? `All ${counted(numbers.readers, "reader")} get ${numbers.asked}.`);
