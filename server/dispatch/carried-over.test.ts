/** What was booked and half sent before there was a ledger goes on as it was. */
import { cp, mkdtemp, readdir, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, beforeAll, expect, test } from "vitest";
import { mapEmail } from "~/core/email";
import { campaign, startCampaign } from "../campaigns/campaigns";
import { tagFacts } from "../campaigns/tag-facts";
import { openEmbedded } from "../db/embedded";
import { migrate } from "../db/migrate";
import { fillMentions } from "../mentions";
import { openNews } from "../news";
import type { Septima } from "../septima";
import { openWorld, TEST_BRAND } from "../test-world";
import { setBrand } from "../workspace/settings";
import { dispatchesOf, steerDispatch } from "./dispatches";
import { messageAsSent } from "./frozen";
import { runDispatch } from "./run";
import { endLeases, takeOver } from "./settling";

/** The newest migration of before. */
const BEFORE = 18;
const READERS = 12;
let world: Septima;
let septima: Septima;
let older: string;
let close: () => Promise<void>;

beforeAll(async () => {
  const opened = await openWorld();
  world = opened.septima;
  older = await mkdtemp(path.join(tmpdir(), "septima-older-"));
  const all = "server/db/migrations";
  for (const name of await readdir(all))
    if (Number(name.slice(0, 4)) <= BEFORE) await cp(path.join(all, name), path.join(older, name));
  const db = await openEmbedded();
  await migrate(db, older, { 17: fillMentions });
  septima = { ...world, db, cache: new Map(), news: await openNews(db) };
  close = async () => {
    await db.close();
    await rm(older, { recursive: true, force: true });
    await opened.close();
  };
});
afterAll(() => close());

test("scheduled, half sent, paused, cancelled and sent: each is what it was, and everybody gets it once", async () => {
  const { db } = septima;
  await setBrand(septima, TEST_BRAND);
  await db.query("insert into lists (id, name, created_at) values ('all', 'All', now())");
  await db.query(
    `insert into contacts (email, fields, created_at)
     select 'reader' || n || '@mail.example', jsonb_build_object('first_name', 'Name ' || n), now()
     from generate_series(1, $1::int) n`,
    [READERS],
  );
  await db.query("insert into list_members (list_id, contact_id) select 'all', id from contacts");
  const old: Record<string, string> = {};
  for (const state of ["scheduled", "sending", "paused", "cancelled", "sent"]) {
    const id = await startCampaign(septima, state, "letter");
    old[state] = id;
    const { email } = await campaign(septima, id);
    const ready = mapEmail(email, (node) =>
      "type" in node && node.type === "button" ? { ...node, href: "https://shop.example/" } : node,
    );
    const tag = {
      type: "mergeTag",
      attrs: { field: "first_name", fallback: "you", format: "asIs" },
    } as const;
    const subject = [{ type: "text" as const, text: `Letter ${id} ` }, tag];
    const design = { ...ready, envelope: { ...ready.envelope, subject } };
    // As it was saved then.
    await db.query("update campaigns set email = $2::jsonb where id = $1", [id, JSON.stringify(design)]);
    await db.query("update campaigns set readers = $2::jsonb where id = $1", [
      id,
      JSON.stringify({ include: [{ kind: "list", id: "all" }], exclude: [] }),
    ]);
    const gathered = !["scheduled"].includes(state);
    await db.query(
      `insert into dispatches (id, campaign_id, state, scheduled_for, zone, email, readers, content, total, confirmed,
         named, created_at)
       select $1, id, $2, case when $2 = 'scheduled' then now() - interval '1 minute' end, 'Europe/London', email,
         readers, $3::jsonb, $4, $4, $5::jsonb, now() from campaigns where id = $1`,
      [id, state, gathered ? "{}" : null, READERS, JSON.stringify(await tagFacts(septima, id))],
    );
    if (!gathered) continue;
    // A third has it, a third was being handed over, a third waits, one of them after a greylisting.
    await db.query(
      `insert into recipients (dispatch_id, contact_id, state, message_id, attempts, trouble, changed_at)
       select $1, id, case when $2 = 'sent' or id % 3 = 0 then 'accepted' when id % 3 = 1 and $2 = 'sending' then 'handing'
         else 'pending' end, $1 || '.' || id || '@marlmoss.example', case when id % 3 = 0 then 1 else 0 end,
         case when id = 2 then '451 Greylisted' end, now() from contacts`,
      [id, state],
    );
  }
  await migrate(db, "server/db/migrations", { 17: fillMentions });
  septima.cache.clear();
  const arrived = async (state: string) => {
    const found = await septima.mailboxes!.search({ text: `Letter ${old[state]}`, offset: 0, limit: 100 });
    return found.messages;
  };
  const stateOf = async (state: string) => (await dispatchesOf(septima, old[state]))[0];

  for (const state of Object.keys(old)) expect((await stateOf(state)).state).toBe(state);
  expect(await stateOf("scheduled")).toMatchObject({ zone: "Europe/London", total: READERS });
  expect((await stateOf("scheduled")).scheduledFor).not.toBeNull();
  expect((await stateOf("sending")).scheduledFor).toBeNull();

  await endLeases(septima);
  await takeOver(septima);
  await runDispatch(septima, old.scheduled);
  await runDispatch(septima, old.sending);
  await steerDispatch(septima, old.paused, "sending");
  await runDispatch(septima, old.paused);
  const whole = { state: "sent", counts: { accepted: READERS, pending: 0, handing: 0 } };
  for (const state of ["scheduled", "sending", "paused"]) expect(await stateOf(state)).toMatchObject(whole);
  expect(await arrived("scheduled")).toHaveLength(READERS);
  // Those who had it do not get it again.
  for (const state of ["sending", "paused"]) {
    const mails = await arrived(state);
    expect(mails).toHaveLength((READERS * 2) / 3);
    expect(new Set(mails.map(({ to }) => to)).size).toBe(mails.length);
  }
  for (const state of ["cancelled", "sent"]) expect(await arrived(state)).toEqual([]);

  // What was sent since can be looked at; of what was sent before it is said why not.
  const [mail] = await arrived("paused");
  const source = await septima.mailboxes!.source(mail.id);
  const contact = Number(/^\w+\.(\d+)\.\d+\./.exec(mail.messageId)![1]);
  expect(Buffer.from(await messageAsSent(septima, old.paused, contact)).equals(source!)).toBe(true);
  await expect(messageAsSent(septima, old.sent, 3)).rejects.toThrow("was not kept");
  await expect(messageAsSent(septima, old.paused, 3)).rejects.toThrow("was not kept");
});
