import { useDraggable } from "@dnd-kit/core";
import { ChevronDown, ChevronUp, Copy, GripVertical, Trash2 } from "lucide-react";
import { lazy, Suspense, useSyncExternalStore } from "react";
import { blockType } from "~/core/blocks";
import { placeName } from "~/core/compose";
import { findNode, type Located } from "~/core/email";
import { IconButton } from "../../ui/button";
import { useActions } from "../state/actions";
import { childrenOf, nodeLabel } from "../state/nodes";
import { useComposer } from "../state/store";
import { CommentMarks } from "./comment-marks";
import { useCanvas, useView } from "./context";
import { ColumnDividers } from "./dividers";
import { HiddenMarks } from "./hidden-marks";
import { landingLines } from "./landing";

const FormatBar = lazy(() => import("../words/format-bar").then(({ FormatBar }) => ({ default: FormatBar })));

/** Edges, names and handles above the email; never part of it. */
export function Overlay() {
  const handle = useCanvas();
  const canvas = useView();
  const active = handle.view === canvas;
  const hovered = useSyncExternalStore(canvas.onHover, canvas.hoveredNode, () => null);
  const selection = useComposer((state) => state.selection);
  const also = useComposer((state) => state.also);
  const editing = useComposer((state) => state.editing);
  const carried = useComposer((state) => state.carried);
  const email = useComposer((state) => state.email);
  useComposer((state) => state.drawn);
  const selected = selection === null ? undefined : findNode(email, selection);
  const box = selection === null ? null : canvas.box(selection);
  const around = selected?.kind === "column" ? findNode(email, selected.parent ?? "") : selected;
  const row = around?.kind === "row" && around.node.columns.length > 1 ? around.node : null;
  const hoverBox = hovered !== null && hovered !== selection && !carried ? canvas.box(hovered) : null;
  return (
    <div className="pointer-events-none absolute inset-0">
      {hoverBox && (
        <div
          className="absolute border border-mulberry/60"
          style={{
            left: hoverBox.left,
            top: hoverBox.top,
            width: hoverBox.right - hoverBox.left,
            height: hoverBox.bottom - hoverBox.top,
          }}
        />
      )}
      {also.map((id) => {
        const one = canvas.box(id);
        return (
          one && (
            <div
              key={id}
              className="absolute border-2 border-mulberry"
              style={{
                left: one.left,
                top: one.top,
                width: one.right - one.left,
                height: one.bottom - one.top,
              }}
            />
          )
        );
      })}
      {selected && box && (
        <div
          className="absolute"
          style={{ left: box.left, top: box.top, width: box.right - box.left, height: box.bottom - box.top }}
        >
          <div className="absolute -inset-px border-2 border-mulberry" />
          {!carried && active && (
            <>
              <div className="absolute -top-6 -left-px flex h-6 max-w-60 items-center rounded-t-[5px] bg-mulberry px-2 text-xs font-medium text-white">
                <span className="truncate">
                  {also.length > 0 ? `${also.length + 1} blocks` : nodeLabel(selected)}
                </span>
              </div>
              {editing === selection ? (
                <Suspense>
                  <FormatBar below={box.top < 64} room={box.right - box.left} />
                </Suspense>
              ) : (
                <Handles node={selected} />
              )}
            </>
          )}
        </div>
      )}
      {row && !carried && active && editing === null && <ColumnDividers row={row} />}
      {active && <LandingMark />}
      {!carried && <HiddenMarks />}
      {!carried && <CommentMarks />}
    </div>
  );
}

function Handles({ node }: { node: Located }) {
  const actions = useActions();
  const fixed = node.kind === "block" && blockType(node.node.type)?.fixed;
  const { setNodeRef, listeners, attributes } = useDraggable({
    id: "handle",
    data: { kind: node.kind, id: node.node.id },
    disabled: node.kind === "column",
  });
  if (node.kind === "column") return null;
  return (
    <div
      className="pointer-events-auto absolute -top-9.5 right-0 flex rounded-md border bg-paper shadow-md"
      role="toolbar"
      aria-label="The selected part"
    >
      <IconButton
        icon={GripVertical}
        ref={setNodeRef}
        {...listeners}
        {...attributes}
        label="Move: drag, or press Space and choose with arrow keys"
        className="size-7! cursor-grab touch-none"
      />
      <IconButton
        icon={ChevronUp}
        label="Move up"
        keys="Alt + ↑"
        className="size-7!"
        onClick={() => actions.step(-1)}
      />
      <IconButton
        icon={ChevronDown}
        label="Move down"
        keys="Alt + ↓"
        className="size-7!"
        onClick={() => actions.step(1)}
      />
      {!fixed && (
        <>
          <IconButton
            icon={Copy}
            label="Duplicate"
            keys="Ctrl + D"
            className="size-7!"
            onClick={() => actions.duplicate()}
          />
          <IconButton
            icon={Trash2}
            label="Delete"
            keys="Delete"
            className="size-7!"
            onClick={() => actions.remove()}
          />
        </>
      )}
    </div>
  );
}

/** Where a drop will land: a line, and its name. */
function LandingMark() {
  const canvas = useView();
  const landing = useComposer((state) => state.landing);
  const email = useComposer((state) => state.email);
  if (!landing) return null;
  const [line] = landingLines(
    [landing],
    (parent) => childrenOf(email, parent),
    (id) => canvas.box(id),
  );
  if (!line) return null;
  return (
    <div
      className="absolute z-10 h-0.75 rounded-full bg-mulberry"
      style={{ left: line.x, top: line.y - 1.5, width: line.width }}
      data-testid="landing"
    >
      <span className="absolute -top-1 -left-1.5 size-2.5 rounded-full bg-mulberry" />
      <span className="absolute -top-1 -right-1.5 size-2.5 rounded-full bg-mulberry" />
      <span className="absolute -top-2.5 left-1/2 max-w-80 -translate-x-1/2 truncate rounded bg-mulberry px-2 py-0.5 text-xs font-medium whitespace-nowrap text-white">
        {placeName(email, landing)}
      </span>
    </div>
  );
}
