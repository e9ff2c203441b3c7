import type { Align, Brand, Inline, Known, LinkRules, Theme } from "../email";
import type { Direction, Writer } from "../program";
import { TABLE } from "./html";
import type { Ground } from "./tone";

/** The level of a heading, from 1. */
export type Level = 1 | 2 | 3 | 4 | 5 | 6;

/** What a block is given to write itself. */
export interface RenderContext {
  out: Writer;
  part: "html" | "title" | "json" | "text" | "header";
  theme: Theme;
  brand: Brand;
  /** What tags may ask besides the reader. */
  known: Known;
  /** Width available in px on a desktop. */
  width: number;
  /** What stands behind what is written. */
  ground: Ground;
  /** The names of dark colours that are not the theme's: the style block says what they mean. */
  tones: Set<string>;
  level: Level;
  /** Whether the canvas asks: then values and nodes carry marks, and empty places say what they wait for. */
  marks: boolean;
  /** Of the email, as a language tag. */
  language: string;
  direction: Direction;
  /** Whether all that is written is one link, in which no other can stand. */
  linked?: boolean;
  /** The block that is being written, and what of a translated email says what it does in the design's own language. */
  block?: string;
  untranslated?: { language: string; paths: ReadonlyMap<string, ReadonlySet<string>> };
  /** Parameters of the campaign's links. */
  links?: LinkRules;
  /** Whether the text part lists its addresses at the end. */
  numbered: boolean;
  /** Put before picture addresses that start with `/`; empty on the canvas. */
  origin: string;
}

/** What something tells of itself to machines, in the words of schema.org; words may hold tags. */
export interface Annotated {
  [property: string]: string | readonly Inline[] | Annotated;
}

type Side = "left" | "center" | "right";

/** The side at which something stands: where the language runs from right to left, the sides are mirrored. */
export function sideOf(align: Align | undefined, { direction }: Pick<RenderContext, "direction">): Side {
  const side = align ?? "left";
  if (direction === "ltr" || side === "center") return side;
  return side === "left" ? "right" : "left";
}

/**
 * Where a table stands that is narrower than its place: what is written before, in and after it. A table that says
 * itself at which side it stands floats, with what follows beside it, and some word processors drop floating tables:
 * so it says nothing at the side where it would stand anyway, and at the other a cell around it says it.
 */
export function tableAt(
  align: Align | undefined,
  context: Pick<RenderContext, "direction">,
): { open: string; align: string; margin: string | undefined; close: string } {
  const side = sideOf(align, context);
  if (side === "center") return { open: "", align: ' align="center"', margin: "0 auto", close: "" };
  if (side === sideOf("left", context)) return { open: "", align: "", margin: undefined, close: "" };
  return {
    open: `<table ${TABLE} width="100%"><tr><td align="${side}">`,
    align: "",
    margin: side === "right" ? "0 0 0 auto" : "0 auto 0 0",
    close: "</td></tr></table>",
  };
}

/** A padding in px with the space before and after in the direction of the language. */
export function paddingOf(
  [top, end, bottom, start]: readonly [number, number, number, number],
  { direction }: Pick<RenderContext, "direction">,
): string {
  const [right, left] = direction === "ltr" ? [end, start] : [start, end];
  return [top, right, bottom, left].map((side) => (side === 0 ? "0" : `${side}px`)).join(" ");
}
