import { X } from "lucide-react";
import { useState } from "react";
import type { SourceKind } from "~/core/items";
import type { FoundItem } from "~/server/sources/items";
import { ask } from "../../requests";
import { asideWords, ItemPicture } from "../../sources/item-row";
import { ALL_ORDERS, ITEM_ORDERS, type ItemOrder } from "../../sources/orders";
import { IconButton } from "../../ui/button";
import { Choose } from "../../ui/choose";
import { NumberField } from "../../ui/number-field";
import { Switch } from "../../ui/switch";
import { counted } from "../../ui/time";
import { useAnswer } from "../../ui/use-answer";
import { useComposer } from "../state/store";
import { useShelfItem } from "./use-shelf-item";

const FOUND = 12;
/** So many are shown at most. */
const MOST = 96;

/** How what the sources hold is narrowed and put in order; empty is all of it. */
interface Narrowed {
  source: string;
  category: string;
  order: ItemOrder;
  from: number | undefined;
  to: number | undefined;
  inStock: boolean;
}
const ALL: Narrowed = {
  source: "",
  category: "",
  order: "best",
  from: undefined,
  to: undefined,
  inStock: false,
};

/** What the sources hold that is found by some words: dragged into the email, or pressed; ticked ones go together as a set. */
export function LiveItems({ words }: { words: string }) {
  const there = useComposer((state) => state.facts.sources.length > 0);
  const [ticked, setTicked] = useState<ReadonlyMap<string, FoundItem>>(new Map());
  const [narrowed, setNarrowed] = useState<Narrowed | null>(null);
  const [most, setMost] = useState(FOUND);
  const { source, category, order, from, to, inStock } = narrowed ?? ALL;
  const kind = useComposer((state) => state.facts.sources.find(({ id }) => id === source)?.kind);
  const usual = kind ? ITEM_ORDERS[kind][0].value : ALL.order;
  const query = {
    words: words.trim(),
    source: source || undefined,
    category: category || undefined,
    // What fits the words best comes first, until another order is chosen.
    order: words.trim() !== "" && order === usual ? ("best" as const) : order,
    from,
    to,
    inStock: inStock ? "yes" : undefined,
    limit: most,
  };
  const sought = query.words.length > 1 || narrowed !== null;
  const { last, problem } = useAnswer(
    sought ? JSON.stringify(query) : null,
    (signal) => ask("/sources/items", { query, signal }),
    120,
  );
  const found = sought ? (last?.items ?? []) : [];
  // What was ticked stays in view while something else is sought.
  const shown = [...ticked.values(), ...found.filter((one) => !ticked.has(keyOf(one)))];
  const tick = (one: FoundItem) => {
    const next = new Map(ticked);
    if (!next.delete(keyOf(one))) next.set(keyOf(one), one);
    setTicked(next);
  };
  if (!there) return null;
  return (
    <section className="mb-3.5" aria-label="Items of your sources">
      <div className="mb-1 flex items-center justify-between">
        <h2 className="text-xs font-medium text-teal">From your sources</h2>
        <button
          type="button"
          aria-expanded={narrowed !== null}
          className="rounded px-1 text-xs text-ink-soft underline decoration-line underline-offset-2 hover:decoration-ink"
          onClick={() => {
            setNarrowed(narrowed === null ? ALL : null);
            setMost(FOUND);
          }}
        >
          {narrowed === null ? "Look through them" : "Close"}
        </button>
      </div>
      {narrowed && (
        <Narrowing narrowed={narrowed} categories={last?.categories ?? []} onChange={setNarrowed} />
      )}
      {problem && <p className="text-xs text-red">{problem}</p>}
      <ul className="space-y-0.5">
        {shown.map((one) => (
          <Row
            key={keyOf(one)}
            found={one}
            together={ticked.has(keyOf(one)) ? [...ticked.values()] : [one]}
            ticked={ticked.has(keyOf(one))}
            onTick={() => tick(one)}
          />
        ))}
      </ul>
      {narrowed && last && found.length === 0 && (
        <p className="text-xs text-ink-soft">No item is like that.</p>
      )}
      {sought && (last?.total ?? 0) > found.length && most < MOST && (
        <button
          type="button"
          className="mt-1 rounded px-1.5 py-1 text-xs text-mulberry underline"
          onClick={() => setMost(Math.min(MOST, most * 2))}
        >
          Show more of {counted(last?.total ?? 0, "item")}
        </button>
      )}
      {ticked.size > 1 && (
        <p className="mt-1 text-xs text-ink-soft">Drag one of the {ticked.size} ticked: they go together.</p>
      )}
    </section>
  );
}

