/**
 * On a PostgreSQL server the events lie in tables by month: what is asked of a period looks at its months alone, and old months
 * can be put elsewhere or dropped whole. All statements go to `events`, as they do where it is one table.
 */
import type { Database } from "../db/database";

/** Where events of months lie that have no table yet. */
const OTHERS = "events_others";
/** So many months ahead of now there are tables. */
const AHEAD = 3;

/** The first moment of a month, so many after that of a moment; UTC. */
function monthOf(at: number, further = 0): Date {
  const date = new Date(at);
  return new Date(Date.UTC(date.getUTCFullYear(), date.getUTCMonth() + further, 1));
}

/**
 * Sees to it that there are tables for the months of all events, and for those to come. What is there already is moved into
 * them, a month at a time. Whoever else does it meanwhile waits.
 * @param now milliseconds since 1970
 */
export function keepMonths(db: Database, now: number): Promise<void> {
  return db.alone("event months", async () => {
    await divide(db);
    const others = await db.query<{ month: Date }>(
      `select distinct date_trunc('month', at, 'UTC') as month from ${OTHERS}`,
    );
    const ahead = Array.from({ length: AHEAD + 1 }, (_, further) => monthOf(now, further));
    const wanted = new Set([...others.map(({ month }) => +new Date(month)), ...ahead.map(Number)]);
    for (const month of [...wanted].sort((a, b) => a - b)) await openMonth(db, month);
  });
}

/** Makes one table into one that can have others for its parts; what it holds stays where it is. */
async function divide(db: Database): Promise<void> {
  const [{ kind }] = await db.query<{ kind: string }>(
    "select relkind::text as kind from pg_class where oid = 'events'::regclass",
  );
  if (kind === "p") return;
  await db.transaction(async (tx) => {
    await tx.query("lock table events in access exclusive mode");
    const indexes = await tx.query<{ name: string; definition: string }>(
      "select indexname as name, indexdef as definition from pg_indexes where schemaname = current_schema() and tablename = 'events'",
    );
    const triggers = await tx.query<{ definition: string }>(
      "select pg_get_triggerdef(oid) as definition from pg_trigger where tgrelid = 'events'::regclass and not tgisinternal",
    );
    await tx.script(`alter table events rename to ${OTHERS}`);
    for (const { name } of indexes) await tx.script(`alter index "${name}" rename to "${OTHERS}_${name}"`);
    await tx.script(
      `create table events (like ${OTHERS} including defaults including constraints) partition by range (at)`,
    );
    for (const { definition } of indexes) await tx.script(definition);
    // Changes are told of once, by the whole.
    await tx.script(`drop trigger if exists tell_of_changes on ${OTHERS}`);
    for (const { definition } of triggers) await tx.script(definition);
    await tx.script(`alter table events attach partition ${OTHERS} default`);
  });
}

/** Makes the table of a month, with what there is of it already. */
async function openMonth(db: Database, month: number): Promise<void> {
  const [from, until] = [new Date(month), monthOf(month, 1)].map((date) => date.toISOString());
  const table = `events_${from.slice(0, 7).replace("-", "_")}`;
  const [there] = await db.query("select 1 from pg_class where oid = to_regclass($1)", [table]);
  if (there) return;
  await db.transaction(async (tx) => {
    // Whoever adds events waits until they know where to.
    await tx.query("lock table events in access exclusive mode");
    await tx.script(`create table ${table} (like events including defaults including constraints)`);
    await tx.query(
      `with moved as (delete from ${OTHERS} where at >= $1 and at < $2 returning *) insert into ${table} select * from moved`,
      [from, until],
    );
    await tx.script(
      `alter table events attach partition ${table} for values from ('${from}') to ('${until}')`,
    );
  });
}
