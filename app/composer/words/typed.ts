import { Extension } from "@tiptap/core";
import { Plugin } from "@tiptap/pm/state";
import type { EditorView } from "@tiptap/pm/view";

/** The signs that open a menu at the cursor: `/` adds a block, `@` reader data. */
export type Sign = "/" | "@";

/** A sign being typed: what follows it, where it stands in the text, and where on the screen. */
export interface Typed {
  sign: Sign;
  query: string;
  from: number;
  to: number;
  left: number;
  top: number;
}

export interface TypedHost {
  /** What is being typed now, or null when it is nothing any more. */
  typed(typed: Typed | null): void;
  /** A key while the menu is open; true when the menu used it. */
  typedKey(key: string): boolean;
}

/** The sign before the cursor with the letters after it; only at the start of a word, so that an address is none. */
function typedAt(view: EditorView, signs: readonly Sign[]): Typed | null {
  const { selection } = view.state;
  if (!selection.empty) return null;
  const before = selection.$from.parent.textBetween(0, selection.$from.parentOffset, "\n", "\ufffc");
  const match = /(?:^|[\s\ufffc(“‘"])([/@])([\p{L}\p{N} ]{0,24})$/u.exec(before);
  if (!match || / {2}|^ /.test(match[2])) return null;
  const sign = match[1] as Sign;
  if (!signs.includes(sign)) return null;
  const from = selection.from - match[2].length - 1;
  const { left, bottom } = view.coordsAtPos(from);
  return { sign, query: match[2], from, to: selection.from, left, top: bottom };
}

/** Opens a menu while one of the signs is typed; it closes when the sign is gone, or on Escape until the next one. */
export const typedMenus = (host: TypedHost, signs: readonly Sign[]) =>
  Extension.create({
    name: "typedMenus",
    priority: 1100,
    addProseMirrorPlugins() {
      let now: Typed | null = null;
      let refused: number | null = null;
      const show = (typed: Typed | null) => {
        if (typed === null && now === null) return;
        now = typed;
        host.typed(typed);
      };
      return [
        new Plugin({
          props: {
            handleKeyDown(_view, event) {
              if (now === null) return false;
              if (event.key === "Escape") {
                refused = now.from;
                show(null);
                // What is around the text does not hear of it.
                event.stopPropagation();
                return true;
              }
              return host.typedKey(event.key);
            },
            handleDOMEvents: {
              blur: () => {
                show(null);
                return false;
              },
            },
          },
          view: () => ({
            update(view, before) {
              if (view.state.doc.eq(before.doc) && view.state.selection.eq(before.selection)) return;
              const typed = view.hasFocus() ? typedAt(view, signs) : null;
              if (typed === null) refused = null;
              show(typed !== null && typed.from === refused ? null : typed);
            },
            destroy: () => show(null),
          }),
        }),
      ];
    },
  });
