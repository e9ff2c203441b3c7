import { Editor } from "@tiptap/core";
import type { Inline } from "~/core/email";
import type { Actions } from "../actions";
import type { Composer } from "../store";
import { inlineFromEditor, inlineToEditor } from "./convert";
import { type EditorHost, refreshTags, textExtensions } from "./extensions";
import { editorHost } from "./host";

/** An editor of words in one line, which may hold tags and wording that differs. */
export interface WordsEditor {
  editor: Editor;
  /** What it holds. */
  words(): readonly Inline[];
  /** Takes words over that were changed elsewhere. */
  take(words: readonly Inline[]): void;
  end(): void;
}

/** Mounts an editor of words. `plain` ones have no looks and no breaks. */
export function mountWords(
  store: Composer,
  actions: Actions,
  place: HTMLElement,
  {
    words,
    plain,
    label,
    placeholder,
    deep = 0,
    own,
    onWords,
    onFocus,
  }: {
    words: readonly Inline[];
    plain: boolean;
    label: string;
    placeholder: string;
    /** In how many wordings that differ the words stand. */
    deep?: number;
    /** What it does in its own way. */
    own?: Partial<EditorHost>;
    onWords(words: Inline[]): void;
    onFocus?(): void;
  },
): WordsEditor {
  let editor: Editor;
  const host: EditorHost = {
    ...editorHost(store, actions, () => editor, {
      slashes: false,
      leave: () => editor.commands.blur(),
      step: () => false,
    }),
    ...own,
  };
  let current = words;
  editor = new Editor({
    element: place,
    extensions: textExtensions(host, plain ? "plain" : "line"),
    content: inlineToEditor(words),
    editorProps: {
      attributes: {
        role: "textbox",
        "aria-label": label,
        "data-placeholder": placeholder,
        "data-deep": String(deep),
      },
    },
    onFocus,
    onUpdate({ editor: changed }) {
      const all = inlineFromEditor(changed.getJSON());
      const next = plain ? all.filter((it) => it.type !== "hardBreak") : all;
      current = next;
      onWords(next);
    },
  });
  const stop = store.subscribe((state, before) => {
    if (state.reader !== before.reader) refreshTags(editor.view.dom, host);
  });
  return {
    editor,
    words: () => current,
    take(next) {
      current = next;
      editor.commands.setContent(inlineToEditor(next), { emitUpdate: false });
    },
    end() {
      stop();
      editor.destroy();
    },
  };
}
