import { z } from "zod";
import { ColorSchema } from "./primitives";

const PaletteSchema = z.object({
  /** Behind the email. */
  table: ColorSchema,
  /** Behind the content. */
  paper: ColorSchema,
  text: ColorSchema,
  soft: ColorSchema,
  heading: ColorSchema,
  link: ColorSchema,
  accent: ColorSchema,
  onAccent: ColorSchema,
  line: ColorSchema,
});

const HeadingLookSchema = z.object({ size: z.number(), line: z.number(), weight: z.number() });

export const ThemeSchema = z.object({
  id: z.string(),
  name: z.string(),
  /** Width of the content in px. */
  width: z.number().min(320).max(700),
  light: PaletteSchema,
  dark: PaletteSchema,
  fonts: z.object({ body: z.string(), heading: z.string() }),
  /** Size in px, line height as a factor, gap between paragraphs in px. */
  text: z.object({ size: z.number(), line: z.number(), gap: z.number() }),
  headings: z.object({ h1: HeadingLookSchema, h2: HeadingLookSchema, h3: HeadingLookSchema }),
  button: z.object({
    radius: z.number(),
    padX: z.number(),
    padY: z.number(),
    size: z.number(),
    weight: z.number(),
  }),
  /** Side inset of rows, space above and below a block, above and below a section, between columns; in px. */
  space: z.object({ inset: z.number(), block: z.number(), section: z.number(), gap: z.number() }),
});
/** Fonts, colours, spacing and button style that a design takes its look from. */
export type Theme = z.infer<typeof ThemeSchema>;

export const BrandSchema = z.object({
  name: z.string(),
  address: z.string(),
  website: z.string(),
  /** A picture of ours or elsewhere, with its natural size in px. */
  logo: z
    .object({ src: z.string().max(2000), width: z.number().positive(), height: z.number().positive() })
    .optional(),
  senders: z.array(z.object({ name: z.string(), address: z.string() })).min(1),
});
/** The sender's identity. */
export type Brand = z.infer<typeof BrandSchema>;

export const DEFAULT_THEME: Theme = {
  id: "plain",
  name: "Plain paper",
  width: 600,
  light: {
    table: "#F3F3F5",
    paper: "#FFFFFF",
    text: "#2B2B30",
    soft: "#62626B",
    heading: "#17171A",
    link: "#1F5FA8",
    accent: "#2F5D8A",
    onAccent: "#FFFFFF",
    line: "#DADAE0",
  },
  dark: {
    table: "#16161A",
    paper: "#1F1F24",
    text: "#E4E4E9",
    soft: "#A9A9B4",
    heading: "#F6F6F8",
    link: "#8FC0F5",
    accent: "#8FC0F5",
    onAccent: "#10243A",
    line: "#3A3A42",
  },
  fonts: {
    body: "Helvetica, Arial, sans-serif",
    heading: "Helvetica, Arial, sans-serif",
  },
  text: { size: 16, line: 1.5, gap: 16 },
  headings: {
    h1: { size: 30, line: 1.2, weight: 700 },
    h2: { size: 22, line: 1.25, weight: 700 },
    h3: { size: 18, line: 1.3, weight: 700 },
  },
  button: { radius: 6, padX: 24, padY: 13, size: 16, weight: 700 },
  space: { inset: 40, block: 10, section: 16, gap: 20 },
};

const garden: Theme = {
  ...DEFAULT_THEME,
  id: "garden",
  name: "Kitchen garden",
  width: 640,
  light: {
    table: "#E9EDE2",
    paper: "#FBF8F1",
    text: "#2D322A",
    soft: "#5F6659",
    heading: "#1F3A2A",
    link: "#22633F",
    accent: "#2A5E3C",
    onAccent: "#FFFFFF",
    line: "#DED8C8",
  },
  dark: {
    table: "#141813",
    paper: "#1D231C",
    text: "#E3E8DD",
    soft: "#A9B3A1",
    heading: "#F0F5EA",
    link: "#93D2A9",
    accent: "#93D2A9",
    onAccent: "#10281A",
    line: "#3A4438",
  },
  fonts: { body: "Georgia, 'Times New Roman', serif", heading: "Georgia, 'Times New Roman', serif" },
  headings: {
    h1: { size: 30, line: 1.2, weight: 400 },
    h2: { size: 23, line: 1.25, weight: 400 },
    h3: { size: 18, line: 1.3, weight: 700 },
  },
};

const night: Theme = {
  ...DEFAULT_THEME,
  id: "plum",
  name: "Plum shed",
  light: {
    table: "#EFE9F0",
    paper: "#FFFFFF",
    text: "#33283A",
    soft: "#6B5F73",
    heading: "#3C1F4D",
    link: "#6B2D8C",
    accent: "#5B2A78",
    onAccent: "#FFFFFF",
    line: "#E0D6E4",
  },
  dark: {
    table: "#17121A",
    paper: "#221A27",
    text: "#E9E1EE",
    soft: "#B5A8BD",
    heading: "#F5EEF9",
    link: "#D5A8EE",
    accent: "#D5A8EE",
    onAccent: "#2C1239",
    line: "#42364A",
  },
};

export const THEMES: readonly Theme[] = [DEFAULT_THEME, garden, night];

/** The theme with that id, or the plain one when it is gone. */
export function resolveTheme(id: string, themes: readonly Theme[] = THEMES): Theme {
  return themes.find((theme) => theme.id === id) ?? DEFAULT_THEME;
}
