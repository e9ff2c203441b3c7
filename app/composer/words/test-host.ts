import type { EditorHost } from "./extensions";

/** An editor's surroundings in which nothing happens, for tests. */
export const QUIET_HOST: EditorHost = {
  caseWords: () => [],
  value: () => "",
  openTag: () => {},
  slashes: false,
  typed: { typed: () => {}, typedKey: () => false },
  undo: () => {},
  redo: () => {},
  leave: () => {},
  step: () => false,
};
