/** Fills a database with millions of rows. */
import path from "node:path";
import type { Database } from "~/server/db/database";
import { migrate } from "~/server/db/migrate";
import { openServer } from "~/server/db/postgres";

/** Opens a migrated database on a server and runs statements there; events are written before they are indexed. */
export async function filled(url: string, statements: readonly string[]): Promise<Database> {
  const db = openServer(url);
  await migrate(db, path.join(process.cwd(), "server/db/migrations"));
  const indexes = await db.query<{ name: string; sql: string }>(
    "select indexname as name, indexdef as sql from pg_indexes where tablename = 'events'",
  );
  for (const { name } of indexes) await db.script(`drop index ${name}`);
  for (const statement of statements) await db.script(statement);
  for (const { sql } of indexes) await db.script(sql);
  for (const table of ["events", "contacts", "list_members"]) await db.script(`vacuum analyze ${table}`);
  return db;
}
