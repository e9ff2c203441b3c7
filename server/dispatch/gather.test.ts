/** What stood when a sending was booked may have gone when its moment comes: nobody gets what they must not. */

import { simpleParser } from "mailparser";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { blocksOf, type Inline, PLACEHOLDER_BRAND } from "~/core/email";
import { addContacts } from "../audience/contacts";
import { saveField } from "../audience/fields";
import { saveSegment } from "../audience/groups";
import { countSelection, type Selection } from "../audience/selection";
import { campaign, setReaders, startCampaign } from "../campaigns/campaigns";
import { migrate } from "../db/migrate";
import { openServer } from "../db/postgres";
import { serverPrograms, startServer } from "../db/test-server";
import type { Septima } from "../septima";
import { addBatch, codeStock, reserveCodes, takeCodes } from "../sources/codes";
import { addList, openWorld, saveDesign, TEST_BRAND } from "../test-world";
import { setRemoved } from "../workspace/removals";
import { setBrand } from "../workspace/settings";
import { bookDispatch } from "./bookings";
import { dispatchesOf, steerDispatch } from "./dispatches";
import { runDispatch } from "./run";

const READERS = 40;
const OUT = 10;
let septima: Septima;
let close: () => Promise<void>;
const now = Date.UTC(2026, 10, 23, 9);

beforeAll(async () => {
  ({ septima, close } = await openWorld());
  Object.assign(septima, { now: () => now });
});
afterAll(() => close());

let turn = 0;
/** The lists of this test, with ids of their own. */
let all = "";
let out = "";
let segment = "";
beforeEach(async () => {
  turn++;
  [all, out, segment] = [`all-${turn}`, `out-${turn}`, `segment-${turn}`];
  await addList(septima, all, `All ${turn}`);
  await addList(septima, out, `Out ${turn}`);
  await people(READERS, (at) => (at < OUT ? [all, out] : [all]));
  await saveSegment(septima, {
    id: segment,
    name: `Cool ${turn}`,
    rule: { kind: "list", list: all, in: true },
  });
});

let born = 0;
/** Puts so many new contacts on lists. */
const people = (count: number, lists: (at: number) => string[], fields = {}) =>
  addContacts(
    septima,
    Array.from({ length: count }, (_, at) => ({
      email: `reader${born++}@mail.example`,
      fields: { first_name: `Name ${at}`, ...fields },
      lists: lists(at),
    })),
  );

const list = (id: string) => ({ kind: "list" as const, id });

async function letter(readers: Selection, subject: Inline[] = []): Promise<string> {
  const id = await startCampaign(septima, "Test", "letter");
  const next = structuredClone((await campaign(septima, id)).email);
  next.envelope.subject = [{ type: "text", text: `Letter ${id} ` }, ...subject];
  for (const block of blocksOf(next)) if (block.type === "button") block.href = "https://shop.example/";
  await saveDesign(septima, id, next);
  await setReaders(septima, id, readers);
  return id;
}

/** Booked for tomorrow, or by a tolerance. */
async function scheduled(id: string, tolerance?: number | null): Promise<string> {
  const { readers } = await countSelection(septima, (await campaign(septima, id)).readers, id);
  const when = { date: new Date(now + 86_400_000).toISOString().slice(0, 10), time: "10:00", zone: "UTC" };
  return bookDispatch(septima, id, { confirmed: readers, when, tolerance });
}

const arrived = async (id: string) =>
  (await septima.mailboxes!.search({ text: `Letter ${id}`, offset: 0, limit: 500 })).messages;
const stateOf = async (id: string) => (await dispatchesOf(septima, id))[0];

/** The dispatch is paused with such words, and nobody got it. */
async function stands(id: string, words: RegExp) {
  expect(await stateOf(id)).toMatchObject({ state: "paused" });
  expect((await stateOf(id)).trouble).toMatch(words);
  expect((await stateOf(id)).trouble).toMatch(/Nobody got anything yet/);
  expect(await arrived(id)).toEqual([]);
}

