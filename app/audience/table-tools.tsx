import { Columns3, ListFilter } from "lucide-react";
import { useEffect, useState } from "react";
import { Button } from "../ui/button";
import { Popover } from "../ui/floating";
import { SearchInput } from "../ui/form";
import type { Column } from "./columns";

/** So long after the last letter is sought, in milliseconds. */
const WAIT = 180;

/** Above the table: seeking, filtering, choosing columns. */
export function TableTools({
  words,
  onWords,
  filtering,
  onFilter,
  columns,
  chosen,
  onColumns,
  found,
}: {
  words: string;
  onWords(words: string): void;
  filtering: boolean;
  onFilter(): void;
  columns: readonly Column[];
  chosen: readonly string[];
  onColumns(keys: readonly string[]): void;
  /** How many there are, in words. */
  found: string;
}) {
  const [typed, setTyped] = useState(words);
  useEffect(() => {
    if (typed === words) return;
    const timer = setTimeout(() => onWords(typed), WAIT);
    return () => clearTimeout(timer);
  }, [typed, words, onWords]);
  return (
    <div className="flex flex-wrap items-center gap-2">
      <SearchInput
        className="w-72 max-w-full"
        type="search"
        aria-label="Search contacts"
        placeholder="Name or address"
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
      />
      <Button
        aria-pressed={filtering}
        className={filtering ? "border-teal! text-teal" : ""}
        onClick={onFilter}
      >
        <ListFilter className="size-4" aria-hidden /> Filter
      </Button>
      <Popover
        label="Columns"
        align="start"
        className="max-h-96 w-64 overflow-y-auto p-2!"
        button={
          <Button>
            <Columns3 className="size-4" aria-hidden /> Columns
          </Button>
        }
      >
        {columns.slice(1).map(({ key, label }) => (
          <label key={key} className="flex min-h-8 items-center gap-2 rounded-md px-2 hover:bg-black/4">
            <input
              type="checkbox"
              checked={chosen.includes(key)}
              onChange={() =>
                onColumns(chosen.includes(key) ? chosen.filter((one) => one !== key) : [...chosen, key])
              }
            />
            <span className="truncate">{label}</span>
          </label>
        ))}
      </Popover>
      <span className="ml-auto text-ink-soft" role="status">
        {found}
      </span>
    </div>
  );
}
