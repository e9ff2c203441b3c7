import { type Email, type Fill, fillColor, pathTo, type Theme } from "../email";
import { filled, type Ground } from "../markup";

/** What stands behind a block's words, in light and in dark: the nearest ground of its own, or the theme's paper. */
export function groundAt(email: Email, id: string, theme: Theme): Ground {
  const paper = { light: theme.light.paper, dark: theme.dark.paper };
  let behind = paper;
  for (const it of pathTo(email, id)) {
    if (it.kind === "section") {
      const { contentBackground, background, picture } = it.node;
      if (picture?.open && contentBackground === undefined) {
        // A picture keeps its colours in dark, and so does what stands in for it.
        const light = fillColor(background ?? "table", theme);
        behind = { light, dark: light };
      } else behind = own(contentBackground ?? background, theme) ?? paper;
    } else behind = own(it.node.background, theme) ?? behind;
  }
  return behind;
}

function own(fill: Fill | undefined, theme: Theme): Ground | null {
  return fill === undefined ? null : filled(fill, theme);
}
