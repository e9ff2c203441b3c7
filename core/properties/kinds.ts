import { z } from "zod";
import {
  type Align,
  AlignSchema,
  BorderSchema,
  ColorSchema,
  type Inline,
  InlineSchema,
  ItemIdSchema,
  PaddingSchema,
  type RichDoc,
  RichDocSchema,
  richText,
  ValignSchema,
} from "../email";
import { type GlyphName, GlyphSchema, LocalTimeSchema } from "../markup";
import type {
  AddressProperty,
  AlignProperty,
  BorderProperty,
  ChoiceProperty,
  ColourProperty,
  DateProperty,
  DrawingProperty,
  EachProperty,
  HeldProperty,
  Holder,
  KeyProperty,
  ListProperty,
  NumberProperty,
  PictureProperty,
  Properties,
  Property,
  SchemasOf,
  SpaceProperty,
  SwitchProperty,
  TextProperty,
  WordsProperty,
} from "./property";

/** What can be said of any property when it is declared. */
type Said<P extends Property> = Partial<
  Pick<P, "look" | "phone" | "part" | "when" | "under" | "history" | "hint" | "missing" | "stays">
>;
/** A property without a fresh value may be missing; with one, only where it says so. */
type Kept<O, S extends z.ZodType> = O extends { optional: true }
  ? z.ZodOptional<S>
  : O extends { fresh: unknown }
    ? S
    : z.ZodOptional<S>;

/** The validator, which lets it be missing or not, and everything else that was said. */
function kept<O extends { fresh?: unknown; optional?: true }, S extends z.ZodType>(
  { optional, ...rest }: O,
  schema: S,
): Omit<O, "optional"> & { schema: Kept<O, S> } {
  const missing = optional || rest.fresh === undefined;
  return { ...rest, schema: (missing ? schema.optional() : schema) as Kept<O, S> };
}

type WordsSaid = Said<WordsProperty> & { optional?: true };

/** One line of words. */
export function line<const O extends WordsSaid & { fresh?: string | readonly Inline[] }>(
  label: string,
  said: O,
): WordsProperty<Kept<O, z.ZodArray<typeof InlineSchema>>> {
  return { kind: "line", label, ...kept(said, z.array(InlineSchema)), fresh: asWords("line", said.fresh) };
}

/** Paragraphs and lists. */
export function prose<const O extends WordsSaid & { fresh?: string | RichDoc }>(
  label: string,
  said: O,
): WordsProperty<Kept<O, typeof RichDocSchema>> {
  return {
    kind: "prose",
    label,
    ...kept(said, RichDocSchema),
    fresh: asWords("prose", said.fresh),
  };
}

/** Plain text of at most so many characters. */
export function text<
  const O extends Said<TextProperty> &
    Partial<Pick<TextProperty, "least" | "said" | "long" | "placeholder" | "typed">> & {
      fresh?: string;
      optional?: true;
    },
>(label: string, most: number, said: O): TextProperty<Kept<O, z.ZodString>> {
  const { least = 0, said: heard = true } = said;
  const bounded = z.string().max(most);
  const schema = least > 0 ? bounded.min(least) : bounded;
  return { kind: "text", label, most, ...kept(said, schema), least, said: heard };
}

/** The greatest length of an address, in characters. */
const ADDRESS = 2000;

/** Where something leads. */
export function address<
  const O extends Said<AddressProperty> &
    Partial<Pick<AddressProperty, "of" | "otherwise" | "placeholder" | "needed">> & {
      fresh?: string;
      optional?: true;
    },
>(label: string, said: O): AddressProperty<Kept<O, z.ZodString>> {
  return { kind: "address", label, ...kept(said, z.string().max(ADDRESS)) };
}

/** A number within bounds; `whole` without a fraction. */
export function number<
  const O extends Said<NumberProperty> &
    Partial<Pick<NumberProperty, "theme" | "own" | "offered">> & {
      fresh?: number;
      optional?: true;
      whole?: true;
    },
>(
  label: string,
  bounds: { min?: number; max: number; unit?: string },
  said: O,
): NumberProperty<Kept<O, z.ZodNumber>> {
  const { min = 0, max, unit = "px" } = bounds;
  const { whole, ...rest } = said;
  const bounded = z.number().min(min).max(max);
  const property = kept(rest, whole ? bounded.int() : bounded);
  return { kind: "number", label, min, max, unit, ...property } as NumberProperty<Kept<O, z.ZodNumber>>;
}

type OneOf<V extends string | number> = z.ZodType<V, V>;

