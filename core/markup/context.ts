import type { Brand, Inline, Known, LinkRules, Theme } from "../email";
import type { Direction, Writer } from "../program";

/** The level of a heading, from 1. */
export type Level = 1 | 2 | 3 | 4 | 5 | 6;

/** What stands behind words: its colour in light and in dark. One that is the same in both keeps its light words. */
export interface Ground {
  light: string;
  dark: string;
}

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
  /** Whether blocks are marked with their ids, for those who look a message over; nothing else differs. */
  places?: boolean;
  /** Of the email, as a language tag. */
  language: string;
  direction: Direction;
  /** Whether all that is written is one link, in which no other can stand. */
  linked?: boolean;
  /** The block that is being written, and what of a translated email says what it does in the design's own language. */
  block?: string;
  untranslated?: { language: string; paths: ReadonlyMap<string, ReadonlySet<string>> };
  /** Parameters of the campaign's links, and which of them are left alone. */
  links?: LinkRules;
  /** Whether links lead over an address of each reader's own, which counts them. */
  counted?: boolean;
  /** Whether the text part lists its addresses at the end. */
  numbered: boolean;
  /** Put before picture addresses that start with `/`; empty on the canvas. */
  origin: string;
  /** `YYYY-MM-DD`: the day it is sent, or looked at. */
  today?: string;
}

/** What something tells of itself to machines, in the words of schema.org; words may hold tags. */
export interface Annotated {
  [property: string]: string | readonly Inline[] | Annotated;
}
