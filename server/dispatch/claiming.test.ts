/** Recipients in hand: by one at a time, for as long as they say so, and what is told of them late. */
import { afterAll, beforeAll, beforeEach, expect, test } from "vitest";
import type { Database, Queries } from "../db/database";
import { migrate } from "../db/migrate";
import { openServer } from "../db/postgres";
import { serverPrograms, startServer } from "../db/test-server";
import { openNews } from "../news";
import type { Septima } from "../septima";
import { addReaders, beSomebody, openWorld, readyLetter } from "../test-world";
import { secretOf } from "../workspace/settings";
import { bookDispatch } from "./bookings";
import { claim, Hold, nextBatch } from "./claiming";
import { bookedDispatch, dispatchesOf, moveDispatch, sendFailed, steerDispatch } from "./dispatches";
import { gather } from "./gather";
import { followProgress, type Progress, progressOf } from "./progress";
import { recipientsOf } from "./recipients";
import { runDispatch } from "./run";
import { endLeases, settle, takeOver } from "./settling";

const READERS = 40;
let septima: Septima;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ septima, close } = await openWorld());
  await people(septima);
});
afterAll(() => close());

async function people(world: Septima) {
  await addReaders(world, "all", READERS);
}

async function book(world: Septima): Promise<{ campaignId: string; id: string }> {
  const campaignId = await readyLetter(world, "all", (id) => [{ type: "text", text: `Letter ${id}` }]);
  return { campaignId, id: await bookDispatch(world, campaignId, { confirmed: READERS, when: null }) };
}

let id: string;
let campaignId: string;
/** Gathers a dispatch and hands nothing over. */
beforeEach(async () => {
  ({ campaignId, id } = await book(septima));
  await moveDispatch(septima, id, "scheduled", "gathering");
  await gather(septima, (await bookedDispatch(septima, id))!);
});

const named = (name: string, lease = 60_000): Septima => ({ ...septima, worker: { name, lease } });
const stateOf = async () => (await dispatchesOf(septima, campaignId))[0];
const expire = () =>
  septima.db.query(
    "update recipients set leased_until = now() - interval '1 second' where dispatch_id = $1 and state = 'handing'",
    [id],
  );

test("whoever is a reader of a sending does not go, whoever takes them away", async () => {
  const [{ contact }] = await septima.db.query<{ contact: number }>(
    "select contact_id as contact from recipients where dispatch_id = $1 limit 1",
    [id],
  );
  await expect(septima.db.query("delete from contacts where id = $1", [contact])).rejects.toThrow(
    "was written to, and stays",
  );
});

test("who is in hand is nobody else's while the lease lasts; then they are, each with another Message-ID", async () => {
  const one = named("one");
  const other = named("other");
  const { claimed: mine } = await claim(one, id, "a.example", 0, 15);
  const { claimed: theirs } = await claim(other, id, "a.example", 0, 100);
  expect(mine).toHaveLength(15);
  expect(theirs).toHaveLength(READERS - 15);
  expect(new Set([...mine, ...theirs].map((row) => row.id)).size).toBe(READERS);
  // A process that starts touches nothing that a living one holds.
  expect(await takeOver(named("third"))).toBe(0);
  expect((await stateOf()).counts).toMatchObject({ handing: READERS });

  await expire();
  // The postroom knows that none has come: they have their turn again.
  expect(await takeOver(named("third"))).toBe(1);
  expect((await stateOf()).counts).toMatchObject({ handing: 0, pending: READERS });
  const { claimed: again } = await claim(other, id, "a.example", 0, 100);
  for (const row of mine) {
    const now = again.find((it) => it.id === row.id)!;
    expect(now.messageId).not.toBe(row.messageId);
    expect(now.messageId).toMatch(new RegExp(`^${id}\\.${row.id}\\.2\\.[0-9a-f]{16}@a\\.example$`));
  }
  // What the first says of what it had changes nothing.
  const says = (state: "accepted" | "pending" | "failed") =>
    settle(
      one,
      id,
      mine.map((row) => ({ id: row.id, messageId: row.messageId, state, trouble: null, tried: true })),
    );
  for (const state of ["accepted", "pending", "failed"] as const) await says(state);
  expect((await stateOf()).counts).toMatchObject({ handing: READERS, accepted: 0, failed: 0 });
});

