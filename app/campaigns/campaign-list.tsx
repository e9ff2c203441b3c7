import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useMemo, useRef, useState } from "react";
import { CampaignRow } from "./campaign-row";
import { type Line, standingOf } from "./line";
import type { useMarks } from "./use-marks";

const GROUPS = [
  { key: "hand", label: "Needs you" },
  { key: "going", label: "Going out" },
  { key: "sent", label: "Sent" },
] as const;

function groupOf(line: Line): (typeof GROUPS)[number]["key"] {
  const standing = standingOf(line);
  if (standing === "draft" || standing === "paused" || standing === "cancelled") return "hand";
  return standing === "sent" ? "sent" : "going";
}

type Item = { key: string; heading: string; count: number } | { key: string; line: Line; edge: string };

/** Headings and rows in one line, so that only what is in view is drawn; what was searched for is in one, best first. */
function itemsOf(lines: readonly Line[], sought: boolean): Item[] {
  const groups = sought ? [{ key: "found", label: "Found" }] : GROUPS;
  return groups.flatMap(({ key, label }) => {
    const group = sought ? lines : lines.filter((line) => groupOf(line) === key);
    if (group.length === 0) return [];
    const edge = (index: number) =>
      `${index === 0 ? "rounded-t-lg border-t" : ""} ${index === group.length - 1 ? "rounded-b-lg mb-5" : ""}`;
    return [
      { key: `heading ${key}`, heading: label, count: group.length },
      ...group.map((line, index) => ({ key: line.id, line, edge: edge(index) })),
    ];
  });
}

/** The campaigns in the order of what needs a hand. */
export function CampaignList({
  lines,
  now,
  archived,
  sought,
  marks,
}: {
  lines: readonly Line[];
  now: number;
  archived: boolean;
  /** Whether these are what was searched for. */
  sought: boolean;
  marks: Pick<ReturnType<typeof useMarks>, "has" | "mark">;
}) {
  const items = useMemo(() => itemsOf(lines, sought), [lines, sought]);
  const top = useRef<HTMLDivElement>(null);
  const [offset, setOffset] = useState(0);
  useEffect(() => setOffset(top.current?.offsetTop ?? 0), []);
  const rows = useWindowVirtualizer({
    count: items.length,
    estimateSize: (index) => ("heading" in items[index] ? 28 : 86),
    getItemKey: (index) => items[index].key,
    overscan: 4,
    useFlushSync: false,
    scrollMargin: offset,
    // As the server drew it, wherever the page was scrolled to before.
    initialOffset: 0,
    initialRect: { width: 1000, height: 900 },
  });
  const shown = rows.getVirtualItems();
  const before = (shown[0]?.start ?? offset) - offset;
  const after = rows.getTotalSize() - ((shown.at(-1)?.end ?? offset) - offset);
  return (
    <div ref={top} style={{ paddingTop: Math.max(0, before), paddingBottom: Math.max(0, after) }}>
      {shown.map(({ index }) => {
        const item = items[index];
        return (
          <div key={item.key} data-index={index} ref={rows.measureElement} className="flow-root">
            {"heading" in item ? (
              <h2 className="mb-1.5 font-medium">
                {item.heading} <span className="ml-1 text-ink-soft">{item.count}</span>
              </h2>
            ) : (
              <article aria-label={item.line.name} className={`border-x border-b bg-paper ${item.edge}`}>
                <CampaignRow
                  line={item.line}
                  now={now}
                  archived={archived}
                  marked={marks.has(item.line.id)}
                  onMark={marks.mark}
                />
              </article>
            )}
          </div>
        );
      })}
    </div>
  );
}
