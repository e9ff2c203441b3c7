import { useVirtualizer } from "@tanstack/react-virtual";
import clsx from "clsx";
import { type KeyboardEvent, type MouseEvent, useEffect, useRef, useState } from "react";
import { variantAddress } from "~/core/pictures";
import { kilobytes } from "../ui/time";
import type { Picture } from "./upload";

/** Pictures that cannot be seen through are called so. */
const SOLID = /\.jpg$|-solid\./;

const TILE = { width: 152, height: 168, gap: 12 };

/**
 * Pictures in rows of as many as fit; only what is in view is drawn, so that there may be thousands. A list box by hand:
 * it has rows and columns, several are chosen, and the library of `ui/choose.tsx` keeps all its entries in the page.
 */
export function PictureGrid({
  label,
  total,
  at,
  need,
  chosen,
  onChoose,
  onOpen,
  className,
}: {
  label: string;
  total: number;
  at(index: number): Picture | undefined;
  need(from: number, to: number): void;
  /** The ids of those that are chosen. */
  chosen: ReadonlySet<string>;
  /** One was pressed; `how` says whether it is one more, or all up to it. */
  onChoose(index: number, how: "only" | "more" | "upTo"): void;
  /** One was pressed twice, or opened by keys. */
  onOpen?(picture: Picture): void;
  className?: string;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const [{ across, wide }, setShape] = useState({ across: 4, wide: TILE.width });
  const [focused, setFocused] = useState(0);
  useEffect(() => {
    const element = scroller.current;
    if (!element) return;
    const observer = new ResizeObserver(() => {
      const room = element.clientWidth - 2;
      const fit = Math.floor((room + TILE.gap) / (TILE.width + TILE.gap));
      // On a phone two stand side by side, however narrow that makes them.
      setShape(
        fit >= 2 ? { across: fit, wide: TILE.width } : { across: 2, wide: Math.floor((room - TILE.gap) / 2) },
      );
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  const rows = useVirtualizer({
    count: Math.ceil(total / across),
    getScrollElement: () => scroller.current,
    estimateSize: () => TILE.height + TILE.gap,
    overscan: 3,
    useFlushSync: false,
  });
  const shown = rows.getVirtualItems();
  const from = (shown[0]?.index ?? 0) * across;
  const to = Math.min(total, ((shown.at(-1)?.index ?? 0) + 1) * across) - 1;
  useEffect(() => need(from, to), [need, from, to]);
  const go = (index: number) => {
    const next = Math.min(total - 1, Math.max(0, index));
    setFocused(next);
    const there = () => scroller.current?.querySelector<HTMLElement>(`[data-index="${next}"]`);
    const tile = there();
    if (tile) tile.focus();
    else {
      rows.scrollToIndex(Math.floor(next / across));
      requestAnimationFrame(() => there()?.focus());
    }
  };
  const press = (event: KeyboardEvent, index: number) => {
    const step = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: across, ArrowUp: -across }[event.key];
    if (step !== undefined) go(index + step);
    else if (event.key === "Home") go(0);
    else if (event.key === "End") go(total - 1);
    else if (event.key === " ") onChoose(index, event.ctrlKey || event.metaKey ? "more" : "only");
    else if (event.key === "Enter") {
      const picture = at(index);
      if (picture && onOpen) onOpen(picture);
      else onChoose(index, "only");
    } else return;
    event.preventDefault();
  };
  const click = (event: MouseEvent, index: number) => {
    setFocused(index);
    onChoose(index, event.shiftKey ? "upTo" : event.ctrlKey || event.metaKey ? "more" : "only");
  };
  return (
    <div ref={scroller} className={clsx("overflow-y-auto p-px", className)}>
      <div
        role="listbox"
        aria-label={label}
        aria-multiselectable
        tabIndex={-1}
        className="relative"
        style={{ height: rows.getTotalSize() }}
      >
        {shown.map((row) =>
          Array.from({ length: Math.min(across, total - row.index * across) }, (_, column) => {
            const index = row.index * across + column;
            const picture = at(index);
            return (
              <div
                key={picture?.id ?? `place ${index}`}
                role="option"
                aria-selected={picture ? chosen.has(picture.id) : false}
                aria-label={picture ? undefined : "On its way"}
                data-name={picture?.name}
                data-index={index}
                tabIndex={index === Math.min(focused, total - 1) ? 0 : -1}
                onClick={(event) => click(event, index)}
                onDoubleClick={() => picture && onOpen?.(picture)}
                onKeyDown={(event) => press(event, index)}
                className="absolute cursor-pointer rounded-md border bg-paper p-1.5 hover:border-ink-soft aria-selected:border-mulberry aria-selected:bg-mulberry-wash aria-selected:outline-1 aria-selected:outline-mulberry"
                style={{
                  width: wide,
                  height: TILE.height,
                  top: row.start + 1,
                  left: column * (wide + TILE.gap) + 1,
                }}
              >
                {picture && <Tile picture={picture} />}
              </div>
            );
          }),
        )}
      </div>
    </div>
  );
}

function Tile({ picture }: { picture: Picture }) {
  return (
    <>
      <img
        src={variantAddress(picture.path, 138, picture.width)}
        alt=""
        loading="lazy"
        decoding="async"
        draggable={false}
        className={`h-28 w-full rounded-sm object-scale-down ${SOLID.test(picture.path) ? "bg-[#f1f0f4]" : "chequered"}`}
      />
      <span className="mt-1 block truncate">{picture.name}</span>
      <span className="flex gap-1.5 text-xs/4 text-ink-soft">
        <span className="grow truncate">
          {picture.width} × {picture.height}
        </span>
        <span>{kilobytes(picture.bytes)}</span>
      </span>
    </>
  );
}
