/** The server on a real database and a real postroom. */
import { mkdtemp, writeFile } from "node:fs/promises";
import http from "node:http";
import type { AddressInfo } from "node:net";
import path from "node:path";
import sharp from "sharp";
import { afterAll, beforeAll, expect, test } from "vitest";
import { addContacts, contactById, searchContacts } from "./audience/contacts";
import { countReaders, saveSegment, segments } from "./audience/groups";
import { countSelection, selectedReaders } from "./audience/selection";
import { campaign, copyCampaign, deleteCampaign, setReaders, startCampaign } from "./campaigns/campaigns";
import { openEmbedded } from "./db/embedded";
import { MigrationError, migrate } from "./db/migrate";
import { openServer } from "./db/postgres";
import { serverPrograms, startServer } from "./db/test-server";
import { bookDispatch } from "./dispatch/bookings";
import { dispatchesOf, moveDispatch, steerDispatch } from "./dispatch/dispatches";
import { runDispatch } from "./dispatch/run";
import { fetchDocument, fetchFor, isPrivate } from "./fetching";
import { type Relay, RelayError } from "./mail/relay";
import { pictureFile } from "./pictures/files";
import { addPicture } from "./pictures/taking";
import { Refusal } from "./refusal";
import type { Septima } from "./septima";
import { addList, everybody, openWorld, saveDesign } from "./test-world";

let septima: Septima;
let folder: string;
let close: () => Promise<void>;

beforeAll(async () => {
  ({ septima, folder, close } = await openWorld());
  await addList(septima, "letter", "Letter");
  await addContacts(
    septima,
    Array.from({ length: 50 }, (_, id) => ({
      email: `reader${id}@mail.example`,
      fields: { first_name: `Name ${id}`, zone: id % 2 ? "cool" : "warm" },
      lists: id < 40 ? ["letter"] : [],
    })),
  );
  await septima.db.query("update contacts set status = 'unsubscribed' where id = 1");
  await septima.db.query("update contacts set status = 'bounced' where id = 2");
});
afterAll(() => close());

async function draft(): Promise<string> {
  const id = await startCampaign(septima, "Test", "letter");
  const { email } = await campaign(septima, id);
  const next = structuredClone(email);
  next.envelope.subject = [
    { type: "text", text: "Hello " },
    { type: "mergeTag", attrs: { field: "first_name", fallback: "you", format: "asIs" } },
  ];
  for (const block of next.sections[0].rows[0].columns[0].blocks)
    if (block.type === "button") block.href = "https://shop.example/";
  await saveDesign(septima, id, next);
  await setReaders(septima, id, {
    include: [{ kind: "list", id: "letter" }],
    exclude: [{ kind: "segment", id: "cool" }],
  });
  return id;
}

test("a migration that was changed after it had been applied is refused", async () => {
  const db = await openEmbedded();
  const migrations = await mkdtemp(path.join(folder, "migrations-"));
  await writeFile(path.join(migrations, "0001_a.sql"), "create table a (id integer);");
  expect(await migrate(db, migrations)).toBe(1);
  expect(await migrate(db, migrations)).toBe(1);
  await writeFile(path.join(migrations, "0001_a.sql"), "create table b (id integer);");
  await expect(migrate(db, migrations)).rejects.toThrow(MigrationError);
  await db.close();
});

test("segments count, and one that refers to itself is not kept", async () => {
  await saveSegment(septima, {
    id: "cool",
    name: "Cool",
    rule: { kind: "field", field: "zone", op: "is", value: "COOL" },
  });
  const [cool] = await segments(septima);
  expect(await countReaders(septima, [cool.rule])).toEqual([24]);
  await expect(
    saveSegment(septima, { ...cool, rule: { kind: "segment", segment: "cool", in: true } }),
  ).rejects.toThrow("refers to itself");
  expect((await segments(septima))[0]).toEqual(cool);
});

test("a selection is counted subtraction by subtraction, the same in SQL and in memory", async () => {
  const selection = {
    include: [{ kind: "list" as const, id: "letter" }],
    exclude: [{ kind: "segment" as const, id: "cool" }],
  };
  const counts = await countSelection(septima, selection);
  expect(counts).toEqual({
    included: 40,
    excluded: 20,
    unsubscribed: 1,
    bounced: 0,
    complained: 0,
    got: 0,
    readers: 19,
  });
  expect((await selectedReaders(septima, selection)).readers.count()).toBe(counts.readers);
});

test("contacts are found by name and address, and addresses stay unique whatever their case", async () => {
  expect((await searchContacts(septima, "name 17", 5)).contacts.map((one) => one.email)).toEqual([
    "reader17@mail.example",
  ]);
  expect(await addContacts(septima, [{ email: "READER3@mail.example", fields: {} }])).toBe(0);
  expect((await contactById(septima, 4)).fields.first_name).toBe("Name 3");
  expect((await everybody(septima)).length).toBe(48);
});

