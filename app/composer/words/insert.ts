import type { Editor } from "@tiptap/core";
import { DEEPEST, type MergeTag } from "~/core/email";
import type { RuleWords } from "~/server/audience/words";
import { firstLine } from "../../rules/groups";
import { inlineFromEditor } from "./convert";

/** Puts a merge tag in the place of some words, as a link where it leads somewhere. */
export function insertTag(
  editor: Editor,
  { from, to }: { from: number; to: number },
  tag: MergeTag,
  href?: string,
): void {
  editor
    .chain()
    .focus()
    .insertContentAt(
      { from, to },
      { type: "mergeTag", attrs: tag, ...(href && { marks: [{ type: "link", attrs: { href } }] }) },
    )
    .run();
}

/** Puts a link in the place of some words. */
export function insertLink(
  editor: Editor,
  { from, to }: { from: number; to: number },
  words: string,
  href: string,
): void {
  editor
    .chain()
    .focus()
    .insertContentAt({ from, to }, { type: "text", text: words, marks: [{ type: "link", attrs: { href } }] })
    .run();
}

/** Opens the choice of reader data where the cursor stands: by the sign that does so when it is typed. */
export function askForData(editor: Editor): void {
  const { $from } = editor.state.selection;
  const before = $from.parent.textBetween(0, $from.parentOffset, "\n", "\ufffc");
  const space = before === "" || /[\s\ufffc(]$/.test(before) ? "" : " ";
  editor.chain().focus().insertContent(`${space}@`).run();
}

/** Whether an either/or may stand in an editor's words: not too deep in others. */
export const takesEither = (editor: Editor) => Number(editor.view.dom.dataset.deep ?? 0) < DEEPEST;

/**
 * Puts an either/or in the place of some words, which everybody else gets from now on, and opens it.
 * @param at the place; the words that are selected, and kept, when missing
 */
export function putEither(editor: Editor, words: RuleWords, at?: { from: number; to: number }): void {
  const { from, to } = at ?? editor.state.selection;
  // Words of one paragraph at most: it stands in a line.
  const start = editor.state.doc.resolve(from);
  const end = Math.min(to, start.end());
  const chosen = start.parent.cut(start.parentOffset, end - start.start());
  const otherwise = at ? [] : inlineFromEditor({ content: [chosen.toJSON()] });
  const cases = [{ when: firstLine(words), words: otherwise }];
  editor
    .chain()
    .focus()
    .insertContentAt({ from, to: end }, { type: "either", attrs: { cases, otherwise } })
    .run();
  // Pressed, it opens where its editor says: words of a case open it within.
  const dom = editor.view.nodeDOM(from);
  if (dom instanceof HTMLElement) dom.click();
}
