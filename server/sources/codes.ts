/** Batches of codes: a code is handed to one reader, once, and reserved before anything is sent. */
import { z } from "zod";
import { FieldKeySchema } from "~/core/audience";
import type { CodeFacts } from "~/core/email";
import { type CodeList, readCodes } from "~/core/sources";
import type { Queries } from "../db/database";
import { Refusal } from "../refusal";
import { cached, type Septima } from "../septima";

export const CodeBatchSchema = z.object({
  /** As tags name it, after `code.`. */
  key: FieldKeySchema,
  name: z.string().trim().min(1).max(100),
  /** Whether a reader has one code for each campaign, or the same for ever. */
  per: z.enum(["campaign", "ever"]),
  /** What looks and proofs show. */
  example: z.string().trim().min(1).max(100),
  /** From so few on somebody is told. */
  low: z.number().int().min(0).max(10_000_000),
  /** The last day its codes are worth something. */
  ends: z.iso.date().nullable(),
});
export type CodeBatch = z.infer<typeof CodeBatchSchema>;

/** A batch with how many codes it has, and how many of them nobody has yet. */
export type CodeStock = CodeBatch & { total: number; free: number };

/** The batches as designs need to know them. */
export function codeFacts(septima: Septima): Promise<CodeFacts[]> {
  return cached(septima, "code batches", () =>
    septima.db.query<CodeFacts>(
      "select key, name, example, to_char(ends, 'YYYY-MM-DD') as ends from code_batches where removed_at is null order by lower(name), key",
    ),
  );
}

/** All batches with their stock, by name. */
export function codeStock(septima: Septima): Promise<CodeStock[]> {
  return septima.db.query<CodeStock>(
    `select b.key, b.name, b.per, b.example, b.low, to_char(b.ends, 'YYYY-MM-DD') as ends,
       count(c.place)::int as total, (count(c.place) filter (where c.contact_id is null))::int as free
     from code_batches b left join codes c on c.batch = b.key
     where b.removed_at is null group by b.key order by lower(b.name), b.key`,
  );
}

const AT_ONCE = 20_000;

/** Puts codes behind those that are there. Returns how many of them were new. */
async function putCodes(tx: Queries, key: string, codes: readonly string[]): Promise<number> {
  let added = 0;
  for (let from = 0; from < codes.length; from += AT_ONCE) {
    const rows = await tx.query(
      `insert into codes (batch, place, code)
       select $1, coalesce((select max(place) from codes where batch = $1), 0) + n, code
       from unnest($2::text[]) with ordinality as given (code, n)
       on conflict (batch, code) do nothing returning place`,
      [key, codes.slice(from, from + AT_ONCE)],
    );
    added += rows.length;
  }
  return added;
}

/** What came of a list of codes. */
export type CodesAdded = { added: number } & Pick<CodeList, "rejected">;

function codesIn(text: string): CodeList {
  const list = readCodes(text);
  if (list.codes.length > 0) return list;
  const [first] = list.rejected;
  throw new Refusal(
    first
      ? `There is no code in this file. Line ${first.line}, “${first.text}”: ${first.why}.`
      : "There is no code in this file: it has to hold one in each line.",
  );
}

/**
 * Makes a batch.
 * @param text one code in each line
 * @throws Refusal when its short name is taken, or no code can be read, naming the first line
 */
export async function addBatch(septima: Septima, given: CodeBatch, text: string): Promise<CodesAdded> {
  const batch = CodeBatchSchema.parse(given);
  const { codes, rejected } = codesIn(text);
  if (codes.includes(batch.example))
    throw new Refusal(
      "The example is one of the codes: whoever sees a proof could use it. Choose another example.",
    );
  const added = await septima.db.transaction(async (tx) => {
    const made = await tx.query(
      `insert into code_batches (key, name, per, example, low, ends, created_at)
       values ($1, $2, $3, $4, $5, $6::date, $7) on conflict (key) do nothing returning key`,
      [batch.key, batch.name, batch.per, batch.example, batch.low, batch.ends, new Date(septima.now())],
    );
    if (made.length === 0)
      throw new Refusal(`There is, or was, a batch with the short name “${batch.key}”. Choose another.`, 409);
    return putCodes(tx, batch.key, codes);
  });
  septima.cache.delete("code batches");
  return { added, rejected };
}

