import { z } from "zod";
import { FONTS } from "./fonts";

/** How a value may be written; which of them apply depends on the field's kind. */
export const TAG_FORMATS = ["asIs", "capital", "upper", "lower", "dayMonth", "longDate", "number"] as const;
export type TagFormat = (typeof TAG_FORMATS)[number];

export const MergeTagSchema = z.object({
  /** A contact field by its key, or `brand.name`, `brand.address`. */
  field: z.string(),
  /** What readers get for whom the field is missing. */
  fallback: z.string().max(200).default(""),
  format: z.enum(TAG_FORMATS).default("asIs"),
});
/** A placeholder for a reader's data. */
export type MergeTag = z.infer<typeof MergeTagSchema>;

const hex = z.string().regex(/^#[0-9a-fA-F]{6}$/, "a colour is written #RRGGBB");
export const WordStyleSchema = z.object({
  color: hex.optional(),
  highlight: hex.optional(),
  /** In px. */
  size: z.number().min(8).max(96).optional(),
  font: z.enum(FONTS.map((font) => font.key) as [string, ...string[]]).optional(),
});
/** One-off looks of single words. */
export type WordStyle = z.infer<typeof WordStyleSchema>;

const MarkSchema = z.discriminatedUnion("type", [
  z.object({ type: z.literal("bold") }),
  z.object({ type: z.literal("italic") }),
  z.object({ type: z.literal("underline") }),
  z.object({ type: z.literal("strike") }),
  z.object({ type: z.literal("link"), attrs: z.object({ href: z.string().max(2000) }) }),
  z.object({ type: z.literal("style"), attrs: WordStyleSchema }),
]);
export type Mark = z.infer<typeof MarkSchema>;

export const InlineSchema = z.discriminatedUnion("type", [
  z.object({ type: z.literal("text"), text: z.string().min(1), marks: z.array(MarkSchema).optional() }),
  z.object({ type: z.literal("hardBreak"), marks: z.array(MarkSchema).optional() }),
  z.object({ type: z.literal("mergeTag"), attrs: MergeTagSchema, marks: z.array(MarkSchema).optional() }),
]);
/** A run of words, a soft break or a merge tag. */
export type Inline = z.infer<typeof InlineSchema>;

const ParagraphSchema = z.object({
  type: z.literal("paragraph"),
  attrs: z.object({ align: z.enum(["left", "center", "right"]).nullish() }).optional(),
  content: z.array(InlineSchema).optional(),
});
export type Paragraph = z.infer<typeof ParagraphSchema>;

export type RichNode = Paragraph | { type: "bulletList" | "orderedList"; content: ListItem[] };
type ListItem = { type: "listItem"; content: RichNode[] };

const ListItemSchema: z.ZodType<ListItem> = z.lazy(() =>
  z.object({ type: z.literal("listItem"), content: z.array(RichNodeSchema) }),
);
const RichNodeSchema: z.ZodType<RichNode> = z.lazy(() =>
  z.union([
    ParagraphSchema,
    z.object({ type: z.enum(["bulletList", "orderedList"]), content: z.array(ListItemSchema) }),
  ]),
);

export const RichDocSchema = z.object({ type: z.literal("doc"), content: z.array(RichNodeSchema) });
/** Paragraphs and lists. */
export type RichDoc = z.infer<typeof RichDocSchema>;

/** A paragraph of plain words. */
export function paragraphOf(...content: (string | Inline)[]): Paragraph {
  const inlines = content
    .filter((part) => part !== "")
    .map((part): Inline => (typeof part === "string" ? { type: "text", text: part } : part));
  return inlines.length === 0 ? { type: "paragraph" } : { type: "paragraph", content: inlines };
}

/** A document of one paragraph for each argument. */
export function richText(...paragraphs: (string | Paragraph)[]): RichDoc {
  return { type: "doc", content: paragraphs.map((it) => (typeof it === "string" ? paragraphOf(it) : it)) };
}

/** The words of inline content, merge tags by their fallback or field in angle brackets. */
export function inlineText(content: readonly Inline[]): string {
  return content
    .map((it) =>
      it.type === "text"
        ? it.text
        : it.type === "hardBreak"
          ? " "
          : it.attrs.fallback || `‹${it.attrs.field}›`,
    )
    .join("");
}
