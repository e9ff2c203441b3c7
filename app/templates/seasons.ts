import { SEASONS } from "~/core/email";

/** The seasons to choose from. */
export const SEASON_NAMES = SEASONS.map((value) => ({
  value: value as string,
  label: value[0].toUpperCase() + value.slice(1),
}));

/** The same after what stands for none of them. */
export const SEASON_OR_ANY = [{ value: "none", label: "Any season" }, ...SEASON_NAMES];
