import { createHash } from "node:crypto";
import { readdir, readFile } from "node:fs/promises";
import path from "node:path";
import type { Database, Queries } from "./database";

/** The schema on disk does not fit the database. */
export class MigrationError extends Error {
  override name = "MigrationError";
}

type Filling = Readonly<Record<number, (tx: Queries) => Promise<void>>>;

/**
 * Applies the numbered `.sql` files of a folder that have not been applied, each in a transaction. Of several processes
 * that start at once one does it, and the others wait.
 * @param filling what SQL cannot say of what is there already, by the number of the file it belongs to
 * @returns the number of the newest one
 * @throws MigrationError when an applied file has changed or is gone
 */
export function migrate(db: Database, folder: string, filling: Filling = {}): Promise<number> {
  return db.alone("migrations", () => migrateAlone(db, folder, filling));
}

async function migrateAlone(db: Database, folder: string, filling: Filling): Promise<number> {
  await db.script(
    "create table if not exists migrations (number integer primary key, name text not null, checksum text not null, applied_at timestamptz not null default now())",
  );
  const files = (await readdir(folder)).filter((name) => /^\d{4}_.*\.sql$/.test(name)).sort();
  const applied = new Map(
    (
      await db.query<{ number: number; name: string; checksum: string }>(
        "select number, name, checksum from migrations",
      )
    ).map((row) => [row.number, row]),
  );
  let newest = 0;
  for (const name of files) {
    const number = Number(name.slice(0, 4));
    const sql = await readFile(path.join(folder, name), "utf8");
    const checksum = createHash("sha256").update(sql).digest("hex");
    const known = applied.get(number);
    if (known && known.checksum !== checksum) {
      throw new MigrationError(
        `Migration ${name} was changed after it had been applied. Add a new one instead.`,
      );
    }
    if (!known) {
      await db.transaction(async (tx) => {
        await tx.script(sql);
        await filling[number]?.(tx);
        await tx.query("insert into migrations (number, name, checksum) values ($1, $2, $3)", [
          number,
          name,
          checksum,
        ]);
      });
    }
    applied.delete(number);
    newest = number;
  }
  const [missing] = applied.values();
  if (missing)
    throw new MigrationError(
      `The database knows migration ${missing.name}, this program does not: it is older.`,
    );
  return newest;
}
