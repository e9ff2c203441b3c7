import type { z } from "zod";
import type { Padding, Theme } from "../email";

/** What holds properties: a block or what it stands in, or an item of a list in it. */
export type Holder = Readonly<Record<string, unknown>>;

/** Other properties of the same holder and what they have to be, or one of what; one that is missing is `false`. */
export type When = Readonly<Record<string, string | number | boolean | readonly string[]>>;

/** What stands behind words: the ground around the block, or a colour of the block's own by the property that holds it. */
export type Behind = "around" | { face: string } | { box: string } | { own: string };

/** What is said of every property, whatever its kind. */
interface Common<S extends z.ZodType> {
  /** What it is called, wherever somebody reads of it. */
  label: string;
  schema: S;
  /** What it is when the block comes from the shelf; nothing when it is missing. */
  fresh?: unknown;
  /** Whether it is look rather than content: what "one look for all" takes over and "as it came" brings back. */
  look?: true;
  /** Whether it may differ on phones. */
  phone?: true;
  /** The part of the block that takes it along when it is switched off. */
  part?: string;
  /** When it counts. Where it does not, there is no control for it, and nothing finds what it holds. */
  when?: When;
  /** Under which title its control stands in the panel; none when it is written where it stands, or by hand. */
  under?: string;
  /** What a change of it is called in the history. */
  history?: string;
  /** What its control says below itself. */
  hint?: string;
  /** What is said before sending as long as it is empty. */
  missing?: string;
  /** Whether what it comes with may well stay, as what buttons usually say. */
  stays?: true;
}

/** What a theme says where a block says nothing. */
export type Themed<T> = (theme: Theme, holder: Holder) => T;

/** Words with everything that can stand in them: one line, or paragraphs and lists. */
export interface WordsProperty<S extends z.ZodType = z.ZodType> extends Common<S> {
  kind: "line" | "prose";
}

/** Plain text. `said` is what readers see or hear of it, so that it is translated, sought and checked. */
export interface TextProperty<S extends z.ZodType = z.ZodType> extends Common<S> {
  kind: "text";
  /** Its greatest and least length in characters. */
  most: number;
  least: number;
  said: boolean;
  /** Over several lines. */
  long?: true;
  /** What stands in an empty field. */
  placeholder?: string;
  /** Whether tags can be typed into it. */
  typed?: true;
}

/** Where something leads. */
export interface AddressProperty<S extends z.ZodType = z.ZodType> extends Common<S> {
  kind: "address";
  /** The properties that hold the words pressed, of which the first that says something counts; what else they are called. */
  of?: readonly string[];
  otherwise?: string;
  placeholder?: string;
  /** Without it there is nothing to show: for readers for whom it is an empty tag, the block is left out. */
  needed?: true;
}

/** The address of a picture. What else is known of the picture are properties beside it. */
export interface PictureProperty<S extends z.ZodType = z.ZodType> extends Common<S> {
  kind: "picture";
  needed?: true;
  /** What can be said of it besides: words for those who do not see it, that it is decoration, where it leads. */
  beside: { alt?: "asked" | "kept"; decorative?: true; href?: true };
}

/** A number, whole or not, within bounds. */
export interface NumberProperty<S extends z.ZodType = z.ZodType> extends Common<S> {
  kind: "number";
  min: number;
  max: number;
  /** In the interface, where less is offered than is read. */
  offered?: number;
  unit: string;
  theme?: Themed<number>;
  /** Missing until it is switched on by these words, and then this much. */
  own?: { words: string; start: number };
}

/** One of a few. */
export interface ChoiceProperty<S extends z.ZodType = z.ZodType> extends Common<S> {
  kind: "choice";
  options: readonly { value: string | number; label: string }[];
  /** What it is called when it is missing, where that can be chosen; or which of the options that says the same. */
  none?: string;
  usual?: string | number;
  /** Its name for those who only hear it, where the label beside it says too little. */
  spoken?: string;
}

/** On which side something stands, as readers see it. */
export interface AlignProperty<S extends z.ZodType = z.ZodType> extends Common<S> {
  kind: "align";
}

/** On or off; missing is off. */
export interface SwitchProperty<S extends z.ZodType = z.ZodType> extends Common<S> {
  kind: "switch";
}

/** A colour as `#RRGGBB`. */
export interface ColourProperty<S extends z.ZodType = z.ZodType> extends Common<S> {
  kind: "colour";
  theme?: Themed<string>;
  /** Whether words stand on it. */
  fills?: true;
  /** Whether it may be a colour of the theme's by its role. */
  role?: true;
  /** Of words: what they stand on, so that it is known whether they can be read. */
  on?: Behind;
}

/** A line around something, or none. */
export interface BorderProperty<S extends z.ZodType = z.ZodType> extends Common<S> {
  kind: "border";
  theme: Themed<string>;
}

/** Room between the edges of something and what is in it. */
export interface SpaceProperty<S extends z.ZodType = z.ZodType> extends Common<S> {
  kind: "space";
  theme: Themed<Padding>;
}

/** One of the drawings; `own` is the property that holds a picture of one's own in its place. */
export interface DrawingProperty<S extends z.ZodType = z.ZodType> extends Common<S> {
  kind: "drawing";
  own?: string;
}

/** A day, or a day and a time on the clock of a zone, or that zone. */
export interface DateProperty<S extends z.ZodType = z.ZodType> extends Common<S> {
  kind: "day" | "moment" | "zone";
}

/** What names something outside of the design. */
export interface KeyProperty<S extends z.ZodType = z.ZodType> extends Common<S> {
  kind: "key";
  of: "source" | "codes";
}

/** Kept with the others, and nothing that somebody sets. */
export interface HeldProperty<S extends z.ZodType = z.ZodType> extends Common<S> {
  kind: "held";
}

/** Several of the same, each with an id of its own. */
export interface ListProperty<S extends z.ZodType = z.ZodType> extends Common<S> {
  kind: "list";
  /** What one of them is called: "link". */
  noun: string;
  item: Properties;
  least: number;
  most: number;
  /** What one more begins with, besides the fresh values of its properties. */
  more?: Holder;
  /** The properties that one more has from the last. */
  alike?: readonly string[];
}

/** One for each item of a list beside it, by the item's id; those that are missing are empty. */
export interface EachProperty<S extends z.ZodType = z.ZodType> extends Common<S> {
  kind: "each";
  /** The property of the block that holds the list. */
  by: string;
  /** Words, or properties of their own. */
  of: Property | Properties;
}

/** One property of a block: what it is, how it is kept, and how somebody sets it. */
export type Property<S extends z.ZodType = z.ZodType> =
  | WordsProperty<S>
  | TextProperty<S>
  | AddressProperty<S>
  | PictureProperty<S>
  | NumberProperty<S>
  | ChoiceProperty<S>
  | AlignProperty<S>
  | SwitchProperty<S>
  | ColourProperty<S>
  | BorderProperty<S>
  | SpaceProperty<S>
  | DrawingProperty<S>
  | DateProperty<S>
  | KeyProperty<S>
  | HeldProperty<S>
  | ListProperty<S>
  | EachProperty<S>;

/** All properties of a block or an item, in the order in which they are read and set. */
export interface Properties {
  readonly [key: string]: Property;
}

/** The validators of properties, by their keys. */
export type SchemasOf<P extends Properties> = { [Key in keyof P]: P[Key]["schema"] };
/** What properties hold. */
export type ValuesOf<P extends Properties> = z.infer<z.ZodObject<SchemasOf<P>>>;
