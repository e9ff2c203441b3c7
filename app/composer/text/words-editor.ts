import { Editor, type JSONContent } from "@tiptap/core";
import type { Inline, RichDoc, Words } from "~/core/email";
import { directionOf } from "~/core/program";
import { cleanPaste } from "~/core/writing";
import type { Actions } from "../actions";
import type { Composer } from "../store";
import { fromEditor, inlineFromEditor, inlineToEditor, toEditor } from "./convert";
import { type EditorHost, refreshTags, textExtensions } from "./extensions";
import { editorHost } from "./host";

/** An editor of words, which may hold tags and wording that differs: of one line, or of paragraphs. */
export interface WordsEditor<W extends Words = Inline[]> {
  editor: Editor;
  /** What it holds. */
  words(): W | Readonly<W>;
  /** Takes words over that were changed elsewhere. */
  take(words: W | Readonly<W>): void;
  end(): void;
}

interface How<W extends Words> {
  words: W | Readonly<W>;
  label: string;
  placeholder: string;
  /** In which language they are. */
  language?: string;
  /** In how many wordings that differ the words stand. */
  deep?: number;
  /** What it does in its own way. */
  own?: Partial<EditorHost>;
  onWords(words: W): void;
  onFocus?(): void;
}

/** Mounts an editor of one line of words. `plain` ones have no looks and no breaks. */
export function mountWords(
  store: Composer,
  actions: Actions,
  place: HTMLElement,
  { plain, ...how }: How<Inline[]> & { plain: boolean },
): WordsEditor {
  return mount(store, actions, place, how, {
    kind: plain ? "plain" : "line",
    to: inlineToEditor,
    from(json) {
      const all = inlineFromEditor(json);
      return plain ? all.filter((it) => it.type !== "hardBreak") : all;
    },
  });
}

/** Mounts an editor of paragraphs and lists. */
export function mountProse(
  store: Composer,
  actions: Actions,
  place: HTMLElement,
  how: How<RichDoc>,
): WordsEditor<RichDoc> {
  return mount(store, actions, place, how, { kind: "prose", to: toEditor, from: fromEditor });
}

function mount<W extends Words>(
  store: Composer,
  actions: Actions,
  place: HTMLElement,
  { words, label, placeholder, language, deep = 0, own, onWords, onFocus }: How<W>,
  {
    kind,
    to,
    from,
  }: {
    kind: "plain" | "line" | "prose";
    to(words: W | Readonly<W>): JSONContent;
    from(json: JSONContent): W;
  },
): WordsEditor<W> {
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
    extensions: textExtensions(host, kind),
    content: to(words),
    editorProps: {
      ...(kind === "prose" && {
        transformPastedHTML: (html: string) => (html.includes("data-pm-slice") ? html : cleanPaste(html)),
      }),
      attributes: {
        role: "textbox",
        "aria-label": label,
        "data-placeholder": placeholder,
        "data-deep": String(deep),
        ...(kind === "prose" && { "aria-multiline": "true" }),
        ...(language && { lang: language, dir: directionOf(language) }),
      },
    },
    ...(onFocus && { onFocus }),
    onUpdate({ editor: changed }) {
      current = from(changed.getJSON());
      onWords(current);
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
      editor.commands.setContent(to(next), { emitUpdate: false });
    },
    end() {
      stop();
      editor.destroy();
    },
  };
}
