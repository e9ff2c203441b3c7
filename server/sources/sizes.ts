import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import type { Article } from "~/core/sources";
import { fetchFor } from "../fetching";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";

/** So many articles are shown at most, and so their pictures are looked at. */
const SHOWN = 12;
/** For one picture. */
const LIMITS = { ms: 4000, bytes: 5_000_000 };

/**
 * The articles with the sizes of the pictures of the newest, so that messages can say how high they are. What was known
 * before is not fetched again; of what cannot be fetched or is no picture nothing is known.
 */
export async function withSizes(
  septima: Septima,
  articles: readonly Article[],
  before: readonly Article[] = [],
): Promise<Article[]> {
  const known = new Map(before.flatMap(({ picture, size }) => (picture && size ? [[picture, size]] : [])));
  const wanted = [...new Set(articles.slice(0, SHOWN).flatMap(({ picture }) => picture ?? []))];
  const missing = wanted.filter((picture) => !known.has(picture));
  if (missing.length > 0) {
    const folder = await mkdtemp(path.join(tmpdir(), "septima-feed-"));
    await Promise.all(
      missing.map(async (picture, index) => {
        try {
          const place = path.join(folder, String(index));
          await writeFile(place, await fetchFor(septima, picture, LIMITS));
          const { width, height } = await septima.pictureWork.run("inspect", place, picture);
          known.set(picture, { width, height });
        } catch (error) {
          if (!(error instanceof Refusal)) throw error;
        }
      }),
    ).finally(() => rm(folder, { recursive: true, force: true }));
  }
  return articles.map((article) => {
    const size = article.picture === null ? undefined : known.get(article.picture);
    return size ? { ...article, size } : article;
  });
}