test("ordering: obstacles, a changed number and a past time are refused; a second order too", async () => {
  const id = await draft();
  await expect(bookDispatch(septima, id, { confirmed: 5, when: null })).rejects.toThrow(
    "changed from 5 to 19",
  );
  await expect(
    bookDispatch(septima, id, {
      confirmed: 19,
      when: { date: "2020-01-01", time: "10:00", zone: "Europe/London" },
    }),
  ).rejects.toThrow("has passed");
  const empty = await startCampaign(septima, "Empty", "letter");
  await expect(bookDispatch(septima, empty, { confirmed: 0, when: null })).rejects.toThrow("no subject");
  const dispatch = await bookDispatch(septima, id, { confirmed: 19, when: null });
  expect((await dispatchesOf(septima, id))[0]).toMatchObject({ id: dispatch, state: "scheduled", total: 19 });
  await expect(bookDispatch(septima, id, { confirmed: 19, when: null })).rejects.toThrow("going out already");
  await expect(deleteCampaign(septima, id)).rejects.toThrow("Cancel the sending first");
  const copy = await copyCampaign(septima, id);
  await deleteCampaign(septima, copy);
  await expect(campaign(septima, copy)).rejects.toThrow(Refusal);
});

test("a dispatch stops at a relay that goes away, loses nothing, and ends when it is back", async () => {
  const id = await draft();
  const dispatch = await bookDispatch(septima, id, { confirmed: 19, when: null });
  let sent = 0;
  const failing: Relay = {
    connections: 2,
    close: async () => undefined,
    async send(envelope, message) {
      if (sent >= 7) throw new RelayError("The mail relay cannot be reached.", "closed");
      sent++;
      await septima.relay.send(envelope, message);
    },
  };
  await runDispatch({ ...septima, relay: failing }, dispatch);
  const [paused] = await dispatchesOf(septima, id);
  expect(paused).toMatchObject({
    state: "paused",
    total: 19,
    counts: { accepted: 7, pending: 12, handing: 0 },
  });
  expect(paused.trouble).toContain("Nothing is lost");
  // Meanwhile one of them unsubscribes.
  await septima.db.query(
    "update contacts set status = 'unsubscribed' where id = (select max(contact_id) from recipients where dispatch_id = $1 and state = 'pending')",
    [dispatch],
  );
  await moveDispatch(septima, dispatch, "paused", "sending");
  await runDispatch(septima, dispatch);
  expect((await dispatchesOf(septima, id))[0]).toMatchObject({
    state: "sent",
    counts: { accepted: 18, skipped: 1, pending: 0 },
  });
  const { total } = await septima.mailboxes!.search({ text: "Hello Name", offset: 0, limit: 100 });
  expect(total).toBe(18);
});

test("after the rest was cancelled, only the rest can be sent to, and nobody gets it twice", async () => {
  const id = await draft();
  const first = await bookDispatch(septima, id, { confirmed: 18, when: null });
  const got: string[] = [];
  const counting = (limit: number): Relay => ({
    connections: 1,
    close: async () => undefined,
    async send(envelope) {
      if (got.length >= limit) throw new RelayError("The mail relay cannot be reached.", "closed");
      got.push(envelope.to);
    },
  });
  await runDispatch({ ...septima, relay: counting(5) }, first);
  await steerDispatch(septima, first, "cancelled");
  const { readers } = await campaign(septima, id);
  expect(await countSelection(septima, readers, id)).toMatchObject({ got: 5, readers: 13 });
  await expect(bookDispatch(septima, id, { confirmed: 18, when: null })).rejects.toThrow(
    "changed from 18 to 13",
  );
  const second = await bookDispatch(septima, id, { confirmed: 13, when: null });
  await runDispatch({ ...septima, relay: counting(100) }, second);
  expect(got).toHaveLength(18);
  expect(new Set(got).size).toBe(18);
});

test("with a relay that cannot tell, interrupted hand-overs are left unconfirmed and not repeated", async () => {
  const id = await draft();
  const { readers } = await countSelection(septima, (await campaign(septima, id)).readers);
  const dispatch = await bookDispatch(septima, id, { confirmed: readers, when: null });
  const lost: Relay = {
    connections: 1,
    close: async () => undefined,
    send: async () => {
      throw new RelayError("The connection closed.", "unknown");
    },
  };
  const config = { ...septima.config, relay: "smtp://relay.example" };
  await runDispatch({ ...septima, config, relay: lost, mailboxes: null }, dispatch);
  const [it] = await dispatchesOf(septima, id);
  expect(it).toMatchObject({ state: "paused", counts: { unconfirmed: 3, pending: readers - 3 } });
});

