/** A server's world for tests: a database in memory, a real postroom, jobs that are only written down. */
import { createHash, randomBytes } from "node:crypto";
import { mkdir, mkdtemp, readdir, readFile, rename, rm, writeFile } from "node:fs/promises";
import http from "node:http";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import path from "node:path";
import { expect } from "vitest";
import type { Contact } from "~/core/audience";
import { type Brand, type Email, type Inline, mapEmail } from "~/core/email";
import { domainOf } from "~/core/mime";
import { difference, pack } from "~/core/steps";
import { workshops } from "~/standins/calendar";
import { openPostroom } from "~/standins/postroom";
import { Publisher } from "~/standins/publisher";
import { Shop } from "~/standins/shop";
import { addContacts, searchContacts } from "./audience/contacts";
import { saveList } from "./audience/groups";
import { campaign, setReaders, startCampaign } from "./campaigns/campaigns";
import { type SaveAnswer, savedDesign, saveSteps } from "./campaigns/saving";
import { openConfined, PICTURE_WORK, REHEARSAL_WORK, SOURCE_WORK } from "./confined/confined";
import { openEmbedded } from "./db/embedded";
import { migrate } from "./db/migrate";
import { folderOfFiles } from "./files";
import { openRelay } from "./mail/relay";
import { setRelaySigns } from "./mail/signing-keys";
import { keepMentions, walkMentions } from "./mentions";
import { openNews } from "./news";
import { openDoor } from "./returned/door";
import type { Septima } from "./septima";
import { bundled } from "./test-bundle";
import { setBrand } from "./workspace/settings";

/** What is confined. */
export const CONFINED = { file: await bundled("server/confined/child.ts") };

const MIGRATIONS = path.join(process.cwd(), "server/db/migrations");

/**
 * A migrated database in memory. The first of its migrations takes seconds and is kept among the packages' caches, from
 * where the next ones start.
 */
async function newDatabase() {
  const known = createHash("sha256");
  for (const name of (await readdir(MIGRATIONS)).sort())
    known.update(name).update(await readFile(path.join(MIGRATIONS, name)));
  known.update(await readFile("node_modules/@electric-sql/pglite/package.json"));
  const kept = path.join("node_modules/.cache/septima", `${known.digest("hex").slice(0, 16)}.tar`);
  const dump = await readFile(kept).catch(() => null);
  const db = await openEmbedded(undefined, dump ? new Blob([new Uint8Array(dump)]) : undefined);
  const schema = await migrate(db, MIGRATIONS);
  if (!dump) {
    await mkdir(path.dirname(kept), { recursive: true });
    const part = `${kept}.${randomBytes(4).toString("hex")}`;
    await writeFile(part, Buffer.from(await (await db.dump()).arrayBuffer()));
    // Whoever comes meanwhile finds it whole or not at all.
    await rename(part, kept);
  }
  return { db, schema };
}

/** Somebody's own: with what a new workspace comes with nothing is sent. */
export const TEST_BRAND: Brand = {
  name: "Marl & Moss",
  address: "4 Quay Lane, Alderwick",
  website: "https://marlmoss.example",
  senders: [{ name: "Marl & Moss", address: "letters@marlmoss.example" }],
};

/** Gives a workspace a sender whose messages are signed, by the relay. */
export async function beSomebody(septima: Septima): Promise<void> {
  await setBrand(septima, TEST_BRAND);
  for (const { address } of TEST_BRAND.senders) await setRelaySigns(septima, domainOf(address), true);
}

export async function openWorld(): Promise<{ septima: Septima; folder: string; close(): Promise<void> }> {
  const folder = await mkdtemp(path.join(tmpdir(), "septima-server-"));
  const { db, schema } = await newDatabase();
  const door = await openDoor(() => septima, { host: "127.0.0.1", port: 0, via: "postroom" });
  const postroom = await openPostroom(path.join(folder, "postroom"), { now: Date.now, door: door.address });
  const relay = openRelay(postroom.address);
  const confined = openConfined(CONFINED);
  const pictureWork = openConfined(CONFINED, PICTURE_WORK);
  const sourceWork = openConfined(CONFINED, SOURCE_WORK);
  const rehearsalWork = openConfined(CONFINED, REHEARSAL_WORK);
  const septima: Septima = {
    db,
    schema,
    worker: { name: "test", lease: 60_000 },
    relay,
    confined,
    pictureWork,
    sourceWork,
    rehearsalWork,
    files: folderOfFiles(folder),
    mailboxes: postroom,
    news: await openNews(db),
    config: {
      version: "test",
      data: folder,
      origin: "https://septima.example",
      readers: "https://septima.example",
      standins: {},
      relay: null,
      postroom: postroom.address,
      key: { given: "what is sealed in tests", folder },
    },
    jobs: {
      work: async () => undefined,
      ask: async () => undefined,
      repeat: async () => undefined,
      stop: async () => undefined,
    },
    now: Date.now,
    newId: () => randomBytes(6).toString("hex"),
    cache: new Map(),
    stopping: new AbortController().signal,
  };
  await beSomebody(septima);
  return {
    septima,
    folder,
    async close() {
      const missing = await mentionsAstray(db);
      await confined.close();
      await pictureWork.close();
      await sourceWork.close();
      await rehearsalWork.close();
      await relay.close();
      await postroom.close();
      await door.close();
      await db.close();
      await rm(folder, { recursive: true, force: true });
      expect(missing).toEqual([]);
    },
  };
}

