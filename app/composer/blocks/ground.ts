import { resolveTheme } from "~/core/email";
import { darkGround, type Ground } from "~/core/markup";
import { groundAt } from "~/core/render";
import { useComposer } from "../store";

/** What stands behind a block's words. */
export function useGround(id: string): Ground {
  const email = useComposer((state) => state.resting);
  return groundAt(email, id, resolveTheme(email.theme));
}

/** What stands behind words on a box or a face of the block's own, or on the theme's. */
export function useOwnGround(own: string | undefined, role: "table" | "accent"): Ground {
  const theme = resolveTheme(useComposer((state) => state.email.theme));
  if (own === undefined) return { light: theme.light[role], dark: theme.dark[role] };
  // A face stays in dark, a ground is darkened.
  return { light: own, dark: role === "accent" ? own : darkGround(own, theme) };
}
