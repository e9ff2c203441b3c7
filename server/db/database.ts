/** A row as it comes from the database, by column name. */
export type Row = Record<string, unknown>;

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
  close(): Promise<void>;
}
