import { z } from "zod";

export const ArticleSchema = z.object({
  id: z.string(),
  title: z.string(),
  /** An http or https address; empty when the feed gave none. */
  link: z.string(),
  /** Plain text, entities resolved and markup gone. */
  excerpt: z.string(),
  picture: z.string().nullable(),
  /** Of the picture, in px; missing where it could not be found out. */
  size: z.object({ width: z.number().positive(), height: z.number().positive() }).optional(),
  /** Time of publication, ISO 8601 in UTC; null when the feed gave none that can be read. */
  published: z.string().nullable(),
  categories: z.array(z.string()),
});
/** One entry of a feed. */
export type Article = z.infer<typeof ArticleSchema>;

/** The articles of each source by its id, newest first. */
export type LiveContent = ReadonlyMap<string, readonly Article[]>;

export interface ArticleChoice {
  source: string;
  count: number;
}

/** The newest articles that a block asks for; fewer when the source has fewer. */
export function chooseArticles(content: LiveContent, choice: ArticleChoice): readonly Article[] {
  return (content.get(choice.source) ?? []).slice(0, choice.count);
}
