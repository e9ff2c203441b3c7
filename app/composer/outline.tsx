import { Monitor, Smartphone } from "lucide-react";
import { blockTitle } from "~/core/blocks";
import { type Located, walk } from "~/core/email";
import { useCanvas } from "./canvas/context";
import { nodeLabel } from "./nodes";
import { useComposer } from "./store";

const DEPTH = { section: 0, row: 1, column: 2, block: 3 };

/** The whole design as a tree, with a teal mark on what depends on the reader. Lone columns are left out. */
export function Outline() {
  const email = useComposer((state) => state.email);
  const selection = useComposer((state) => state.selection);
  const select = useComposer((state) => state.select);
  useComposer((state) => state.drawn);
  const canvas = useCanvas();
  const nodes = [...walk(email)];
  const lone = new Set(
    nodes.filter((it) => it.kind === "row" && it.node.columns.length === 1).map((it) => it.node.id),
  );
  const shown = nodes.filter((it) => !(it.kind === "column" && lone.has(it.parent!)));
  return (
    <ul className="p-2" aria-label="Outline of the email">
      {shown.map((it) => {
        const inLone =
          it.kind === "block" &&
          nodes.some(
            (column) => column.kind === "column" && column.node.id === it.parent && lone.has(column.parent!),
          );
        const here = canvas.drawing === null || canvas.drawing.element(it.node.id) !== null;
        return (
          <li key={it.node.id}>
            <button
              type="button"
              aria-current={it.node.id === selection}
              onClick={() => {
                select(it.node.id);
                canvas.reveal(it.node.id);
              }}
              style={{ paddingLeft: 8 + (DEPTH[it.kind] - (inLone ? 1 : 0)) * 12 }}
              className={`flex h-7 w-full items-center gap-1.5 rounded-md pr-1.5 text-left hover:bg-black/5 aria-[current=true]:bg-mulberry-wash aria-[current=true]:font-semibold ${here ? "" : "text-ink-soft italic"}`}
            >
              <span className="grow truncate">{label(it)}</span>
              {it.kind !== "column" && it.node.hideOn === "phone" && (
                <Monitor className="size-3.5 text-ink-soft" aria-label="Only on desktops" />
              )}
              {it.kind !== "column" && it.node.hideOn === "desktop" && (
                <Smartphone className="size-3.5 text-ink-soft" aria-label="Only on phones" />
              )}
              {it.kind !== "column" && it.node.phone && (
                <span className="text-xs text-ink-soft" title="Different on phones">
                  <Smartphone className="size-3.5" aria-label="Different on phones" />
                </span>
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
      })}
    </ul>
  );
}

function label(it: Located): string {
  return it.kind === "block" ? blockTitle(it.node) : nodeLabel(it);
}

function depends(it: Located): boolean {
  return (
    it.kind !== "column" &&
    (it.node.show !== undefined || (it.kind === "block" && it.node.type === "articles"))
  );
}
