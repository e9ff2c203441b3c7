/**
 * Bringing a file of contacts in: what would happen, and doing it. It goes on in the background, stretch by stretch,
 * each written with what was before; an import is whole or, when it was cancelled or killed, not there.
 */
import type { FieldDef, FieldValue, Wanted } from "~/core/audience";
import { type Given, type LineRead, lineReader, newFieldsOf, type Plan, PlanSchema } from "~/core/importing";
import type { Queries } from "../db/database";
import { Refusal, type Septima } from "../septima";
import { audienceChanged } from "./answers";
import {
  type Changeable,
  type ChangeState,
  changeable,
  changeById,
  setChange,
  undoChange,
  writeChanges,
} from "./changing";
import { fieldsOf, ownFields, setFields } from "./fields";
import { lists, saveList } from "./groups";
import { type FileFacts, fileFacts, forgetFile, recordsOf } from "./import-file";

/** What becomes of the lines of a file. */
export interface ImportCounts {
  /** Contacts that are not there yet. */
  made: number;
  /** Contacts that are there and get something new. */
  changed: number;
  /** Contacts that are there and have it all. */
  same: number;
  /** Of those that are there, who cannot be written to and stay so. */
  suppressed: number;
  /** Lines about an address that came before in the file. */
  again: number;
  rejected: number;
  /** Lines that are taken without something that does not fit. */
  lessened: number;
  /** Lines that were looked at. */
  seen: number;
  [key: string]: number;
}

const NOTHING: ImportCounts = {
  made: 0,
  changed: 0,
  same: 0,
  suppressed: 0,
  again: 0,
  rejected: 0,
  lessened: 0,
  seen: 0,
};

export interface Rejected {
  line: number;
  reason: string;
  cells: string[];
}

/** So many lines are handled in one transaction: others wait so long at most. */
const STRETCH = 800;
/** So many rejected lines are shown before the rest is a number. */
const SHOWN = 400;
/** So many are kept for the file of them, and so many letters of each cell. */
const MOST_REJECTED = 100_000;
const LONGEST_CELL = 1000;

interface Line {
  line: number;
  cells: string[];
  read: LineRead;
}

/** The lines of a file, read by a plan, in stretches. */
async function* linesOf(
  septima: Septima,
  file: FileFacts,
  read: (cells: readonly string[]) => LineRead,
): AsyncGenerator<Line[]> {
  let first = file.reading.header;
  let stretch: Line[] = [];
  for await (const { records } of recordsOf(septima, file)) {
    for (const { line, cells } of records) {
      if (first) {
        first = false;
        continue;
      }
      stretch.push({ line, cells, read: read(cells) });
      if (stretch.length < STRETCH) continue;
      yield stretch;
      stretch = [];
    }
  }
  if (stretch.length > 0) yield stretch;
}

/** Checks a plan against what there is. @throws Refusal that says what it lacks */
async function prepared(septima: Septima, file: FileFacts, plan: Plan): Promise<FieldDef[]> {
  if (plan.columns.length !== file.columns.length)
    throw new Refusal("The file was read differently meanwhile. Look at its columns again.", 409);
  const known = await fieldsOf(septima);
  const keys = new Set(known.map(({ key }) => key));
  const labels = new Set(known.map(({ label }) => label.toLowerCase()));
  const targets = plan.columns.flatMap(({ target }) => (target.to === "field" ? [target.field] : []));
  if (!targets.includes("email"))
    throw new Refusal("Say which column holds the addresses: nobody can be written to without one.");
  const twice = targets.find((key, at) => targets.indexOf(key) !== at);
  if (twice !== undefined)
    throw new Refusal(
      `“${known.find(({ key }) => key === twice)?.label ?? twice}” is filled from two columns.`,
    );
  const made = newFieldsOf(plan);
  for (const { key, label } of made)
    if (keys.has(key) || labels.has(label.toLowerCase()))
      throw new Refusal(
        `There is a field “${label}” already. Choose it, or name the new one differently.`,
        409,
      );
  return [...known, ...made];
}

function readerFor(septima: Septima, file: FileFacts, plan: Plan, fields: readonly FieldDef[]) {
  const thisYear = new Date(septima.now()).getUTCFullYear();
  return lineReader(
    plan,
    file.columns.map(({ name }) => name),
    fields,
    thisYear,
  );
}

export interface Check {
  counts: ImportCounts;
  rejected: Rejected[];
  /** Names of lists in the file that are not there; they are made. */
  newLists: string[];
}

const shortly = (cells: readonly string[]) =>
  cells.map((cell) => (cell.length > LONGEST_CELL ? `${cell.slice(0, LONGEST_CELL).toWellFormed()}…` : cell));

