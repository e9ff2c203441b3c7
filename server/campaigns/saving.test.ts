/** Saving on a real database: what one window sends, and what it learns of others. */
import { afterAll, beforeAll, expect, test } from "vitest";
import { parseEmail } from "~/core/blocks";
import { changeEmail, commands } from "~/core/compose";
import { type Block, blocksOf, type Email } from "~/core/email";
import { difference, fingerprint, type Packed, pack, unpack } from "~/core/steps";
import { addContacts } from "../audience/contacts";
import { setReaders, startCampaign } from "../campaigns/campaigns";
import type { Queries } from "../db/database";
import { migrate } from "../db/migrate";
import { openServer } from "../db/postgres";
import { serverPrograms, startServer } from "../db/test-server";
import { bookDispatch, takeBack } from "../dispatch/bookings";
import type { Septima } from "../septima";
import { addList, openWorld, saveDesign } from "../test-world";
import { readDesigns } from "./designs";
import { lockOf } from "./lock";
import { savedDesign, saveSteps } from "./saving";

let septima: Septima;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ septima, close } = await openWorld());
  await addList(septima, "letter", "Letter");
  await addContacts(septima, [{ email: "ines@mail.example", fields: {}, lists: ["letter"] }]);
});
afterAll(() => close());

const start = async () => {
  const id = await startCampaign(septima, "Test", "letter");
  return { id, ...(await savedDesign(septima, id)) };
};
const subject = (text: string) => commands.setEnvelope({ subject: [{ type: "text", text }] });
const done = (email: Email, ...all: Parameters<typeof changeEmail>[1][]) =>
  all.reduce((now, command) => changeEmail(now, command).email, email);
/** Buttons lead somewhere. */
const withAddresses = (email: Email) =>
  blocksOf(email)
    .filter(({ type }) => type === "button")
    .map(({ id }) => commands.set(id, { href: "https://a.example/" }));
let saves = 0;
const request = (revision: number, base: Email, next: Email) => ({
  revision,
  save: `save-${saves++}`,
  steps: JSON.parse(JSON.stringify(pack(difference(base, next)))) as Packed[],
});
const saved = (answer: Awaited<ReturnType<typeof saveSteps>>) => {
  if (answer.state !== "saved") throw new Error(JSON.stringify(answer));
  return answer;
};

test("a design that was saved is not read again, and is what reading it would give", async () => {
  const { id, email, revision } = await start();
  const [{ id: block }] = blocksOf(email);
  const coloured = done(
    email,
    subject("Beans"),
    commands.set(block, { background: "#336699", name: "First" }),
  );
  const first = saved(await saveSteps(septima, id, request(revision, email, coloured)));
  const plain = done(coloured, commands.set(block, { background: undefined }));
  await saveSteps(septima, id, request(first.revision, coloured, plain));
  const kept = readDesigns(septima).get(id);
  const [row] = await septima.db.query<{ email: unknown; revision: number }>(
    "select email, revision from campaigns where id = $1",
    [id],
  );
  expect(kept).toStrictEqual({ email: parseEmail(row.email), revision: row.revision });
  expect((await savedDesign(septima, id)).email).toBe(kept?.email);
  // One that another process saved since is read.
  const elsewhere = { ...septima, cache: new Map() };
  const other = done(plain, subject("Peas"));
  await saveSteps(elsewhere, id, request(first.revision + 1, plain, other));
  expect((await savedDesign(septima, id)).email.envelope.subject).toEqual([{ type: "text", text: "Peas" }]);
});

test("a save that was taken back by the database is not remembered", async () => {
  const { id, email, revision } = await start();
  const { db } = septima;
  const cut: typeof db.transaction = (work) =>
    db.transaction(async (tx) => {
      await work(tx);
      throw new Error("the connection was lost");
    });
  const lost = done(email, subject("Lost"));
  const sent = saveSteps({ ...septima, db: { ...db, transaction: cut } }, id, request(revision, email, lost));
  await expect(sent).rejects.toThrow("the connection was lost");
  // Somebody else's save becomes the revision that the lost one would have been.
  const elsewhere = { ...septima, cache: new Map() };
  await saveSteps(elsewhere, id, request(revision, email, done(email, subject("Kept"))));
  expect((await savedDesign(septima, id)).email.envelope.subject).toEqual([{ type: "text", text: "Kept" }]);
});

