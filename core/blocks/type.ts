import { z } from "zod";
import { type BlockBase, BlockBaseSchema, type MergeTag, type Raw } from "../email";
import type { Annotated, GlyphName, Level, PlacedLink, RenderContext } from "../markup";
import {
  freshValues,
  looksOf,
  NODE_PROPERTIES,
  type Properties,
  schemasOf,
  type ValuesOf,
} from "../properties";

/** The groups of the shelf, by what a designer wants to do. */
export type ShelfGroup = "words" | "pictures" | "actions" | "live" | "layout";

/** A block of a type with these properties. */
export type BlockOf<Name extends string, P extends Properties> = Omit<BlockBase, "type"> & {
  type: Name;
} & ValuesOf<P>;

/** What a type of block says of itself: its properties, how it is written, and what neither of them can say. */
export interface Declaration<Name extends string, P extends Properties, B> {
  type: Name;
  label: string;
  group: ShelfGroup;
  /** Other words under which the shelf's search finds it. */
  words: string;
  /** What the shelf shows of it, where it has no sign of its own there. */
  drawing?: GlyphName;
  /** In the order in which they are read and set. */
  properties: P;
  /** What a fresh block has besides the fresh values of its properties. */
  fresh?: Partial<B>;
  /** What its panel says first. */
  about?: string;
  /** By the schema it leads to: how a stored block's own properties are brought there. */
  upgrades?: Readonly<Record<number, (raw: Raw) => Raw>>;
  /** Writes the inside of the block's cell. */
  html(block: B, context: RenderContext): void;
  /** Writes the block for the plain-text part, with an empty line at the end. */
  text(block: B, context: RenderContext): void;
  /** What it is called in the outline and in landing places, from its content. */
  title(block: B): string;
  /** Which of the theme's three looks of headings its own heading has, or those of its items; null without any. */
  heading?(block: B): 1 | 2 | 3 | null;
  /** The level of its heading where the designer chose one; else it follows from where the block stands. */
  outline?(block: B): Level | undefined;
  /** Links that no property holds. */
  links?(block: B): readonly PlacedLink[];
  /** Its tags besides those within its words and its addresses. */
  tags?(block: B): readonly MergeTag[];
  /** Brings properties that hang together back in order, as when two people changed them. */
  tidy?(block: B): B;
  /** What it tells machines, as far as the message says it; null when it tells nothing. */
  annotation?(block: B, context: RenderContext): Annotated | null;
  /** Parts that can be switched off. */
  parts?: readonly { key: string; label: string }[];
  /** What still has to be done before it can be sent besides filling in what is missing, each as a sentence. */
  unready?(block: B): string[];
  /** Required by law or sense: can be moved and styled, not deleted or duplicated. */
  fixed?: boolean;
}

/** Everything the program knows about one type of block. */
export interface BlockType<B extends { type: string }> extends Declaration<B["type"], Properties, B> {
  schema: z.ZodType<B>;
  /** A block as it comes from the shelf. */
  create(id: string): B;
  /** The properties that are its look rather than its content. */
  look: readonly string[];
}

/** Declares a type of block. Its validator, a fresh block and its look follow from its properties. */
export function declareBlock<const Name extends string, P extends Properties>(
  declaration: Declaration<Name, P, BlockOf<Name, P>>,
): BlockType<BlockOf<Name, P>> {
  const { type, properties, fresh } = declaration;
  const schema = BlockBaseSchema.extend({ type: z.literal(type), ...schemasOf(properties) });
  // What is made of the properties is what their types say, which the language cannot follow that far.
  return {
    ...declaration,
    schema,
    create: (id: string) => ({ id, type, ...freshValues(properties), ...structuredClone(fresh) }),
    look: [...looksOf(properties), ...looksOf(NODE_PROPERTIES.block)],
  } as unknown as BlockType<BlockOf<Name, P>>;
}

/** Whether a part of a block is switched on. */
export function shows(block: BlockBase, part: string): boolean {
  return !block.off?.includes(part);
}
