import { z } from "zod";
import { RuleSchema } from "../audience";
import { InlineSchema } from "./inline";
import { AlignSchema, ColorSchema, IdSchema, ValignSchema } from "./primitives";
import { FillSchema } from "./theme";
import { TranslationsSchema } from "./translations";

/** The version of the document written by this program; `upgrades/` brings older ones forward. */
export const SCHEMA_VERSION = 3;

/** Bounds of room and corners, and of the width of a section's content, in px. */
export const SPACE = { min: 0, max: 400 };
export const WIDTH = { min: 320, max: 700 };
const px = z.number().min(SPACE.min).max(SPACE.max);
export const PaddingSchema = z.object({ top: px, right: px, bottom: px, left: px });
/** Inner space in px. */
export type Padding = z.infer<typeof PaddingSchema>;

export const BorderSchema = z.object({
  /** In px. */
  width: z.number().min(1).max(20),
  style: z.enum(["solid", "dashed", "dotted"]),
  color: ColorSchema,
});
export type Border = z.infer<typeof BorderSchema>;

/** What is different on phones. */
const PhoneSchema = z.object({
  padding: PaddingSchema.optional(),
  align: AlignSchema.optional(),
  /** Of the words, in px. */
  size: z.number().min(8).max(80).optional(),
  /** Of a picture, in percent of the room there is. */
  share: z.number().min(5).max(100).optional(),
});
export type Phone = z.infer<typeof PhoneSchema>;

/** What every node but a column has besides its own things. `show` is the show rule: who gets it. */
const common = {
  id: IdSchema,
  name: z.string().max(120).optional(),
  show: RuleSchema.optional(),
  hideOn: z.enum(["phone", "desktop"]).optional(),
  /** The clipping this is a place of; it is changed there. */
  clipping: IdSchema.optional(),
};

export const BlockBaseSchema = z.object({
  ...common,
  type: z.string(),
  padding: PaddingSchema.optional(),
  background: FillSchema.optional(),
  phone: PhoneSchema.optional(),
  /** Parts that are switched off. */
  off: z.array(z.string().max(40)).optional(),
  translations: TranslationsSchema.optional(),
  /** Words of its own for the plain-text part, and what the design gave when they were written. */
  ownText: z.object({ words: z.array(InlineSchema), basis: z.string() }).optional(),
});
/** What all blocks share; each type adds its own in `core/blocks`. */
export type BlockBase = z.infer<typeof BlockBaseSchema>;

/** A block of any type, also one that this version does not know. */
const BlockSchema = z.looseObject(BlockBaseSchema.shape);
export type Block = z.infer<typeof BlockSchema>;

const BlockKeySchema = z.object({ id: z.string(), type: z.string() });

const ColumnSchema = z.object({
  id: common.id,
  /** Share of the row in percent. */
  width: z.number().min(5).max(100),
  background: FillSchema.optional(),
  padding: PaddingSchema.optional(),
  border: BorderSchema.optional(),
  radius: px.optional(),
  /** Each is read by its type. */
  blocks: z.array(z.custom<z.infer<typeof BlockSchema>>((it) => BlockKeySchema.safeParse(it).success)),
});
export type Column = z.infer<typeof ColumnSchema>;

/** So many columns a row has at most; one at least. */
export const MOST_COLUMNS = 6;

const RowSchema = z.object({
  ...common,
  background: FillSchema.optional(),
  padding: PaddingSchema.optional(),
  phone: PhoneSchema.pick({ padding: true }).optional(),
  /** Space between columns in px; from the theme when missing. */
  gap: px.optional(),
  valign: ValignSchema.optional(),
  onPhones: z.enum(["stack", "reverse", "beside"]).optional(),
  columns: z.array(ColumnSchema).min(1).max(MOST_COLUMNS),
});
export type Row = z.infer<typeof RowSchema>;

const SectionSchema = z.object({
  ...common,
  background: FillSchema.optional(),
  contentBackground: FillSchema.optional(),
  /** A picture behind the section; `background` stands in for it where none is shown. */
  picture: z
    .object({
      src: z.string().max(2000),
      position: z.enum(["top", "center", "bottom"]),
      tile: z.boolean(),
      /** Whether the content stands right on it, without paper of its own. */
      open: z.boolean(),
    })
    .optional(),
  /** Width of the content in px; the theme's when missing. */
  width: z.number().min(WIDTH.min).max(WIDTH.max).optional(),
  border: BorderSchema.optional(),
  padding: PaddingSchema.optional(),
  phone: PhoneSchema.pick({ padding: true }).optional(),
  radius: px.optional(),
  rows: z.array(RowSchema),
});
export type Section = z.infer<typeof SectionSchema>;

const EnvelopeSchema = z.object({
  subject: z.array(InlineSchema),
  preheader: z.array(InlineSchema),
  /** Its addresses may be typed tags, such as a lookup's. */
  sender: z.object({ name: z.array(InlineSchema), address: z.string(), replyTo: z.string().optional() }),
  /** What stands before a reader's own address; their name when missing. */
  to: z.array(InlineSchema).optional(),
});
/** Sender, subject and preheader. */
export type Envelope = z.infer<typeof EnvelopeSchema>;

const LinkRulesSchema = z.object({
  /** Added to every tracked http and https link. */
  parameters: z.array(z.object({ name: z.string().max(60), value: z.string().max(200) })).max(20),
  /** Addresses that stay as they are. */
  untracked: z.array(z.string().max(2000)),
  /** Whether clicks and openings are counted; they are when missing. */
  clicks: z.boolean().optional(),
  openings: z.boolean().optional(),
});
/** What is done to all links of an email. */
export type LinkRules = z.infer<typeof LinkRulesSchema>;

const TextPartSchema = z.object({
  /** Greatest length of a line in characters; 0 leaves lines as long as they are. */
  width: z.number().int().min(0).max(200),
  links: z.enum(["inline", "numbered"]),
});
/** How the plain-text part is written. */
export type TextPart = z.infer<typeof TextPartSchema>;
export const TEXT_PART: TextPart = { width: 76, links: "inline" };

export const EmailSchema = z.object({
  schema: z.literal(SCHEMA_VERSION),
  /** A letter in text only: its words, wrapped, and no HTML at all. It is so from its beginning to its end. */
  only: z.literal("text").optional(),
  language: z.string().min(2),
  theme: z.string(),
  envelope: EnvelopeSchema,
  /** The languages it is there in besides its own, with the envelope's words; blocks have theirs themselves. */
  translations: TranslationsSchema.optional(),
  links: LinkRulesSchema.optional(),
  textPart: TextPartSchema.optional(),
  sections: z.array(SectionSchema),
});
export type Email = z.infer<typeof EmailSchema>;

/** What each kind of node has besides its children; blocks are read by their types. */
export const OWN_SCHEMAS = {
  email: EmailSchema.omit({ sections: true }),
  section: SectionSchema.omit({ rows: true }),
  row: RowSchema.omit({ columns: true }),
  column: ColumnSchema.omit({ blocks: true }),
};

/** Widths in percent for a number of equal columns, adding up to 100. */
export function equalWidths(count: number): number[] {
  const width = Math.floor(10_000 / count) / 100;
  return Array.from({ length: count }, (_, index) =>
    index === 0 ? Math.round((100 - width * (count - 1)) * 100) / 100 : width,
  );
}
