import { Editor } from "@tiptap/core";
import { commands } from "~/core/compose";
import type { Inline } from "~/core/email";
import type { Actions } from "../actions";
import type { Composer } from "../store";
import { inlineFromEditor, inlineToEditor } from "./convert";
import { refreshTags, textExtensions } from "./extensions";
import { editorHost } from "./host";

/** Mounts the editor of the subject or the preheader. Returns it, and how to end it. */
export function mountLine(
  store: Composer,
  actions: Actions,
  place: HTMLElement,
  { part, label, placeholder }: { part: "subject" | "preheader"; label: string; placeholder: string },
): { editor: Editor; end(): void } {
  let editor: Editor;
  const host = editorHost(store, actions, () => editor, {
    slashes: false,
    leave: () => editor.commands.blur(),
    step: () => false,
  });
  let current: Inline[] = store.getState().email.envelope[part];
  editor = new Editor({
    element: place,
    extensions: textExtensions(host, "plain"),
    content: inlineToEditor(current),
    editorProps: { attributes: { role: "textbox", "aria-label": label, "data-placeholder": placeholder } },
    onFocus: () => store.getState().select(null),
    onUpdate({ editor: changed }) {
      current = inlineFromEditor(changed.getJSON()).filter((it) => it.type !== "hardBreak");
      store.getState().apply(commands.setEnvelope({ [part]: current }), `Changing the ${part}`, part);
    },
  });
  const stop = store.subscribe((state, before) => {
    if (state.reader !== before.reader) refreshTags(editor.view.dom, host);
    const next = state.email.envelope[part];
    if (next !== before.email.envelope[part] && next !== current) {
      current = next;
      editor.commands.setContent(inlineToEditor(next), { emitUpdate: false });
    }
  });
  return {
    editor,
    end() {
      stop();
      editor.destroy();
    },
  };
}
