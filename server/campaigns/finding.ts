/** Finding campaigns again: by their names, labels and series, and by the words, links and pictures of their designs. */
import { parseEmail } from "~/core/blocks";
import { searchWords } from "~/core/compose";
import type { Email } from "~/core/email";
import type { Queries } from "../db/database";
import type { Septima } from "../septima";

/** Keeps what a design is found by, and what the list says of it. */
export function keepWords(db: Queries, id: string, email: Email): Promise<unknown> {
  return db.query(
    "update campaigns set words = $2, subject = $3::jsonb, pictures = $4::text[] where id = $1",
    [id, searchWords(email), JSON.stringify(email.envelope.subject), pictureFilesIn(email)],
  );
}

/** The files of the library that anything names, wherever it does. */
export function pictureFilesIn(it: unknown): string[] {
  const named = JSON.stringify(it).matchAll(/\/pictures\/([\w-]+\.\w+)/g);
  return [...new Set([...named].map(([, file]) => file))];
}

/** Reads the words of designs that were kept before words were. */
export async function readMissingWords(septima: Septima): Promise<void> {
  for (;;) {
    if (septima.stopping.aborted) return;
    const rows = await septima.db.query<{ id: string; email: unknown }>(
      "select id, email from campaigns where words is null limit 20",
    );
    if (rows.length === 0) return;
    for (const { id, email } of rows) {
      try {
        await keepWords(septima.db, id, parseEmail(email));
      } catch {
        // A design that cannot be read is found by its name.
        await septima.db.query("update campaigns set words = '' where id = $1", [id]);
      }
    }
  }
}

/**
 * A condition that every word that was asked for is found in a campaign `c`: in its name, series, labels or state of
 * things, in its words, or in the name of a picture it shows.
 * @param first the number of the first parameter
 */
export async function foundBy(
  septima: Septima,
  query: string,
  first: number,
): Promise<{ sql: string; parameters: unknown[] }> {
  const wanted = query.toLowerCase().split(/\s+/).filter(Boolean).slice(0, 8);
  const parameters: unknown[] = [];
  const parts: string[] = [];
  for (const word of wanted) {
    const like = `%${word.replace(/[\\%_]/g, "\\$&")}%`;
    const files = await septima.db.query<{ file: string }>(
      "select f.file from picture_files f join pictures p on p.id = f.picture where lower(p.name) like $1 limit 100",
      [like],
    );
    const at = first + parameters.length;
    parameters.push(
      like,
      files.map(({ file }) => file),
    );
    parts.push(
      `(lower(c.name || ' ' || c.series || ' ' || c.labels::text || ' ' || c.season) like $${at} or c.words like $${at} or c.pictures && $${at + 1}::text[])`,
    );
  }
  return { sql: parts.length === 0 ? "true" : parts.join(" and "), parameters };
}
