import { mkdir } from "node:fs/promises";
import { PGlite, type PGliteInterface, type Transaction, types } from "@electric-sql/pglite";
import type { Database, Queries } from "./database";

/** Dates come back as `Date`, as they do from a server. */
const PARSERS = {
  [types.NUMERIC]: (text: string) => Number(text),
  [types.INT8]: (text: string) => Number(text),
};

/**
 * The embedded PostgreSQL with its data in a folder, or in memory without one.
 * @param dump a migrated database to start from when the folder is new
 */
export async function openEmbedded(
  folder?: string,
  dump?: Blob,
): Promise<Database & { dump(): Promise<Blob> }> {
  if (folder) await mkdir(folder, { recursive: true });
  const pg = await PGlite.create({ dataDir: folder, loadDataDir: dump, parsers: PARSERS });
  return {
    ...queriesOn(pg),
    transaction: (work) => pg.transaction((tx) => work(queriesOn(tx))),
    alone: (_name, work) => work(),
    async hear(channel, told) {
      await pg.listen(channel, told);
    },
    close: () => pg.close(),
    dump: () => pg.dumpDataDir("none"),
  };
}

function queriesOn(pg: PGliteInterface | Transaction): Queries & { script(sql: string): Promise<void> } {
  return {
    async query<T>(sql: string, params: readonly unknown[] = []) {
      return (await pg.query<T>(sql, [...params])).rows;
    },
    async script(sql) {
      await pg.exec(sql);
    },
  };
}
