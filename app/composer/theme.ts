import { resolveTheme, type Theme } from "~/core/email";
import { type ComposerState, useComposer } from "./store";

/** The theme of the design. */
export function useTheme(): Theme {
  return useComposer((state) => resolveTheme(state.email.theme));
}

/** The theme that the canvas shows: one that is pointed at, else that of the design. */
export function shownTheme({ trial, email }: Pick<ComposerState, "trial" | "email">): Theme {
  return resolveTheme(trial ?? email.theme);
}
