import { useState } from "react";
import type { FoundItem } from "~/server/sources/items";
import { ask } from "../../requests";
import { ItemPicture, priceWords } from "../../sources/item-row";
import { useAnswer } from "../../ui/use-answer";
import { useShelfItem } from "./use-shelf-item";

const FOUND = 12;

/** What the sources hold that is found by some words: dragged into the email, or pressed; ticked ones go together as a set. */
export function LiveItems({ words }: { words: string }) {
  const [ticked, setTicked] = useState<ReadonlyMap<string, FoundItem>>(new Map());
  const query = { words: words.trim(), limit: FOUND };
  const sought = query.words.length > 1;
  const { last, problem } = useAnswer(
    sought ? JSON.stringify(query) : null,
    (signal) => ask("/sources/items", { query, signal }),
    120,
  );
  const found = sought ? (last?.items ?? []) : [];
  // What was ticked stays in view while something else is sought.
  const shown = [...ticked.values(), ...found.filter((one) => !ticked.has(keyOf(one)))];
  if (shown.length === 0 && problem === null) return null;
  const tick = (one: FoundItem) => {
    const next = new Map(ticked);
    if (!next.delete(keyOf(one))) next.set(keyOf(one), one);
    setTicked(next);
  };
  return (
    <section className="mb-3.5" aria-label="Items of your sources">
      <h2 className="mb-1 text-xs font-medium text-teal">From your sources</h2>
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
      {ticked.size > 1 && (
        <p className="mt-1 text-xs text-ink-soft">Drag one of the {ticked.size} ticked: they go together.</p>
      )}
    </section>
  );
}

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
          <span className="block truncate text-xs text-ink-soft">{priceWords(item)}</span>
        </span>
      </button>
    </li>
  );
}