/** Puts more codes into a batch; those that it has already stay as they are. */
export async function addCodes(septima: Septima, key: string, text: string): Promise<CodesAdded> {
  const { codes, rejected } = codesIn(text);
  return septima.db.transaction(async (tx) => {
    const [batch] = await tx.query<{ example: string }>(
      "select example from code_batches where key = $1 and removed_at is null for update",
      [key],
    );
    if (!batch) throw new Refusal("This batch does not exist any more.", 404);
    const fit = codes.filter((code) => code !== batch.example);
    return { added: await putCodes(tx, key, fit), rejected };
  });
}

/** Puts codes into batches within a transaction, by the key of each. @returns the keys that are no batch's */
export async function putIntoBatches(
  tx: Queries,
  codes: ReadonlyMap<string, readonly string[]>,
): Promise<Set<string>> {
  const rows = await tx.query<{ key: string; example: string }>(
    "select key, example from code_batches where key = any($1) and removed_at is null order by key for update",
    [[...codes.keys()]],
  );
  for (const { key, example } of rows)
    await putCodes(
      tx,
      key,
      (codes.get(key) ?? []).filter((code) => code !== example),
    );
  const known = new Set(rows.map(({ key }) => key));
  return new Set([...codes.keys()].filter((key) => !known.has(key)));
}

/** Changes what a batch is called and how it is used. Whom its codes were handed to stays. */
export async function changeBatch(septima: Septima, given: CodeBatch): Promise<void> {
  const { key, name, example, low, ends } = CodeBatchSchema.parse(given);
  const [taken] = await septima.db.query("select 1 from codes where batch = $1 and code = $2", [
    key,
    example,
  ]);
  if (taken)
    throw new Refusal(
      "The example is one of the codes: whoever sees a proof could use it. Choose another example.",
    );
  const rows = await septima.db.query(
    `update code_batches set name = $2, example = $3, low = $4, ends = $5::date
     where key = $1 and removed_at is null returning key`,
    [key, name, example, low, ends],
  );
  septima.cache.delete("code batches");
  if (rows.length === 0) throw new Refusal("This batch does not exist any more.", 404);
}

/** Takes a batch out of sight, or brings it back; its codes stay with those who have them. */
export async function putAwayBatch(septima: Septima, key: string, away: boolean): Promise<void> {
  await septima.db.query("update code_batches set removed_at = $2 where key = $1", [
    key,
    away ? new Date(septima.now()) : null,
  ]);
  septima.cache.delete("code batches");
}

/** For whom a code counts as theirs: of this campaign, or for ever. */
const owner = (per: CodeBatch["per"], campaignId: string) => (per === "ever" ? "" : campaignId);

/** How many codes of each batch a campaign still needs for these readers, and how many nobody has. */
export async function codesWanted(
  septima: Septima,
  campaignId: string,
  readers: ReadonlyMap<string, readonly number[]>,
): Promise<(CodeStock & { wanted: number })[]> {
  const stock = (await codeStock(septima)).filter(({ key }) => readers.has(key));
  return Promise.all(
    stock.map(async (batch) => {
      const ids = readers.get(batch.key) ?? [];
      const [row] = await septima.db.query<{ have: number }>(
        `select count(*)::int as have from codes
         where batch = $1 and campaign_id = $2 and contact_id = any($3::int[])`,
        [batch.key, owner(batch.per, campaignId), ids],
      );
      return { ...batch, wanted: ids.length - (row?.have ?? 0) };
    }),
  );
}

/** A batch that has fewer codes than are needed. */
export class CodesShort extends Error {
  constructor(
    readonly batch: string,
    readonly missing: number,
  ) {
    super(
      `“${batch}” has ${missing.toLocaleString("en")} ${missing === 1 ? "code" : "codes"} too few. Add codes to it under Sources, then resume. Nobody got anything yet.`,
    );
    this.name = "CodesShort";
  }
}

/**
 * Takes as many codes of a batch as there are contacts, in order, within a transaction. Whoever takes codes of a batch
 * waits for others who do, so that nobody is handed one that is another's.
 * @param as for whom it counts: of a campaign, for ever (`""`), or a reward
 * @returns the codes by contact; those for whom there was none are missing
 */
