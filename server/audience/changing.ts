/**
 * Changing many contacts at once: in stretches, each written together with what was before, so that the whole can be
 * taken back, also after the process was killed in the middle.
 */

import { type ContactState, change, type Done, together, undone, type Wanted } from "~/core/audience";
import type { Queries } from "../db/database";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { audienceChanged } from "./answers";
import { WISHES_NONE } from "./choices";

export type ChangeState = "running" | "done" | "stopped" | "undoing" | "undone" | "failed";

export interface Change {
  id: string;
  kind: "import" | "bulk";
  name: string;
  state: ChangeState;
  counts: Record<string, number>;
  trouble: string | null;
  startedAt: string;
  endedAt: string | null;
}

/** A contact as it is changed. */
export type Changeable = ContactState & { id: number };

/** So many contacts are changed in one transaction: others wait so long at most. */
const STRETCH = 800;

/**
 * Writes down that a change begins.
 * @param plan what it goes by, kept with it
 * @returns whether it does: of an id there is one change
 */
export async function beginChange(
  septima: Septima,
  { id, kind, name, plan = {} }: Pick<Change, "id" | "kind" | "name"> & { plan?: unknown },
): Promise<boolean> {
  const begun = await septima.db.query(
    `insert into changes (id, kind, name, state, plan, alive_at, started_at)
     values ($1, $2, $3, 'running', $4::jsonb, $5, $5) on conflict do nothing returning id`,
    [id, kind, name, JSON.stringify(plan), new Date(septima.now())],
  );
  return begun.length > 0;
}

/** Writes down how far a change is; also that whoever makes it is alive. */
export async function setChange(
  db: Queries,
  septima: Pick<Septima, "now">,
  id: string,
  to: { state?: ChangeState; counts?: Record<string, number>; trouble?: string },
): Promise<void> {
  const at = new Date(septima.now());
  const ended = to.state !== undefined && to.state !== "running" && to.state !== "undoing";
  await db.query(
    `update changes set state = coalesce($2, state), counts = coalesce($3::jsonb, counts), trouble = coalesce($4, trouble),
       alive_at = $5, ended_at = case when $6 then $5 else ended_at end where id = $1`,
    [id, to.state ?? null, to.counts ? JSON.stringify(to.counts) : null, to.trouble ?? null, at, ended],
  );
}

const COLUMNS = `id, kind, name, state, counts, trouble, started_at, ended_at`;
type Row = Omit<Change, "startedAt" | "endedAt"> & { started_at: Date; ended_at: Date | null };
const changeOf = ({ started_at, ended_at, ...row }: Row): Change => ({
  ...row,
  startedAt: started_at.toISOString(),
  endedAt: ended_at?.toISOString() ?? null,
});

/** The latest changes, the newest first. */
export async function changes(septima: Septima, kind: Change["kind"], limit = 20): Promise<Change[]> {
  const rows = await septima.db.query<Row>(
    `select ${COLUMNS} from changes where kind = $1 order by started_at desc limit $2`,
    [kind, limit],
  );
  return rows.map(changeOf);
}

/** @throws Refusal (404) when there is none with that id */
export async function changeById(septima: Septima, id: string): Promise<Change & { plan: unknown }> {
  const [row] = await septima.db.query<Row & { plan: unknown }>(
    `select ${COLUMNS}, plan from changes where id = $1`,
    [id],
  );
  if (!row) throw new Refusal("There is no such import.", 404);
  return { ...changeOf(row), plan: row.plan };
}

/**
 * The contacts that meet a condition on `contacts c`, as they are now.
 * @param held whether nobody else may change them until the transaction ends
 */
export async function changeable(
  tx: Queries,
  where: string,
  params: readonly unknown[],
  held = true,
): Promise<(Changeable & { email: string })[]> {
  return tx.query<Changeable & { email: string }>(
    `with c as materialized (select id, email, fields, status from contacts c where ${where}${held ? " for update" : ""})
     select c.*, coalesce((select array_agg(m.list_id) from list_members m where m.contact_id = c.id), '{}') as lists from c`,
    params,
  );
}

