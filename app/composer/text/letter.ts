import { Editor } from "@tiptap/core";
import { commands } from "~/core/compose";
import { findNode, type RichDoc, richText } from "~/core/email";
import type { Actions } from "../actions";
import { takeOver } from "../canvas/text-editing";
import { type Composer, TYPING } from "../store";
import { fromEditor, toEditor } from "./convert";
import { refreshTags, textExtensions } from "./extensions";
import { editorHost } from "./host";

/** Mounts the editor of a letter in text only: paragraphs of plain words with reader data. Returns how to end it. */
export function mountLetter(
  store: Composer,
  actions: Actions,
  place: HTMLElement,
  { block, label }: { block: string; label: string },
): { editor: Editor; end(): void } {
  let editor: Editor;
  const host = editorHost(store, actions, () => editor, {
    slashes: false,
    leave: () => editor.commands.blur(),
    step: () => false,
  });
  const wordsNow = () => {
    const found = findNode(store.getState().email, block);
    return found?.kind === "block" ? (found.node.content as RichDoc | undefined) : undefined;
  };
  let current = wordsNow();
  editor = new Editor({
    element: place,
    extensions: textExtensions(host, "letter"),
    content: toEditor(current ?? richText("")),
    editorProps: { attributes: { role: "textbox", "aria-multiline": "true", "aria-label": label } },
    onUpdate({ editor: changed }) {
      store
        .getState()
        .apply(
          commands.setAt(block, "content", fromEditor(changed.getJSON())),
          "Typing",
          `${TYPING}${block}`,
        );
      current = wordsNow();
    },
  });
  const stop = store.subscribe((state, before) => {
    if (state.reader !== before.reader) refreshTags(editor.view.dom, host);
    const next = wordsNow();
    if (!next || next === current) return;
    current = next;
    takeOver(editor, toEditor(next));
  });
  return {
    editor,
    end() {
      stop();
      editor.destroy();
    },
  };
}