describe("what has gone since a sending was booked pauses it:", () => {
  test("a list it leaves out; brought back, those ten still do not get it", async () => {
    const id = await letter({ include: [list(all)], exclude: [list(out)] });
    const dispatch = await scheduled(id);
    await setRemoved(septima, "list", out, true);
    await runDispatch(septima, dispatch);
    await stands(id, /list that was deleted/);
    await setRemoved(septima, "list", out, false);
    await steerDispatch(septima, dispatch, "sending");
    await runDispatch(septima, dispatch);
    expect(await stateOf(id)).toMatchObject({ state: "sent" });
    expect(await arrived(id)).toHaveLength(READERS - OUT);
  });

  test("a list it goes to", async () => {
    const id = await letter({ include: [list(all)], exclude: [] });
    const dispatch = await scheduled(id);
    await setRemoved(septima, "list", all, true);
    await runDispatch(septima, dispatch);
    await stands(id, /list that was deleted/);
  });

  test.each(["include", "exclude"] as const)("a segment under %s", async (where) => {
    const chosen: Selection = { include: [list(all)], exclude: [] };
    if (where === "exclude") await setRule(out);
    chosen[where].push({ kind: "segment", id: segment });
    const id = await letter(chosen);
    const dispatch = await scheduled(id);
    await setRemoved(septima, "segment", segment, true);
    await runDispatch(septima, dispatch);
    await stands(id, /segment .* no longer exists/);
    await setRemoved(septima, "segment", segment, false);
    await steerDispatch(septima, dispatch, "sending");
    await runDispatch(septima, dispatch);
    expect(await stateOf(id)).toMatchObject({ state: "sent" });
  });

  test("a segment that a show rule names", async () => {
    const id = await letter({ include: [list(all)], exclude: [] });
    const { email } = await campaign(septima, id);
    const next = structuredClone(email);
    blocksOf(next)[0].show = { kind: "segment", segment, in: true };
    await saveDesign(septima, id, next);
    const dispatch = await scheduled(id);
    await setRemoved(septima, "segment", segment, true);
    await runDispatch(septima, dispatch);
    await stands(id, /rule .* cannot be answered/);
  });

  test("the sender's own postal address", async () => {
    const id = await letter({ include: [list(all)], exclude: [] });
    const dispatch = await scheduled(id);
    await setBrand(septima, { ...TEST_BRAND, address: PLACEHOLDER_BRAND.address });
    await runDispatch(septima, dispatch);
    await setBrand(septima, TEST_BRAND);
    await stands(id, /postal address is still “1 Example Street/);
  });

  const setRule = (of: string) =>
    saveSegment(septima, { id: segment, name: `Cool ${turn}`, rule: { kind: "list", list: of, in: true } });
});

describe("a number of readers that is clearly another than the one confirmed", () => {
  test.each([
    ["more", 3, true],
    ["a few more", 2, false],
  ])("pauses and asks: %s", async (_what, more, pauses) => {
    const id = await letter({ include: [list(all)], exclude: [] });
    const dispatch = await scheduled(id);
    await people(more, () => [all]);
    await runDispatch(septima, dispatch);
    if (!pauses) {
      expect(await arrived(id)).toHaveLength(READERS + more);
      return;
    }
    await stands(id, /40 readers were confirmed, but it would go to 43 readers now/);
    await steerDispatch(septima, dispatch, "sending");
    await runDispatch(septima, dispatch);
    expect(await stateOf(id)).toMatchObject({ state: "sent" });
    expect(await arrived(id)).toHaveLength(READERS + more);
  });

  test("fewer, too; and what was confirmed by resuming is asked again when it changes once more", async () => {
    const id = await letter({ include: [list(all)], exclude: [] });
    const dispatch = await scheduled(id);
    await septima.db.query(
      "update contacts set status = 'unsubscribed' where id in (select contact_id from list_members where list_id = $1)",
      [out],
    );
    await runDispatch(septima, dispatch);
    await stands(id, /it would go to 30 readers now/);
    await people(20, () => [all]);
    await steerDispatch(septima, dispatch, "sending");
    await runDispatch(septima, dispatch);
    await stands(id, /30 readers were confirmed, but it would go to 50 readers now/);
  });

  test("goes by the tolerance of a scheduled one", async () => {
    const wide = await letter({ include: [list(all)], exclude: [] });
    const any = await letter({ include: [list(all)], exclude: [] });
    const dispatches = [await scheduled(wide, 25), await scheduled(any, 100)];
    await people(20, () => [all]);
    for (const dispatch of dispatches) await runDispatch(septima, dispatch);
    await stands(wide, /it would go to 60 readers now/);
    expect(await arrived(any)).toHaveLength(60);
  });
});