/**
 * Writes what contacts are to be, and what was before.
 * @param made those that the change made itself: they go when it is taken back
 * @returns how many were really changed
 */
export async function writeChanges(
  tx: Queries,
  changeId: string,
  changed: readonly { contact: Changeable; wanted: Wanted }[],
  made: readonly Changeable[] = [],
): Promise<number> {
  const rows = changed.flatMap(({ contact, wanted }) => {
    const it = change(contact, wanted);
    return it ? [{ id: contact.id, ...it }] : [];
  });
  const known = await knownRows(
    tx,
    changeId,
    rows.map(({ id }) => id),
  );
  await writeStates(
    tx,
    rows.map(({ id, next, done }) => ({ id, next, join: done.after.join, leave: done.after.leave })),
  );
  await writeMembers(
    tx,
    made.flatMap(({ id, lists }) => lists.map((list) => ({ id, list }))),
  );
  const kept = rows.flatMap(({ id, done }) => {
    const before = known.get(id);
    // One that the change made itself is gone as a whole.
    if (before === null) return [];
    const all = before ? together(before, done) : done;
    return [{ id, before: all.before, after: all.after }];
  });
  if (made.length > 0)
    await tx.query(
      `insert into change_rows (change_id, contact_id, before, after) select $1, unnest($2::int[]), null, '{}'`,
      [changeId, made.map(({ id }) => id)],
    );
  if (kept.length > 0)
    await tx.query(
      `insert into change_rows (change_id, contact_id, before, after)
       select $1, id, before, after from jsonb_to_recordset($2::jsonb) as r(id integer, before jsonb, after jsonb)
       on conflict (change_id, contact_id) do update set before = excluded.before, after = excluded.after`,
      [changeId, JSON.stringify(kept)],
    );
  return rows.length;
}

/** Writes what contacts are to be, where nobody takes it back. @returns how many were really changed */
export async function alterContacts(
  tx: Queries,
  changed: readonly { contact: Changeable; wanted: Wanted }[],
): Promise<number> {
  const rows = changed.flatMap(({ contact, wanted }) => {
    const it = change(contact, wanted);
    return it
      ? [{ id: contact.id, next: it.next, join: it.done.after.join, leave: it.done.after.leave }]
      : [];
  });
  await writeStates(tx, rows);
  return rows.length;
}

/** What a change did to contacts before; null for those it made. */
async function knownRows(
  tx: Queries,
  changeId: string,
  ids: readonly number[],
): Promise<Map<number, Done | null>> {
  if (ids.length === 0) return new Map();
  const rows = await tx.query<{ contact_id: number; before: Done["before"] | null; after: Wanted }>(
    "select contact_id, before, after from change_rows where change_id = $1 and contact_id = any ($2::int[])",
    [changeId, ids],
  );
  return new Map(
    rows.map(({ contact_id, before, after }) => [contact_id, before === null ? null : { before, after }]),
  );
}

interface Next {
  id: number;
  next: ContactState;
  join?: readonly string[];
  leave?: readonly string[];
}

async function writeStates(tx: Queries, rows: readonly Next[]): Promise<void> {
  if (rows.length === 0) return;
  await tx.query(
    `update contacts c set fields = r.fields,
       status = case when r.status = 'subscribed' and c.status <> 'subscribed' and ${WISHES_NONE}
         then 'unsubscribed' else r.status end
     from jsonb_to_recordset($1::jsonb) as r(id integer, fields jsonb, status text) where c.id = r.id`,
    [JSON.stringify(rows.map(({ id, next: { fields, status } }) => ({ id, fields, status })))],
  );
  await writeMembers(
    tx,
    rows.flatMap(({ id, join = [] }) => join.map((list) => ({ id, list }))),
  );
  const leaving = rows.flatMap(({ id, leave = [] }) => leave.map((list) => ({ id, list })));
  if (leaving.length > 0)
    await tx.query(
      `delete from list_members m using jsonb_to_recordset($1::jsonb) as r(id integer, list text)
       where m.contact_id = r.id and m.list_id = r.list`,
      [JSON.stringify(leaving)],
    );
}

