import { useEffect, useRef } from "react";
import { createPortal } from "react-dom";
import { BLOCK_TYPES, type BlockTypeName } from "~/core/blocks";
import { type Actions, useActions } from "../actions";
import { BLOCK_ICONS } from "../shelf";
import { type Composer, type ComposerState, useComposer } from "../store";

/** The block types that what was typed after the slash may mean, those whose name begins so first. */
function matches(query: string): BlockTypeName[] {
  const wanted = query.trim().toLowerCase();
  const rank = (name: BlockTypeName) => {
    const { label, words } = BLOCK_TYPES[name];
    if (label.toLowerCase().startsWith(wanted)) return 0;
    return `${label} ${words}`.toLowerCase().includes(wanted) ? 1 : 2;
  };
  return (Object.keys(BLOCK_TYPES) as BlockTypeName[])
    .filter((name) => !BLOCK_TYPES[name].fixed && rank(name) < 2)
    .sort((a, b) => rank(a) - rank(b));
}

/** What a key does while the menu is open; true when it was used. */
export function pressSlashKey(store: Composer, actions: Actions, key: string): boolean {
  const { slash, slashAt, set } = store.getState();
  const found = matches(slash?.query ?? "");
  if (slash === null || found.length === 0) return false;
  if (key === "ArrowDown" || key === "ArrowUp") {
    set({ slashAt: (slashAt + (key === "ArrowDown" ? 1 : -1) + found.length) % found.length });
    return true;
  }
  if (key !== "Enter" && key !== "Tab") return false;
  actions.addAtSlash(found[Math.min(slashAt, found.length - 1)]);
  return true;
}

const slashOf = (state: ComposerState) => state.slash;

/** The add menu at the cursor. The keys stay with the text; this only shows what they would choose. */
export function SlashMenu() {
  const slash = useComposer(slashOf);
  const at = useComposer((state) => state.slashAt);
  const actions = useActions();
  const list = useRef<HTMLDivElement>(null);
  useEffect(() => {
    list.current?.children[at]?.scrollIntoView({ block: "nearest" });
  }, [at]);
  if (!slash) return null;
  const found = matches(slash.query);
  const below = slash.top + 300 < window.innerHeight;
  return createPortal(
    <div
      ref={list}
      role="listbox"
      aria-label="Add a block here"
      className="fixed z-40 max-h-72 w-56 overflow-y-auto rounded-lg border bg-paper p-1 shadow-xl"
      style={{
        left: Math.min(slash.left, window.innerWidth - 240),
        ...(below ? { top: slash.top + 6 } : { bottom: window.innerHeight - slash.top + 24 }),
      }}
      onMouseDown={(event) => event.preventDefault()}
    >
      {found.map((name, index) => {
        const Icon = BLOCK_ICONS[name];
        return (
          <div
            key={name}
            role="option"
            tabIndex={-1}
            aria-selected={index === at}
            onClick={() => actions.addAtSlash(name)}
            onKeyDown={() => undefined}
            className="flex h-8 cursor-pointer items-center gap-2 rounded-md px-2 hover:bg-black/5 aria-selected:bg-mulberry-wash aria-selected:font-semibold"
          >
            <Icon className="size-4 text-ink-soft" strokeWidth={1.75} aria-hidden />
            {BLOCK_TYPES[name].label}
          </div>
        );
      })}
      {found.length === 0 && <p className="px-2 py-1.5 text-ink-soft">No block is called “{slash.query}”.</p>}
    </div>,
    document.body,
  );
}
