import { z } from "zod";
import { BrandFontSchema, FontStackSchema } from "./fonts";
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

const px = z.number().min(0).max(200);

const HeadingLookSchema = z.object({
  size: z.number().min(10).max(120),
  /** On phones, in px; as everywhere when missing. */
  phone: z.number().min(10).max(80).optional(),
  /** Line height as a factor. */
  line: z.number().min(0.8).max(3),
  weight: z.number().min(100).max(900),
  /** Space between letters, in thousandths of their size. */
  tracking: z.number().min(-100).max(400).optional(),
  capitals: z.boolean().optional(),
  /** The colour it takes; that of headings when missing. */
  role: z.enum(["heading", "text", "soft", "link"]).optional(),
});
export type HeadingLook = z.infer<typeof HeadingLookSchema>;

export const ThemeSchema = z.object({
  /** Ours by a word; the workspace's own by what it is and its version, `id@3`, so that what it names never changes. */
  id: z.string().max(80),
  name: z.string().min(1).max(80),
  /** Width of the content in px. */
  width: z.number().min(320).max(700),
  light: PaletteSchema,
  dark: PaletteSchema,
  /** Stacks as CSS writes them; the first may be one of `WEB_FONTS`. */
  fonts: z.object({ body: FontStackSchema, heading: FontStackSchema }),
  /** Size in px, line height as a factor, gap between paragraphs in px. */
  text: z.object({ size: z.number().min(14).max(24), line: z.number().min(1).max(2.4), gap: px }),
  headings: z.object({ h1: HeadingLookSchema, h2: HeadingLookSchema, h3: HeadingLookSchema }),
  links: z.object({ underline: z.boolean(), weight: z.number().min(100).max(900).optional() }),
  button: z.object({
    radius: px,
    padX: px,
    padY: px,
    size: z.number().min(12).max(32),
    weight: z.number().min(100).max(900),
  }),
  /** Corners in px. */
  shape: z.object({ picture: px, box: px }),
  /** Side inset of rows, space above and below a block, above and below a section, between columns; in px. */
  space: z.object({ inset: px, block: px, section: px, gap: px }),
});
/** Fonts, colours, spacing and button style that a design takes its look from. */
export type Theme = z.infer<typeof ThemeSchema>;

/** The theme's colours that a part can stand on: they change with it. */
export const FILL_ROLES = ["table", "accent", "heading"] as const;
/** What a part stands on: a colour of the designer's own, or one of the theme's by its role. */
export const FillSchema = z.union([z.enum(FILL_ROLES), ColorSchema]);
export type Fill = z.infer<typeof FillSchema>;

/** Whether a part stands on a colour of the theme's. */
export function isFillRole(fill: unknown): fill is (typeof FILL_ROLES)[number] {
  return FILL_ROLES.some((role) => role === fill);
}

/** The colour of what a part stands on, in light. */
export function fillColor(fill: Fill, { light }: Theme): string {
  return isFillRole(fill) ? light[fill] : fill;
}

/** A picture of ours or elsewhere, with its natural size in px. */
const LogoSchema = z.object({
  src: z.string().max(2000),
  width: z.number().positive(),
  height: z.number().positive(),
});

/** The name of a constant or an address as merge tags write it. */
const KeySchema = z
  .string()
  .regex(
    /^[a-z][a-z0-9_]{0,39}$/,
    "a short name is written with small letters, digits and _, a letter first",
  );

export const BrandSchema = z.object({
  name: z.string(),
  /** The postal address of every footer. */
  address: z.string(),
  website: z.string(),
  logo: LogoSchema.optional(),
  /** For dark grounds. */
  logoDark: LogoSchema.optional(),
  /** For where there is little room. */
  logoSmall: LogoSchema.optional(),
  /** Words that are spelt as they are meant, though no dictionary knows them. */
  words: z.array(z.string().max(80)).max(2000).optional(),
  senders: z
    .array(z.object({ name: z.string(), address: z.string(), replyTo: z.string().optional() }))
    .min(1),
  colours: z
    .array(z.object({ name: z.string().max(60), color: ColorSchema }))
    .max(24)
    .optional(),
  fonts: z.array(BrandFontSchema).max(12).optional(),
  /** The theme that new designs begin with, by its id. */
  theme: z.string().max(80).optional(),
  /** Further postal addresses, such as branches; merge tags `brand.address.<key>`. */
  addresses: z
    .array(z.object({ key: KeySchema, text: z.string().max(300) }))
    .max(60)
    .optional(),
  social: z
    .array(
      z.object({
        glyph: z.string().max(30),
        picture: z.string().max(2000).optional(),
        label: z.string().min(1).max(80),
        href: z.string().max(2000),
      }),
    )
    .max(12)
    .optional(),
  /** Words that stand in many emails, written once; merge tags `brand.<key>`. With an address they are links. */
  constants: z
    .array(z.object({ key: KeySchema, text: z.string().max(300), href: z.string().max(2000).optional() }))
    .max(100)
    .optional(),
  /** Words that footers begin with, to choose from. */
  footers: z
    .array(z.object({ name: z.string().max(60), text: z.string().max(1000) }))
    .max(20)
    .optional(),
});
/** The sender's identity. */
export type Brand = z.infer<typeof BrandSchema>;

/** What a new workspace comes with, so that emails can be composed: none of it may go out. */
export const PLACEHOLDER_BRAND: Brand = {
  name: "My organisation",
  address: "1 Example Street, Exampletown",
  website: "https://organisation.example",
  senders: [{ name: "My organisation", address: "letters@organisation.example" }],
};

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
  links: { underline: true },
  button: { radius: 6, padX: 24, padY: 13, size: 16, weight: 700 },
  shape: { picture: 0, box: 6 },
  space: { inset: 40, block: 10, section: 16, gap: 20 },
};