/**
 * What a plan would come to, without changing anything.
 * @param onProgress told how many lines were looked at
 * @throws Refusal that says what the plan lacks, or which line cannot be read
 */
export async function checkImport(
  septima: Septima,
  id: string,
  plan: Plan,
  { signal, onProgress }: { signal?: AbortSignal; onProgress?(counts: ImportCounts): void } = {},
): Promise<Check> {
  const file = await fileFacts(septima, id);
  const fields = await prepared(septima, file, plan);
  const read = readerFor(septima, file, plan, fields);
  const counts = { ...NOTHING };
  const rejected: Rejected[] = [];
  const seen = new Set<string>();
  const named = new Set<string>();
  const byName = new Map((await lists(septima)).map((list) => [list.name.toLowerCase(), list.id]));
  // A list that is made has nobody on it yet.
  const joined = (names: readonly string[]) => [
    ...plan.lists,
    ...(plan.newList.trim() === "" ? [] : [" new"]),
    ...names.map((name) => byName.get(name.toLowerCase()) ?? ` ${name}`),
  ];
  for await (const lines of linesOf(septima, file, read)) {
    signal?.throwIfAborted();
    const given = lines.flatMap(({ read: it }) => ("given" in it ? [it.given] : []));
    const known = await knownContacts(septima.db, given, false);
    for (const { line, cells, read: it } of lines) {
      counts.seen += 1;
      if ("reason" in it) {
        counts.rejected += 1;
        if (rejected.length < SHOWN) rejected.push({ line, reason: it.reason, cells: shortly(cells) });
        continue;
      }
      if (it.left.length > 0) counts.lessened += 1;
      for (const name of it.given.lists) named.add(name);
      const address = it.given.email.toLowerCase();
      const contact = known.get(address);
      if (seen.has(address)) counts.again += 1;
      else if (!contact) counts.made += 1;
      else {
        if (contact.status !== "subscribed") counts.suppressed += 1;
        if (differs(contact, wantedFrom(it.given, plan, contact, joined(it.given.lists))))
          counts.changed += 1;
        else counts.same += 1;
      }
      seen.add(address);
    }
    onProgress?.(counts);
  }
  return {
    counts,
    rejected,
    newLists: [...named].filter((name) => !byName.has(name.toLowerCase())).slice(0, 50),
  };
}

/** Contacts of the addresses that lines give, by address in small letters. Somebody removed is there, too. */
async function knownContacts(
  db: Queries,
  given: readonly Given[],
  held = true,
): Promise<Map<string, Changeable & { email: string }>> {
  if (given.length === 0) return new Map();
  const addresses = given.map(({ email }) => email.toLowerCase());
  const rows = await changeable(db, "lower(c.email) = any ($1::text[])", [addresses], held);
  return new Map(rows.map((contact) => [contact.email.toLowerCase(), contact]));
}

const lacks = (value: unknown) =>
  value === undefined || value === null || value === "" || (Array.isArray(value) && value.length === 0);

/** What a line comes to for somebody who is there already. */
function wantedFrom(given: Given, plan: Plan, contact: Changeable | null, join: readonly string[]): Wanted {
  if (contact && plan.known === "keep") return {};
  const fields: Record<string, FieldValue> = {};
  for (const [key, value] of Object.entries(given.fields))
    if (!contact || plan.known === "update" || lacks(contact.fields[key])) fields[key] = value;
  // How they agreed is said of those who come in now; what is known of others stays.
  const { source, date } = plan.consent;
  if (source.trim() !== "" && lacks(contact?.fields.consent_source)) {
    fields.consent_source ??= source.trim();
    if (date !== "") fields.consent_date ??= date;
  }
  return {
    fields,
    join,
    // A file can say that somebody must not be written to; never that they may again.
    ...(given.status && (!contact || contact.status === "subscribed") && { status: given.status }),
    ...(contact?.status === "removed" && { status: given.status ?? "unsubscribed" }),
  };
}

function differs(contact: Changeable, wanted: Wanted): boolean {
  const { fields = {}, join = [], status } = wanted;
  return (
    Object.entries(fields).some(
      ([key, value]) => JSON.stringify(contact.fields[key]) !== JSON.stringify(value),
    ) ||
    join.some((list) => !contact.lists.includes(list)) ||
    (status !== undefined && status !== contact.status)
  );
}

const stopKey = (id: string) => `stop import ${id}`;

