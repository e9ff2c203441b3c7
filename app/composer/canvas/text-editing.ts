import { Editor, type JSONContent } from "@tiptap/core";
import {
  type Block,
  findNode,
  type Inline,
  type RichDoc,
  richText,
  type SaidThere,
  valueAt,
} from "~/core/email";
import { linkLook } from "~/core/markup";
import { cleanPaste } from "~/core/writing";
import { say, spokenTo, writtenIn } from "../language";
import { type Composer, TYPING } from "../store";
import { fromEditor, inlineFromEditor, inlineToEditor, toEditor, withoutLinks } from "../text/convert";
import { type EditorHost, refreshTags, textExtensions } from "../text/extensions";
import { themeOf } from "../theme";

/**
 * Mounts an editor where words of a block stand (those at its path `key`), with the email's own styles. Each change is a command; changes from
 * elsewhere (undo) are taken over. Returns how to end it.
 */
export function editInPlace(
  store: Composer,
  cell: HTMLElement,
  block: Block,
  key: string,
  host: EditorHost,
): (() => void) | null {
  const place = cell.querySelector<HTMLElement>(`[data-edit="${CSS.escape(key)}"]`);
  if (!place) return null;
  const { editKind } = place.dataset;
  const kind = editKind === "prose" || editKind === "face" || editKind === "cell" ? editKind : "line";
  const theme = themeOf(store.getState());
  place.style.setProperty("--gap", kind === "prose" ? `${theme.text.gap}px` : "0px");
  place.style.setProperty("--link", theme.light.link);
  for (const [property, value] of Object.entries(linkLook(theme)))
    place.style.setProperty(`--link-${property}`, String(value ?? "inherit"));
  place.replaceChildren();

  const read = (words: unknown) =>
    kind === "prose"
      ? toEditor((words as RichDoc | undefined) ?? richText())
      : inlineToEditor(held((words as Inline[] | undefined) ?? []));
  const held = (words: Inline[]) => (kind === "face" ? withoutLinks(words) : words);
  const language = spokenTo(store.getState());
  const unit = { block: block.id, path: key };
  const there = () => findNode(store.getState().email, block.id) !== undefined;
  const wordsNow = () => writtenIn(store.getState().email, unit, language);
  let current: unknown = valueAt(block, key);
  place.lang = language;
  const editor = new Editor({
    element: place,
    extensions: textExtensions(host, kind),
    content: read(valueAt(block, key)),
    editorProps: {
      transformPastedHTML: (html) => (html.includes("data-pm-slice") ? html : cleanPaste(html)),
      attributes: {
        role: "textbox",
        "aria-multiline": String(kind === "prose" || kind === "cell"),
        "aria-label": "Words of the block",
      },
    },
    onUpdate({ editor: changed }) {
      const json = changed.getJSON();
      current = kind === "prose" ? fromEditor(json) : inlineFromEditor(json);
      const how = { label: "Typing", merge: `${TYPING}${block.id} ${key}`, language };
      say(store, unit, current as SaidThere, how);
      current = wordsNow();
    },
  });
  const stop = store.subscribe((state, before) => {
    if (state.reader !== before.reader) {
      if (spokenTo(state) !== language) return state.edit(null);
      refreshTags(editor.view.dom, host);
    }
    if (state.email === before.email) return;
    const content = wordsNow();
    if (there() && content !== current) {
      current = content;
      takeOver(editor, read(content));
    }
  });
  store.getState().set({ editor });
  editor.commands.focus(store.getState().caret);
  return () => {
    stop();
    editor.destroy();
    if (store.getState().editor === editor) store.getState().set({ editor: null });
  };
}

/** Takes over words that were changed elsewhere: only what differs is replaced, so that the cursor stays where it is. */
export function takeOver(editor: Editor, json: JSONContent): void {
  const { state, view } = editor;
  const next = state.schema.nodeFromJSON(json);
  const start = state.doc.content.findDiffStart(next.content);
  const end = state.doc.content.findDiffEnd(next.content);
  if (start === null || end === null) return;
  // Repeated words can make both ends meet in the wrong order.
  const overlap = Math.max(0, start - Math.min(end.a, end.b));
  const change = state.tr.replace(start, end.a + overlap, next.slice(start, end.b + overlap));
  view.dispatch(change.setMeta("preventUpdate", true).setMeta("addToHistory", false));
}
