/** Rehearsals: every message of a campaign is made, read back and looked at, and none is sent. */
import { RuleError } from "~/core/audience";
import { sourcesShown } from "~/core/blocks";
import { same } from "~/core/email";
import { domainOf } from "~/core/mime";
import {
  EXTREMES,
  type Extreme,
  joined,
  NOTHING,
  ODDITIES,
  type Oddity,
  sharedCodes,
  type Tally,
} from "~/core/rehearsal";
import { recipientsSql, type Selection } from "../audience/selection";
import { campaign } from "../campaigns/campaigns";
import { broadly, type Queries } from "../db/database";
import { reserveShown } from "../dispatch/gather";
import { contentOf, eachRecipient, type Recipients, sharedOf } from "../dispatch/gathered";
import { type Codes, type Frozen, makingOf } from "../dispatch/making";
import { messageIdSql } from "../dispatch/message-id";
import { sendable } from "../preflight/circumstances";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { CodesShort, codesOf } from "../sources/codes";
import { refreshAll } from "../sources/sources";
import { secretOf } from "../workspace/settings";
import { rehearsedId } from "./rehearsed-id";
import type { Rehearsed } from "./stretch";

export const REHEARSE_JOB = "rehearse";

/** So many messages are made in one go; after each it is said how far it is, and asked whether it goes on. */
const STRETCH = 1000;
/** What was not heard of for so long in milliseconds has ended with its process. */
const SILENT = 120_000;

/** A message that is shown, with whose it is. */
export interface Shown {
  reader: number;
  name: string;
  address: string;
}

/** How a rehearsal stands. */
export interface Rehearsal {
  state: "running" | "done" | "stopped";
  made: number;
  /** Null until the readers are known. */
  total: number | null;
  /** In words, what stopped it. */
  trouble: string | null;
  startedAt: string;
  /** How long it took, in milliseconds; null while it runs. */
  took: number | null;
  /** Whether the design or the choice of readers has changed since. */
  stale: boolean;
  /** The octets of all messages. */
  octets: number;
  /** What is odd, worst first. */
  odd: { kind: Oddity; title: string; remedy: string; count: number; some: (Shown & { said: string })[] }[];
  /** Those furthest from the usual. */
  extremes: { name: Extreme; some: (Shown & { measure: number })[] }[];
}

interface Row {
  state: Rehearsal["state"];
  made: number;
  total: number | null;
  trouble: string | null;
  started_at: Date;
  heard_at: Date;
  finished_at: Date | null;
  revision: number;
  readers: Selection;
  came: Tally | null;
}

/** The last rehearsal of a campaign; null when there was none. */
export async function rehearsalOf(septima: Septima, campaignId: string): Promise<Rehearsal | null> {
  const [row] = await septima.db.query<Row>(
    `select state, made, total, trouble, started_at, heard_at, finished_at, revision, readers, came
     from rehearsals where campaign_id = $1`,
    [campaignId],
  );
  if (!row) return null;
  const { revision, readers } = await campaign(septima, campaignId);
  const people = await septima.db.query<Shown>(
    `select contact_id as reader, coalesce(addressed ->> 'name', '') as name, addressed ->> 'address' as address
     from rehearsed where campaign_id = $1`,
    [campaignId],
  );
  const known = new Map(people.map((one) => [one.reader, one]));
  // Who was deleted since is shown no more, and is counted.
  const shown = <T extends { reader: number }>(some: readonly T[]) =>
    some.flatMap((one) => {
      const person = known.get(one.reader);
      return person ? [{ ...one, ...person }] : [];
    });
  const silent = row.state === "running" && septima.now() - row.heard_at.getTime() > SILENT;
  const came = row.came ?? NOTHING;
  return {
    state: silent ? "stopped" : row.state,
    made: row.made,
    total: row.total,
    trouble: silent ? "The program ended before it was through. Rehearse again." : row.trouble,
    startedAt: row.started_at.toISOString(),
    took: row.finished_at && row.finished_at.getTime() - row.started_at.getTime(),
    stale: row.revision !== revision || !same(row.readers, readers),
    octets: came.octets,
    odd: (Object.keys(ODDITIES) as Oddity[]).flatMap((kind) => {
      const found = came.odd[kind];
      return found ? [{ kind, ...ODDITIES[kind], count: found.count, some: shown(found.some) }] : [];
    }),
    extremes: (Object.keys(EXTREMES) as Extreme[]).map((name) => ({
      name,
      some: shown(came.extremes[name]).map(({ measures, ...one }) => ({
        ...one,
        measure: measures[EXTREMES[name].of],
      })),
    })),
  };
}

