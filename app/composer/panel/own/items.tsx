import { Plus, Replace, RotateCcw, TriangleAlert } from "lucide-react";
import { useState } from "react";
import { BLOCK_TYPES, shows, type TypedBlock } from "~/core/blocks";
import { changedSince, costs, type Item, isSoldOut, itemOf, type Since } from "~/core/items";
import type { ListProperty, TextProperty } from "~/core/properties";
import { ask } from "../../../requests";
import { asideWords, ItemPicture, sumWords } from "../../../sources/item-row";
import { Button, IconButton } from "../../../ui/button";
import { Area, Input, Line } from "../../../ui/form";
import { NumberField } from "../../../ui/number-field";
import { useAnswer } from "../../../ui/use-answer";
import { ItemList } from "../../controls/items";
import { newId } from "../../state/store";
import { useSet } from "../lines";
import { Finder } from "./finder";
import { HandItem } from "./hand-item";

type ItemsBlock = TypedBlock<"items">;
type Placed = ItemsBlock["items"][number];

/** How many and how long, as the block declares it. */
const list = BLOCK_TYPES.items.properties.items as ListProperty & {
  item: Record<"title" | "text", TextProperty>;
};

/** The items of a block: sought in all sources, put in order, and what is typed over what their source says. */
export function PlacedItems({ block }: { block: ItemsBlock }) {
  const set = useSet(block.id);
  const keep = (items: readonly Placed[], label: string) => set({ items }, label);
  const now = useNow(block.items);
  const [replacing, setReplacing] = useState<string | null>(null);
  // Another item in the same place: what was typed over the one before goes with it.
  const replace = ({ id }: Placed, source: string, item: Item) => {
    setReplacing(null);
    keep(
      block.items.map((one) => (one.id === id ? { id, source, item } : one)),
      "Replacing an item",
    );
  };
  const changed = block.items.filter((placed) => now.get(placed.id)?.item);
  const takeOver = (which: readonly Placed[]) =>
    keep(
      block.items.map((placed) => {
        const item = which.includes(placed) ? now.get(placed.id)?.item : null;
        return item ? { ...placed, item } : placed;
      }),
      "Taking over from the source",
    );
  return (
    <div className="space-y-3">
      <ItemList items={block.items} noun="item" onChange={keep}>
        {(placed, index, change) => (
          <>
            <SinceThen
              since={now.get(placed.id)}
              followed={block.follow}
              named={`item ${index + 1}`}
              onTakeOver={() => takeOver([placed])}
            />
            <PlacedFields
              block={block}
              placed={placed}
              named={`item ${index + 1}`}
              replacing={replacing === placed.id}
              onReplace={() => setReplacing(replacing === placed.id ? null : placed.id)}
              onChange={change}
            />
            {replacing === placed.id && (
              <Finder
                label={`Another instead of item ${index + 1}`}
                deed="Take"
                onFound={(source, item) => replace(placed, source, item)}
              />
            )}
          </>
        )}
      </ItemList>
      {changed.length > 1 && (
        <Button onClick={() => takeOver(changed)}>Take over all {changed.length} changes</Button>
      )}
      {block.items.length < list.most && (
        <Finder
          label="Add from your sources"
          field="Find an item"
          deed="Add"
          onFound={(source, item) => keep([...block.items, { id: newId(), source, item }], "Adding an item")}
        />
      )}
      {block.items.length < list.most && (
        <Button
          className="w-full"
          onClick={() => {
            const id = newId();
            keep([...block.items, { id, source: "", item: itemOf({ id }) }], "Writing an item");
          }}
        >
          <Plus className="size-4" aria-hidden /> Write one by hand
        </Button>
      )}
    </div>
  );
}

interface Now {
  changed: readonly Since[];
  /** As it would be taken over; null where it is gone. */
  item: Item | null;
}

/** What has changed of items since they were placed, by the ids of their places; what comes from no source is left out. */
function useNow(items: readonly Placed[]): ReadonlyMap<string, Now> {
  const from = items.filter(({ source }) => source !== "");
  const of = JSON.stringify(from.map(({ source, item }) => [source, item.id]));
  const { result } = useAnswer(from.length === 0 ? null : of, (signal) =>
    ask("/sources/items/now", { query: { of }, signal }),
  );
  const found = new Map<string, Now>();
  for (const [at, placed] of from.entries()) {
    const item = result?.items[at];
    if (item === undefined) continue;
    const changed = changedSince(placed.item, item);
    if (changed.length > 0) found.set(placed.id, { changed, item });
  }
  return found;
}

