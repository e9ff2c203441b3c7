import { useVirtualizer } from "@tanstack/react-virtual";
import { useRef } from "react";
import type { Rejected } from "~/server/audience/import-lines";
import { count, counted } from "../ui/time";

const ROW = 34;

/** The lines that cannot be taken, each with its number and why. */
export function RejectedList({
  rejected,
  total,
  href,
}: {
  rejected: readonly Rejected[];
  total: number;
  /** Where all of them are as a file. */
  href?: string;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: rejected.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 10,
    useFlushSync: false,
  });
  return (
    <section className="card p-4" aria-label="Lines that cannot be taken">
      <div className="mb-2 flex items-baseline justify-between gap-2">
        <h2 className="font-semibold">Lines that cannot be taken</h2>
        {href && (
          <a href={href} download className="text-mulberry underline underline-offset-2">
            as a file
          </a>
        )}
      </div>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a long list is scrolled by keys from here */}
      <div ref={scroller} className="max-h-80 overflow-y-auto" tabIndex={0}>
        <ol className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map((item) => {
            const { line, reason } = rejected[item.index];
            return (
              <li
                key={item.key}
                className="absolute inset-x-0 flex gap-3 text-xs/4"
                style={{ top: item.start, height: ROW }}
              >
                <span className="w-14 shrink-0 text-right text-ink-soft">{count(line)}</span>
                <span className="line-clamp-2 min-w-0 break-words" title={reason}>
                  {reason}
                </span>
              </li>
            );
          })}
        </ol>
      </div>
      {total > rejected.length && (
        <p className="mt-2 text-xs text-ink-soft">and {counted(total - rejected.length, "other")}</p>
      )}
    </section>
  );
}
