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
