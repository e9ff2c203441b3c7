/** Sources: where live content comes from, kept as it was read last, read again on a rhythm. */
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { z } from "zod";
import type { SourceKind } from "~/core/items";
import { type Format, fetchedFrom, isCatalogue, type Mapping, MappingSchema } from "~/core/sources";
import type { ColumnFacts } from "~/core/tables";
import { allowBroad } from "../db/database";
import { fetchInto, resolveAddress, type Validators } from "../fetching";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { type DocumentRead, MOST_OCTETS_OF_ITEMS, MOST_WHOLE } from "./reading";
import { findSizes } from "./sizes";
import { type Changes, ChangesSchema, forgetReading, putInPlace, takeIn } from "./store";

/** Where live content comes from, and how it is. */
export interface Source {
  id: string;
  name: string;
  kind: SourceKind;
  format: Format;
  /** Where its items come from: fetched, from a file that was given by hand, or told by another system. */
  comes: "address" | "file" | "door";
  /** Empty where it is not fetched. */
  address: string;
  /** What the file was called that was given by hand; null for an address. */
  fileName: string | null;
  /** How many items it holds. */
  held: number;
  /** What its columns are, and what they mean; none of feeds and calendars. */
  columns: ColumnFacts[];
  mapping: Mapping | null;
  /** What was odd about the last good copy. */
  problems: string[];
  /** Read again after so many minutes; null for never. */
  every: number | null;
  /** Where it cannot be read, a sending that shows it stops once the last good copy is so many hours old; null for never. */
  stopsAfter: number | null;
  /** ISO times; `failure` says what went wrong at `failedAt`, if that is later than `refreshedAt`. */
  refreshedAt: string | null;
  failedAt: string | null;
  failure: string | null;
  /** When its items were last seen to change, and how many. */
  changedAt: string | null;
  changes: Changes | null;
}

interface SourceRow {
  id: string;
  name: string;
  kind: SourceKind;
  format: Format;
  address: string;
  file_name: string | null;
  file: string | null;
  door_key: string | null;
  held: number;
  columns: ColumnFacts[];
  mapping: unknown;
  problems: unknown;
  every: number | null;
  stops_after: number | null;
  etag: string | null;
  modified: string | null;
  refreshed_at: Date | null;
  failed_at: Date | null;
  failure: string | null;
  changed_at: Date | null;
  changes: unknown;
}

function readSource(row: SourceRow): Source {
  return {
    id: row.id,
    name: row.name,
    kind: row.kind,
    comes: row.door_key !== null ? "door" : row.file !== null ? "file" : "address",
    format: row.format,
    address: row.address,
    fileName: row.file_name,
    held: row.held,
    columns: row.columns,
    mapping: MappingSchema.nullable().parse(row.mapping),
    problems: z.array(z.string()).parse(row.problems),
    every: row.every,
    stopsAfter: row.stops_after,
    refreshedAt: row.refreshed_at?.toISOString() ?? null,
    failedAt: row.failed_at?.toISOString() ?? null,
    failure: row.failure,
    changedAt: row.changed_at?.toISOString() ?? null,
    changes: ChangesSchema.nullable().parse(row.changes),
  };
}

/** How many sources are fetched side by side. */
const AT_ONCE = 8;
/** What may come of a feed, and of anything else. */
const FEED_LIMITS = { ms: 10_000, bytes: MOST_WHOLE.feed };
const LIMITS = { ms: 60_000, bytes: MOST_OCTETS_OF_ITEMS };
/** Read again after so many minutes, unless somebody says otherwise. */
const USUAL_RHYTHM: Record<SourceKind, number> = { feed: 10, catalogue: 60, calendar: 60, records: 60 };
/** What a process that ended left half taken in is forgotten after so long, in milliseconds. */
const LEFT_OVER = 86_400_000;

/** All sources by name. */
export async function sources(septima: Septima): Promise<Source[]> {
  return (
    await septima.db.query<SourceRow>(
      "select * from sources where deleted_at is null order by lower(name), id",
    )
  ).map(readSource);
}

async function rowOf(septima: Septima, id: string): Promise<SourceRow> {
  const [row] = await septima.db.query<SourceRow>("select * from sources where id = $1", [id]);
  if (!row) throw new Refusal("This source does not exist any more.", 404);
  return row;
}

/** Where a document comes from: an address, or a file that is kept under a name. */
type Origin = { address: string } | { file: string; fileName: string };

/** What was read of a document, and what its server said of it; null where it is the copy at hand. */
type Loaded = { read: DocumentRead; reading: string; validators: Validators | null };

