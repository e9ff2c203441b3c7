import { contrast, DISTINCT, READABLE } from "../color";
import type { Theme } from "./theme";

/** Two colours of a theme that meet in an email, and how well they can be told apart. */
export interface ThemePair {
  label: string;
  color: string;
  ground: string;
  /** From 1 to 21 (WCAG 2.2, contrast ratio). */
  ratio: number;
  /** The ratio it needs: 4.5 for words (1.4.3), 3 for what is pressed (1.4.11). */
  wanted: number;
}

/** Every pair of colours that a theme puts on each other, in light or in dark. */
export function themePairs(theme: Theme, scheme: "light" | "dark"): ThemePair[] {
  const { paper, table, text, soft, heading, link, accent, onAccent } = theme[scheme];
  const pair = (label: string, color: string, ground: string, wanted: number = READABLE): ThemePair => ({
    label,
    color,
    ground,
    ratio: contrast(color, ground),
    wanted,
  });
  return [
    pair("Words on paper", text, paper),
    pair("Soft words on paper", soft, paper),
    pair("Headings on paper", heading, paper),
    pair("Links on paper", link, paper),
    pair("Words on buttons", onAccent, accent),
    pair("Buttons on paper", accent, paper, DISTINCT),
    pair("Words in boxes", text, table),
    pair("Links in boxes", link, table),
  ];
}
