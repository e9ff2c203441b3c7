import { z } from "zod";
import { InlineSchema } from "./inline";
import { RichDocSchema } from "./rich";

const PictureSchema = z.object({
  src: z.string().max(2000),
  natural: z.object({ width: z.number().positive(), height: z.number().positive() }).optional(),
});

const SaidSchema = z.union([RichDocSchema, z.array(InlineSchema), z.string().max(400_000), PictureSchema]);
/** What is said in one language: paragraphs, a line, a text or address, or a picture. */
export type SaidThere = z.infer<typeof SaidSchema>;

const TranslatedSchema = z.object({
  value: SaidSchema,
  /** What it is a translation of: once the design says something else, it is outdated. */
  of: SaidSchema,
});
export type Translated = z.infer<typeof TranslatedSchema>;

/** A language tag (RFC 5646), as `de` or `pt-BR`. */
const LanguageSchema = z.string().regex(/^[a-zA-Z]{2,8}(-[a-zA-Z0-9]{1,8})*$/);

/** By language and by the path of what is translated, with dots for its slashes: `de`, `items.i2.content`. */
export const TranslationsSchema = z.record(LanguageSchema, z.record(z.string().max(300), TranslatedSchema));
export type Translations = z.infer<typeof TranslationsSchema>;