test("a save on the newest revision is kept, and what is saved is what was meant", async () => {
  const { id, email, revision } = await start();
  const next = done(email, subject("Beans"));
  const answer = saved(await saveSteps(septima, id, request(revision, email, next)));
  expect(answer).toMatchObject({
    revision: revision + 1,
    theirs: [],
    clashes: [],
    fingerprint: fingerprint(next),
  });
  expect((await savedDesign(septima, id)).email).toEqual(next);
});

test("a save on an older revision is rebased over what others did, word by word", async () => {
  const { id, email, revision } = await start();
  const text = blocksOf(email).find((block) => block.type === "text") as Block;
  const words = (say: string) =>
    commands.setAt(text.id, "content", {
      type: "doc",
      content: [{ type: "paragraph", content: [{ type: "text", text: say }] }],
    });
  const base = done(email, words("Begin with what matters to the reader."));
  const first = saved(await saveSteps(septima, id, request(revision, email, base)));
  const [one, two] = [
    done(base, words("Begin today with what matters to the reader.")),
    done(base, words("Begin with what matters most to the reader."), subject("Two")),
  ];
  await saveSteps(septima, id, request(first.revision, base, one));
  const answer = saved(await saveSteps(septima, id, request(first.revision, base, two)));
  expect(answer.clashes).toEqual([]);
  const now = await savedDesign(septima, id);
  expect(JSON.stringify(now.email)).toContain("Begin today with what matters most to the reader.");
  expect(unpack(two, answer.theirs).email).toEqual(now.email);
});

test("only what contradicts is reported; the other's stays", async () => {
  const { id, email, revision } = await start();
  await saveSteps(septima, id, request(revision, email, done(email, subject("Theirs"))));
  const mine = done(email, subject("Mine"), commands.setTheme("plum"));
  const answer = saved(await saveSteps(septima, id, request(revision, email, mine)));
  expect(answer.clashes).toMatchObject([{ reason: "changed", id: null, path: "envelope/subject" }]);
  const { email: now } = await savedDesign(septima, id);
  expect(now.theme).toBe("plum");
  expect(JSON.stringify(now.envelope.subject)).toContain("Theirs");
});

test("the same request again, because its answer got lost, changes nothing", async () => {
  const { id, email, revision } = await start();
  const once = request(revision, email, done(email, subject("Once")));
  const first = saved(await saveSteps(septima, id, once));
  await saveDesign(septima, id, done((await savedDesign(septima, id)).email, commands.setTheme("garden")));
  const again = saved(await saveSteps(septima, id, once));
  expect(again.revision).toBe(first.revision + 1);
  expect(again.theirs).toEqual([{ op: "set", id: null, path: "theme", after: "garden" }]);
});

test("a revision that is not known, and steps that do not fit, get the whole design; nothing is written", async () => {
  const { id, email, revision } = await start();
  const ask = request(revision, email, done(email, subject("X")));
  for (const wrong of [
    { ...ask, revision: revision + 7 },
    { ...ask, revision: revision - 1 },
    { ...ask, steps: [{ op: "remove" as const, id: "nothing" }] },
    { ...ask, steps: [{ op: "set" as const, id: null, path: "sections", after: [] }] },
  ])
    expect(await saveSteps(septima, id, wrong)).toMatchObject({ state: "behind", revision });
  expect((await savedDesign(septima, id)).revision).toBe(revision);
});

test("what cannot be kept is refused with a sentence: a broken block, a sign that is none", async () => {
  const { id, email, revision } = await start();
  const [first] = blocksOf(email);
  const broken: Packed[] = [{ op: "set", id: first.id, path: "level", after: 9 }];
  const answer = await saveSteps(septima, id, { revision, save: "broken-1", steps: broken });
  expect(answer).toMatchObject({ state: "refused", locked: false });
  expect(JSON.stringify(answer)).toContain("level");
  const odd = done(email, subject("a\u0000b"));
  expect(await saveSteps(septima, id, request(revision, email, odd))).toMatchObject({ state: "refused" });
  expect((await savedDesign(septima, id)).revision).toBe(revision);
});

test("the footer cannot be saved away", async () => {
  const { id, email, revision } = await start();
  const footerless = { ...email, sections: email.sections.slice(0, 1) };
  const answer = saved(await saveSteps(septima, id, request(revision, email, footerless)));
  expect(JSON.stringify(answer.theirs)).toContain('"footer"');
  expect(blocksOf((await savedDesign(septima, id)).email).filter((it) => it.type === "footer")).toHaveLength(
    1,
  );
});

