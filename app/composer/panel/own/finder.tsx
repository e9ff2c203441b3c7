import { Plus } from "lucide-react";
import { useState } from "react";
import type { Item } from "~/core/items";
import { ask } from "../../../requests";
import { ItemPicture } from "../../../sources/item-row";
import { Button } from "../../../ui/button";
import { Labelled, SearchInput } from "../../../ui/form";
import { useAnswer } from "../../../ui/use-answer";

const FOUND = 8;

/** Seeks items in all sources. */
export function Finder({
  label,
  field = label,
  deed,
  films,
  onFound,
}: {
  label: string;
  /** What the field is called, where its label does not say it. */
  field?: string;
  /** What is done with what is found: "Add". */
  deed: string;
  /** Only what shows a film; the newest of them are there before anything is sought. */
  films?: boolean;
  onFound(source: string, item: Item): void;
}) {
  const [words, setWords] = useState("");
  const sought = words.trim();
  const query = {
    words: sought,
    limit: FOUND,
    ...(films && { films: "yes" as const, ...(sought === "" && { order: "newest" as const }) }),
  };
  const asks = films || sought !== "";
  const { last, problem } = useAnswer(
    asks ? JSON.stringify(query) : null,
    (signal) => ask("/sources/items", { query, signal }),
    120,
  );
  const found = asks ? (last?.items ?? []) : [];
  if (films && sought === "" && found.length === 0) return null;
  return (
    <Labelled label={label}>
      <SearchInput
        type="search"
        aria-label={field}
        placeholder="Words of it"
        value={words}
        onChange={(event) => setWords(event.target.value)}
      />
      {problem && <p className="mt-1 text-xs text-red">{problem}</p>}
      {sought !== "" && last && found.length === 0 && (
        <p className="mt-1 text-xs text-ink-soft">No item is like that.</p>
      )}
      <ul className="mt-1.5 space-y-0.5">
        {found.map(({ source, item }) => (
          <li key={`${source} ${item.id}`}>
            <Button
              kind="quiet"
              className="w-full justify-start! px-1.5! text-left"
              aria-label={`${deed} ${item.title}`}
              onClick={() => onFound(source, item)}
            >
              <ItemPicture item={item} className="h-7 w-9" />
              <span className="min-w-0 grow truncate">{item.title}</span>
              <Plus className="size-4 shrink-0" aria-hidden />
            </Button>
          </li>
        ))}
      </ul>
    </Labelled>
  );
}