test("of a relay that cannot tell, they are unconfirmed, until whoever had them comes back with the truth", async () => {
  const one = named("one");
  const { claimed } = await claim(one, id, "a.example", 0, 4);
  await expire();
  await takeOver({ ...named("other"), mailboxes: null });
  expect((await stateOf()).counts).toMatchObject({ unconfirmed: 4, pending: READERS - 4 });
  const of = (row: (typeof claimed)[number]) => ({ id: row.id, messageId: row.messageId, tried: true });
  await settle(one, id, [
    { ...of(claimed[0]), state: "accepted", trouble: null },
    { ...of(claimed[1]), state: "failed", trouble: "550 No" },
    { ...of(claimed[2]), state: "pending", trouble: null },
  ]);
  expect((await stateOf()).counts).toMatchObject({ accepted: 1, failed: 1, unconfirmed: 2 });
  // Told twice is as once: one event for each who got it.
  await settle(one, id, [{ ...of(claimed[0]), state: "accepted", trouble: null }]);
  const events = await septima.db.query(
    "select 1 from events e join campaigns c on c.number = e.campaign where c.id = $1 and e.kind = 1",
    [campaignId],
  );
  expect(events).toHaveLength(1);
});

test("nobody is taken in hand of a dispatch that is not being sent, nor who may not be written to any more", async () => {
  await steerDispatch(septima, id, "paused");
  expect(await claim(septima, id, "a.example", 0, 10)).toEqual({ claimed: [], last: null });
  await steerDispatch(septima, id, "sending");
  await septima.db.query("update contacts set status = 'unsubscribed' where email = 'reader3@mail.example'");
  const { claimed, last } = await claim(septima, id, "a.example", 0, 100);
  expect(claimed).toHaveLength(READERS - 1);
  expect(last).not.toBeNull();
  expect((await stateOf()).counts).toMatchObject({ skipped: 1, handing: READERS - 1 });
  await septima.db.query("update contacts set status = 'subscribed'");
});

test("a lease is said again while it lasts; what has run out is not brought back, and counts as over before it has", async () => {
  const holder = named("holder", 1200);
  const hold = new Hold(holder, id);
  await hold.claim("a.example", 0, 5);
  expect(hold.over).toBe(false);
  const until = async () => {
    const [row] = await septima.db.query<{ left: number }>(
      `select extract(epoch from min(leased_until) - clock_timestamp())::float8 * 1000 as left
       from recipients where dispatch_id = $1 and state = 'handing'`,
      [id],
    );
    return row.left;
  };
  await expect
    .poll(async () => performance.now(), { timeout: 6000 })
    .toBeGreaterThan(performance.now() + 1800);
  expect(await until()).toBeGreaterThan(0);
  expect(hold.over).toBe(false);
  hold.end();
  await expect.poll(() => hold.over, { timeout: 6000, interval: 5 }).toBe(true);
  expect(await until()).toBeGreaterThan(0);
});

test("where one process has the data for itself, a start ends what the last one held", async () => {
  await claim(named("dead"), id, "a.example", 0, 5);
  await takeOver(septima);
  expect((await stateOf()).counts).toMatchObject({ handing: 5 });
  await endLeases(septima);
  await takeOver(septima);
  await runDispatch(septima, id);
  expect(await stateOf()).toMatchObject({ state: "sent", counts: { accepted: READERS } });
});

test("as many are taken in hand as are handed over in a moment", () => {
  expect(nextBatch(null)).toBeLessThan(10);
  expect(nextBatch({ size: 2, took: 10_000 })).toBe(1);
  expect(nextBatch({ size: 100, took: 100 })).toBe(150);
  expect(nextBatch({ size: 10, took: 1 })).toBe(40);
  expect(nextBatch({ size: 480, took: 1 })).toBe(480);
});

