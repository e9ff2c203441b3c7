import pg from "pg";
import type { Database, Queries } from "./database";

pg.types.setTypeParser(pg.types.builtins.INT8, Number);
pg.types.setTypeParser(pg.types.builtins.NUMERIC, Number);

/** A PostgreSQL server by its address (`DATABASE_URL`). */
export function openServer(url: string): Database {
  const pool = new pg.Pool({ connectionString: url, max: 10 });
  // A connection that lies idle may be ended by the server; the pool opens another. Statements fail by themselves.
  pool.on("error", () => undefined);
  const on = (client: pg.Pool | pg.PoolClient): Queries & { script(sql: string): Promise<void> } => ({
    async query<T>(sql: string, params: readonly unknown[] = []) {
      return (await client.query(sql, [...params])).rows as T[];
    },
    async script(sql) {
      await client.query(sql);
    },
  });
  return {
    ...on(pool),
    async transaction(work) {
      const client = await pool.connect();
      try {
        await client.query("begin");
        const result = await work(on(client));
        await client.query("commit");
        return result;
      } catch (error) {
        await client.query("rollback");
        throw error;
      } finally {
        client.release();
      }
    },
    close: () => pool.end(),
  };
}
