import { useEffect } from "react";
import { CLIP_TYPE } from "~/core/compose";
import { useActions } from "./actions";
import { useCanvas } from "./canvas/context";
import { picturesAmong } from "./pictures";
import { useComposerStore } from "./store";

/** Whether keys are being typed into something. */
function isTyping(event: Event): boolean {
  const [target] = event.composedPath();
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  );
}

/** Whether text is the source of a whole HTML email: then it is asked what to make of it. */
function isCompleteEmail(text: string): boolean {
  return /^\s*(<!doctype html|<html)\b/i.test(text);
}

/** Whether a control would use the key itself. */
function isControl(event: KeyboardEvent): boolean {
  const [target] = event.composedPath();
  return (
    target instanceof HTMLElement &&
    target.closest("button, a, [role=menu], [role=dialog], [role=tab]") !== null
  );
}

/** The line of the outline that has the focus, or null. */
function outlineLine(event: KeyboardEvent): Element | null {
  const [target] = event.composedPath();
  return target instanceof HTMLElement ? target.closest("[data-outline]") : null;
}

function focusOutline(id: string | null): void {
  if (id !== null) document.querySelector<HTMLElement>(`[data-outline="${CSS.escape(id)}"] button`)?.focus();
}

/** The composer's keys, wherever the focus is. */
export function useComposerKeys(
  saveNow: () => void,
  bringIn: (what: File | string) => void,
  placePictures: (files: readonly File[]) => void,
): void {
  const store = useComposerStore();
  const actions = useActions();
  const canvas = useCanvas();
  useEffect(() => {
    const onCanvas = (event: KeyboardEvent) =>
      canvas.surface !== null && event.composedPath().includes(canvas.surface);
    const press = (event: KeyboardEvent) => {
      if (event.defaultPrevented) return;
      const state = store.getState();
      const command = event.ctrlKey || event.metaKey;
      const done = () => event.preventDefault();
      if (command && event.key.toLowerCase() === "s") {
        saveNow();
        return done();
      }
      if (event.altKey && (event.key === "," || event.key === ".")) {
        actions.stepEdition(event.key === "." ? 1 : -1);
        return done();
      }
      if (isTyping(event) || document.querySelector("[role=dialog]")) return;
      if (command && event.key.toLowerCase() === "z") {
        if (event.shiftKey) state.redo();
        else state.undo();
        return done();
      }
      if (command && event.key.toLowerCase() === "y") {
        state.redo();
        return done();
      }
      if (state.carried) return;
      if (command && event.key.toLowerCase() === "d") {
        actions.duplicate();
        return done();
      }
      if (event.altKey && (event.key === "ArrowUp" || event.key === "ArrowDown")) {
        actions.step(event.key === "ArrowDown" ? 1 : -1);
        return done();
      }
      if (command || event.altKey) return;
      if (event.key === "?") {
        state.set({ dialog: "keys" });
        return done();
      }
      if (event.key === "[" || event.key === "]") {
        const { folded } = state;
        state.set({
          folded:
            event.key === "[" ? { ...folded, shelf: !folded.shelf } : { ...folded, panel: !folded.panel },
        });
        return done();
      }
      const inOutline = outlineLine(event) !== null;
      if (isControl(event) && !(inOutline && /^(Delete|Backspace|ArrowUp|ArrowDown)$/.test(event.key)))
        return;
      switch (event.key) {
        case "Delete":
        case "Backspace":
          // Only a block one is plainly on goes: not one that merely is selected while the focus came here by itself.
          if (!inOutline && !(onCanvas(event) && canvas.onPurpose)) return;
          actions.remove();
          return done();
        case "ArrowDown":
        case "ArrowUp":
          canvas.onPurpose = true;
          if (event.shiftKey) actions.extend(event.key === "ArrowDown" ? 1 : -1);
          else actions.walk(event.key === "ArrowDown" ? 1 : -1);
          // In the outline the focus goes along.
          if (inOutline) focusOutline(store.getState().selection);
          return done();
        case "Escape":
          actions.up();
          return done();
        case "Enter": {
          const key = state.selection === null ? undefined : canvas.drawing?.wordsAt([], state.selection);
          if (key !== undefined) {
            state.edit(state.selection, key);
            return done();
          }
        }
      }
    };
    // Copying, cutting and pasting whole parts; words are left to the text editors.
    const clip = (event: ClipboardEvent) => {
      if (isTyping(event) || document.querySelector("[role=dialog]") || !event.clipboardData) return;
      if (event.type === "paste") {
        const { clipboardData: data } = event;
        const pictures = picturesAmong(data.files);
        const [file] = data.files;
        if (pictures) placePictures(pictures);
        else if (file) bringIn(file);
        else if (actions.paste(data.getData(CLIP_TYPE))) event.preventDefault();
        else if (isCompleteEmail(data.getData("text/plain"))) bringIn(data.getData("text/plain"));
        else if (!actions.pasteWriting(data.getData("text/html"), data.getData("text/plain"))) return;
        event.preventDefault();
        return;
      }
      const copied = actions.copied();
      if (copied === null || (document.getSelection()?.toString() ?? "") !== "") return;
      event.clipboardData.setData(CLIP_TYPE, copied);
      event.preventDefault();
      if (event.type === "cut") actions.remove();
    };
    window.addEventListener("keydown", press);
    for (const type of ["copy", "cut", "paste"] as const) document.addEventListener(type, clip);
    return () => {
      window.removeEventListener("keydown", press);
      for (const type of ["copy", "cut", "paste"] as const) document.removeEventListener(type, clip);
    };
  }, [store, actions, canvas, saveNow, bringIn, placePictures]);
}