/** Asks an import to end: it is taken back. */
export function cancelImport(septima: Septima, id: string): void {
  septima.cache.set(stopKey(id), true);
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
  const begun = await septima.db.query(
    `insert into changes (id, kind, name, state, plan, counts, alive_at, started_at)
     values ($1, 'import', $2, 'running', $3::jsonb, $4::jsonb, $5, $5) on conflict do nothing returning id`,
    [id, file.name, JSON.stringify(plan), JSON.stringify(NOTHING), new Date(septima.now())],
  );
  if (begun.length === 0) throw new Refusal("This file is being brought in already.", 409);
  septima.cache.delete(stopKey(id));
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
      await undoImport(septima, id);
    }
  } catch (error) {
    const trouble = `${error instanceof Refusal ? error.message : "Something went wrong in Septima."} What had come in was taken back.`;
    await setChange(septima.db, septima, id, { state: "failed", trouble }).catch(() => undefined);
    await undoImport(septima, id).catch(() => undefined);
    if (!(error instanceof Refusal)) throw error;
  } finally {
    septima.cache.delete(stopKey(id));
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
  const counts = { ...NOTHING };
  const byName = new Map((await lists(septima)).map((list) => [list.name.toLowerCase(), list.id]));
  const seen = new Set<string>();
  const options = new Map<string, Set<string>>(
    newFieldsOf(plan)
      .filter(({ kind }) => kind === "choice" || kind === "set")
      .map(({ key }) => [key, new Set()]),
  );
  for await (const lines of linesOf(septima, file, read)) {
    if (septima.cache.has(stopKey(id)) || septima.stopping.aborted) return false;
    const named = new Set(lines.flatMap(({ read: it }) => ("given" in it ? it.given.lists : [])));
    await listsNamed(septima, id, named, byName);
    for (const { read: it } of lines)
      if ("given" in it)
        for (const [key, values] of options)
          for (const value of [it.given.fields[key] ?? []].flat()) values.add(String(value));
    await septima.db.transaction((tx) =>
      bringStretch(tx, septima, id, lines, { plan, join, byName, counts, seen }),
    );
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
    counts,
    seen,
  }: {
    plan: Plan;
    join: readonly string[];
    byName: ReadonlyMap<string, string>;
    counts: ImportCounts;
    seen: Set<string>;
  },
): Promise<void> {
  const rejected: Rejected[] = [];
  const taken: Given[] = [];
  for (const { line, cells, read: it } of lines) {
    counts.seen += 1;
    if ("reason" in it) {
      counts.rejected += 1;
      if (counts.rejected <= MOST_REJECTED) rejected.push({ line, reason: it.reason, cells: shortly(cells) });
      continue;
    }
    if (it.left.length > 0) counts.lessened += 1;
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
    const wanted = now.flatMap((given) => {
      const contact = known.get(given.email.toLowerCase());
      return contact ? [{ contact, wanted: wantedFrom(given, plan, contact, joined(given)) }] : [];
    });
    await writeChanges(tx, id, wanted, made);
    for (const given of now) {
      const address = given.email.toLowerCase();
      const contact = known.get(address);
      if (seen.has(address)) counts.again += 1;
      else if (!contact) counts.made += 1;
      else {
        if (contact.status !== "subscribed") counts.suppressed += 1;
        if (differs(contact, wantedFrom(given, plan, contact, joined(given)))) counts.changed += 1;
        else counts.same += 1;
      }
      seen.add(address);
    }
    rest = later;
  }
  if (rejected.length > 0)
    await tx.query(
      `insert into rejected_lines (change_id, line, reason, cells)
       select $1, line, reason, cells from jsonb_to_recordset($2::jsonb) as r(line integer, reason text, cells jsonb)
       on conflict do nothing`,
      [id, JSON.stringify(rejected).replaceAll("\\u0000", "")],
    );
  await setChange(tx, septima, id, { counts });
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

/**
 * Takes an import back: who it made goes, what it changed is as it was, and the fields and lists it made go where nobody
 * else uses them.
 * @throws Refusal (404) when there is none; 409 when it is under way or was taken back
 */
export async function undoImport(septima: Septima, id: string): Promise<void> {
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

/** Takes a change to many contacts back, of whatever kind. @throws Refusal (404, 409) */
export async function takeBack(septima: Septima, id: string): Promise<void> {
  const { kind } = await changeById(septima, id);
  if (kind === "import") await undoImport(septima, id);
  else await undoChange(septima, id);
}

/** A change of which nothing was heard for so long has been left by a process that is gone, in milliseconds. */
const DEAD = 60_000;

/**
 * Takes back what a process began and did not end.
 * @param alone whether no other process can be at it, as on the embedded database
 */
export async function settleChanges(septima: Septima, alone: boolean): Promise<void> {
  const rows = await septima.db.query<{ id: string; state: ChangeState }>(
    `update changes set state = 'failed', alive_at = $1,
       trouble = 'Septima was stopped in the middle of it. What had been changed was taken back.'
     where state in ('running', 'undoing') and (alive_at < $2 or $3) returning id, state`,
    [new Date(septima.now()), new Date(septima.now() - DEAD), alone],
  );
  for (const { id } of rows) await takeBack(septima, id);
}