/** What has changed of an item since it was placed, and how that is taken over. */
function SinceThen({
  since,
  followed,
  named,
  onTakeOver,
}: {
  since: Now | undefined;
  /** Whether it is taken over anyway when it is sent. */
  followed: boolean;
  named: string;
  onTakeOver(): void;
}) {
  if (!since) return null;
  const { changed, item } = since;
  const sum = item && costs(item);
  return (
    <div className="flex items-start gap-2 rounded-md bg-amber-wash px-2 py-1.5 text-xs text-amber">
      <TriangleAlert className="mt-px size-3.5 shrink-0" aria-hidden />
      <p className="min-w-0 grow">
        {item === null
          ? "Its source has it no more."
          : `Changed since: ${changed.join(", ")}${
              changed.includes("price") && sum !== null ? `, now ${sumWords(sum ?? 0, item.currency)}` : ""
            }${changed.includes("stock") ? (isSoldOut(item) ? ", sold out" : ", there again") : ""}`}
        {followed &&
          (item === null ? " It is left out when this is sent." : ". It is taken over when this is sent.")}
      </p>
      {item && (
        <Button
          className="min-h-6! px-2! py-0!"
          aria-label={`Take over what changed of ${named}`}
          onClick={onTakeOver}
        >
          Take over
        </Button>
      )}
    </div>
  );
}

function PlacedFields({
  block,
  placed,
  named,
  replacing,
  onReplace,
  onChange,
}: {
  block: ItemsBlock;
  placed: Placed;
  named: string;
  replacing: boolean;
  onReplace(): void;
  onChange(part: Partial<Placed>): void;
}) {
  const { item, own = {} } = placed;
  const sum = costs(item);
  // What its source does not say is asked for here.
  const asked = shows(block, "facts")
    ? block.facts.filter(
        ({ fact }) => fact !== "" && (item.facts[fact] === undefined || own[fact] !== undefined),
      )
    : [];
  const setOwn = (fact: string, value: string) => {
    const { [fact]: _, ...others } = own;
    const all = value === "" ? others : { ...others, [fact]: value };
    onChange({ own: Object.keys(all).length === 0 ? undefined : all });
  };
  return (
    <>
      {placed.source !== "" && (
        <div className="flex items-center gap-2">
          <ItemPicture item={item} className="h-9 w-12" />
          <div className="min-w-0 grow">
            <p className="truncate font-medium" title={item.title}>
              {item.title}
            </p>
            <p className="truncate text-xs text-ink-soft">{asideWords(item) || "no price"}</p>
          </div>
          <IconButton
            icon={Replace}
            label={`Replace ${named}`}
            className="size-8!"
            aria-expanded={replacing}
            onClick={onReplace}
          />
        </div>
      )}
      {(["title", "text"] as const).map((key) => {
        const label = `${key === "title" ? "Title" : "Text"} of ${named}`;
        const own = placed[key];
        // Of what is written by hand nothing lies under it.
        const over = own !== undefined && placed.source !== "";
        const Field = key === "title" ? Input : Area;
        return (
          <div key={key} className="flex items-start gap-1">
            <Field
              aria-label={label}
              className={over ? "border-mulberry!" : ""}
              maxLength={list.item[key].most}
              rows={key === "text" ? 2 : undefined}
              placeholder={item[key] || (key === "title" ? "Title" : "No text")}
              value={own ?? ""}
              onChange={(event: { target: { value: string } }) =>
                onChange({ [key]: event.target.value === "" ? undefined : event.target.value })
              }
            />
            {over && (
              <IconButton
                icon={RotateCcw}
                label={`Give back the ${key} of ${named} to its source`}
                className="size-8!"
                onClick={() => onChange({ [key]: undefined })}
              />
            )}
          </div>
        );
      })}
      {placed.source === "" && (
        <HandItem block={block} item={item} named={named} onChange={(next) => onChange({ item: next })} />
      )}
      {shows(block, "price") && (
        <Line label="Price">
          <div className="flex items-center gap-1">
            <NumberField
              label={`Price of ${named}`}
              className={placed.price === undefined ? "" : "border-mulberry!"}
              fraction
              max={1e9}
              placeholder={sum === null ? "No price" : String(sum)}
              value={placed.price}
              onChange={(price) => onChange({ price })}
            />
            {placed.price !== undefined && (
              <IconButton
                icon={RotateCcw}
                label={`Give back the price of ${named} to its source`}
                className="size-8!"
                onClick={() => onChange({ price: undefined })}
              />
            )}
          </div>
        </Line>
      )}
      {asked.map(({ id, fact, label }) => (
        <Input
          key={id}
          aria-label={`${label || fact} of ${named}`}
          className={own[fact] === undefined ? "border-amber!" : "border-mulberry!"}
          maxLength={200}
          placeholder={`${label || fact}: its source does not say`}
          value={own[fact] ?? ""}
          onChange={(event) => setOwn(fact, event.target.value)}
        />
      ))}
    </>
  );
}