async function writeMembers(tx: Queries, joining: readonly { id: number; list: string }[]): Promise<void> {
  const byList = new Map<string, number[]>();
  for (const { id, list } of joining) {
    const ids = byList.get(list);
    if (ids) ids.push(id);
    else byList.set(list, [id]);
  }
  for (const [list, ids] of byList)
    await tx.query(
      `insert into list_members (list_id, contact_id)
       select id, unnest($2::int[]) from lists where id = $1 on conflict do nothing`,
      [list, ids],
    );
}

/**
 * Changes contacts by their numbers, in the background.
 * @returns the change's id, and when it has ended: how many were changed
 */
export async function changeMany(
  septima: Septima,
  name: string,
  ids: readonly number[],
  wanted: Wanted | ((contact: Changeable) => Wanted),
): Promise<{ id: string; finished: Promise<number> }> {
  const id = septima.newId();
  await beginChange(septima, { id, kind: "bulk", name });
  const work = async () => {
    let changed = 0;
    try {
      for (let from = 0; from < ids.length; from += STRETCH) {
        const stretch = ids.slice(from, from + STRETCH);
        changed += await septima.db.transaction(async (tx) => {
          const contacts = await changeable(tx, "c.id = any ($1::int[])", [stretch]);
          const done = await writeChanges(
            tx,
            id,
            contacts.map((contact) => ({
              contact,
              wanted: typeof wanted === "function" ? wanted(contact) : wanted,
            })),
          );
          const counts = { changed: changed + done, seen: from + stretch.length };
          await setChange(tx, septima, id, { counts });
          return done;
        });
      }
      await setChange(septima.db, septima, id, { state: "done" });
    } catch (error) {
      await setChange(septima.db, septima, id, { state: "failed", trouble: (error as Error).message });
    } finally {
      audienceChanged(septima);
    }
    return changed;
  };
  return { id, finished: work() };
}

/** What refers to a contact that cannot simply go: they were written to, or did something. */
const REFERRED = `exists (select 1 from recipients r where r.contact_id = c.id)
  or exists (select 1 from proofs p where p.contact_id = c.id) or exists (select 1 from unsubscribes u where u.contact_id = c.id)
  or exists (select 1 from events e where e.contact_id = c.id) or exists (select 1 from orders o where o.contact_id = c.id)`;

/**
 * Why a contact that a change made stays when it is taken back: they wished for something since, or somebody changed them.
 * What was sent to them, and what they did with it, asks for no more letters.
 */
const STAYS = `case
  when exists (select 1 from choices h where h.contact_id = c.id) then 'chose what they get'
  when exists (select 1 from unsubscribes u where u.contact_id = c.id) then 'unsubscribed'
  when exists (select 1 from referrals f where f.referrer = c.id or f.contact_id = c.id) then 'brought a friend, or was brought'
  when c.edited_at is not null then 'was edited'
  when exists (select 1 from change_rows o join changes h on h.id = o.change_id
    where o.contact_id = c.id and o.change_id <> $2 and h.state in ('running', 'done')) then 'was changed by something later'
  end`;

/** A contact that stayed when a change was taken back. */
export interface Kept {
  id: number;
  email: string;
  why: string;
}

/** So many who stayed are listed. */
const LISTED = 400;

/** Who stayed when a change was taken back, and why. */
export function keptContacts(septima: Septima, changeId: string): Promise<Kept[]> {
  return septima.db.query<Kept>(
    `select c.id, c.email, k.why from kept_contacts k join contacts c on c.id = k.contact_id
     where k.change_id = $1 order by c.email limit ${LISTED}`,
    [changeId],
  );
}

/**
 * Takes a change back, stretch by stretch, and can be asked again when it was interrupted. Contacts that the change
 * made and that were written to since are put out of sight instead of being deleted; those who acted since stay.
 * @throws Refusal (404) when there is none; 409 when it is under way or was taken back
 */
