import { resolveTheme, type Theme } from "~/core/email";
import { type ComposerState, useComposer } from "./store";

/** The theme of the design. */
export function themeOf({ facts, email }: Pick<ComposerState, "facts" | "email">): Theme {
  return resolveTheme(email.theme, facts.themes);
}

/** The same, kept up with. */
export function useTheme(): Theme {
  return useComposer(themeOf);
}

/** The theme that the canvas shows: one that is pointed at or being made, else that of the design. */
export function shownTheme(state: Pick<ComposerState, "trial" | "facts" | "email">): Theme {
  return state.trial ?? themeOf(state);
}
