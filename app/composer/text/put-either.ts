import type { Editor } from "@tiptap/core";
import { DEEPEST } from "~/core/email";
import { firstLine } from "../../rules/line";
import type { Composer } from "../store";
import { inlineFromEditor } from "./convert";

/** Whether wording that differs may stand in an editor's words: not too deep in others. */
export const takesEither = (editor: Editor) => Number(editor.view.dom.dataset.deep ?? 0) < DEEPEST;

/**
 * Puts wording that differs in the place of some words, which everybody else gets from now on, and opens it.
 * @param at the place; the words that are selected, and kept, when missing
 */
export function putEither(store: Composer, editor: Editor, at?: { from: number; to: number }): void {
  const { facts } = store.getState();
  const { from, to } = at ?? editor.state.selection;
  // Words of one paragraph at most: it stands in a line.
  const start = editor.state.doc.resolve(from);
  const end = Math.min(to, start.end());
  const chosen = start.parent.cut(start.parentOffset, end - start.start());
  const otherwise = at ? [] : inlineFromEditor({ content: [chosen.toJSON()] });
  const cases = [{ when: firstLine(facts.words), words: otherwise }];
  editor
    .chain()
    .focus()
    .insertContentAt({ from, to: end }, { type: "either", attrs: { cases, otherwise } })
    .run();
  // Pressed, it opens where its editor says: words of a case open it within.
  const dom = editor.view.nodeDOM(from);
  if (dom instanceof HTMLElement) dom.click();
}
