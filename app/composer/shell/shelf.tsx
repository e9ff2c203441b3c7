import { Columns2, Columns3, Columns4, Rows3, Square } from "lucide-react";
import { lazy, Suspense, useState } from "react";
import { BLOCK_TYPES, type BlockTypeName, READY_LISTS, type ReadyList, SHELF_GROUPS } from "~/core/blocks";
import { SearchInput } from "../../ui/form";
import { thingLabel } from "../canvas/drag";
import { blockIcon, type Icon, READY_ICONS } from "../controls/block-icon";
import type { ShelfThing } from "../state/shelf-things";
import { useComposer } from "../state/store";
import { LiveItems } from "./live-items";
import { Outline } from "./outline";
import { useShelfItem } from "./use-shelf-item";

const ClippingsTab = lazy(() => import("./clippings-tab"));
const AskPanel = lazy(() => import("./ask-panel"));

export const LAYOUT_THINGS: { thing: ShelfThing; icon: Icon; words: string }[] = [
  { thing: { kind: "section" }, icon: Rows3, words: "section stretch" },
  { thing: { kind: "row", columns: 1 }, icon: Square, words: "row one column" },
  { thing: { kind: "row", columns: 2 }, icon: Columns2, words: "columns two" },
  { thing: { kind: "row", columns: 3 }, icon: Columns3, words: "columns three" },
  { thing: { kind: "row", columns: 4 }, icon: Columns4, words: "columns four" },
  { thing: { kind: "row", columns: 5 }, icon: Columns4, words: "columns five" },
  { thing: { kind: "row", columns: 6 }, icon: Columns4, words: "columns six" },
];

/** Lists that are ready set for what is shown most. */
const READY = (Object.keys(READY_LISTS) as ReadyList[]).map((ready) => ({
  thing: { kind: "block", type: "picks", ready } as ShelfThing,
  icon: READY_ICONS[ready],
  words: READY_LISTS[ready].words,
}));

/** Where blocks come from; the outline and the assistant in the same place. */
export function Shelf() {
  const tab = useComposer((state) => state.shelf);
  const set = useComposer((state) => state.set);
  return (
    <aside aria-label="Shelf" className="flex w-62 shrink-0 flex-col border-r bg-paper max-sm:w-full">
      <div role="tablist" aria-label="Left side" className="flex shrink-0 gap-0.5 border-b px-2 pt-2">
        {(["add", "clippings", "outline", "ask"] as const).map((name) => (
          <button
            key={name}
            type="button"
            role="tab"
            id={`tab-${name}`}
            aria-selected={tab === name}
            aria-controls={`side-${name}`}
            onClick={() => set({ shelf: name })}
            className="border-b-2 border-transparent px-1.5 pb-2 text-ink-soft aria-selected:border-ink aria-selected:font-semibold aria-selected:text-ink"
          >
            {{ add: "Add", clippings: "Clippings", outline: "Outline", ask: "Ask" }[name]}
          </button>
        ))}
      </div>
      <div
        role="tabpanel"
        id={`side-${tab}`}
        aria-labelledby={`tab-${tab}`}
        className="min-h-0 grow overflow-y-auto"
      >
        {tab === "add" && <AddList />}
        {tab === "outline" && <Outline />}
        {tab === "ask" && (
          <Suspense>
            <AskPanel />
          </Suspense>
        )}
        {tab === "clippings" && (
          <Suspense fallback={<p className="p-3 text-ink-soft">Fetching clippings…</p>}>
            <ClippingsTab />
          </Suspense>
        )}
      </div>
    </aside>
  );
}

function AddList() {
  const [query, setQuery] = useState("");
  const wanted = query.trim().toLowerCase();
  const fits = (...words: string[]) => words.join(" ").toLowerCase().includes(wanted);
  const types = Object.values(BLOCK_TYPES).filter((type) => !type.fixed);
  const groups = SHELF_GROUPS.map(({ group, label }) => ({
    group,
    label,
    things: [
      ...(group === "layout"
        ? LAYOUT_THINGS.filter(({ thing, words }) => fits(words, thingLabel(thing)))
        : []),
      ...types
        .filter((type) => type.group === group && fits(type.label, type.words))
        .map((type) => ({
          thing: { kind: "block", type: type.type } as ShelfThing,
          icon: blockIcon(type.type as BlockTypeName),
          words: "",
        })),
      ...READY.filter(({ words, thing }) => group === "live" && fits(words, thingLabel(thing))),
    ],
  })).filter(({ things }) => things.length > 0);
  return (
    <div className="p-3">
      <SearchInput
        className="mb-3"
        aria-label="Find a block"
        placeholder="Find a block or an item"
        value={query}
        onChange={(event) => setQuery(event.target.value)}
      />
      {groups.map(({ group, label, things }) => (
        <section key={group} className="mb-3.5">
          <h2 className={`mb-1 text-xs font-medium ${group === "live" ? "text-teal" : "text-ink-soft"}`}>
            {label}
          </h2>
          <div className="grid grid-cols-2 gap-x-1">
            {things.map(({ thing, icon }) => (
              <ShelfItem key={thingLabel(thing)} thing={thing} icon={icon} live={group === "live"} />
            ))}
          </div>
        </section>
      ))}
      {groups.length === 0 && <p className="text-ink-soft">No block is called that.</p>}
      <LiveItems words={query} />
      <p className="mt-4 text-xs text-ink-soft">
        Drag one into the email, or press it to add it after the selection.
      </p>
    </div>
  );
}

function ShelfItem({ thing, icon: Icon, live }: { thing: ShelfThing; icon: Icon; live: boolean }) {
  const label = thingLabel(thing);
  const { props, isDragging } = useShelfItem(`shelf ${label}`, thing);
  return (
    <button
      {...props}
      data-thing={label}
      className={`flex min-h-7.5 cursor-grab touch-none items-center gap-2 rounded-md px-1.5 text-left hover:bg-black/5 ${isDragging ? "opacity-50" : ""}`}
    >
      <Icon
        className={`size-4 shrink-0 ${live ? "text-teal" : "text-ink-soft"}`}
        strokeWidth={1.75}
        aria-hidden
      />
      <span className="line-clamp-2 min-w-0 leading-4 wrap-break-word">{label}</span>
    </button>
  );
}
