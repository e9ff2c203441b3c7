import type { Editor } from "@tiptap/core";
import type { Inline } from "~/core/email";
import type { Actions } from "../actions";
import { say, shownEmail, spokenTo, writtenIn } from "../language";
import type { Composer } from "../store";
import { mountWords } from "./words-editor";

/** Mounts the editor of the subject or the preheader. Returns it, and how to end it. */
export function mountLine(
  store: Composer,
  actions: Actions,
  place: HTMLElement,
  { part, label, placeholder }: { part: "subject" | "preheader"; label: string; placeholder: string },
): { editor: Editor; end(): void } {
  const line = mountWords(store, actions, place, {
    words: shownEmail(store.getState()).envelope[part],
    plain: true,
    label,
    placeholder,
    onFocus: () => store.getState().select(null),
    onWords: (words) =>
      say(store, { block: null, path: part }, words, { label: `Changing the ${part}`, merge: part }),
  });
  const stop = store.subscribe((state, before) => {
    const language = spokenTo(state);
    const next = writtenIn(state.email, { block: null, path: part }, language) as Inline[];
    const was = writtenIn(before.email, { block: null, path: part }, spokenTo(before));
    if (next !== was && next !== line.words()) line.take(next);
  });
  return {
    editor: line.editor,
    end() {
      stop();
      line.end();
    },
  };
}
