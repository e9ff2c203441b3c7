import { darkFace, darkGround, type Ground } from "~/core/markup";
import type { Behind, Holder } from "~/core/properties";
import { groundAt } from "~/core/render";
import { useComposer } from "../state/store";
import { useTheme } from "../state/theme";

/** What stands behind a block's words. */
export function useGround(id: string): Ground {
  const email = useComposer((state) => state.resting);
  return groundAt(email, id, useTheme());
}

/** What stands behind words on a colour of the block's own, or on the theme's where it has none. */
export function useBehind(block: Holder & { id: string }, behind: Behind): Ground {
  const theme = useTheme();
  const around = useGround(block.id);
  if (behind === "around") return around;
  const colour = (key: string) => block[key] as string | undefined;
  if ("face" in behind) {
    const own = colour(behind.face);
    return { light: own ?? theme.light.accent, dark: darkFace(own ?? theme.dark.accent, around) };
  }
  if ("box" in behind) {
    const own = colour(behind.box);
    return own === undefined
      ? { light: theme.light.table, dark: theme.dark.table }
      : { light: own, dark: darkGround(own, theme) };
  }
  // It keeps its colour in dark.
  const own = colour(behind.own) ?? "#000000";
  return { light: own, dark: own };
}