test("those who were refused are sent it again, all or chosen, and each trouble stays told", async () => {
  const refusing: Septima = {
    ...septima,
    relay: {
      ...septima.relay,
      async send(envelope, ...rest) {
        if (["reader1@mail.example", "reader2@mail.example"].includes(envelope.to))
          throw new (await import("../mail/relay")).RelayError(`552 <${envelope.to}> is full`, "refused");
        await septima.relay.send(envelope, ...rest);
      },
    },
  };
  await runDispatch(refusing, id);
  expect(await stateOf()).toMatchObject({ state: "sent", counts: { accepted: READERS - 2, failed: 2 } });
  const failed = await septima.db.query<{ contact_id: number }>(
    "select contact_id from recipients where dispatch_id = $1 and state = 'failed' order by 1",
    [id],
  );
  expect((await progressOf(septima, campaignId)).pace).toMatchObject({
    failed: [{ words: "552 … is full", count: 2 }],
    waiting: [],
    workers: [],
    perSecond: (READERS - 2) / 10,
  });
  const listed = await recipientsOf(septima, id, { state: "failed", text: "READER1@" });
  expect(listed).toMatchObject({ total: 1, lines: [{ address: "reader1@mail.example", made: true }] });
  expect(listed.lines[0].troubles.map(({ words }) => words)).toEqual(["552 <reader1@mail.example> is full"]);
  expect((await recipientsOf(septima, id, { state: "accepted", offset: 30 })).lines).toHaveLength(
    READERS - 32,
  );
  expect((await recipientsOf(septima, id, {})).total).toBe(READERS);
  await sendFailed(septima, id, [failed[0].contact_id]);
  await runDispatch(septima, id);
  expect(await stateOf()).toMatchObject({ state: "sent", counts: { accepted: READERS - 1, failed: 1 } });
  await sendFailed(septima, id, "all");
  await runDispatch(septima, id);
  expect(await stateOf()).toMatchObject({ state: "sent", counts: { accepted: READERS, failed: 0 } });
  await expect(sendFailed(septima, id, "all")).rejects.toThrow("nobody to send it to");
  const { total } = await septima.mailboxes!.search({ text: `Letter ${campaignId}`, offset: 0, limit: 1 });
  expect(total).toBe(READERS);
  const [row] = await septima.db.query<{ troubles: { words: string }[] }>(
    "select troubles from recipients where dispatch_id = $1 and contact_id = $2",
    [id, failed[0].contact_id],
  );
  expect(row.troubles.map(({ words }) => words)).toEqual(["552 <reader1@mail.example> is full"]);
});

test("who is at it and who waits for another try is told", async () => {
  await claim(named("one"), id, "a.example", 0, 3);
  await claim(named("other"), id, "a.example", 0, 2);
  await claim(named("dead", -1000), id, "a.example", 0, 1);
  const pace = (await progressOf(septima, campaignId)).pace!;
  expect(pace.workers).toEqual([
    { name: "one", count: 3 },
    { name: "other", count: 2 },
  ]);
  const [row] = (await recipientsOf(septima, id, { state: "handing" })).lines;
  const [{ message_id: messageId }] = await septima.db.query<{ message_id: string }>(
    "select message_id from recipients where dispatch_id = $1 and contact_id = $2",
    [id, row.contact],
  );
  const nextTry = new Date(septima.now() + 60_000).toISOString();
  await settle(septima, id, [
    { id: row.contact, messageId, state: "pending", trouble: "451 Later", tried: true, nextTry },
  ]);
  expect((await progressOf(septima, campaignId)).pace?.waiting).toEqual([{ words: "451 Later", count: 1 }]);
  expect(await recipientsOf(septima, id, { state: "again" })).toMatchObject({
    total: 1,
    lines: [{ contact: row.contact, nextTry, troubles: [{ words: "451 Later" }] }],
  });
});

test("how it goes is told at once when its state changes, and while it moves; to nobody who has gone", async () => {
  const told: Progress[] = [];
  const closing = new AbortController();
  await followProgress(septima, campaignId, (progress) => told.push(progress), closing.signal);
  expect(told).toMatchObject([
    { dispatch: { id, state: "sending", counts: { pending: READERS } }, pace: {} },
  ]);
  await claim(septima, id, "a.example", 0, 5);
  await expect.poll(() => told.at(-1)!.dispatch!.counts.handing, { timeout: 3000 }).toBe(5);
  await steerDispatch(septima, id, "paused");
  await expect.poll(() => told.at(-1)!.dispatch!.state, { timeout: 3000 }).toBe("paused");
  // Nothing moves any more, and still it is told at once.
  const begun = performance.now();
  await steerDispatch(septima, id, "cancelled");
  await expect.poll(() => told.at(-1)!.dispatch!.state, { timeout: 3000 }).toBe("cancelled");
  expect(performance.now() - begun).toBeLessThan(3000);
  closing.abort();
  const count = told.length;
  await septima.db.query("select pg_notify('dispatches', $1)", [id]);
  await expect.poll(() => performance.now() > begun + 700, { timeout: 3000 }).toBe(true);
  expect(told).toHaveLength(count);
});