test("fetching: private addresses, wrong protocols, endless redirects and oversized answers are refused in words", async () => {
  const server = http.createServer((request, response) => {
    if (request.url === "/loop") response.writeHead(302, { location: "/loop" }).end();
    else if (request.url === "/big") response.end(Buffer.alloc(300_000));
    else if (request.url === "/never") return;
    else response.writeHead(500).end();
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const limits = { ms: 400, bytes: 100_000, redirects: 2 };
  await expect(fetchDocument(`${origin}/`, [])).rejects.toThrow("private network");
  await expect(fetchDocument("http://[::1]/", [])).rejects.toThrow("private network");
  await expect(fetchDocument("file:///etc/passwd", [])).rejects.toThrow("Only http and https");
  await expect(fetchDocument("nonsense", [])).rejects.toThrow("is not an address");
  await expect(fetchDocument(`${origin}/`, [origin], limits)).rejects.toThrow("answered 500");
  await expect(fetchDocument(`${origin}/loop`, [origin], limits)).rejects.toThrow("more than 2 times");
  await expect(fetchDocument(`${origin}/big`, [origin], limits)).rejects.toThrow("more than");
  await expect(fetchDocument(`${origin}/never`, [origin], limits)).rejects.toThrow("did not answer");
  server.closeAllConnections();
  server.close();
});

test("pictures are turned, bounded and kept; more than 50 megapixels are refused", async () => {
  const large = await sharp({ create: { width: 2000, height: 1000, channels: 3, background: "#884422" } })
    .jpeg()
    .toBuffer();
  const kept = await addPicture(septima, "bed.jpg", large, "A bed");
  expect(kept).toMatchObject({ width: 1400, height: 700, type: "image/jpeg" });
  expect((await pictureFile(septima, path.basename(kept.path))).data.length).toBe(kept.bytes);
  const huge = await sharp({ create: { width: 8000, height: 8000, channels: 3, background: "#fff" } })
    .png()
    .toBuffer();
  await expect(addPicture(septima, "huge.png", huge)).rejects.toThrow("megapixels");
  await expect(addPicture(septima, "no.png", new TextEncoder().encode("no"))).rejects.toThrow(
    "not a picture",
  );
  await expect(pictureFile(septima, "../../etc/passwd")).rejects.toThrow("does not exist");
});

test("no address leads into a private network, by whatever way round", async () => {
  const INTO = [
    "127.0.0.1 10.1.2.3 100.64.0.1 169.254.169.254 172.31.0.1 192.168.1.1 0.0.0.0",
    "::1 :: fc00::1 fe80::1 ::ffff:127.0.0.1 ::ffff:7f00:1 ::127.0.0.1 64:ff9b::7f00:1 64:ff9b:1::a00:1 2002:7f00:1::1",
    "2001:0:4136:e378:8000:63bf:3fff:fdd2 ::ffff:0:127.0.0.1",
  ];
  for (const address of INTO.join(" ").split(" "))
    expect([address, isPrivate(address)]).toEqual([address, true]);
  for (const address of ["93.184.216.34", "2606:2800:220:1::1", "2a00:1450::5"])
    expect([address, isPrivate(address)]).toEqual([address, false]);
});

test("one's own pages are not fetched, not even where an address leads there; one's stand-ins are", async () => {
  const server = http.createServer((request, response) => {
    if (request.url?.startsWith("/standins/publisher/away"))
      response.writeHead(302, { location: "/campaigns" }).end();
    else response.end("here");
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const world = {
    ...septima,
    config: { ...septima.config, origin, standins: { publisher: `${origin}/standins/publisher` } },
  };
  expect((await fetchFor(world, `${origin}/standins/publisher/feed`)).toString()).toBe("here");
  for (const path of ["/campaigns", "/standins/publisher/away", "/standins/publisherx"])
    await expect(fetchFor(world, origin + path)).rejects.toThrow("does not fetch its own pages");
  server.close();
});

test.skipIf(serverPrograms() === null)(
  "a server that ends a connection in the middle of a transaction ends that work, and nothing else",
  async () => {
    const server = await startServer();
    const db = openServer(server.url);
    await db.script("create table it (n int)");
    const cut = db.transaction(async (tx) => {
      await tx.query("insert into it values (1)");
      const [{ pid }] = await tx.query<{ pid: number }>("select pg_backend_pid() as pid");
      await db.query("select pg_terminate_backend($1)", [pid]);
      // The end is noticed while nothing is asked.
      await new Promise((resolve) => setTimeout(resolve, 200));
      await tx.query("insert into it values (2)");
    });
    await expect(cut).rejects.toThrow();
    expect(await db.query("select * from it")).toEqual([]);
    await db.transaction((tx) => tx.query("insert into it values (3)"));
    expect(await db.query("select * from it")).toEqual([{ n: 3 }]);
    await db.close();
    await server.stop();
  },
);
