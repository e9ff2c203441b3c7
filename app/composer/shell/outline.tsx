import { useDraggable } from "@dnd-kit/core";
import { Monitor, Smartphone } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { blockTitle } from "~/core/blocks";
import { commands, placeName } from "~/core/compose";
import { type Email, findNode, type Located, walk } from "~/core/email";
import { Input, SearchInput } from "../../ui/form";
import { useCanvas } from "../canvas/context";
import { landingLines } from "../canvas/landing";
import { outlineBox } from "../canvas/outline-places";
import { childrenOf, nodeLabel } from "../state/nodes";
import { useComposer, useComposerStore } from "../state/store";

const DEPTH = { section: 0, row: 1, column: 2, block: 3 };

interface Line {
  it: Located;
  depth: number;
}

/** The lines of the outline; columns that are alone in their row are left out. */
function linesOf(email: Email): Line[] {
  const lines: Line[] = [];
  const lone = new Set<string>();
  for (const it of walk(email)) {
    if (it.kind === "row" && it.node.columns.length === 1) lone.add(it.node.columns[0].id);
    if (it.kind === "column" && lone.has(it.node.id)) continue;
    const inLone = it.kind === "block" && lone.has(it.parent ?? "");
    lines.push({ it, depth: DEPTH[it.kind] - (inLone ? 1 : 0) });
  }
  return lines;
}

/**
 * The whole design as a tree: with a teal mark on what depends on the reader, to select in, to drag in, to rename
 * by a double click, and to filter.
 */
export function Outline() {
  const email = useComposer((state) => state.resting);
  const canvas = useCanvas();
  const list = useRef<HTMLUListElement>(null);
  const [filter, setFilter] = useState("");
  const wanted = filter.trim().toLowerCase();
  const lines = linesOf(email);
  const shown =
    wanted === ""
      ? lines
      : lines.filter(({ it }) => `${label(it)} ${it.kind}`.toLowerCase().includes(wanted));
  useEffect(() => {
    canvas.outline = list.current;
    // It opens where one works.
    list.current?.querySelector("[aria-current=true]")?.scrollIntoView({ block: "center" });
    return () => {
      canvas.outline = null;
    };
  }, [canvas]);
  return (
    <div className="p-2">
      <SearchInput
        className="mx-1 mb-2"
        aria-label="Filter the outline"
        placeholder="Filter"
        value={filter}
        onChange={(event) => setFilter(event.target.value)}
      />
      <ul ref={list} className="relative" aria-label="Outline of the email">
        {shown.map(({ it, depth }) => (
          <OutlineLine key={it.node.id} it={it} depth={wanted === "" ? depth : 0} />
        ))}
        <OutlineLanding />
      </ul>
      {shown.length === 0 && <p className="px-2 text-ink-soft">No part is called that.</p>}
    </div>
  );
}

function OutlineLine({ it, depth }: Line) {
  const store = useComposerStore();
  const canvas = useCanvas();
  const selection = useComposer((state) => state.selection);
  const also = useComposer((state) => state.also);
  const [renaming, setRenaming] = useState(false);
  const { id } = it.node;
  const { setNodeRef, listeners, attributes } = useDraggable({
    id: `outline ${id}`,
    data: { kind: it.kind, id },
    disabled: it.kind === "column",
  });
  const here = canvas.drawing === null || canvas.drawing.element(id) !== null;
  const chosen = id === selection || also.includes(id);
  if (renaming && it.kind !== "column") {
    const keep = (name: string) => {
      setRenaming(false);
      if (name.trim() !== (it.node.name ?? ""))
        store.getState().apply(commands.set(id, { name: name.trim() || undefined }), "Renaming");
    };
    return (
      <li style={{ paddingLeft: 8 + depth * 12 }}>
        <Input
          aria-label="Name of the part"
          autoFocus
          defaultValue={it.node.name ?? ""}
          placeholder={label(it)}
          onBlur={(event) => keep(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === "Enter") keep(event.currentTarget.value);
            else if (event.key === "Escape") setRenaming(false);
          }}
        />
      </li>
    );
  }
  return (
    <li data-outline={id}>
      <button
        ref={setNodeRef}
        type="button"
        {...attributes}
        {...listeners}
        aria-current={chosen}
        title="Drag to move, press twice to rename"
        onClick={(event) => {
          const { select, selectTo, toggle } = store.getState();
          if (event.shiftKey) selectTo(id);
          else if (event.ctrlKey || event.metaKey) toggle(id);
          else select(id);
          canvas.reveal(id);
        }}
        onDoubleClick={() => setRenaming(true)}
        style={{ paddingLeft: 8 + depth * 12 }}
        className={`flex h-7 w-full touch-none items-center gap-1.5 rounded-md pr-1.5 text-left hover:bg-black/5 aria-[current=true]:bg-mulberry-wash aria-[current=true]:font-semibold ${here ? "" : "text-ink-soft italic"}`}
      >
        <span className="grow truncate">{label(it)}</span>
        {it.kind !== "column" && it.node.hideOn === "phone" && (
          <Monitor className="size-3.5 text-ink-soft" aria-label="Only on desktops" />
        )}
        {it.kind !== "column" && (it.node.hideOn === "desktop" || it.node.phone) && (
          <Smartphone
            className="size-3.5 text-ink-soft"
            aria-label={it.node.hideOn === "desktop" ? "Only on phones" : "Different on phones"}
          />
        )}
        {depends(it) && (
          <span
            className="size-2 shrink-0 rounded-full bg-teal"
            role="img"
            aria-label={here ? "Depends on the reader" : "Depends on the reader; not for this one"}
          />
        )}
      </button>
    </li>
  );
}

/** Where a drop will land, shown in the outline too. */
function OutlineLanding() {
  const canvas = useCanvas();
  const landing = useComposer((state) => state.landing);
  const email = useComposer((state) => state.email);
  if (!landing) return null;
  const [line] = landingLines([landing], (parent) => childrenOf(email, parent), outlineBox(canvas, email));
  if (!line) return null;
  const indent =
    landing.parent === null ? 0 : DEPTH[findNode(email, landing.parent)?.kind ?? "section"] * 12 + 8;
  return (
    <li
      aria-hidden
      title={placeName(email, landing)}
      className="pointer-events-none absolute right-1 z-10 h-0.5 rounded-full bg-mulberry"
      style={{ left: 8 + indent, top: line.y - 1 }}
    />
  );
}

function label(it: Located): string {
  return it.kind === "block" ? blockTitle(it.node) : nodeLabel(it);
}

function depends(it: Located): boolean {
  return (
    it.kind !== "column" && (it.node.show !== undefined || (it.kind === "block" && it.node.type === "picks"))
  );
}
