import { commands } from "~/core/compose";
import type { Row } from "~/core/email";
import { newId, useComposerStore } from "../state/store";
import { useView } from "./context";

const LEAST = 10;

/** Handles between the columns of a row: dragging one, or arrow keys on it, shares the room anew. */
export function ColumnDividers({ row }: { row: Row }) {
  const store = useComposerStore();
  const canvas = useView();
  const rowBox = canvas.box(row.id);
  const boxes = row.columns.map((column) => canvas.box(column.id));
  if (!rowBox || boxes.some((box) => box === null)) return null;
  const room = Math.max(...boxes.map((box) => box!.right)) - Math.min(...boxes.map((box) => box!.left));
  const share = (at: number, widths: readonly number[], percent: number) => {
    const both = widths[at] + widths[at + 1];
    const left = Math.round(Math.min(both - LEAST, Math.max(LEAST, widths[at] + percent)) * 10) / 10;
    const next = widths.map((width, index) =>
      index === at ? left : index === at + 1 ? Math.round((both - left) * 10) / 10 : width,
    );
    store
      .getState()
      .apply(commands.divide(row.id, next, newId), "Moving the boundary", `boundary ${row.id} ${at}`);
  };
  return row.columns.slice(0, -1).map((column, at) => {
    const [left, right] = [boxes[at]!, boxes[at + 1]!];
    // Stacked columns have no boundary to move.
    if (right.left < left.right - 1) return null;
    const widths = row.columns.map((one) => one.width);
    return (
      <div
        key={column.id}
        role="separator"
        aria-orientation="vertical"
        aria-label={`Boundary after column ${at + 1}`}
        aria-valuenow={Math.round(widths[at])}
        aria-valuemin={LEAST}
        aria-valuemax={100 - LEAST}
        tabIndex={0}
        data-testid={`boundary-${at + 1}`}
        className="group pointer-events-auto absolute z-10 w-3 -translate-x-1/2 cursor-col-resize touch-none"
        style={{ left: (left.right + right.left) / 2, top: rowBox.top, height: rowBox.bottom - rowBox.top }}
        onPointerDown={(event) => {
          event.stopPropagation();
          event.preventDefault();
          event.currentTarget.focus();
          const from = event.clientX;
          const follow = (move: PointerEvent) => share(at, widths, ((move.clientX - from) / room) * 100);
          const end = () => {
            window.removeEventListener("pointermove", follow);
            window.removeEventListener("pointerup", end);
            window.removeEventListener("pointercancel", end);
          };
          window.addEventListener("pointermove", follow);
          window.addEventListener("pointerup", end);
          window.addEventListener("pointercancel", end);
        }}
        onKeyDown={(event) => {
          if (event.key !== "ArrowLeft" && event.key !== "ArrowRight") return;
          event.preventDefault();
          event.stopPropagation();
          share(at, widths, event.key === "ArrowRight" ? 1 : -1);
        }}
      >
        <span className="absolute inset-y-0 left-1/2 w-0.5 -translate-x-1/2 bg-mulberry/50 group-hover:bg-mulberry group-focus-visible:bg-mulberry" />
        <span className="absolute top-1/2 left-1/2 h-8 w-2 -translate-x-1/2 -translate-y-1/2 rounded-full border border-white bg-mulberry" />
      </div>
    );
  });
}