/** One of a few values, each with what it is called. */
export function choice<
  const V extends string | number,
  const O extends Said<ChoiceProperty> &
    Partial<Pick<ChoiceProperty, "none" | "usual" | "spoken">> & { fresh?: NoInfer<V>; optional?: true },
>(
  label: string,
  options: readonly { value: V; label: string }[],
  said: O,
): ChoiceProperty<Kept<O, OneOf<V>>> {
  const schema = z.literal(options.map(({ value }) => value)) as unknown as OneOf<V>;
  return { kind: "choice", label, options, ...kept(said, schema) };
}

/** At which height something stands. */
export const valign = <
  const O extends Said<ChoiceProperty> &
    Pick<ChoiceProperty, "usual"> & { fresh?: "top" | "middle" | "bottom" },
>(
  spoken: string,
  said: O,
): ChoiceProperty<Kept<O, typeof ValignSchema>> => ({
  kind: "choice",
  label: "Stand at",
  spoken,
  options: [
    { value: "top", label: "Top" },
    { value: "middle", label: "Middle" },
    { value: "bottom", label: "Bottom" },
  ],
  look: true,
  ...kept(said, ValignSchema),
});

/** On which side it stands. */
export const align = <const O extends Said<AlignProperty> & { fresh?: Align }>(
  said: O,
): AlignProperty<Kept<O, typeof AlignSchema>> => ({
  kind: "align",
  label: "Aligned",
  look: true,
  phone: true,
  ...kept(said, AlignSchema),
});

/** On or off. */
export const toggle = <const O extends Said<SwitchProperty> & { fresh?: boolean; optional?: true }>(
  label: string,
  said: O,
): SwitchProperty<Kept<O, z.ZodBoolean>> => ({ kind: "switch", label, ...kept(said, z.boolean()) });

/** A colour; without a fresh one the theme's. */
export const colour = <
  const O extends Said<ColourProperty> &
    Partial<Pick<ColourProperty, "theme" | "on" | "fills">> & { fresh?: string },
>(
  label: string,
  said: O,
): ColourProperty<Kept<O, typeof ColorSchema>> => ({
  kind: "colour",
  label,
  look: true,
  ...kept(said, ColorSchema),
});

/** A line around it, or none. */
export const border = (
  label: string,
  said: Said<BorderProperty> & Pick<BorderProperty, "theme">,
): BorderProperty<z.ZodOptional<typeof BorderSchema>> => ({
  kind: "border",
  label,
  look: true,
  schema: BorderSchema.optional(),
  ...said,
});

/** Inner space, in px. */
export const space = (
  label: string,
  said: Said<SpaceProperty> & Pick<SpaceProperty, "theme">,
): SpaceProperty<z.ZodOptional<typeof PaddingSchema>> => ({
  kind: "space",
  label,
  look: true,
  schema: PaddingSchema.optional(),
  ...said,
});

/** One of the drawings. */
export const drawing = (
  label: string,
  said: Said<DrawingProperty> & Partial<Pick<DrawingProperty, "own">> & { fresh: GlyphName },
): DrawingProperty<typeof GlyphSchema> => ({ kind: "drawing", label, schema: GlyphSchema, ...said });

/** A day and a time on the clock of a zone; empty until it is chosen. */
export const moment = (label: string, said: Said<DateProperty>): DateProperty<typeof LocalTimeSchema> => ({
  kind: "moment",
  label,
  schema: LocalTimeSchema,
  fresh: "",
  ...said,
});

/** A day, `YYYY-MM-DD`. */
export const day = (label: string, said: Said<DateProperty>): DateProperty<z.ZodOptional<z.ZodISODate>> => ({
  kind: "day",
  label,
  schema: z.iso.date().optional(),
  ...said,
});

/** The zone by whose clock times are told. */
export const zone = (said: Said<DateProperty>): DateProperty<z.ZodString> => ({
  kind: "zone",
  label: "Zone",
  schema: z.string().max(60),
  fresh: "Europe/London",
  ...said,
});

/** The key of something outside of the design; empty until it is chosen. */
export const key = (
  label: string,
  of: KeyProperty["of"],
  said: Said<KeyProperty>,
): KeyProperty<z.ZodString> => ({
  kind: "key",
  label,
  of,
  schema: z.string(),
  fresh: "",
  ...said,
});

/** Kept, and not set by anybody. */
export const held = <S extends z.ZodType>(
  label: string,
  schema: S,
  said: Said<HeldProperty> & { fresh?: unknown } = {},
): HeldProperty<S> => ({ kind: "held", label, schema, ...said });

const SizeSchema = z.object({ width: z.number().positive(), height: z.number().positive() });

