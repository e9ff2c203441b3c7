import type { z } from "zod";
import type { BlockBase, MergeTag, Raw } from "../email";
import type { Annotated, Level, PlacedLink, RenderContext } from "../markup";

/** The groups of the shelf, by what a designer wants to do. */
export type ShelfGroup = "words" | "pictures" | "actions" | "live" | "layout";

/** A place for words in a block: where they stand in it, and whether they are paragraphs or one line. */
export interface WordPlace {
  path: string;
  kind: "prose" | "line";
}

/** Everything the program knows about one type of block. */
export interface BlockType<B extends BlockBase> {
  type: B["type"];
  label: string;
  group: ShelfGroup;
  /** Other words under which the shelf's search finds it. */
  words: string;
  schema: z.ZodType<B>;
  /** By the schema it leads to: how a stored block's own properties are brought there. */
  upgrades?: Readonly<Record<number, (raw: Raw) => Raw>>;
  /** A block as it comes from the shelf. */
  create(id: string): B;
  /** Writes the inside of the block's cell. */
  html(block: B, context: RenderContext): void;
  /** Writes the block for the plain-text part, with an empty line at the end. */
  text(block: B, context: RenderContext): void;
  /** What it is called in the outline and in landing places, from its content. */
  title(block: B): string;
  /** Its places for words in reading order, empty ones and those that are switched off too. */
  places(block: B): readonly WordPlace[];
  /** Its texts besides those in its places for words and of its pictures, by their paths. */
  texts?(block: B): readonly { path: string; label: string }[];
  /** Which of the theme's three looks of headings its own heading has, or those of its items; null without any. */
  heading?(block: B): 1 | 2 | 3 | null;
  /** The level of its heading where the designer chose one; else it follows from where the block stands. */
  outline?(block: B): Level | undefined;
  /** Its links besides those within its words. */
  links?(block: B): readonly PlacedLink[];
  /** The addresses without which there is nothing to show: for readers for whom one is an empty tag it is left out. */
  needs?(block: B): { src?: string; href?: string };
  /** Its tags besides those within its words and its addresses. */
  tags?(block: B): readonly MergeTag[];
  /** Brings properties that hang together back in order, as when two people changed them. */
  tidy?(block: B): B;
  /** What it tells machines, as far as the message says it; null when it tells nothing. */
  annotation?(block: B, context: RenderContext): Annotated | null;
  /** Parts that can be switched off. */
  parts?: readonly { key: string; label: string }[];
  /** The properties that are its look rather than its content, besides background and inner space. */
  look?: readonly string[];
  /** What still has to be done before it can be sent, each as a sentence. */
  unready?(block: B): string[];
  /** Required by law or sense: can be moved and styled, not deleted or duplicated. */
  fixed?: boolean;
}

/** Whether a part of a block is switched on. */
export function shows(block: BlockBase, part: string): boolean {
  return !block.off?.includes(part);
}
