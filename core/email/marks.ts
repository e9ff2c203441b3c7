import { z } from "zod";
import { FONTS } from "./fonts";
import { ColorSchema } from "./primitives";

export const WordStyleSchema = z.object({
  color: ColorSchema.optional(),
  highlight: ColorSchema.optional(),
  /** In px. */
  size: z.number().min(8).max(96).optional(),
  font: z.enum(FONTS.map((font) => font.key) as [string, ...string[]]).optional(),
});
/** One-off looks of single words. */
export type WordStyle = z.infer<typeof WordStyleSchema>;

/** Marks that only say yes or no. */
export const TOGGLES = ["bold", "italic", "underline", "strike", "superscript", "subscript"] as const;
export type Toggle = (typeof TOGGLES)[number];

const MarkSchema = z.discriminatedUnion("type", [
  z.object({ type: z.enum(TOGGLES) }),
  z.object({ type: z.literal("link"), attrs: z.object({ href: z.string().max(2000) }) }),
  z.object({ type: z.literal("style"), attrs: WordStyleSchema }),
]);
export type Mark = z.infer<typeof MarkSchema>;

/** Every inline kind may carry marks. */
export const marksShape = { marks: z.array(MarkSchema).optional() };

/** The address a piece of words leads to; undefined when it is no link. */
export function hrefOfMarks(it: { marks?: readonly Mark[] } | undefined): string | undefined {
  const mark = it?.marks?.find((candidate) => candidate.type === "link");
  return mark?.type === "link" ? mark.attrs.href : undefined;
}
