/**
 * Bringing a file of contacts in. It goes on in the background, stretch by stretch,
 * each written with what was before; an import is whole or, when it was cancelled or killed, not there.
 */
import type { FieldDef, Wanted } from "~/core/audience";
import { type Given, newFieldsOf, type Plan, PlanSchema, Tally, wantedFrom } from "~/core/importing";
import type { Queries } from "../db/database";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { audienceChanged } from "./answers";
import { beginChange, type Changeable, setChange, writeChanges } from "./changing";
import { ownFields, setFields } from "./fields";
import { lists, saveList } from "./groups";
import { type FileFacts, fileFacts, forgetFile } from "./import-file";
import {
  knownContacts,
  type Line,
  linesOf,
  MOST_REJECTED,
  prepared,
  type Rejected,
  readerFor,
  shortly,
} from "./import-lines";
import { takeBack } from "./taking-back";

/** Asks an import to end, whichever process does it: it is taken back. */
export async function cancelImport(septima: Septima, id: string): Promise<void> {
  await septima.db.query("update changes set asked_to_stop = true where id = $1 and state = 'running'", [id]);
}

async function askedToStop(septima: Septima, id: string): Promise<boolean> {
  const [row] = await septima.db.query<{ asked: boolean }>(
    "select asked_to_stop as asked from changes where id = $1",
    [id],
  );
  return row?.asked ?? true;
}

/**
 * Brings a file in, in the background; its id is that of the change.
 * @returns when it has ended
 * @throws Refusal that says what the plan lacks; 409 when it was begun already
 */
export async function runImport(
  septima: Septima,
  id: string,
  given: Plan,
): Promise<{ finished: Promise<void> }> {
  const plan = PlanSchema.parse(given);
  const file = await fileFacts(septima, id);
  const fields = await prepared(septima, file, plan);
  if (!(await beginChange(septima, { id, kind: "import", name: file.name, plan })))
    throw new Refusal("This file is being brought in already.", 409);
  return { finished: carryOut(septima, file, plan, fields) };
}

async function carryOut(
  septima: Septima,
  file: FileFacts,
  plan: Plan,
  fields: readonly FieldDef[],
): Promise<void> {
  const { id } = file;
  try {
    const join = await prepareTargets(septima, id, plan);
    const done = await bringIn(septima, file, plan, fields, join);
    if (done) {
      await setChange(septima.db, septima, id, { state: "done" });
      await forgetFile(septima, id);
    } else {
      await setChange(septima.db, septima, id, {
        state: "stopped",
        trouble: "It was cancelled, and taken back.",
      });
      await takeBack(septima, id);
    }
  } catch (error) {
    const trouble = `${error instanceof Refusal ? error.message : "Something went wrong in Septima."} What had come in was taken back.`;
    await setChange(septima.db, septima, id, { state: "failed", trouble }).catch(() => undefined);
    await takeBack(septima, id).catch(() => undefined);
    if (!(error instanceof Refusal)) throw error;
  } finally {
    audienceChanged(septima);
  }
}

/** Makes the fields and the list that a plan asks for. Returns the lists that everybody is put on. */
async function prepareTargets(septima: Septima, id: string, plan: Plan): Promise<string[]> {
  const made = newFieldsOf(plan);
  if (made.length > 0) await setFields(septima, [...(await ownFields(septima)), ...made]);
  const there = new Set((await lists(septima)).map((list) => list.id));
  const join = plan.lists.filter((list) => there.has(list));
  if (plan.newList.trim() !== "") {
    const list = `list-${id}`;
    await saveList(septima, { id: list, name: plan.newList, about: "", topic: false });
    join.push(list);
  }
  return join;
}

/** The ids of lists by their names; what is not there is made. */
async function listsNamed(
  septima: Septima,
  importId: string,
  names: ReadonlySet<string>,
  known: Map<string, string>,
) {
  for (const name of names) {
    const key = name.toLowerCase();
    if (known.has(key)) continue;
    const list = `list-${importId}-${known.size}`;
    await saveList(septima, { id: list, name, about: "", topic: false });
    known.set(key, list);
  }
}

/** Returns whether it came to its end. */
async function bringIn(
  septima: Septima,
  file: FileFacts,
  plan: Plan,
  fields: readonly FieldDef[],
  join: readonly string[],
): Promise<boolean> {
  const { id } = file;
  const read = readerFor(septima, file, plan, fields);
  const tally = new Tally();
  const byName = new Map((await lists(septima)).map((list) => [list.name.toLowerCase(), list.id]));
  const options = new Map<string, Set<string>>(
    newFieldsOf(plan)
      .filter(({ kind }) => kind === "choice" || kind === "set")
      .map(({ key }) => [key, new Set()]),
  );
  for await (const lines of linesOf(septima, file, read)) {
    if (septima.stopping.aborted || (await askedToStop(septima, id))) return false;
    const named = new Set(lines.flatMap(({ read: it }) => ("given" in it ? it.given.lists : [])));
    await listsNamed(septima, id, named, byName);
    for (const { read: it } of lines)
      if ("given" in it)
        for (const [key, values] of options)
          for (const value of [it.given.fields[key] ?? []].flat()) values.add(String(value));
    await septima.db.transaction((tx) => bringStretch(tx, septima, id, lines, { plan, join, byName, tally }));
  }
  await keepOptions(septima, options);
  return true;
}