export async function undoChange(septima: Septima, id: string): Promise<void> {
  const [begun] = await septima.db.query(
    "update changes set state = 'undoing', alive_at = $2 where id = $1 and state in ('done', 'stopped', 'failed', 'undoing') returning id",
    [id, new Date(septima.now())],
  );
  if (!begun) {
    await changeById(septima, id);
    throw new Refusal("It is under way, or was taken back already.", 409);
  }
  try {
    const ids = await changedBy(septima, id);
    for (let from = 0; from < ids.length; from += STRETCH)
      await undoStretch(septima, id, ids[from], ids[Math.min(from + STRETCH, ids.length) - 1]);
    await septima.db.query("delete from rejected_lines where change_id = $1", [id]);
    await setChange(septima.db, septima, id, { state: "undone" });
  } finally {
    audienceChanged(septima);
  }
}

/** The numbers of those whom a change made or changed, as far as it was not taken back. */
async function changedBy({ db }: Septima, changeId: string): Promise<number[]> {
  // Asked once, and not for the next few again and again: the database would put all of them in order each time.
  const [{ ids }] = await db.query<{ ids: string | null }>(
    "select string_agg(contact_id::text, ',' order by contact_id) as ids from change_rows where change_id = $1",
    [changeId],
  );
  return ids === null ? [] : ids.split(",").map(Number);
}

/** Takes back what was done to the contacts from one number to another. */
async function undoStretch(septima: Septima, id: string, from: number, to: number): Promise<void> {
  const these = "change_id = $1 and contact_id between $2 and $3";
  await septima.db.transaction(async (tx) => {
    const rows = await tx.query<{ contact_id: number; before: Done["before"] | null; after: Wanted }>(
      `select contact_id, before, after from change_rows where ${these}`,
      [id, from, to],
    );
    await takeAway(
      tx,
      id,
      rows.flatMap(({ contact_id, before }) => (before === null ? [contact_id] : [])),
    );
    const changed = new Map(
      rows.flatMap(({ contact_id, before, after }) =>
        before ? [[contact_id, { before, after }] as const] : [],
      ),
    );
    const contacts = await changeable(tx, "c.id = any ($1::int[])", [[...changed.keys()]]);
    await writeStates(
      tx,
      contacts.map((contact) => {
        const done = changed.get(contact.id)!;
        return {
          id: contact.id,
          next: undone(contact, done),
          join: done.after.leave,
          leave: done.after.join,
        };
      }),
    );
    await tx.query(`delete from change_rows where ${these}`, [id, from, to]);
    await setChange(tx, septima, id, {});
  });
}

/** Takes away contacts that a change made: those who acted since stay, those written to since are put out of sight. */
async function takeAway(tx: Queries, changeId: string, made: readonly number[]): Promise<void> {
  if (made.length === 0) return;
  // Nobody is written to meanwhile, and what somebody was doing to them has come to its end before it is looked at.
  await tx.query("select from contacts where id = any ($1::int[]) order by id for update", [made]);
  const now = await tx.query<{ id: number; why: string | null; referred: boolean }>(
    `select c.id, ${STAYS} as why, (${REFERRED}) as referred from contacts c where c.id = any ($1::int[])`,
    [made, changeId],
  );
  const staying = now.filter(({ why }) => why !== null);
  const [hidden, gone] = [true, false].map((it) =>
    now.flatMap(({ id, why, referred }) => (why === null && referred === it ? [id] : [])),
  );
  if (staying.length > 0)
    await tx.query(
      `insert into kept_contacts (change_id, contact_id, why)
       select $1, id, why from jsonb_to_recordset($2::jsonb) as r(id integer, why text) on conflict do nothing`,
      [changeId, JSON.stringify(staying)],
    );
  if (hidden.length > 0)
    await tx.query("update contacts set status = 'removed' where id = any ($1::int[])", [hidden]);
  if (gone.length > 0) {
    await tx.query("delete from list_members where contact_id = any ($1::int[])", [gone]);
    await tx.query("delete from contacts where id = any ($1::int[])", [gone]);
  }
}
