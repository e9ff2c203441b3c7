import type { Editor } from "@tiptap/core";
import { type HTMLAttributes, useEffect, useRef } from "react";
import type { Words } from "~/core/email";
import type { MountedWords, WordsToMount } from "./engine";
import { loadEngine, loadWhenIdle } from "./load";
import { useWriting } from "./writing";

type Field = Omit<WordsToMount, "words" | "onWords" | "onFocus" | "own"> & {
  words: Words;
  onWords(words: Words): void;
  onFocus?(): void;
  /** What was pressed in the words, where it is not opened beside the whole. */
  onChip?: (editor: Editor, at: number, place: DOMRect) => void;
  /** The editor once it is there; null when it has gone. */
  onEditor?: (editor: Editor | null) => void;
  /** When the editor comes: at once, when nothing else is to be done, or once its place is in view. */
  when?: "now" | "idle" | "seen";
};

/** A place in a page where words are written. */
export function WordsField({
  words,
  onWords,
  onFocus,
  onChip,
  onEditor,
  kind,
  label,
  placeholder,
  language,
  deep,
  when = "now",
  ...look
}: Field & Omit<HTMLAttributes<HTMLDivElement>, keyof Field>) {
  const writing = useWriting();
  const box = useRef<HTMLDivElement>(null);
  const mounted = useRef<MountedWords | null>(null);
  const given = useRef({ words, onWords, onFocus, onChip, onEditor });
  given.current = { words, onWords, onFocus, onChip, onEditor };
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    let ended = false;
    const come = async () => {
      const { mountWords } = await (when === "idle" ? loadWhenIdle() : loadEngine());
      if (ended || mounted.current) return;
      const made = mountWords(writing, element, {
        kind,
        label,
        placeholder,
        language,
        deep,
        words: given.current.words,
        onWords: (next) => given.current.onWords(next),
        onFocus: () => given.current.onFocus?.(),
        ...(given.current.onChip && {
          own: { openTag: (at: number, place: DOMRect) => given.current.onChip?.(made.editor, at, place) },
        }),
      });
      mounted.current = made;
      given.current.onEditor?.(made.editor);
    };
    const watch =
      when === "seen" &&
      new IntersectionObserver(([entry]) => entry.isIntersecting && void come(), { rootMargin: "300px" });
    if (watch) watch.observe(element);
    else void come();
    return () => {
      ended = true;
      if (watch) watch.disconnect();
      mounted.current?.end();
      mounted.current = null;
      given.current.onEditor?.(null);
    };
  }, [writing, kind, label, placeholder, language, deep, when]);
  // Undo, another window, another case: the words come from elsewhere.
  useEffect(() => mounted.current?.take(words), [words]);
  return <div ref={box} {...look} />;
}
