import { z } from "zod";
import { ThemeSchema } from "./theme";

/** Something that is set of a theme: where it stands, what it is called, and how it is written. */
export interface ThemeField {
  path: string;
  label: string;
  /** Its name where the label alone could be another’s. */
  name?: string;
  kind: "px" | "share" | "thousandths" | "weight" | "font" | "role" | "switch";
  /** What holds while it is not set: a value, or what another path has. */
  usual?: string | number | boolean | { as: string };
}

const TITLES = { h1: "Largest headings", h2: "Middle headings", h3: "Small headings" };

const headings = (["h1", "h2", "h3"] as const).map((level, index) => {
  const at = `headings/${level}`;
  return {
    title: TITLES[level],
    fields: [
      { path: `${at}/size`, label: "Size", kind: "px" },
      { path: `${at}/phone`, label: "On phones", kind: "px", usual: { as: `${at}/size` } },
      { path: `${at}/line`, label: "Line height", kind: "share" },
      { path: `${at}/weight`, label: "Weight", kind: "weight" },
      { path: `${at}/tracking`, label: "Spacing", kind: "thousandths", usual: 0 },
      {
        path: `${at}/role`,
        label: "Colour",
        name: `Colour of heading ${index + 1}`,
        kind: "role",
        usual: "heading",
      },
      { path: `${at}/capitals`, label: "In capitals", kind: "switch", usual: false },
    ],
  } as const;
});

/** All that is set of a theme besides its colours, in the order in which a designer goes through it. */
export const THEME_PARTS: readonly { title: string; fields: readonly ThemeField[] }[] = [
  {
    title: "Type",
    fields: [
      { path: "fonts/heading", label: "Headings", kind: "font" },
      { path: "fonts/body", label: "Words", kind: "font" },
      { path: "text/size", label: "Size", kind: "px" },
      { path: "text/line", label: "Line height", kind: "share" },
      { path: "text/gap", label: "Between paragraphs", kind: "px" },
    ],
  },
  ...headings,
  {
    title: "Links",
    fields: [
      { path: "links/underline", label: "Links are underlined", kind: "switch" },
      {
        path: "links/weight",
        label: "Their weight",
        name: "Weight of links",
        kind: "weight",
        usual: "words",
      },
    ],
  },
  {
    title: "Buttons",
    fields: [
      { path: "button/radius", label: "Corners", kind: "px" },
      { path: "button/padX", label: "Beside words", kind: "px" },
      { path: "button/padY", label: "Above words", kind: "px" },
      { path: "button/size", label: "Their size", kind: "px" },
      { path: "button/weight", label: "Their weight", kind: "weight" },
    ],
  },
  {
    title: "Shape and space",
    fields: [
      { path: "width", label: "Width", kind: "px" },
      { path: "shape/picture", label: "Picture corners", kind: "px" },
      { path: "shape/box", label: "Box corners", kind: "px" },
      { path: "space/inset", label: "At the sides", kind: "px" },
      { path: "space/section", label: "Of sections", kind: "px" },
      { path: "space/block", label: "Of blocks", kind: "px" },
      { path: "space/gap", label: "Of columns", kind: "px" },
    ],
  },
];

const bare = (schema: unknown) => (schema instanceof z.ZodOptional ? schema.unwrap() : schema);

/** The bounds of a number of a theme, as its schema has them. */
export function themeBounds(path: string): { min: number; max: number } {
  let at: unknown = ThemeSchema;
  for (const key of path.split("/")) at = bare((at as typeof ThemeSchema).shape[key as "text"]);
  const { minValue, maxValue } = at as z.ZodNumber;
  return { min: minValue ?? 0, max: maxValue ?? 0 };
}
