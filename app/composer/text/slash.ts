import { Extension } from "@tiptap/core";
import { Plugin } from "@tiptap/pm/state";
import type { EditorView } from "@tiptap/pm/view";

/** A `/` being typed: what follows it, where it stands in the text, and where on the screen. */
export interface Slash {
  query: string;
  from: number;
  to: number;
  left: number;
  top: number;
}

export interface SlashHost {
  /** The slash that is open now, or null when there is none any more. */
  slash(slash: Slash | null): void;
  /** A key while the menu is open; true when the menu used it. */
  slashKey(key: string): boolean;
}

function slashAt(view: EditorView): Slash | null {
  const { selection } = view.state;
  if (!selection.empty) return null;
  const before = selection.$from.parent.textBetween(0, selection.$from.parentOffset, undefined, "\ufffc");
  const match = /(?:^|\s)\/([\p{L} ]{0,24})$/u.exec(before);
  if (!match || / {2}|^ /.test(match[1])) return null;
  const from = selection.from - match[1].length - 1;
  const { left, bottom } = view.coordsAtPos(from);
  return { query: match[1], from, to: selection.from, left, top: bottom };
}

/** `/` in text opens the add menu; it closes when the slash is gone, or on Escape until the next one. */
export const slashMenu = (host: SlashHost) =>
  Extension.create({
    name: "slashMenu",
    priority: 1100,
    addProseMirrorPlugins() {
      let now: Slash | null = null;
      let refused: number | null = null;
      const show = (slash: Slash | null) => {
        if (slash === null && now === null) return;
        now = slash;
        host.slash(slash);
      };
      return [
        new Plugin({
          props: {
            handleKeyDown(_view, event) {
              if (now === null) return false;
              if (event.key === "Escape") {
                refused = now.from;
                show(null);
                return true;
              }
              return host.slashKey(event.key);
            },
          },
          view: () => ({
            update(view, before) {
              if (view.state.doc.eq(before.doc) && view.state.selection.eq(before.selection)) return;
              const slash = slashAt(view);
              if (slash === null) refused = null;
              show(slash !== null && slash.from === refused ? null : slash);
            },
            destroy: () => show(null),
          }),
        }),
      ];
    },
  });
