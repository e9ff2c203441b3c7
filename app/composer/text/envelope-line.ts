import type { Editor } from "@tiptap/core";
import { commands } from "~/core/compose";
import type { Actions } from "../actions";
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
    words: store.getState().email.envelope[part],
    plain: true,
    label,
    placeholder,
    onFocus: () => store.getState().select(null),
    onWords: (words) =>
      store.getState().apply(commands.setEnvelope({ [part]: words }), `Changing the ${part}`, part),
  });
  const stop = store.subscribe((state, before) => {
    const next = state.email.envelope[part];
    if (next !== before.email.envelope[part] && next !== line.words()) line.take(next);
  });
  return {
    editor: line.editor,
    end() {
      stop();
      line.end();
    },
  };
}
