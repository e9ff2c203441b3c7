/** Changes that reach many designs one after the other: what a process left in the middle, the next one does. */
import { z } from "zod";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";

/** What is carried on, by its kind. */
const SCHEMAS = {
  /** A clipping that was changed, to the designs that hold it linked. */
  clipping: z.object({ clipping: z.string() }),
  /** A picture that was saved over, to what shows it. */
  picture: z.object({ picture: z.string(), scheduled: z.array(z.string()).optional() }),
  /** A template's changes, to the campaigns that take them. */
  template: z.object({
    template: z.string(),
    asked: z.array(z.object({ campaign: z.string(), parts: z.array(z.string()) })),
  }),
};
type Kind = keyof typeof SCHEMAS;
type Data = { [K in Kind]: z.infer<(typeof SCHEMAS)[K]> };

/** How each kind is done to its end; whatever of it is done already is left alone. */
export type Carriers = { [K in Kind]: (septima: Septima, data: Data[K]) => Promise<unknown> };

/**
 * Does a change that is written down until it is done. One that is refused has come to its end, too.
 * @throws what the work throws
 */
export async function carried<K extends Kind, T>(
  septima: Septima,
  kind: K,
  data: Data[K],
  work: () => Promise<T>,
): Promise<T> {
  const id = septima.newId();
  await septima.db.query("insert into carrying (id, kind, data, begun_at) values ($1, $2, $3::jsonb, $4)", [
    id,
    kind,
    JSON.stringify(data),
    new Date(septima.now()),
  ]);
  const end = () => septima.db.query("delete from carrying where id = $1", [id]);
  try {
    const done = await work();
    await end();
    return done;
  } catch (error) {
    if (error instanceof Refusal) await end();
    throw error;
  }
}

/** What was begun so long ago is not being done by anybody any more, in milliseconds. */
const DEAD = 10 * 60_000;

/**
 * Does what processes before left in the middle, oldest first. Returns how many there were.
 * @param alone whether no other process can be at it
 */
export async function finishCarrying(septima: Septima, carriers: Carriers, alone: boolean): Promise<number> {
  const rows = await septima.db.query<{ id: string; kind: string; data: unknown }>(
    "select id, kind, data from carrying where $1 or begun_at < $2 order by begun_at, id",
    [alone, new Date(septima.now() - DEAD)],
  );
  const carry = async <K extends Kind>(kind: K, data: unknown) => {
    const read = SCHEMAS[kind].parse(data) as Data[K];
    await carriers[kind](septima, read);
  };
  for (const { id, kind, data } of rows) {
    try {
      if (Object.hasOwn(SCHEMAS, kind)) await carry(kind as Kind, data);
    } catch (error) {
      // What is gone since, or cannot be changed any more, needs nothing.
      if (!(error instanceof Refusal)) throw error;
    }
    await septima.db.query("delete from carrying where id = $1", [id]);
  }
  return rows.length;
}