/** Fetches and reads a document, and takes its items in under a name of their own. @throws Refusal */
async function load(
  septima: Septima,
  origin: Origin,
  known: { format?: Format; mapping?: Mapping; validators?: Validators },
): Promise<Loaded | null> {
  const folder = await mkdtemp(path.join(tmpdir(), "septima-source-"));
  try {
    const [document, items] = ["document", "items"].map((name) => path.join(folder, name));
    let validators: Validators | null = null;
    let file = document;
    let base: string | null = null;
    if ("address" in origin) {
      base = resolveAddress(septima, fetchedFrom(origin.address));
      const limits = known.format === "feed" ? FEED_LIMITS : LIMITS;
      // Of a calendar other appointments are near today, whether it has changed or not.
      const asked = known.format === "calendar" ? undefined : known.validators;
      validators = await fetchInto(septima, base, document, limits, asked);
      if (validators === null) return null;
    } else {
      const kept = await septima.files.at(origin.file);
      if (kept === null) throw new Refusal(`The file “${origin.fileName}” is gone. Give it again.`);
      file = kept;
    }
    const read = await septima.sourceWork.run("document", {
      file,
      to: items,
      base,
      now: septima.now(),
      format: known.format,
      mapping: known.mapping,
    });
    const reading = `${new Date(septima.now()).toISOString()} ${septima.newId()}`;
    try {
      await takeIn(septima, reading, items);
    } catch (error) {
      await forgetReading(septima, reading);
      throw error;
    }
    return { read, reading, validators };
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

const kindOf = ({ format, mapping }: Pick<DocumentRead, "format" | "mapping">): SourceKind =>
  format === "feed" || format === "calendar"
    ? format
    : mapping && isCatalogue(mapping)
      ? "catalogue"
      : "records";

/** Puts what was read in the place of what a source held, all at once. */
async function settle(septima: Septima, id: string, { read, reading, validators }: Loaded): Promise<void> {
  const at = new Date(septima.now());
  await septima.db.transaction(async (tx) => {
    const [row] = await tx.query<{ refreshed_at: Date | null }>(
      "select refreshed_at from sources where id = $1 for update",
      [id],
    );
    if (!row) throw new Refusal("This source does not exist any more.", 404);
    // A whole catalogue passes at once.
    await allowBroad(tx);
    const changes = await putInPlace(tx, id, reading, at, row.refreshed_at === null ? "first" : "whole");
    const changed = Object.values(changes).some((count) => count > 0);
    await tx.query(
      `update sources set held = $2, problems = $3::jsonb, columns = $4::jsonb, mapping = $5::jsonb, format = $6, kind = $7,
         etag = $8, modified = $9, refreshed_at = $10, failed_at = null, failure = null,
         changed_at = case when $11 then $10::timestamptz else changed_at end,
         changes = case when $11 then $12::jsonb else changes end
       where id = $1`,
      [
        id,
        read.count,
        JSON.stringify(read.problems),
        JSON.stringify(read.columns),
        JSON.stringify(read.mapping),
        read.format,
        kindOf(read),
        validators?.etag ?? null,
        validators?.modified ?? null,
        at,
        changed,
        JSON.stringify(changes),
      ],
    );
  });
  // How high pictures are is looked up for those that lists show.
  if (read.format === "feed") await findSizes(septima, id);
}

/**
 * Adds a source by its address, once it could be read. What it is it says itself.
 * @throws Refusal that says why it could not; then nothing is added
 */
export async function addSource(septima: Septima, address: string, name?: string): Promise<string> {
  return add(septima, { address: address.trim() }, name);
}

/**
 * Adds a source by a file, which is kept.
 * @param file the name under which it is kept among the files
 * @throws Refusal that says why it cannot be read; then nothing is added
 */
export async function addFile(septima: Septima, file: string, fileName: string): Promise<string> {
  return add(septima, { file, fileName }, fileName.replace(/\.\w{1,6}$/, ""));
}

async function add(septima: Septima, origin: Origin, name?: string): Promise<string> {
  const loaded = (await load(septima, origin, {})) as Loaded;
  const id = septima.newId();
  const kind = kindOf(loaded.read);
  const [address, file, fileName] =
    "address" in origin ? [origin.address, null, null] : ["", origin.file, origin.fileName];
  await septima.db.query(
    `insert into sources (id, name, kind, address, file, file_name, every, created_at)
     values ($1, $2, $3, $4, $5, $6, $7, $8)`,
    [
      id,
      name || loaded.read.name || nameFrom(address),
      kind,
      address,
      file,
      fileName,
      file === null ? USUAL_RHYTHM[kind] : null,
      new Date(septima.now()),
    ],
  );
  await settle(septima, id, loaded);
  return id;
}

/** What a source is called that does not say so: the last part of its address. */
function nameFrom(address: string): string {
  const last =
    address
      .replace(/[?#].*$/, "")
      .split("/")
      .filter(Boolean)
      .at(-1) ?? address;
  return last.replace(/\.\w{1,6}$/, "").replace(/[-_]+/g, " ") || address;
}

const originOf = (row: SourceRow): Origin =>
  row.file === null
    ? { address: row.address }
    : { file: row.file, fileName: row.file_name ?? "without a name" };

/** Reads a source again by what is said of it now; what was odd is thrown. */
async function reread(septima: Septima, row: SourceRow, mapping?: Mapping): Promise<void> {
  const loaded = await load(septima, originOf(row), {
    format: row.format,
    mapping: mapping ?? MappingSchema.nullable().parse(row.mapping) ?? undefined,
    ...(mapping === undefined && { validators: { etag: row.etag, modified: row.modified } }),
  });
  if (loaded) await settle(septima, row.id, loaded);
  else
    await septima.db.query(
      "update sources set refreshed_at = $2, failed_at = null, failure = null where id = $1",
      [row.id, new Date(septima.now())],
    );
}

/**
 * Fetches a source again. When that fails, the last good copy stays and the failure is noted beside it.
 * @returns the failure in words, or null
 */
export async function refreshSource(septima: Septima, id: string): Promise<string | null> {
  const row = await rowOf(septima, id);
  // What another system tells is not asked for.
  if (row.door_key !== null) return null;
  try {
    await reread(septima, row);
    return null;
  } catch (error) {
    // Whatever a source holds, it must not end the work for the others.
    const words =
      error instanceof Refusal ? error.message : `It could not be read (${(error as Error).message}).`;
    // It may quote what it holds, which may be anything.
    const failure = words.replace(/\p{Cc}+/gu, " ").toWellFormed();
    await septima.db.query("update sources set failed_at = $2, failure = $3 where id = $1", [
      id,
      new Date(septima.now()),
      failure,
    ]);
    return failure;
  }
}

/**
 * Fetches sources side by side, each within its own limits: one that hangs delays no other.
 * @param ids which; all when missing
 */
export async function refreshAll(septima: Septima, ids?: readonly string[]): Promise<void> {
  const rows = await septima.db.query<{ id: string }>(
    "select id from sources where deleted_at is null and ($1::text[] is null or id = any($1)) order by id",
    [ids ?? null],
  );
  let next = 0;
  const worker = async () => {
    while (next < rows.length) await refreshSource(septima, rows[next++].id);
  };
  await Promise.all(Array.from({ length: AT_ONCE }, worker));
}

/** Fetches the sources whose time has come. One that failed is tried again by the same rhythm. */
export async function refreshDue(septima: Septima): Promise<void> {
  const now = septima.now();
  await septima.db.query("delete from items_read where reading < $1", [
    new Date(now - LEFT_OVER).toISOString(),
  ]);
  const due = await septima.db.query<{ id: string }>(
    `select id from sources where deleted_at is null and every is not null
       and greatest(refreshed_at, failed_at) <= $1::timestamptz - make_interval(mins => every)`,
    [new Date(now)],
  );
  if (due.length > 0)
    await refreshAll(
      septima,
      due.map(({ id }) => id),
    );
}

/** Changes where a source is fetched from; the copy at hand stays until the new address has answered. */
export async function moveSource(septima: Septima, id: string, address: string): Promise<string | null> {
  await septima.db.query(
    "update sources set address = $2, file = null, file_name = null, etag = null, modified = null where id = $1",
    [id, address.trim()],
  );
  return refreshSource(septima, id);
}

/**
 * Says what the columns of a source mean, and reads it anew by that.
 * @throws Refusal where it cannot be read so; then everything stays as it was
 */
export async function setMapping(septima: Septima, id: string, mapping: Mapping): Promise<void> {
  const titles = mapping.columns.filter(({ target }) => target.to === "part" && target.part === "title");
  if (titles.length === 0) throw new Refusal("Say which column is the title: items are known by it.");
  await reread(septima, await rowOf(septima, id), mapping);
}

/** Says what a source is called, how often it is read again, and what becomes of sendings when it cannot be. */
export async function setSource(
  septima: Septima,
  id: string,
  { name, every, stopsAfter }: { name: string; every: number | null; stopsAfter: number | null },
): Promise<void> {
  if (name.trim() === "") throw new Refusal("A source needs a name.");
  await septima.db.query("update sources set name = $2, every = $3, stops_after = $4 where id = $1", [
    id,
    name.trim(),
    every,
    stopsAfter,
  ]);
}
