import { useEffect } from "react";
import { CLIP_TYPE } from "~/core/compose";
import { picturesAmong } from "../../pictures/upload";
import { useCanvas } from "../canvas/context";
import { useActions } from "../state/actions";
import { useComposerStore } from "../state/store";
import { type KeyMeaning, keyMeaning } from "./key-meaning";

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

/** The first thing in the panel that takes keys. */
const firstControl = (panel: HTMLElement) =>
  [...panel.querySelectorAll<HTMLElement>("input, select, textarea, button, [tabindex='0']")].find(
    (one) => one.checkVisibility() && !one.matches(":disabled, nav *"),
  );

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
      const inOutline = outlineLine(event) !== null;
      const meaning = keyMeaning(
        { key: event.key, command: event.ctrlKey || event.metaKey, shift: event.shiftKey, alt: event.altKey },
        {
          typing: isTyping(event),
          dialog: document.querySelector("[role=dialog]") !== null,
          carried: store.getState().carried !== null,
          control: isControl(event),
          outline: inOutline,
          onCanvas: onCanvas(event) && canvas.onPurpose,
        },
      );
      if (meaning === null || act(meaning) === false) return;
      event.preventDefault();
      // In the outline the focus goes along.
      if (inOutline && /^(walk|extend)/.test(meaning)) focusOutline(store.getState().selection);
    };
    /** Does what was meant; false when there is nothing to be done. */
    const act = (meaning: KeyMeaning): unknown => {
      const state = store.getState();
      const { folded, selection } = state;
      switch (meaning) {
        case "save":
          return saveNow();
        case "nextEdition":
          return actions.stepEdition(1);
        case "previousEdition":
          return actions.stepEdition(-1);
        case "undo":
          return state.undo();
        case "redo":
          return state.redo();
        case "duplicate":
          return actions.duplicate();
        case "moveUp":
          return actions.step(-1);
        case "moveDown":
          return actions.step(1);
        case "keys":
          return state.set({ dialog: "keys" });
        case "foldShelf":
          return state.set({ folded: { ...folded, shelf: !folded.shelf } });
        case "foldPanel":
          return state.set({ folded: { ...folded, panel: !folded.panel } });
        case "remove":
          return actions.remove();
        case "walkDown":
        case "walkUp":
          canvas.onPurpose = true;
          return actions.walk(meaning === "walkDown" ? 1 : -1);
        case "extendDown":
        case "extendUp":
          canvas.onPurpose = true;
          return actions.extend(meaning === "extendDown" ? 1 : -1);
        case "parent":
          return actions.up();
        case "across": {
          const panel = document.querySelector<HTMLElement>("[data-testid=panel]");
          const inside = panel?.contains(document.activeElement);
          if (!panel || inside) {
            canvas.onPurpose = true;
            return canvas.focus();
          }
          if (folded.panel) state.set({ folded: { ...folded, panel: false } });
          return firstControl(panel)?.focus();
        }
        case "edit": {
          const key = selection === null ? undefined : canvas.drawing?.wordsAt([], selection);
          if (key === undefined) return false;
          return state.edit(selection, key);
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
