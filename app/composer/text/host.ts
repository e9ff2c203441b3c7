import type { Editor } from "@tiptap/core";
import type { Actions } from "../actions";
import type { Composer } from "../store";
import { pressTypedKey } from "./cursor-menu";
import type { EditorHost } from "./extensions";
import { around, tagWords, wordingFor } from "./values";

/**
 * What an editor of the composer's words asks of what is around it. `editor` gives the editor, which is made after
 * its host.
 */
export function editorHost(
  store: Composer,
  actions: Actions,
  editor: () => Editor | null,
  own: Pick<EditorHost, "leave" | "step" | "slashes" | "beside" | "become">,
): EditorHost {
  return {
    ...own,
    value(tag) {
      const state = store.getState();
      return tagWords(tag, state.reader, around(state));
    },
    wording(attrs) {
      const { reader, facts } = store.getState();
      return wordingFor(attrs, reader, facts.audience);
    },
    openTag(at, place) {
      const made = editor();
      if (made) store.setState({ chip: { editor: made, at, place } });
    },
    undo: () => store.getState().undo(),
    redo: () => store.getState().redo(),
    typed: {
      typed(typed) {
        const made = editor();
        store.setState({ typed: typed && made ? { ...typed, editor: made } : null, typedAt: 0 });
      },
      typedKey: (key) => pressTypedKey(store, actions, key),
    },
  };
}

/** Opens the choice of reader data where the cursor stands: by the sign that does so when it is typed. */
export function askForData(editor: Editor): void {
  const { $from } = editor.state.selection;
  const before = $from.parent.textBetween(0, $from.parentOffset, "\n", "\ufffc");
  const space = before === "" || /[\s\ufffc(]$/.test(before) ? "" : " ";
  editor.chain().focus().insertContent(`${space}@`).run();
}