test.skipIf(serverPrograms() === null)(
  "on a server several carry one dispatch out together: each has a part of it, and nobody gets it twice",
  { timeout: 60_000 },
  async () => {
    const server = await startServer();
    const dbs = [0, 1, 2].map(() => openServer(server.url));
    try {
      await migrate(dbs[0], "server/db/migrations");
      let begun: () => void = () => undefined;
      const several = new Promise<void>((resolve) => {
        begun = resolve;
      });
      const worlds = await Promise.all(
        dbs.map(
          async (db, at): Promise<Septima> => ({
            ...septima,
            db,
            cache: new Map(),
            news: await openNews(db),
            worker: { name: `worker ${at}`, lease: 60_000 },
            relay: {
              ...septima.relay,
              async send(...given) {
                by.push(at);
                // Nobody is through before another has begun.
                if (new Set(by).size > 1) begun();
                await several;
                await septima.relay.send(...given);
              },
            },
          }),
        ),
      );
      const by: number[] = [];
      await beSomebody(worlds[0]);
      await people(worlds[0]);
      const booked = await book(worlds[0]);
      // The key is there before anything is sent: it is made outside of what is all or nothing.
      await secretOf(worlds[0]);
      // What one is about to take in hand, another passes by, and does not wait for it.
      const before = await book(worlds[0]);
      await moveDispatch(worlds[0], before.id, "scheduled", "gathering");
      await gather(worlds[0], (await bookedDispatch(worlds[0], before.id))!);
      await dbs[0].transaction(async (tx) => {
        const within = (world: Septima, on: Queries) => ({ ...world, db: on as Database });
        const mine = await claim(within(worlds[0], tx), before.id, "a.example", 0, 5);
        const theirs = await dbs[1].transaction(async (other) => {
          await other.query("set local lock_timeout = '2s'");
          return claim(within(worlds[1], other), before.id, "a.example", 0, READERS);
        });
        expect(mine.claimed).toHaveLength(5);
        expect(theirs.claimed).toHaveLength(READERS - 5);
      });
      // All gather at once, too: one of them does.
      await Promise.all(worlds.map((world) => runDispatch(world, booked.id)));
      const [dispatch] = await dispatchesOf(worlds[0], booked.campaignId);
      expect(dispatch.counts).toMatchObject({ accepted: READERS, pending: 0, handing: 0 });
      expect(by).toHaveLength(READERS);
      expect(new Set(by).size).toBeGreaterThan(1);
      const { messages } = await septima.mailboxes!.search({
        text: `Letter ${booked.campaignId}`,
        offset: 0,
        limit: 500,
      });
      expect(new Set(messages.map(({ to }) => to)).size).toBe(READERS);
      expect(messages).toHaveLength(READERS);
    } finally {
      for (const db of dbs) await db.close();
      await server.stop();
    }
  },
);

test.skipIf(serverPrograms() === null)(
  "on a server whoever is to go while they are gathered waits for it, and stays",
  { timeout: 60_000 },
  async () => {
    const server = await startServer();
    const [db, other] = [0, 1].map(() => openServer(server.url));
    try {
      await migrate(db, "server/db/migrations");
      const world: Septima = { ...septima, db, cache: new Map(), news: await openNews(db) };
      await beSomebody(world);
      await people(world);
      const { id: dispatch } = await book(world);
      await moveDispatch(world, dispatch, "scheduled", "gathering");
      let went: string | null = null;
      let going: Promise<void> | null = null;
      const goes = async () => {
        going = other.query("delete from contacts where id = (select min(id) from contacts)").then(
          () => {
            went = "gone";
          },
          (error: Error) => {
            went = error.message;
          },
        );
        // It has gone, or waits for a lock.
        await expect
          .poll(async () => went ?? (await db.query("select 1 from pg_locks where not granted")).length)
          .not.toBe(0);
      };
      // Somebody takes a contact away when all have been read, and before any is written down as a reader.
      const held: Database = {
        ...db,
        transaction: (work) =>
          db.transaction((tx) =>
            work({
              script: (sql) => tx.script(sql),
              async query(sql, params) {
                if (going === null && /insert into recipients/.test(sql)) await goes();
                return tx.query(sql, params);
              },
            }),
          ),
      };
      await gather({ ...world, db: held }, (await bookedDispatch(world, dispatch))!);
      await going;
      expect(went).toMatch(/was written to, and stays/);
      const [{ orphans }] = await db.query<{ orphans: number }>(
        "select count(*)::int as orphans from recipients r where not exists (select 1 from contacts c where c.id = r.contact_id)",
      );
      expect(orphans).toBe(0);
      expect((await dispatchesOf(world, (await bookedDispatch(world, dispatch))!.campaignId))[0].total).toBe(
        READERS,
      );
    } finally {
      await db.close();
      await other.close();
      await server.stop();
    }
  },
);