export async function takeCodes(
  tx: Queries,
  key: string,
  contacts: readonly number[],
  as: { whose: string; dispatchId: string | null; at: Date },
): Promise<Map<number, string>> {
  await tx.query("select key from code_batches where key = $1 for update", [key]);
  const free = await tx.query<{ place: number }>(
    "select place from codes where batch = $1 and contact_id is null order by place limit $2 for update",
    [key, contacts.length],
  );
  const handed = await tx.query<{ contact_id: number; code: string }>(
    `update codes c set contact_id = it.contact_id, campaign_id = $4, dispatch_id = $5, handed_at = $6
     from unnest($2::int[], $3::int[]) as it(place, contact_id)
     where c.batch = $1 and c.place = it.place and c.contact_id is null returning c.contact_id, c.code`,
    [key, free.map(({ place }) => place), contacts.slice(0, free.length), as.whose, as.dispatchId, as.at],
  );
  return new Map(handed.map(({ contact_id: id, code }) => [id, code]));
}

/**
 * Hands a code of a batch to each of these recipients of a dispatch who has none yet, within the transaction that
 * gathers them. Of two dispatches at once the second waits, and takes from what the first left.
 * @returns how many got none because there were too few
 */
export async function reserveCodes(
  tx: Queries,
  dispatch: { id: string; campaignId: string; at: Date },
  key: string,
  readers: readonly number[],
): Promise<{ name: string; missing: number }> {
  const [batch] = await tx.query<{ name: string; per: CodeBatch["per"] }>(
    "select name, per from code_batches where key = $1 and removed_at is null for update",
    [key],
  );
  if (!batch) return { name: key, missing: readers.length };
  const whose = owner(batch.per, dispatch.campaignId);
  // What somebody has from a sending that did not reach them goes along with this one.
  const have = await tx.query<{ contact_id: number }>(
    `update codes c set dispatch_id = $1 from unnest($4::int[]) as it(contact_id)
     where c.batch = $2 and c.campaign_id = $3 and c.contact_id = it.contact_id returning c.contact_id`,
    [dispatch.id, key, whose, readers],
  );
  const served = new Set(have.map(({ contact_id: id }) => id));
  const need = readers.filter((reader) => !served.has(reader));
  const handed = await takeCodes(tx, key, need, { whose, dispatchId: dispatch.id, at: dispatch.at });
  return { name: batch.name, missing: need.length - handed.size };
}

/**
 * Gives back the codes of those who did not get their message and will not: refused for good or skipped, and, when a
 * dispatch was cancelled, those whose turn had not come. Who has the code from another sending keeps it.
 */
export async function releaseCodes(db: Queries, dispatchId: string, cancelled: boolean): Promise<void> {
  await db.query(
    `update codes c set contact_id = null, campaign_id = null, dispatch_id = null, handed_at = null
     from recipients r where c.dispatch_id = $1 and r.dispatch_id = $1 and r.contact_id = c.contact_id
       and (r.state in ('skipped', 'failed') or ($2 and r.state = 'pending'))
       and not exists (select 1 from recipients o join dispatches d on d.id = o.dispatch_id
         where o.contact_id = c.contact_id and o.dispatch_id <> $1 and c.campaign_id in (d.campaign_id, '')
           and o.state in ('accepted', 'unconfirmed', 'handing'))`,
    [dispatchId, cancelled],
  );
}

/** The codes of readers of a campaign, by their number and the key of the batch. */
export async function codesOf(
  db: Queries,
  campaignId: string,
  keys: readonly string[],
  readers: readonly number[],
): Promise<Map<number, Record<string, string>>> {
  const all = new Map<number, Record<string, string>>();
  if (keys.length === 0) return all;
  const rows = await db.query<{ contact_id: number; batch: string; code: string }>(
    `select contact_id, batch, code from codes
     where batch = any($1::text[]) and contact_id = any($2::int[]) and campaign_id in ($3, '')`,
    [keys, readers, campaignId],
  );
  for (const { contact_id: id, batch, code } of rows) {
    const own = all.get(id) ?? {};
    own[batch] = code;
    all.set(id, own);
  }
  return all;
}