export interface PictureSaid extends Said<PictureProperty>, Partial<Pick<PictureProperty, "needed">> {
  /** Whether words for those who do not see it are asked for, or only kept where somebody writes them. */
  alt?: "asked" | "kept";
  decorates?: boolean;
  /** Whether it can be a link. */
  leads?: boolean;
}

/** The address of a picture alone, with what the panel sets beside it. */
export const picture = (
  label: string,
  { alt = "asked", decorates = true, leads = true, ...said }: PictureSaid,
): PictureProperty<z.ZodString> => {
  return {
    kind: "picture",
    label,
    schema: z.string().max(ADDRESS),
    fresh: "",
    beside: { alt, ...(decorates && { decorative: true as const }), ...(leads && { href: true as const }) },
    ...said,
  };
};

/** The size of a picture as it is, in px, to keep its proportions. */
export const natural = () => held("Size as it is", SizeSchema.optional());

export type Rounding = Said<NumberProperty> &
  Partial<Pick<NumberProperty, "theme">> & { max?: number; fresh?: number };

/** What a picture says to those who do not see it; written beside the picture. */
export const alt = <const O extends Said<TextProperty> & { fresh: string; optional?: true }>(said: O) =>
  text("Alternative text", 500, { ...said, typed: true });

/** How round the corners are, in px. */
export const corners = ({ max = 100, ...said }: Rounding): NumberProperty<z.ZodOptional<z.ZodNumber>> =>
  number("Corners", { max }, { theme: () => 0, look: true, under: "Look", ...said, optional: true });

type ItemSchema<P extends Properties> = z.ZodObject<{ id: typeof ItemIdSchema } & SchemasOf<P>>;

/** A list of at most so many items, each with an id of its own; the fresh ones say what differs from a fresh item. */
export function list<const P extends Properties>(
  noun: string,
  item: P,
  said: Said<ListProperty> &
    Partial<Pick<ListProperty, "least" | "more" | "alike">> & { most: number; fresh: readonly Holder[] },
): ListProperty<z.ZodArray<ItemSchema<P>>> {
  const { least = 0, most, fresh } = said;
  const schema = z
    .array(z.object({ id: ItemIdSchema, ...schemasOf(item) }) as unknown as ItemSchema<P>)
    .max(most);
  return {
    kind: "list",
    label: `${noun[0].toUpperCase()}${noun.slice(1)}s`,
    noun,
    item,
    ...said,
    least,
    schema: least > 0 ? schema.min(least) : schema,
    fresh: fresh.map((own, index) => ({
      id: String(index + 1),
      ...freshValues(item),
      ...valuesSaid(item, own),
    })),
  };
}

/** Words, or what else, for each item of a list of the block. */
export const each = <S extends z.ZodType>(
  label: string,
  by: string,
  of: EachProperty["of"],
  schema: S,
  said: Said<EachProperty> & { fresh?: unknown } = {},
): EachProperty<S> => ({ kind: "each", label, by, of, schema, ...said });

/** The validators of properties. */
export function schemasOf<P extends Properties>(properties: P): SchemasOf<P> {
  return Object.fromEntries(
    Object.entries(properties).map(([name, { schema }]) => [name, schema]),
  ) as SchemasOf<P>;
}

/** What properties hold as they come from the shelf; each time anew, so that nobody shares them. */
export function freshValues(properties: Properties): Record<string, unknown> {
  const set = Object.entries(properties).filter(([, { fresh }]) => fresh !== undefined);
  return structuredClone(Object.fromEntries(set.map(([name, { fresh }]) => [name, fresh])));
}

/** Words as a declaration writes them, as a string; whatever else it says stays as it is. */
function asWords(kind: Property["kind"] | undefined, said: unknown): unknown {
  if (typeof said !== "string") return said;
  if (kind === "prose") return richText(said);
  if (kind !== "line") return said;
  return said === "" ? [] : [{ type: "text", text: said }];
}

/** Values as a declaration writes them. */
function valuesSaid(properties: Properties, said: Holder): Record<string, unknown> {
  return Object.fromEntries(
    Object.entries(said).map(([name, value]) => [name, asWords(properties[name]?.kind, value)]),
  );
}

/** One more item for a list, as its declaration says. */
export function oneMore(
  { item, more = {}, alike = [] }: ListProperty,
  items: readonly Holder[],
  id: string,
): Record<string, unknown> {
  const last = items.at(-1);
  const taken = last
    ? alike.filter((name) => last[name] !== undefined).map((name) => [name, last[name]])
    : [];
  return { id, ...freshValues(item), ...valuesSaid(item, more), ...Object.fromEntries(taken) };
}