describe("whoever may not be written to", () => {
  const STATES = ["unsubscribed", "bounced", "complained", "removed"] as const;
  /** Four of the readers, each in another of these states. */
  async function suppress() {
    const rows = await septima.db.query<{ contact_id: number; email: string }>(
      "select contact_id, email from list_members join contacts c on c.id = contact_id where list_id = $1 order by 1 limit 4",
      [all],
    );
    for (const [at, { contact_id: id }] of rows.entries())
      await septima.db.query("update contacts set status = $2 where id = $1", [id, STATES[at]]);
    return rows.map(({ email }) => email);
  }

  test("before it is gathered, is not gathered", async () => {
    const id = await letter({ include: [list(all)], exclude: [] });
    const dispatch = await scheduled(id, 100);
    const those = await suppress();
    await runDispatch(septima, dispatch);
    const got = (await arrived(id)).map(({ to }) => to);
    expect(got).toHaveLength(READERS - 4);
    expect(got.filter((to) => those.includes(to))).toEqual([]);
    const [{ count }] = await septima.db.query<{ count: number }>(
      "select count(*)::int as count from recipients where dispatch_id = $1",
      [dispatch],
    );
    expect(count).toBe(READERS - 4);
  });

  test("between gathering and their turn, is skipped, and the sending says so", async () => {
    const id = await letter({ include: [list(all)], exclude: [] });
    const dispatch = await scheduled(id);
    // Gathered by a process that ends before the first is handed over.
    await runDispatch({ ...septima, stopping: AbortSignal.abort() }, dispatch);
    const those = await suppress();
    await runDispatch(septima, dispatch);
    const got = (await arrived(id)).map(({ to }) => to);
    expect(got.filter((to) => those.includes(to))).toEqual([]);
    expect((await stateOf(id)).counts).toMatchObject({ accepted: READERS - 4, skipped: 4 });
  });
});

test("whoever an import made that has not come to its end is nobody's reader yet", async () => {
  const id = await letter({ include: [list(all)], exclude: [] });
  const dispatch = await scheduled(id, 100);
  await septima.db.query(
    `insert into changes (id, kind, name, state, alive_at, started_at) values ('half', 'import', 'x', 'running', now(), now())`,
  );
  await septima.db.query(
    `insert into change_rows (change_id, contact_id, before, after)
     select 'half', contact_id, case when contact_id % 2 = 0 then '{}'::jsonb end, '{}' from list_members where list_id = $1`,
    [out],
  );
  await runDispatch(septima, dispatch);
  // Of those ten, five were there before and are only changed by it.
  expect(await arrived(id)).toHaveLength(READERS - OUT / 2);
  await septima.db.query("delete from changes");
  await septima.db.query("delete from change_rows");
});