test("one key stroke in a design of 200 KB takes less than 2 KB on the wire", async () => {
  const { email } = await start();
  const text = blocksOf(email).find((block) => block.type === "text") as Block;
  const doc = (last: string) => ({
    type: "doc" as const,
    content: [...Array(100).keys()].map((n) => ({
      type: "paragraph" as const,
      content: [{ type: "text" as const, text: n === 50 ? last : `paragraph ${n} `.repeat(160) }],
    })),
  });
  const base = done(email, commands.setAt(text.id, "content", doc("wor")));
  expect(JSON.stringify(base).length).toBeGreaterThan(200_000);
  const next = done(base, commands.setAt(text.id, "content", doc("word")));
  expect(JSON.stringify(request(1, base, next)).length).toBeLessThan(2000);
});

test.skipIf(serverPrograms() === null)(
  "on a server, what waits for another is answered as things are then: a booking holds it, and the same save is one",
  async () => {
    const server = await startServer();
    const db = openServer(server.url);
    try {
      await migrate(db, "server/db/migrations");
      const world: Septima = { ...septima, db, cache: new Map() };
      await addList(world, "letter", "Letter");
      const id = await startCampaign(world, "Test", "letter");
      const { email, revision } = await savedDesign(world, id);
      const change = (words: string) => request(revision, email, done(email, subject(words)));
      /** What comes of work that has to wait for a transaction, which ends once it does. */
      const behind = async <T>(
        first: (tx: Queries) => Promise<unknown>,
        work: () => Promise<T>,
      ): Promise<T> => {
        let outcome: Promise<T> | undefined;
        await db.transaction(async (tx) => {
          await tx.query("select from campaigns where id = $1 for update", [id]);
          outcome = work();
          const waits = "select 1 from pg_stat_activity where wait_event_type = 'Lock'";
          await expect
            .poll(() => db.query(waits).then((rows) => rows.length), { timeout: 5000 })
            .toBeGreaterThan(0);
          await first(tx);
        });
        return outcome as Promise<T>;
      };
      const twice = change("Beans");
      const save = () => saveSteps({ ...world, cache: new Map() }, id, twice);
      const [one, other] = await behind(
        async () => undefined,
        () => Promise.all([save(), save()]),
      );
      expect(saved(one)).toEqual(saved(other));
      const book = (tx: Queries) =>
        tx.query(
          `with booking as (
             insert into bookings (id, campaign_id, readers, zone, confirmed, created_at)
             values ('d', $1, '{}', 'UTC', 0, now()) returning id)
           insert into dispatches (id, booking_id, campaign_id, state, email, readers, total, created_at)
           select 'd', id, $1, 'scheduled', '{}', '{}', 0, now() from booking`,
          [id],
        );
      expect(await behind(book, () => saveSteps(world, id, change("Peas")))).toMatchObject({
        state: "refused",
        locked: true,
      });
    } finally {
      await db.close();
      await server.stop();
    }
  },
);

test("a design that is saved while it is being booked is not sent as it was before", async () => {
  const { id, email, revision } = await start();
  const { db } = septima;
  const ready = done(email, subject("Ready"), ...withAddresses(email));
  await saveDesign(septima, id, ready);
  await setReaders(septima, id, { include: [{ kind: "list", id: "letter" }], exclude: [] });
  const late = request(revision + 1, ready, done(ready, subject("Late")));
  const meanwhile: typeof db.transaction = async (work) => {
    await saveSteps(septima, id, late);
    return db.transaction(work);
  };
  const world = { ...septima, db: { ...db, transaction: meanwhile } };
  await expect(bookDispatch(world, id, { confirmed: 1, when: null })).rejects.toThrow("changed just now");
  expect(await lockOf(db, id)).toBeNull();
});

test("a scheduled design is not changed until it is taken back; a sent one not at all", async () => {
  const { id, email } = await start();
  await saveDesign(septima, id, done(email, subject("Ready"), ...withAddresses(email)));
  await setReaders(septima, id, { include: [{ kind: "list", id: "letter" }], exclude: [] });
  const when = { date: "2031-01-06", time: "10:00", zone: "Europe/London" };
  const dispatch = await bookDispatch(septima, id, { confirmed: 1, when });
  const now = await savedDesign(septima, id);
  const change = () =>
    saveSteps(septima, id, request(now.revision, now.email, done(now.email, subject("Late"))));
  expect(await change()).toMatchObject({ state: "refused", locked: true });
  expect(await lockOf(septima.db, id)).toMatchObject({ state: "scheduled", dispatch });
  await takeBack(septima, dispatch);
  expect(await lockOf(septima.db, id)).toBeNull();
  await expect(takeBack(septima, dispatch)).rejects.toThrow("begun");
  expect(await change()).toMatchObject({ state: "saved" });
});
