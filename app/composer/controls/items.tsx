import { arrayMove } from "@dnd-kit/sortable";
import { ChevronDown, ChevronUp, Plus, Trash2 } from "lucide-react";
import { type ReactNode, useLayoutEffect, useRef } from "react";
import { Button, IconButton } from "../../ui/button";
import { Sorted, SortedItem } from "./sorted";

const keyOf = (item: unknown, index: number): string | number => (item as { id?: string }).id ?? index;

/** A list inside a block: each item with its controls, moved, removed and added here. */
export function ItemList<T>({
  items,
  noun,
  most = Number.POSITIVE_INFINITY,
  least = 0,
  fresh,
  onChange,
  children,
}: {
  items: readonly T[];
  /** What one of them is called: "link". */
  noun: string;
  most?: number;
  least?: number;
  /** One more; missing where others come in another way. */
  fresh?(): T;
  onChange(items: T[], label: string): void;
  children(item: T, index: number, change: (part: Partial<T>) => void): ReactNode;
}) {
  const list = useRef<HTMLDivElement>(null);
  const removed = useRef<number | null>(null);
  // The button goes with its item: the focus stays in the list.
  useLayoutEffect(() => {
    if (removed.current === null) return;
    const left = [...(list.current?.querySelectorAll<HTMLElement>("[data-remove]") ?? [])];
    const next = left[Math.min(removed.current, items.length - 1)];
    removed.current = null;
    (next ?? list.current?.querySelector("button"))?.focus();
  }, [items.length]);
  const move = (from: number, to: number) => onChange(arrayMove([...items], from, to), `Moving a ${noun}`);
  return (
    <div ref={list} className="space-y-2.5">
      <Sorted ids={items.map(keyOf)} onMove={move}>
        <ol className="space-y-3">
          {items.map((item, index) => (
            <SortedItem
              key={keyOf(item, index)}
              id={keyOf(item, index)}
              className="space-y-2 border-b pb-3 last:border-b-0 last:pb-0"
            >
              {(grip) => (
                <>
                  <div className="flex items-center justify-between text-xs text-ink-soft">
                    <span className="flex items-center gap-0.5">
                      {items.length > 1 && grip}
                      {noun[0].toUpperCase() + noun.slice(1)} {index + 1}
                    </span>
                    <span className="flex">
                      <IconButton
                        icon={ChevronUp}
                        label={`Move ${noun} ${index + 1} up`}
                        className="size-6!"
                        disabled={index === 0}
                        onClick={() => move(index, index - 1)}
                      />
                      <IconButton
                        icon={ChevronDown}
                        label={`Move ${noun} ${index + 1} down`}
                        className="size-6!"
                        disabled={index === items.length - 1}
                        onClick={() => move(index, index + 1)}
                      />
                      <IconButton
                        icon={Trash2}
                        label={`Remove ${noun} ${index + 1}`}
                        className="size-6!"
                        disabled={items.length <= least}
                        data-remove
                        onClick={() => {
                          onChange(
                            items.filter((_, at) => at !== index),
                            `Removing a ${noun}`,
                          );
                          removed.current = index;
                        }}
                      />
                    </span>
                  </div>
                  {children(item, index, (part) =>
                    onChange(
                      items.map((one, at) => (at === index ? { ...one, ...part } : one)),
                      `Changing a ${noun}`,
                    ),
                  )}
                </>
              )}
            </SortedItem>
          ))}
        </ol>
      </Sorted>
      {fresh && items.length < most && (
        <Button data-add onClick={() => onChange([...items, fresh()], `Adding a ${noun}`)}>
          <Plus className="size-4" aria-hidden /> Add {/^[aeiou]/.test(noun) ? "an" : "a"} {noun}
        </Button>
      )}
    </div>
  );
}