/** Asks for a rehearsal of a campaign as it is now. @throws Refusal when nobody is chosen, or one is under way */
export async function askRehearsal(septima: Septima, campaignId: string): Promise<void> {
  const { kind, revision, readers } = await campaign(septima, campaignId);
  if (kind !== "campaign") throw new Refusal("A template has no readers. Start a campaign from it.");
  if (readers.include.length === 0)
    throw new Refusal("Nobody is chosen yet. Choose lists or segments under Readers.");
  if ((await rehearsalOf(septima, campaignId))?.state === "running")
    throw new Refusal("It is being rehearsed already.", 409);
  const at = new Date(septima.now());
  await septima.db.query(
    `insert into rehearsals (campaign_id, id, state, revision, readers, started_at, heard_at)
     values ($1, $2, 'running', $3, $4::jsonb, $5, $5)
     on conflict (campaign_id) do update set id = excluded.id, state = 'running', revision = excluded.revision,
       readers = excluded.readers, made = 0, total = null, started_at = excluded.started_at,
       heard_at = excluded.heard_at, finished_at = null, trouble = null, frozen = null, came = null`,
    [
      campaignId,
      // One after the other they rehearse the same dispatch.
      (await rehearsedId(septima, campaignId)) ?? septima.newId(),
      revision,
      JSON.stringify(readers),
      at,
    ],
  );
  await septima.db.query("delete from rehearsed where campaign_id = $1", [campaignId]);
  await septima.jobs.ask(REHEARSE_JOB, { campaign: campaignId });
}

/** Calls a rehearsal off; what was made of it is forgotten. */
export async function callOffRehearsal(septima: Septima, campaignId: string): Promise<void> {
  await septima.db.query(
    "update rehearsals set state = 'stopped', trouble = 'It was called off.' where campaign_id = $1 and state = 'running'",
    [campaignId],
  );
}

/** Carries out the rehearsal that was asked for. What stands in its way is said with it. */
export async function rehearse(world: Septima, campaignId: string): Promise<void> {
  // Who gets it and what is in it is asked anew, as when it is sent.
  const septima = { ...world, cache: new Map() };
  const [begun] = await septima.db.query<Omit<Begun, "campaignId">>(
    "select id, started_at as at from rehearsals where campaign_id = $1 and state = 'running'",
    [campaignId],
  );
  if (!begun) return;
  try {
    await rehearseAll(septima, { ...begun, campaignId });
  } catch (error) {
    const known = error instanceof Refusal || error instanceof RuleError || error instanceof CodesShort;
    await world.db.query(`update rehearsals set state = 'stopped', trouble = $3 where ${GOING}`, [
      campaignId,
      begun.at,
      known ? error.message : `It could not be made: ${(error as Error).message}.`,
    ]);
    if (!known) throw error;
  }
}

/** A rehearsal that was begun: of several of a campaign it is known by when. */
interface Begun {
  /** Of the dispatch that it rehearses. */
  id: string;
  campaignId: string;
  at: Date;
}

/** That it goes on: it was neither called off nor begun anew. Its parameters are the campaign and when it began. */
const GOING = "campaign_id = $1 and started_at = $2 and state = 'running'";

async function rehearseAll(septima: Septima, begun: Begun): Promise<void> {
  const dispatch = { id: begun.id, campaignId: begun.campaignId };
  const secret = await secretOf(septima);
  const { frozen, readers } = await everybody(septima, begun, secret);
  const goesOn = (made: number) => heard(septima, begun, made, readers.length);
  let tally = sharedCodes(readers.map(({ to, codes }) => ({ reader: to.id, codes })));
  const stretches = Array.from({ length: Math.ceil(readers.length / STRETCH) }, (_, at) => at * STRETCH);
  const work = async () => {
    for (;;) {
      const from = stretches.shift();
      if (from === undefined || septima.stopping.aborted || !(await goesOn(tally.made))) return;
      const some = readers.slice(from, from + STRETCH);
      const made = await septima.rehearsalWork.run("rehearse", { secret, dispatch, frozen, readers: some });
      tally = joined(tally, made);
    }
  };
  // One is made ready for each process while it works.
  await Promise.all([work(), work(), work()]);
  if (tally.made < readers.length) return;
  await finish(septima, begun, { tally, frozen, readers });
}

/** Says how far it is. @returns whether it goes on */
async function heard(
  septima: Septima,
  { campaignId, at }: Begun,
  made: number,
  total: number,
): Promise<boolean> {
  const [on] = await septima.db.query(
    `update rehearsals set made = $3, total = $4, heard_at = $5 where ${GOING} returning 1`,
    [campaignId, at, made, total, new Date(septima.now())],
  );
  return on !== undefined;
}

