/** A row as it comes from the database, by column name. */
type Row = Record<string, unknown>;

/** Where statements go: the database itself, or a transaction on it. Parameters always, never text put together. */
export interface Queries {
  query<T = Row>(sql: string, params?: readonly unknown[]): Promise<T[]>;
}

/** The one door to the data, the same for the embedded PostgreSQL and for a server. */
export interface Database extends Queries {
  /** Runs several statements without parameters, as migrations need. */
  script(sql: string): Promise<void>;
  /** All or nothing. What `work` throws is thrown again after the roll-back. */
  transaction<T>(work: (tx: Queries & { script(sql: string): Promise<void> }) => Promise<T>): Promise<T>;
  /** Does something while no other process does what has the same name; those who come meanwhile wait their turn. */
  alone<T>(name: string, work: () => Promise<T>): Promise<T>;
  /**
   * Hears what is told on a channel by this process or another on the same data: once what it is about is committed.
   * Null where some of it may have been missed. Ends with the database.
   */
  hear(channel: string, told: (words: string | null) => void): Promise<void>;
  close(): Promise<void>;
}

/** Tells everybody who hears a channel; within a transaction, once it is committed. Up to 7,999 octets (PostgreSQL, NOTIFY). */
export async function tell(on: Queries, channel: string, words: string): Promise<void> {
  await on.query("select pg_notify($1, $2)", [channel, words]);
}

/**
 * A transaction for what passes a whole audience at once. Sets of contacts are held in memory: with the usual allowance
 * the database looks each contact up in a list instead, which takes hours for a million.
 */
export function broadly<T>(db: Database, work: (tx: Queries) => Promise<T>): Promise<T> {
  return db.transaction(async (tx) => {
    await allowBroad(tx);
    return work(tx);
  });
}

/** Gives a transaction that is under way the room that `broadly` gives. */
export async function allowBroad(tx: Queries): Promise<void> {
  await tx.query(
    "select set_config('work_mem', '128MB', true), set_config('hash_mem_multiplier', '4', true), set_config('jit', 'off', true), set_config('cursor_tuple_fraction', '1', true)",
  );
}
