import { type Editor, Extension } from "@tiptap/core";
import { Plugin } from "@tiptap/pm/state";
import { type Piece, piecesPasted } from "~/core/writing";

/** What becomes of words that are more than paragraphs can hold. */
export interface Becoming {
  /** The paragraph with the cursor is a heading of this level, which begins behind its marks. */
  heading(editor: Editor, level: 1 | 2 | 3): boolean;
  /** Pieces of writing that were pasted at the cursor. */
  pieces(editor: Editor, pieces: readonly Piece[]): void;
}

/** `# ` at the beginning of a paragraph makes it a heading; Markdown and tables that are pasted become what they are. */
export const becoming = (become: Becoming) =>
  Extension.create({
    name: "becoming",
    addProseMirrorPlugins() {
      const { editor } = this;
      return [
        new Plugin({
          props: {
            handleTextInput({ state }, _from, _to, text) {
              const { $from, empty } = state.selection;
              if (text !== " " || !empty || $from.depth !== 1) return false;
              const before = $from.parent.textBetween(0, $from.parentOffset, "\n", "\ufffc");
              return /^#{1,3}$/.test(before) && become.heading(editor, before.length as 1 | 2 | 3);
            },
            handlePaste(_view, event) {
              const html = event.clipboardData?.getData("text/html") ?? "";
              const text = event.clipboardData?.getData("text/plain") ?? "";
              const pieces = html.includes("data-pm-slice") ? null : piecesPasted(html, text);
              if (!pieces) return false;
              void pieces.then((all) => become.pieces(editor, all));
              return true;
            },
          },
        }),
      ];
    },
  });
