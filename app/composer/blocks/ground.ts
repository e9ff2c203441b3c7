import { darkFace, darkGround, type Ground } from "~/core/markup";
import { groundAt } from "~/core/render";
import { useComposer } from "../store";
import { useTheme } from "../theme";

/** What stands behind a block's words. */
export function useGround(id: string): Ground {
  const email = useComposer((state) => state.resting);
  return groundAt(email, id, useTheme());
}

/** What stands behind words in a box of the block's own colour, or of the theme's. */
export function useBoxGround(own: string | undefined): Ground {
  const theme = useTheme();
  if (own === undefined) return { light: theme.light.table, dark: theme.dark.table };
  return { light: own, dark: darkGround(own, theme) };
}

/** What stands behind words on a face of the block's own colour, or of the theme's. */
export function useFaceGround(id: string, own: string | undefined): Ground {
  const theme = useTheme();
  const around = useGround(id);
  return { light: own ?? theme.light.accent, dark: darkFace(own ?? theme.dark.accent, around) };
}