/** Where the table of what refers to what is not what a walk through everything finds. */
async function mentionsAstray(db: Septima["db"]): Promise<string[]> {
  const line = ({ holder, which, kind, key }: Awaited<ReturnType<typeof walkMentions>>[number]) =>
    `${holder} ${which}: ${kind} ${key}`;
  const walked = new Set((await walkMentions(db)).map(line));
  const kept = new Set(
    (await db.query<Parameters<typeof line>[0]>("select holder, which, kind, key from mentions")).map(line),
  );
  return [
    ...[...walked].filter((one) => !kept.has(one)).map((one) => `not kept: ${one}`),
    ...[...kept].filter((one) => !walked.has(one)).map((one) => `not there any more: ${one}`),
  ];
}

/** Makes a list. */
export function addList(septima: Septima, id: string, name: string): Promise<void> {
  return saveList(septima, { id, name, about: "", topic: false });
}

/** Makes a list of readers, `reader0@mail.example` and so on. @param fields what is known of each, by number */
export async function addReaders(
  septima: Septima,
  list: string,
  count: number,
  fields: (at: number) => Record<string, unknown> = () => ({}),
): Promise<void> {
  await addList(septima, list, list);
  await addContacts(
    septima,
    Array.from({ length: count }, (_, at) => ({
      email: `reader${at}@mail.example`,
      fields: fields(at),
      lists: [list],
    })),
  );
}

/** All subscribed contacts: for tests, which have few. */
export async function everybody(septima: Septima): Promise<Contact[]> {
  const { contacts } = await searchContacts(septima, "", 1_000_000);
  const out = await septima.db.query<{ id: number }>("select id from contacts where status <> 'subscribed'");
  const gone = new Set(out.map(({ id }) => id));
  return contacts.filter(({ id }) => !gone.has(id));
}

/** Counts a campaign as booked, without mail. */
export async function addOrder(
  septima: Septima,
  campaignId: string,
  state: "scheduled" | "sending" | "sent",
): Promise<void> {
  const id = septima.newId();
  const { email, readers } = await campaign(septima, campaignId);
  await septima.db.query(
    `with booking as (
       insert into bookings (id, campaign_id, readers, goes_at, zone, confirmed, created_at)
       select $1, id, readers, now(), 'UTC', 1, now() from campaigns where id = $2 returning id)
     insert into dispatches (id, booking_id, campaign_id, state, email, readers, total, created_at, finished_at)
     select $1, b.id, c.id, $3, c.email, c.readers, 1, now(), now() from campaigns c, booking b where c.id = $2`,
    [id, campaignId, state],
  );
  await keepMentions(septima.db, "dispatch", id, { email, readers });
}

/** Saves a design as a window would that has the newest one. */
export async function saveDesign(septima: Septima, campaignId: string, email: Email): Promise<SaveAnswer> {
  const saved = await savedDesign(septima, campaignId);
  const steps = pack(difference(saved.email, email));
  return saveSteps(septima, campaignId, { revision: saved.revision, save: septima.newId(), steps });
}

/**
 * Starts a letter that nothing keeps from being sent: it has a subject, and its buttons lead somewhere.
 * @param list the list it goes to
 */
export async function readyLetter(
  septima: Septima,
  list: string,
  subject: (campaignId: string) => Inline[],
): Promise<string> {
  const id = await startCampaign(septima, "Test", "letter");
  const { email } = await campaign(septima, id);
  const ready = mapEmail(email, (node) =>
    "type" in node && node.type === "button" ? { ...node, href: "https://shop.example/" } : node,
  );
  await saveDesign(septima, id, { ...ready, envelope: { ...ready.envelope, subject: subject(id) } });
  await setReaders(septima, id, { include: [{ kind: "list", id: list }], exclude: [] });
  return id;
}

/** The same world with the publisher, the shop and the calendar behind real addresses. */
export async function withStandins(
  septima: Septima,
): Promise<{ septima: Septima; publisher: Publisher; close(): void }> {
  const server = http.createServer(async (request, response) => {
    const [, name, path] = /^\/(\w+)(\/.*)$/.exec(request.url ?? "") ?? [];
    const answer =
      name === "calendar"
        ? { status: 200, type: "text/calendar", body: workshops(Date.now()) }
        : await (name === "shop" ? shop : publisher).answer(path ?? "");
    response
      .writeHead(answer?.status ?? 404, { "content-type": answer?.type ?? "text/plain" })
      .end(answer?.body);
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const publisher = new Publisher(`${base}/publisher`, Date.now);
  const shop = new Shop(`${base}/shop`, Date.now);
  const standins = Object.fromEntries(
    ["publisher", "shop", "calendar"].map((name) => [name, `${base}/${name}`]),
  );
  return {
    septima: { ...septima, config: { ...septima.config, standins } },
    publisher,
    close: () => void server.close(),
  };
}
