import { SEASONS } from "~/core/email";

/** The seasons to choose from, after what stands for none of them. */
export const seasonOptions = (none: string): { value: string; label: string }[] => [
  { value: none, label: "Any season" },
  ...SEASONS.map((season) => ({ value: season, label: season[0].toUpperCase() + season.slice(1) })),
];
