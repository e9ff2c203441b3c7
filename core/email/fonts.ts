import { z } from "zod";

/** Type that is there on nearly every machine, each as a stack that ends in a generic family. */
export const FONTS = [
  { key: "sans", name: "Sans", stack: "Helvetica, Arial, sans-serif" },
  { key: "wide", name: "Wide sans", stack: "Verdana, Geneva, sans-serif" },
  { key: "round", name: "Round sans", stack: "'Trebuchet MS', Tahoma, sans-serif" },
  { key: "serif", name: "Serif", stack: "Georgia, 'Times New Roman', serif" },
  { key: "book", name: "Book serif", stack: "'Palatino Linotype', Palatino, 'Book Antiqua', serif" },
  { key: "mono", name: "Typewriter", stack: "'Courier New', Courier, monospace" },
] as const;

/** The stack of a font by its key; undefined when there is none. */
export function fontStack(key: string | undefined): string | undefined {
  return FONTS.find((font) => font.key === key)?.stack;
}

/** A font that mail programs fetch, where they do; everybody else gets what the stack goes on with. */
export interface WebFont {
  /** As a stack names it. */
  family: string;
  /** The file under `/fonts/`, without its ending. */
  file: string;
  weights: readonly [least: number, greatest: number];
  /** What the word-processor engine takes in its place: it would take its own default for a name it does not know. */
  instead: string;
  stack: string;
  /** Where messages take it from, when it is not here. */
  address?: string;
}

/** What the rest of a stack is, by the kind of font it begins with. */
const AFTER = {
  "sans-serif": { instead: "Arial", stack: "Helvetica, Arial, sans-serif" },
  serif: { instead: "Georgia", stack: "Georgia, 'Times New Roman', serif" },
  monospace: { instead: "Courier New", stack: "'Courier New', Courier, monospace" },
} as const;

const weight = z.number().min(1).max(1000);
export const BrandFontSchema = z.object({
  family: z
    .string()
    .min(1)
    .max(60)
    .regex(/^[\w -]+$/, "a font is named by letters, digits, spaces and hyphens"),
  /** The file that is kept under `/fonts/`, without its ending. */
  file: z.string().regex(/^own-[0-9a-f]{16}$/),
  address: z
    .url({ protocol: /^https?$/ })
    .max(2000)
    .optional(),
  weights: z.tuple([weight, weight]),
  kind: z.enum(["sans-serif", "serif", "monospace"]),
});
/** A font that the brand brings along: it is kept here, and messages take it from here or from an address. */
export type BrandFont = z.infer<typeof BrandFontSchema>;

/** A font of the brand as stacks and messages use it. */
export function brandFont({ family, file, weights, address, kind }: BrandFont): WebFont {
  const quoted = /^[A-Za-z][\w-]*$/.test(family) ? family : `'${family}'`;
  return {
    family,
    file,
    weights,
    address,
    instead: AFTER[kind].instead,
    stack: `${quoted}, ${AFTER[kind].stack}`,
  };
}

/** Open fonts (SIL Open Font License 1.1) that ship with the program; all are variable in weight. */
export const WEB_FONTS: readonly WebFont[] = [
  {
    family: "Fraunces",
    file: "fraunces",
    weights: [100, 900],
    instead: "Georgia",
    stack: "Fraunces, Georgia, 'Times New Roman', serif",
  },
  {
    family: "Newsreader",
    file: "newsreader",
    weights: [200, 800],
    instead: "Georgia",
    stack: "Newsreader, Georgia, 'Times New Roman', serif",
  },
  {
    family: "Bricolage Grotesque",
    file: "bricolage-grotesque",
    weights: [200, 800],
    instead: "Arial",
    stack: "'Bricolage Grotesque', Helvetica, Arial, sans-serif",
  },
];

const GENERIC = /(?:^|,)\s*(serif|sans-serif|monospace|cursive|fantasy|system-ui)$/;

/** A list of families as CSS writes it: nothing but names, and a generic one at the end. */
export const FontStackSchema = z
  .string()
  .max(200)
  .regex(/^[\w '\-,]+$/, "a font is named by letters, digits, spaces and single quotes")
  .regex(GENERIC, "the last font is serif, sans-serif or monospace");

/** The web fonts that stacks begin with, of the brand's and those that ship. */
export function webFontsOf(stacks: readonly string[], brand: readonly BrandFont[] = []): WebFont[] {
  const own = brand.map(brandFont);
  const names = new Set(own.map(({ family }) => family));
  return [...own, ...WEB_FONTS.filter(({ family }) => !names.has(family))].filter(({ family }) =>
    stacks.some((stack) => stack.replaceAll("'", "").split(",")[0].trim() === family),
  );
}