describe("codes", () => {
  const tag: Inline = {
    type: "mergeTag",
    attrs: { field: "code.gift", fallback: "none left", format: "asIs" },
  };
  const batch = (key: string) => ({
    key,
    name: key,
    per: "campaign" as const,
    example: "EXAMPLE",
    low: 0,
    ends: null,
  });

  test("are there for a contact who comes while readers are gathered", async () => {
    await addBatch(septima, batch("gift"), Array.from({ length: 100 }, (_, at) => `G-${at}`).join("\n"));
    const id = await letter({ include: [list(all)], exclude: [] }, [tag]);
    const dispatch = await scheduled(id, 100);
    const late: Septima = {
      ...septima,
      db: {
        ...septima.db,
        query: septima.db.query.bind(septima.db),
        async transaction(body) {
          // The last moment before everything is one step: what was asked before does not know of them.
          await septima.db.query(
            "insert into contacts (email, created_at) values ('late@mail.example', now())",
          );
          await septima.db.query(
            "insert into list_members (list_id, contact_id) select $1, id from contacts where email = 'late@mail.example'",
            [all],
          );
          return septima.db.transaction(body);
        },
      },
    };
    await runDispatch(late, dispatch);
    const mails = await arrived(id);
    expect(mails).toHaveLength(READERS + 1);
    expect(mails.filter(({ subject }) => subject.includes("none left"))).toEqual([]);
  });

  const codeTag = (key: string, fallback: string): Inline => ({
    type: "mergeTag",
    attrs: { field: `code.${key}`, fallback, format: "asIs" },
  });
  test.each([
    ["words that do without", "spare", [codeTag("spare", "none left")], "", "sent"],
    [
      "words that do without, and others that do not",
      "short",
      [codeTag("short", "none left"), codeTag("short", "")],
      "",
      "paused",
    ],
    [
      "words that do without beside an address that has none",
      "beside",
      [codeTag("beside", "none left")],
      "{$code.beside}",
      "sent",
    ],
    ["an address alone", "alone", [], "{$code.alone}", "paused"],
  ] as const)("that run out while readers are gathered: %s", async (_what, key, words, address, state) => {
    await addBatch(
      septima,
      batch(key),
      Array.from({ length: READERS }, (_, at) => `${key}-${at}`).join("\n"),
    );
    const id = await letter({ include: [list(all)], exclude: [] }, [...words]);
    if (address !== "") {
      const next = structuredClone((await campaign(septima, id)).email);
      for (const block of blocksOf(next))
        if (block.type === "button") block.href = `https://shop.example/?c=${address}`;
      await saveDesign(septima, id, next);
    }
    const dispatch = await scheduled(id);
    const beside: Septima = {
      ...septima,
      db: {
        ...septima.db,
        query: septima.db.query.bind(septima.db),
        async transaction(body) {
          // Somebody else is given one after the sheet was asked for the last time.
          await septima.db.query(
            "delete from codes where code = (select min(code) from codes where batch = $1 and contact_id is null)",
            [key],
          );
          return septima.db.transaction(body);
        },
      },
    };
    await runDispatch(beside, dispatch);
    if (state === "paused") await stands(id, new RegExp(`“${key}” has 1 code too few`));
    else {
      expect(await stateOf(id)).toMatchObject({ state });
      expect(await arrived(id)).toHaveLength(READERS);
      expect((await arrived(id)).filter(({ subject }) => subject.includes("none left"))).toHaveLength(1);
    }
  });

  test("are shown to those whom a rule on the record they point to shows them, in the language they read", async () => {
    await saveField(septima, { key: "city", label: "City", kind: "text" });
    await addBatch(septima, batch("few"), Array.from({ length: READERS }, (_, at) => `F-${at}`).join("\n"));
    await septima.db.query(
      `update contacts set fields = fields || '{"city": "cool"}' where id in (select contact_id from list_members where list_id = $1)`,
      [out],
    );
    const id = await letter({ include: [list(all)], exclude: [] }, [
      {
        type: "either",
        attrs: {
          cases: [
            {
              when: { kind: "field", field: "city", op: "is", value: "cool" },
              words: [{ type: "mergeTag", attrs: { field: "code.few", fallback: "", format: "asIs" } }],
            },
          ],
          otherwise: [{ type: "text", text: "nothing" }],
        },
      },
    ]);
    await runDispatch(septima, await scheduled(id));
    const free = (await codeStock(septima)).find(({ key }) => key === "few")!.free;
    expect(free).toBe(READERS - OUT);
    expect((await arrived(id)).filter(({ subject }) => subject.includes("F-"))).toHaveLength(OUT);
  });

  test.skipIf(serverPrograms() === null)(
    "reserved beside a reward, on a server: no code is two people's; 10,000 take under a second, whatever the statistics",
    async () => {
      const server = await startServer();
      const db = openServer(server.url);
      try {
        await migrate(db, "server/db/migrations");
        const world = { ...septima, db, cache: new Map() };
        await db.query(
          "insert into contacts (email, created_at) select i || '@mail.example', now() from generate_series(1, 10100) i",
        );
        await addBatch(world, batch("gift"), Array.from({ length: 11_000 }, (_, at) => `S-${at}`).join("\n"));
        await db.query("analyze");
        const at = new Date();
        const readers = Array.from({ length: 10_000 }, (_, id) => id + 1);
        const begun = performance.now();
        const reserve = db.transaction((tx) =>
          reserveCodes(tx, { id: "d", campaignId: "c", at }, "gift", readers),
        );
        const rewards = Array.from({ length: 100 }, (_, id) =>
          db.transaction((tx) =>
            takeCodes(tx, "gift", [10_001 + id], { whose: "reward", dispatchId: null, at }),
          ),
        );
        expect((await reserve).missing).toBe(0);
        expect((performance.now() - begun) / 1000).toBeLessThan(5);
        for (const reward of rewards) expect((await reward).size).toBe(1);
        const rows = await db.query<{ handed: number; people: number }>(
          "select count(*)::int as handed, count(distinct contact_id)::int as people from codes where contact_id is not null",
        );
        expect(rows).toEqual([{ handed: 10_100, people: 10_100 }]);
      } finally {
        await db.close();
        await server.stop();
      }
    },
  );
});

