import { Editor, type JSONContent } from "@tiptap/core";
import { type Inline, type RichDoc, richText, same, type Words } from "~/core/email";
import { caseWordsFor } from "~/core/personal";
import { directionOf } from "~/core/program";
import { cleanPaste } from "~/core/writing";
import { around, tagWords } from "../state/values";
import { fromEditor, inlineFromEditor, inlineToEditor, toEditor, withoutLinks } from "./convert";
import { pressTypedKey } from "./cursor-menu";
import { type EditorHost, type EditorKind, isPlain, refreshTags, textExtensions } from "./extensions";
import type { Writing } from "./writing";

export interface WordsToMount {
  kind: EditorKind;
  /** What it holds at first; of paragraphs where its kind has them, of one line otherwise. */
  words: Words | undefined;
  label: string;
  placeholder?: string;
  /** In which language they are, where the place does not say so. */
  language?: string;
  /** In how many either/ors the words stand. */
  deep?: number;
  /** What is done here in its own way. */
  own?: Partial<EditorHost>;
  onWords(words: Words): void;
  onFocus?(): void;
}

/** A mounted editor of words. */
export interface MountedWords {
  editor: Editor;
  /** Takes words over that were changed elsewhere. */
  take(words: Words | undefined): void;
  end(): void;
}

/** Between the words of a kind and what its editor holds. */
interface Form {
  to(words: Words | undefined): JSONContent;
  from(json: JSONContent): Words;
}

const PARAGRAPHS: Form = {
  to: (words) => toEditor((words as RichDoc | undefined) ?? richText("")),
  from: fromEditor,
};

const LINE: Form = {
  to: (words) => inlineToEditor((words as Inline[] | undefined) ?? []),
  from: inlineFromEditor,
};

const FORMS: Record<EditorKind, Form> = {
  prose: PARAGRAPHS,
  letter: PARAGRAPHS,
  line: LINE,
  cell: LINE,
  lines: LINE,
  face: { ...LINE, to: (words) => inlineToEditor(withoutLinks((words as Inline[] | undefined) ?? [])) },
  plain: { ...LINE, from: (json) => inlineFromEditor(json).filter((it) => it.type !== "hardBreak") },
};

/** The kinds in which Enter begins another line. */
const SEVERAL_LINES: ReadonlySet<EditorKind> = new Set(["prose", "letter", "cell", "lines"]);

/**
 * Mounts an editor of words: the one way this is done, on the canvas, in the subject, in a case of an either/or,
 * beside a translation. Words that come from elsewhere are taken over by the smallest change, so that the cursor stays.
 */
export function mountWords(
  writing: Writing,
  place: HTMLElement,
  { kind, words, label, placeholder, language, deep = 0, own, onWords, onFocus }: WordsToMount,
): MountedWords {
  const { to, from } = FORMS[kind];
  let editor: Editor;
  const host: EditorHost = { ...hostOf(writing, () => editor), ...own };
  let current: Words | undefined = words;
  editor = new Editor({
    element: place,
    extensions: textExtensions(host, kind),
    content: to(words),
    editable: writing.store.getState().lock === null,
    editorProps: {
      ...(!isPlain(kind) && {
        transformPastedHTML: (html: string) => (html.includes("data-pm-slice") ? html : cleanPaste(html)),
      }),
      attributes: {
        role: "textbox",
        "aria-label": label,
        "aria-multiline": String(SEVERAL_LINES.has(kind)),
        "data-deep": String(deep),
        ...(placeholder && { "data-placeholder": placeholder }),
        ...(language && { lang: language, dir: directionOf(language) }),
      },
    },
    ...(onFocus && { onFocus }),
    onUpdate({ editor: changed }) {
      current = from(changed.getJSON());
      onWords(current);
    },
  });
  const stop = writing.store.subscribe((state, before) => {
    if (state.reader !== before.reader) refreshTags(editor.view.dom, host);
    // What is on its way or was sent cannot be written in.
    if (state.lock !== before.lock) editor.setEditable(state.lock === null, false);
  });
  return {
    editor,
    take(next) {
      if (same(next, current)) return;
      current = next;
      takeOver(editor, to(next));
    },
    end() {
      stop();
      editor.destroy();
    },
  };
}

/** What an editor asks of the composer around it. `editor` gives the editor, which is made after its host. */
function hostOf(writing: Writing, editor: () => Editor): EditorHost {
  const { store, state } = writing;
  return {
    slashes: false,
    leave: () => editor().commands.blur(),
    step: () => false,
    value(tag) {
      const now = store.getState();
      return tagWords(tag, now.reader, around(now));
    },
    caseWords(attrs) {
      const { reader, facts } = store.getState();
      return caseWordsFor(attrs, reader, facts.audience);
    },
    openTag: (at, place) => state.setState({ chip: { editor: editor(), at, place } }),
    undo: () => store.getState().undo(),
    redo: () => store.getState().redo(),
    typed: {
      typed: (typed) => state.setState({ typed: typed && { ...typed, editor: editor() }, typedAt: 0 }),
      typedKey: (key) => pressTypedKey(writing, key),
    },
  };
}

/** Only what differs is replaced, so that the cursor stays where it is. */
function takeOver({ state, view }: Editor, json: JSONContent): void {
  const next = state.schema.nodeFromJSON(json);
  const start = state.doc.content.findDiffStart(next.content);
  const end = state.doc.content.findDiffEnd(next.content);
  if (start === null || end === null) return;
  // Repeated words can make both ends meet in the wrong order.
  const overlap = Math.max(0, start - Math.min(end.a, end.b));
  const change = state.tr.replace(start, end.a + overlap, next.slice(start, end.b + overlap));
  view.dispatch(change.setMeta("preventUpdate", true).setMeta("addToHistory", false));
}
