/** Taking changes to many contacts back, of whatever kind; also those that a process left in the middle. */
import { newFieldsOf, type Plan, PlanSchema } from "~/core/importing";
import type { Septima } from "../septima";
import { audienceChanged } from "./answers";
import { changeById, undoChange } from "./changing";
import { ownFields, setFields } from "./fields";

/**
 * Takes an import back: who it made goes, what it changed is as it was, and the fields and lists it made go where nobody
 * else uses them.
 * @throws Refusal (404) when there is none; 409 when it is under way or was taken back
 */
async function undoImport(septima: Septima, id: string): Promise<void> {
  const { plan } = await changeById(septima, id);
  await undoChange(septima, id);
  const made = PlanSchema.safeParse(plan);
  if (made.success) await undoTargets(septima, id, made.data);
  audienceChanged(septima);
}

async function undoTargets(septima: Septima, id: string, plan: Plan): Promise<void> {
  await septima.db.query(
    `delete from lists l where (l.id = $1 or l.id like $1 || '-%')
       and not exists (select 1 from list_members m where m.list_id = l.id)`,
    [`list-${id}`],
  );
  const keys = newFieldsOf(plan).map(({ key }) => key);
  if (keys.length === 0) return;
  const used = await septima.db.query<{ key: string }>(
    "select key from unnest($1::text[]) key where exists (select 1 from contacts c where c.fields ? key)",
    [keys],
  );
  const gone = new Set(keys.filter((key) => !used.some((one) => one.key === key)));
  await setFields(
    septima,
    (await ownFields(septima)).filter(({ key }) => !gone.has(key)),
  );
}

/** Takes a change to many contacts back, of whatever kind. @throws Refusal (404, 409) */
export async function takeBack(septima: Septima, id: string): Promise<void> {
  const { kind } = await changeById(septima, id);
  if (kind === "import") await undoImport(septima, id);
  else await undoChange(septima, id);
}

/** A change of which nothing was heard for so long has been left by a process that is gone, in milliseconds. */
const DEAD = 60_000;

/**
 * Takes back what a process began and did not end, and what failed and could not be taken back then, as when the database
 * was away.
 * @param alone whether no other process can be at it, as on the embedded database
 */
export async function settleChanges(septima: Septima, alone: boolean): Promise<void> {
  const rows = await septima.db.query<{ id: string }>(
    `update changes set state = 'failed', alive_at = $1,
       trouble = 'Septima was stopped in the middle of it. What had been changed was taken back.'
     where (state in ('running', 'undoing') and (alive_at < $2 or $3)
       or state = 'failed' and exists (select 1 from change_rows r where r.change_id = changes.id))
     returning id`,
    [new Date(septima.now()), new Date(septima.now() - DEAD), alone],
  );
  for (const { id } of rows) await takeBack(septima, id);
}