const EVERY = " every";

function Narrowing({
  narrowed,
  categories,
  onChange,
}: {
  narrowed: Narrowed;
  categories: readonly { name: string; count: number }[];
  onChange(narrowed: Narrowed): void;
}) {
  const sources = useComposer((state) => state.facts.sources);
  const { source, category, order, from, to, inStock } = narrowed;
  const kind = sources.find(({ id }) => id === source)?.kind;
  const orders = kind ? ITEM_ORDERS[kind] : ALL_ORDERS;
  const set = (part: Partial<Narrowed>) => onChange({ ...narrowed, ...part });
  return (
    <div className="mb-2 space-y-1.5">
      <Choose
        label="Of which source"
        value={source || EVERY}
        options={[
          { value: EVERY, label: "All sources" },
          ...sources.map(({ id, name, held }) => ({
            value: id,
            label: name,
            aside: held.toLocaleString("en"),
          })),
        ]}
        onChange={(value) =>
          onChange({ ...ALL, source: value === EVERY ? "" : value, order: orderOf(value, sources) })
        }
      />
      {(categories.length > 1 || category !== "") && (
        <Choose
          label="Of which category"
          value={category || EVERY}
          options={[
            { value: EVERY, label: "Every category" },
            ...categories.map(({ name, count }) => ({
              value: name,
              label: name,
              aside: count.toLocaleString("en"),
            })),
          ]}
          onChange={(value) => set({ category: value === EVERY ? "" : value })}
        />
      )}
      <Choose
        label="In which order"
        value={order}
        options={orders}
        onChange={(value) => set({ order: value as ItemOrder })}
      />
      {kind !== "feed" && kind !== "calendar" && (
        <>
          <div className="flex items-center gap-1.5">
            <NumberField
              label="Price from"
              placeholder="Price from"
              max={1e9}
              fraction
              value={from}
              onChange={(it) => set({ from: it })}
            />
            <NumberField
              label="Price to"
              placeholder="to"
              max={1e9}
              fraction
              value={to}
              onChange={(it) => set({ to: it })}
            />
            {(from !== undefined || to !== undefined) && (
              <IconButton
                icon={X}
                label="Any price"
                className="size-7!"
                onClick={() => set({ from: undefined, to: undefined })}
              />
            )}
          </div>
          <Switch checked={inStock} onChange={(it) => set({ inStock: it })}>
            In stock
          </Switch>
        </>
      )}
    </div>
  );
}

/** The usual order of a source, or of all. */
const orderOf = (source: string, sources: readonly { id: string; kind: SourceKind }[]): ItemOrder => {
  const kind = sources.find(({ id }) => id === source)?.kind;
  return kind ? ITEM_ORDERS[kind][0].value : ALL.order;
};

const keyOf = ({ source, item }: FoundItem) => `${source} ${item.id}`;

function Row({
  found,
  together,
  ticked,
  onTick,
}: {
  found: FoundItem;
  /** What goes along with it. */
  together: readonly FoundItem[];
  ticked: boolean;
  onTick(): void;
}) {
  const { item } = found;
  const { props, isDragging } = useShelfItem(`item ${keyOf(found)}`, {
    kind: "block",
    type: "items",
    items: together.map(({ source, item }) => ({ source, item })),
  });
  return (
    <li className="flex items-center gap-1">
      <input type="checkbox" checked={ticked} aria-label={`Take ${item.title} along`} onChange={onTick} />
      <button
        {...props}
        data-thing={item.title}
        title={item.title}
        className={`flex min-h-9 min-w-0 grow cursor-grab touch-none items-center gap-2 rounded-md px-1 text-left hover:bg-black/5 ${isDragging ? "opacity-50" : ""}`}
      >
        <ItemPicture item={item} className="h-7 w-9" />
        <span className="min-w-0 grow">
          <span className="block truncate leading-4">{item.title}</span>
          <span className="block truncate text-xs text-ink-soft">{asideWords(item)}</span>
        </span>
      </button>
    </li>
  );
}
