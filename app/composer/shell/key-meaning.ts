/** What a key press means in the composer: decided from the press and where it happens, and from nothing else. */

export interface KeyPress {
  key: string;
  /** Control, or Command. */
  command: boolean;
  shift: boolean;
  alt: boolean;
}

/** Where it happens. */
export interface KeyFocus {
  /** Keys are being typed into something. */
  typing: boolean;
  /** A dialog stands above the composer. */
  dialog: boolean;
  /** Something is being carried. */
  carried: boolean;
  /** The focus is on a control that would use the key itself. */
  control: boolean;
  /** The focus is on a line of the outline. */
  outline: boolean;
  /** The focus came to the canvas by the designer's own doing. */
  onCanvas: boolean;
}

export type KeyMeaning =
  | "save"
  | "nextEdition"
  | "previousEdition"
  | "undo"
  | "redo"
  | "duplicate"
  | "moveUp"
  | "moveDown"
  | "keys"
  | "foldShelf"
  | "foldPanel"
  | "remove"
  | "walkUp"
  | "walkDown"
  | "extendUp"
  | "extendDown"
  | "parent"
  | "across"
  | "edit";

/** The keys that a line of the outline leaves to the composer. */
const OF_OUTLINE = new Set(["Delete", "Backspace", "ArrowUp", "ArrowDown"]);

/** What a press means; null when it is not the composer's. */
export function keyMeaning({ key, command, shift, alt }: KeyPress, focus: KeyFocus): KeyMeaning | null {
  const letter = key.toLowerCase();
  if (command && letter === "s") return "save";
  if (alt && key === ".") return "nextEdition";
  if (alt && key === ",") return "previousEdition";
  if (key === "F6" && !focus.dialog) return "across";
  if (focus.typing || focus.dialog) return null;
  if (command && letter === "z") return shift ? "redo" : "undo";
  if (command && letter === "y") return "redo";
  if (focus.carried) return null;
  if (command && letter === "d") return "duplicate";
  if (alt && key === "ArrowUp") return "moveUp";
  if (alt && key === "ArrowDown") return "moveDown";
  if (command || alt) return null;
  if (key === "?") return "keys";
  if (key === "[") return "foldShelf";
  if (key === "]") return "foldPanel";
  if (focus.control && !(focus.outline && OF_OUTLINE.has(key))) return null;
  switch (key) {
    case "Delete":
    case "Backspace":
      // Only a block one is plainly on goes: not one that merely is selected while the focus came here by itself.
      return focus.outline || focus.onCanvas ? "remove" : null;
    case "ArrowDown":
      return shift ? "extendDown" : "walkDown";
    case "ArrowUp":
      return shift ? "extendUp" : "walkUp";
    case "Escape":
      return "parent";
    case "Enter":
      return "edit";
    default:
      return null;
  }
}
