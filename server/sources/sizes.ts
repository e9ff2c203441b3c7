import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { fetchFor } from "../fetching";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";

/** So many items a list shows at most, and so their pictures are looked at. */
const SHOWN = 12;
/** For one picture. */
const LIMITS = { ms: 4000, bytes: 5_000_000 };

/**
 * Finds out how large the pictures of a source's newest items are, so that messages can say how high they are. What was
 * known before is not fetched again; of what cannot be fetched or is no picture nothing is known.
 */
export async function findSizes(septima: Septima, source: string): Promise<void> {
  const rows = await septima.db.query<{ picture: string; known: boolean }>(
    `select item ->> 'picture' as picture, size is not null as known from items
     where source = $1 and gone_at is null order by at desc nulls last, place limit ${SHOWN}`,
    [source],
  );
  const missing = [...new Set(rows.flatMap(({ picture, known }) => (picture && !known ? [picture] : [])))];
  if (missing.length === 0) return;
  const folder = await mkdtemp(path.join(tmpdir(), "septima-feed-"));
  await Promise.all(
    missing.map(async (picture, index) => {
      try {
        const place = path.join(folder, String(index));
        await writeFile(place, await fetchFor(septima, picture, LIMITS));
        const { width, height } = await septima.pictureWork.run("inspect", place, picture);
        await septima.db.query(
          "update items set size = $3::jsonb where source = $1 and item ->> 'picture' = $2",
          [source, picture, JSON.stringify({ width, height })],
        );
      } catch (error) {
        if (!(error instanceof Refusal)) throw error;
      }
    }),
  ).finally(() => rm(folder, { recursive: true, force: true }));
}