/** So long a choice may be that is offered, and so many are. */
const CHOICE = { longest: 200, most: 500 };

/** New choices offer what the file had; a field with values too long to choose from stays open. */
async function keepOptions(
  septima: Septima,
  options: ReadonlyMap<string, ReadonlySet<string>>,
): Promise<void> {
  const offered = new Map(
    [...options].filter(
      ([, values]) =>
        values.size <= CHOICE.most && [...values].every((value) => value.length <= CHOICE.longest),
    ),
  );
  if (offered.size === 0) return;
  await setFields(
    septima,
    (await ownFields(septima)).map((field) => {
      const values = offered.get(field.key);
      return values && values.size > 0
        ? { ...field, options: [...values].map((value) => ({ value, label: value })) }
        : field;
    }),
  );
}

async function bringStretch(
  tx: Queries,
  septima: Septima,
  id: string,
  lines: readonly Line[],
  {
    plan,
    join,
    byName,
    tally,
  }: {
    plan: Plan;
    join: readonly string[];
    byName: ReadonlyMap<string, string>;
    tally: Tally;
  },
): Promise<void> {
  const rejected: Rejected[] = [];
  const taken: Given[] = [];
  for (const { line, cells, read: it } of lines) {
    tally.line(it);
    if ("reason" in it) {
      if (tally.counts.rejected <= MOST_REJECTED)
        rejected.push({ line, reason: it.reason, cells: shortly(cells) });
      continue;
    }
    taken.push(it.given);
  }
  const joined = (given: Given) => [
    ...new Set([...join, ...given.lists.flatMap((name) => byName.get(name.toLowerCase()) ?? [])]),
  ];
  // Of an address that comes more than once, the lines are taken one after the other.
  let rest = taken;
  while (rest.length > 0) {
    const now: Given[] = [];
    const later: Given[] = [];
    const here = new Set<string>();
    for (const given of rest) {
      const address = given.email.toLowerCase();
      (here.has(address) ? later : now).push(given);
      here.add(address);
    }
    const known = await knownContacts(tx, now);
    const fresh = now.filter(({ email }) => !known.has(email.toLowerCase()));
    const made = await insertContacts(tx, septima, fresh, plan, joined);
    const changed: { contact: Changeable; wanted: Wanted }[] = [];
    for (const given of now) {
      const address = given.email.toLowerCase();
      const contact = known.get(address) ?? null;
      const wanted = wantedFrom(given, plan, contact, joined(given));
      tally.meets(address, contact, wanted);
      if (contact) changed.push({ contact, wanted });
    }
    await writeChanges(tx, id, changed, made);
    rest = later;
  }
  if (rejected.length > 0)
    await tx.query(
      `insert into rejected_lines (change_id, line, reason, cells)
       select $1, line, reason, cells from jsonb_to_recordset($2::jsonb) as r(line integer, reason text, cells jsonb)
       on conflict do nothing`,
      [id, JSON.stringify(rejected).replaceAll("\\u0000", "")],
    );
  await setChange(tx, septima, id, { counts: tally.counts });
}

async function insertContacts(
  tx: Queries,
  septima: Septima,
  given: readonly Given[],
  plan: Plan,
  joined: (given: Given) => string[],
): Promise<Changeable[]> {
  if (given.length === 0) return [];
  const rows = given.map((one) => {
    const { fields = {}, status = "subscribed" } = wantedFrom(one, plan, null, []);
    return { email: one.email, fields, status };
  });
  const at = new Date(septima.now());
  const made = await tx.query<{ id: number; email: string }>(
    `insert into contacts (email, fields, status, created_at)
     select email, fields, status, $2 from jsonb_to_recordset($1::jsonb) as r(email text, fields jsonb, status text)
     on conflict do nothing returning id, email`,
    [JSON.stringify(rows), at],
  );
  const ids = new Map(made.map(({ id, email }) => [email, id]));
  return given.flatMap((one, index) => {
    // Somebody else may have made one of them in this moment; then it is theirs.
    const id = ids.get(one.email);
    const { fields, status } = rows[index];
    return id === undefined ? [] : [{ id, fields, status, lists: joined(one) }];
  });
}

/** The lines of a file that were not taken, with why. */
export async function rejectedLines(
  septima: Septima,
  id: string,
  limit = MOST_REJECTED,
): Promise<Rejected[]> {
  return septima.db.query<Rejected>(
    "select line, reason, cells from rejected_lines where change_id = $1 order by line limit $2",
    [id, limit],
  );
}