test("each reader's words are their own, also where readers share what a tag is made from", async () => {
  await people(1, () => [all], {
    first_name: "Ines",
    nickname: "Nan",
    since: "2026-03-01",
    language: "en-US",
  });
  await people(1, () => [all], { first_name: "", nickname: "Nan", since: "2026-03-01", language: "en-GB" });
  await people(1, () => [all], { first_name: "", nickname: "Jo", since: "2026-03-01", language: "en" });
  await people(1, () => [all], { first_name: "", nickname: "Bo", since: "2026-03-01", language: "en" });
  const id = await letter({ include: [list(all)], exclude: [] }, [
    { type: "mergeTag", attrs: { field: "first_name", or: "nickname", fallback: "friend", format: "asIs" } },
    { type: "text", text: " " },
    { type: "mergeTag", attrs: { field: "since", fallback: "", format: "longDate" } },
  ]);
  await runDispatch(septima, await scheduled(id));
  const mails = await Promise.all(
    (await arrived(id)).map(async (mail) => simpleParser((await septima.mailboxes!.source(mail.id))!)),
  );
  // In the header, and in the HTML, whose words come from bytes that readers share.
  const subjects = mails.map(({ subject }) => subject);
  const titles = mails.map(({ html }) => /<title>(.*?)<\/title>/s.exec(html || "")?.[1]);
  const own = ["Ines March 1, 2026", "Nan 1 March 2026", "Jo 1 March 2026", "Bo 1 March 2026"].map(
    (words) => `Letter ${id} ${words}`,
  );
  expect(subjects).toEqual(expect.arrayContaining(own));
  expect(titles).toEqual(expect.arrayContaining(own));
});
