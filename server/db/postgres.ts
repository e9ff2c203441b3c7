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
      let lost: Error | undefined;
      // A server that ends the connection in the middle ends this work, and nothing else.
      const lose = (error: Error) => {
        lost = error;
      };
      client.on("error", lose);
      try {
        await client.query("begin");
        const result = await work(on(client));
        await client.query("commit");
        return result;
      } catch (error) {
        // What cannot be rolled back any more was not committed.
        if (!lost) await client.query("rollback").catch(lose);
        throw error;
      } finally {
        client.removeListener("error", lose);
        client.release(lost);
      }
    },
    close: () => pool.end(),
  };
}