async function finish(
  septima: Septima,
  { campaignId, at }: Begun,
  { tally, frozen, readers }: { tally: Tally; frozen: Frozen; readers: readonly Rehearsed[] },
): Promise<void> {
  const some = new Set([
    ...Object.values(tally.odd).flatMap((odd) => odd.some.map(({ reader }) => reader)),
    ...Object.values(tally.extremes).flatMap((those) => those.map(({ reader }) => reader)),
  ]);
  const shown = readers.filter(({ to }) => some.has(to.id));
  await septima.db.transaction(async (tx) => {
    const [done] = await tx.query(
      `update rehearsals set state = 'done', made = $3, total = $3, finished_at = $4, heard_at = $4, came = $5::jsonb, frozen = $6::jsonb
       where ${GOING} returning 1`,
      [
        campaignId,
        at,
        readers.length,
        new Date(septima.now()),
        JSON.stringify(tally),
        JSON.stringify(frozen),
      ],
    );
    if (!done) return;
    await tx.query(
      `insert into rehearsed (campaign_id, contact_id, addressed, codes)
       select $1, r.id, r.addressed, r.codes from unnest($2::int[], $3::jsonb[], $4::jsonb[]) as r(id, addressed, codes)
       where exists (select 1 from contacts c where c.id = r.id)`,
      [
        campaignId,
        shown.map(({ to }) => to.id),
        shown.map(({ to }) => JSON.stringify(to)),
        shown.map(({ codes }) => JSON.stringify(codes)),
      ],
    );
  });
}

/** Takes back what a transaction did, with what came of it. */
class TakenBack extends Error {
  constructor(readonly found: { frozen: Frozen; readers: Rehearsed[] }) {
    super("taken back");
  }
}

/**
 * Gathers as a sending does, hands codes out as it does, and takes all of it back.
 * @throws CodesShort, RuleError, Refusal
 */
async function everybody(
  septima: Septima,
  { id, campaignId, at }: Begun,
  secret: string,
): Promise<{ frozen: Frozen; readers: Rehearsed[] }> {
  const it = { ...(await sendable(septima, campaignId)), id };
  await refreshAll(septima, sourcesShown(it.email));
  const content = await contentOf(septima, it);
  const shared = await sharedOf(septima, it);
  const domain = domainOf(shared.headers.from);
  try {
    return await broadly(septima.db, async (tx) => {
      const stretches: (Recipients & { messageIds: string[] })[] = [];
      const chosen = recipientsSql(it.repeats ? null : campaignId, it.readers, content.context);
      const gathered = await eachRecipient(tx, content, chosen, async (rows) => {
        stretches.push({ ...rows, messageIds: await messageIds(tx, id, rows.ids, domain, secret) });
      });
      await reserveShown(tx, { id, campaignId, at }, content, gathered);
      const batches = [...gathered.shown.keys()];
      const readers: Rehearsed[] = [];
      for (const rows of stretches) {
        // Others have their turn.
        await new Promise((resolve) => setImmediate(resolve));
        const codes = await codesOf(tx, campaignId, batches, rows.ids);
        for (const [place, reader] of rows.ids.entries())
          readers.push({ to: { ...addressed(rows, place), at }, codes: codes.get(reader) ?? {} });
      }
      throw new TakenBack({ frozen: { program: gathered.program, ...shared }, readers });
    });
  } catch (error) {
    if (error instanceof TakenBack) return error.found;
    throw error;
  }
}

const addressed = (rows: Recipients & { messageIds: string[] }, place: number) => ({
  id: rows.ids[place],
  edition: rows.editions[place],
  address: rows.addresses[place],
  name: rows.names[place],
  messageId: rows.messageIds[place],
  facts: JSON.parse(rows.facts[place]) as Record<string, unknown>,
});

/** The Message-IDs that readers' messages have when they are first taken in hand. */
async function messageIds(
  tx: Queries,
  dispatch: string,
  readers: readonly number[],
  domain: string,
  secret: string,
): Promise<string[]> {
  const sql = messageIdSql({
    dispatch: "$1::text",
    contact: "it.id",
    claim: "1",
    domain: "$3::text",
    secret: "$4::text",
  });
  const rows = await tx.query<{ id: string }>(
    `select ${sql} as id from unnest($2::int[]) with ordinality as it(id, place) order by it.place`,
    [dispatch, readers, domain, secret],
  );
  return rows.map(({ id }) => id);
}

/** A message of a rehearsal as it would be handed over, before its signatures. @throws Refusal when it is not shown any more */
export async function messageRehearsed(
  septima: Septima,
  campaignId: string,
  contactId: number,
): Promise<Uint8Array> {
  const [row] = await septima.db.query<{
    id: string;
    frozen: Frozen;
    addressed: Rehearsed["to"] & { at: string };
    codes: Codes;
  }>(
    `select r.id, r.frozen, o.addressed, o.codes from rehearsals r join rehearsed o on o.campaign_id = r.campaign_id
     where r.campaign_id = $1 and o.contact_id = $2 and r.frozen is not null`,
    [campaignId, contactId],
  );
  if (!row) throw new Refusal("This message was not kept: rehearse again to see it.", 404);
  const making = makingOf(await secretOf(septima), { id: row.id, campaignId }, row.frozen);
  const to = { ...row.addressed, at: new Date(row.addressed.at) };
  return making.octets(to, making.reader(to, row.codes));
}
