/** Finding campaigns again: by their names, labels and series, and by the words, links and pictures of their designs. */
import { parseEmail } from "~/core/blocks";
import { searchWords } from "~/core/compose";
import type { Email } from "~/core/email";
import type { Queries } from "../db/database";
import { keepMentions } from "../mentions";
import type { Septima } from "../septima";

/** Keeps what a design is found by, what the list says of it, and what it refers to. */
export async function keepWords(db: Queries, id: string, email: Email): Promise<void> {
  await db.query("update campaigns set words = $2, subject = $3::jsonb where id = $1", [
    id,
    searchWords(email),
    JSON.stringify(email.envelope.subject),
  ]);
  await keepMentions(db, "design", id, email);
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

/** How campaigns are found, for a query on `campaigns c`. */
export interface Finding {
  /** A condition that every word is found in its name, series, labels or season, in its words, or in the name of a picture. */
  sql: string;
  /** How well the name fits: 0 is the very name, 3 is found by something else. */
  rank: string;
  parameters: unknown[];
  /** The words that were asked for, in small letters. */
  wanted: readonly string[];
}

/** Makes the conditions by which campaigns are found. @param first the number of the first parameter */
export async function foundBy(septima: Septima, query: string, first: number): Promise<Finding> {
  const wanted = query.toLowerCase().split(/\s+/).filter(Boolean).slice(0, 8);
  if (wanted.length === 0) return { sql: "true", rank: "null::integer", parameters: [], wanted };
  const parameters: unknown[] = [];
  const parameter = (value: unknown) => `$${first - 1 + parameters.push(value)}`;
  const parts: string[] = [];
  const inName: string[] = [];
  for (const word of wanted) {
    const like = `%${word.replace(/[\\%_]/g, "\\$&")}%`;
    const files = await septima.db.query<{ file: string }>(
      "select f.file from picture_files f join pictures p on p.id = f.picture where lower(p.name) like $1 limit 100",
      [like],
    );
    const sought = parameter(like);
    const pictures = parameter(files.map(({ file }) => file));
    inName.push(`lower(c.name) like ${sought}`);
    parts.push(
      `(lower(c.name || ' ' || c.series || ' ' || c.labels::text || ' ' || c.season) like ${sought} or c.words like ${sought}
        or c.id in (select which from mentions where holder = 'design' and kind = 'picture' and key = any (${pictures}::text[])))`,
    );
  }
  const whole = parameter(wanted.join(" "));
  const rank = `case when lower(c.name) = ${whole} then 0 when starts_with(lower(c.name), ${whole}) then 1
    when ${inName.join(" and ")} then 2 else 3 end`;
  return { sql: parts.join(" and "), rank, parameters, wanted };
}

/** So much is said around the words that a campaign was found by, in characters. */
const AROUND = 24;

/** By what a campaign was found where its name does not say so: the words around, or where they stand. */
export function whyFound(
  wanted: readonly string[],
  {
    name,
    series,
    season,
    labels,
    words,
  }: {
    name: string;
    series: string;
    season: string;
    labels: readonly string[];
    words: string | null;
  },
): string | null {
  const other = wanted.find((word) => !name.toLowerCase().includes(word));
  if (other === undefined) return null;
  const fits = (text: string) => text.toLowerCase().includes(other);
  if (fits(series)) return `In the series “${series}”`;
  const label = labels.find(fits);
  if (label !== undefined) return `Labelled “${label}”`;
  if (fits(season)) return `For ${season}`;
  const at = words?.indexOf(other) ?? -1;
  if (!words || at < 0) return `Shows a picture called “${other}”`;
  const [from, to] = [Math.max(0, at - AROUND), Math.min(words.length, at + other.length + AROUND)];
  const cut = words.slice(from, to).replace(/\s+/g, " ").trim();
  return `Says “${from > 0 ? "…" : ""}${cut}${to < words.length ? "…" : ""}”`;
}
