/** Several processes on one PostgreSQL server: killed and frozen at random, nobody is lost and nobody gets it twice. */
import type { ChildProcess } from "node:child_process";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { setTimeout as sleep } from "node:timers/promises";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { openServer } from "~/server/db/postgres";
import { serverPrograms, startServer } from "~/server/db/test-server";
import { bookDispatch } from "~/server/dispatch/bookings";
import { dispatchesOf } from "~/server/dispatch/dispatches";
import { type HostileRelay, openHostileRelay } from "~/server/mail/hostile";
import { openNews } from "~/server/news";
import type { Septima } from "~/server/septima";
import { addReaders, beSomebody, openWorld, readyLetter } from "~/server/test-world";
import { startPart } from "./program";

const DISPATCHES = 10;
const READERS = 800;
const KILLS = 100;
/** For so many seconds a worker of these tests has recipients in hand. */
const LEASE = 3;
const ORIGIN = "https://letters.septima.example";

let server: Awaited<ReturnType<typeof startServer>>;
let relay: HostileRelay;
let folder: string;
let septima: Septima;
let close: () => Promise<void>;
const children = new Set<ChildProcess>();

/** Starts a part of the program on the shared server; resolves once it is ready. */
async function start(part: "serve" | "work"): ReturnType<typeof startPart> {
  const started = await startPart(part, {
    SEPTIMA_DATA: folder,
    SEPTIMA_ORIGIN: ORIGIN,
    SEPTIMA_SMTP: relay.address,
    SEPTIMA_LEASE: String(LEASE),
    DATABASE_URL: server.url,
  });
  const { child } = started;
  children.add(child);
  child.once("exit", () => children.delete(child));
  return started;
}

async function kill(child: ChildProcess): Promise<void> {
  const gone = new Promise((resolve) => child.once("exit", resolve));
  child.kill("SIGKILL");
  await gone;
}

describe.skipIf(serverPrograms() === null)("on one PostgreSQL server", () => {
  beforeAll(async () => {
    folder = await mkdtemp(path.join(tmpdir(), "septima-workers-"));
    server = await startServer();
    relay = await openHostileRelay({});
    // Whoever is first makes the schema; the others wait.
    await Promise.all([start("serve"), start("work"), start("work")]);
    for (const child of children) await kill(child);
    const world = await openWorld();
    const db = openServer(server.url);
    const config = { ...world.septima.config, origin: ORIGIN, readers: ORIGIN, relay: relay.address };
    septima = { ...world.septima, db, config, mailboxes: null, cache: new Map(), news: await openNews(db) };
    close = async () => {
      await db.close();
      await world.close();
    };
    await beSomebody(septima);
    await addReaders(septima, "all", READERS, (at) => ({ first_name: `Name ${at}` }));
  });
  afterAll(async () => {
    for (const child of [...children]) await kill(child);
    await relay?.close();
    await close?.();
    await server?.stop();
    await rm(folder, { recursive: true, force: true });
  });

  /** Books a letter to all; its subject begins with its number. */
  async function book(): Promise<{ campaign: string; dispatch: string }> {
    const id = await readyLetter(septima, "all", (letter) => [{ type: "text", text: `Letter ${letter}` }]);
    return { campaign: id, dispatch: await bookDispatch(septima, id, { confirmed: READERS, when: null }) };
  }

  const stateOf = async (id: string) => (await dispatchesOf(septima, id))[0];

  /** Waits until all of them are done, and says what became of everybody. */
  async function ended(all: readonly { campaign: string; dispatch: string }[]) {
    await expect
      .poll(async () => Promise.all(all.map(async (one) => (await stateOf(one.campaign)).state)), {
        timeout: 120_000,
        interval: 200,
      })
      .toEqual(all.map(() => "sent"));
    let unconfirmed = 0;
    for (const { dispatch } of all) {
      const rows = await septima.db.query<{
        email: string;
        state: string;
        message_id: string;
        claim: number;
      }>(
        `select c.email, r.state, r.message_id, r.claim from recipients r join contacts c on c.id = r.contact_id
         where r.dispatch_id = $1`,
        [dispatch],
      );
      expect(rows).toHaveLength(READERS);
      for (const row of rows) {
        const came = relay.messages.filter(
          ({ to, messageId }) => to === row.email && messageId.startsWith(`${dispatch}.`),
        );
        if (row.state === "unconfirmed") {
          unconfirmed++;
          expect(came.length, `${row.email} twice, and unconfirmed`).toBeLessThanOrEqual(1);
        } else {
          expect(row.state).toBe("accepted");
          expect(came.map(({ messageId }) => messageId)).toEqual([row.message_id]);
        }
      }
    }
    return { unconfirmed };
  }

  test(`two workers killed ${KILLS} times in all while ${DISPATCHES} dispatches go out: none lost, none twice, the unconfirmed named`, {
    timeout: 900_000,
  }, async () => {
    relay.pace = 100;
    const all: { campaign: string; dispatch: string }[] = [];
    for (let one = 0; one < DISPATCHES; one++) all.push(await book());
    const { address, child: web } = await start("serve");
    let kills = 0;
    let random = 7;
    const slot = async () => {
      while (kills < KILLS) {
        kills++;
        const { child } = await start("work");
        random = (random * 48_271) % 2_147_483_647;
        await sleep(200 + (random % 1200));
        await kill(child);
      }
    };
    await Promise.all([slot(), slot()]);
    expect(relay.messages.length, "too few were under way while workers died").toBeGreaterThan(500);
    expect((await fetch(`${address}/healthz`)).status).toBe(200);
    const open = await septima.db.query(
      "select 1 from recipients where state in ('pending', 'handing') limit 1",
    );
    expect(open, "all was sent before the last kill").toHaveLength(1);
    relay.pace = 0;
    const [one, other] = await Promise.all([start("work"), start("work")]);
    const { unconfirmed } = await ended(all);
    // Those that were in the hands of the dead, and no more: of six dispatches at a time a few each.
    expect(unconfirmed).toBeLessThan(KILLS * 40);
    for (const { child } of [{ child: web }, one, other]) await kill(child);
  });

  test("a worker frozen beyond its lease and woken again: what it had in hand is not sent again, and what it knows is heard", async () => {
    relay.pace = 300;
    const all = [await book(), await book()];
    const workers = await Promise.all([start("work"), start("work")]);
    for (let turn = 0; turn < 4; turn++) {
      const { child } = workers[turn % 2];
      const before = relay.messages.length;
      await expect.poll(() => relay.messages.length, { timeout: 30_000 }).toBeGreaterThan(before + 20);
      child.kill("SIGSTOP");
      await sleep((LEASE + 1.5) * 1000);
      child.kill("SIGCONT");
    }
    relay.pace = 0;
    await ended(all);
    for (const { child } of workers) await kill(child);
  });
});
