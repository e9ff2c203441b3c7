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

/** The web fonts that stacks begin with. */
export function webFontsOf(stacks: readonly string[]): WebFont[] {
  return WEB_FONTS.filter(({ family }) =>
    stacks.some((stack) => stack.replaceAll("'", "").split(",")[0].trim() === family),
  );
}
