/** Dispatches through a real relay that makes trouble. */
import { afterAll, afterEach, beforeAll, beforeEach, expect, test } from "vitest";
import { addContacts } from "../audience/contacts";

import { countSelection } from "../audience/selection";
import { campaign } from "../campaigns/campaigns";
import { type HostileRelay, openHostileRelay, RELAY_CERTIFICATE, type Script } from "../mail/hostile";
import { openRelay } from "../mail/relay";
import type { Septima } from "../septima";
import { addList, openWorld, readyLetter } from "../test-world";
import { bookDispatch } from "./bookings";
import { dispatchesOf, sendUnconfirmed, steerDispatch } from "./dispatches";
import { recipientsOf } from "./recipients";
import { runDispatch } from "./run";

/** A relay that is away or slow is waited for shortly. */
const OPTIONS = {
  connections: 3,
  patience: 250,
  slowest: { connect: 300, message: 400 },
  trust: RELAY_CERTIFICATE,
};
const MINUTE = 60_000;
const READERS = 9;
let world: Septima;
let close: () => Promise<void>;
let hostile: HostileRelay;
let septima: Septima;
/** The time of day, as the test says. */
let now = Date.now();

beforeAll(async () => {
  ({ septima: world, close } = await openWorld());
  await addList(world, "all", "All");
  await addContacts(
    world,
    Array.from({ length: READERS }, (_, id) => ({
      email: `reader${id}@mail.example`,
      fields: {},
      lists: ["all"],
    })),
  );
});
afterAll(() => close());
beforeEach(async () => {
  now = Date.now();
  await world.db.query("update contacts set status = 'subscribed'");
});
afterEach(async () => {
  await septima.relay.close();
  await hostile.close();
});

/** Orders a letter to all through a relay that does as told. It has no mailboxes that could be asked. */
async function booked(script: Script, login = ""): Promise<{ id: string; campaignId: string }> {
  hostile = await openHostileRelay(script, login);
  const config = { ...world.config, relay: hostile.address };
  septima = { ...world, config, relay: openRelay(hostile.address, OPTIONS), mailboxes: null, now: () => now };
  const campaignId = await readyLetter(septima, "all", () => [{ type: "text", text: "Beans" }]);
  return { id: await book(campaignId), campaignId };
}

async function book(campaignId: string): Promise<string> {
  const { readers } = await countSelection(
    septima,
    (await campaign(septima, campaignId)).readers,
    campaignId,
  );
  return bookDispatch(septima, campaignId, { confirmed: readers, when: null });
}

const dispatchOf = async (campaignId: string, id: string) =>
  (await dispatchesOf(septima, campaignId)).find((dispatch) => dispatch.id === id)!;
const waiting = { pending: READERS, unconfirmed: 0, handing: 0, failed: 0, accepted: 0 };

test.each<[string, Script, RegExp, string?]>([
  ["a refused login", { auth: "535 5.7.8 Wrong password" }, /refused the login/, "me:wrong@"],
  ["a bad greeting", { greeting: "554 No service here" }, /cannot be reached/],
  ["a greeting that closes", { greeting: "421 Closing" }, /cannot be reached/],
  ["a door that is shut", { greeting: null }, /cannot be reached/],
  ["a cut before the message", { data: null }, /cannot be reached/],
  ["a sender that is not taken", { mail: "550 5.7.1 Not from you" }, /does not take mail from this sender/],
  ["a cut at the hello", { ehlo: null }, /cannot be reached/],
  ["421 at the hello", { ehlo: "421 Closing" }, /cannot be reached/],
  ["a cut at the sender", { mail: null }, /cannot be reached/],
  ["421 at the sender", { mail: "421 Closing" }, /cannot be reached/],
  ["a cut at the reader", { rcpt: null }, /cannot be reached/],
  ["421 at the reader", { rcpt: "421 Closing" }, /cannot be reached/],
  ["421 before the message", { data: "421 Closing" }, /cannot be reached/],
  ["421 after the message", { end: "421 Closing" }, /cannot be reached/],
  ["encryption that fails", { starttls: "454 Not now" }, /encrypted/, "me:right@"],
  ["a server that never answers", { silent: "greeting" }, /longer than/],
  ["a server that answers an octet at a time", { silent: "rcpt", drip: 20 }, /longer than/],
])(
  "%s pauses the dispatch with the reason, and everybody is waiting, however often it is tried",
  async (_what, script, words, login) => {
    const { id, campaignId } = await booked(script, login);
    for (let tries = 0; tries < 3; tries++) {
      await runDispatch(septima, id);
      expect(await dispatchOf(campaignId, id)).toMatchObject({ state: "paused", counts: waiting });
      expect((await dispatchOf(campaignId, id)).trouble).toMatch(words);
      await steerDispatch(septima, id, "sending");
    }
    hostile.script = {};
    await runDispatch(septima, id);
    expect(await dispatchOf(campaignId, id)).toMatchObject({ state: "sent", counts: { accepted: READERS } });
    expect(hostile.taken).toHaveLength(READERS);
  },
);

test.each<[string, Script, number]>([
  ["451 twice for some readers", {}, READERS],
  ["552 for some", { rcpt: (to) => (/[36]@/.test(to) ? "552 5.2.2 Full" : undefined) }, READERS - 2],
  ["a passing no after the message", { end: "451 4.3.0 Not now" }, READERS],
])("%s: each gets exactly one message, or the right reason", async (what, script, get) => {
  const asked = new Map<string, number>();
  const twice = (to: string) => {
    const times = (asked.get(to) ?? 0) + 1;
    asked.set(to, times);
    return /[147]@/.test(to) && times <= 2 ? "451 4.7.1 Greylisted" : undefined;
  };
  const { id, campaignId } = await booked(what.startsWith("451") ? { rcpt: twice } : script);
  for (let turn = 0; turn < 8; turn++) {
    await runDispatch(septima, id);
    if ((await dispatchOf(campaignId, id)).state === "sent") break;
    if (turn === 1 && script.end) hostile.script = {};
    now += 5 * 60 * MINUTE;
  }
  const { counts, state } = await dispatchOf(campaignId, id);
  expect(state).toBe("sent");
  expect(counts).toMatchObject({ accepted: get, failed: READERS - get, unconfirmed: 0 });
  expect(new Set(hostile.taken).size).toBe(get);
  expect(hostile.taken).toHaveLength(get);
  const reasons = (await recipientsOf(septima, id, {})).lines.flatMap(({ troubles }) => troubles);
  for (const { words } of reasons) expect(words).toMatch(/^(451|552) /);
});

test("421 at every fourth message slows it down and pauses nothing", async () => {
  let calls = 0;
  const { id, campaignId } = await booked({ rcpt: () => (++calls % 4 === 0 ? "421 Closing" : undefined) });
  await runDispatch(septima, id);
  expect(await dispatchOf(campaignId, id)).toMatchObject({
    state: "sent",
    counts: { accepted: READERS, unconfirmed: 0 },
  });
  expect(new Set(hostile.taken).size).toBe(READERS);
});

test("a cut after the whole message leaves that one unconfirmed, and the others get theirs", async () => {
  const { id, campaignId } = await booked({});
  let calls = 0;
  Object.defineProperty(hostile.script, "end", { get: () => (++calls === 4 ? null : undefined) });
  await runDispatch(septima, id);
  expect(await dispatchOf(campaignId, id)).toMatchObject({
    state: "sent",
    counts: { accepted: READERS - 1, unconfirmed: 1 },
  });
});

test("a process that is asked to stop finishes what is in the hand-over and leaves the rest waiting", async () => {
  const { id, campaignId } = await booked({});
  const ending = new AbortController();
  let begun = 0;
  const relay = {
    ...septima.relay,
    send: async (...args: Parameters<typeof septima.relay.send>) => {
      if (++begun === 4) ending.abort();
      await septima.relay.send(...args);
    },
  };
  await runDispatch({ ...septima, relay, stopping: ending.signal }, id);
  const { counts, state } = await dispatchOf(campaignId, id);
  expect(state).toBe("sending");
  expect(counts).toMatchObject({ unconfirmed: 0, handing: 0 });
  expect(counts.accepted).toBe(hostile.taken.length);
  expect(counts.pending).toBe(READERS - hostile.taken.length);
  expect(counts.pending).toBeGreaterThan(0);
  await runDispatch(septima, id);
  expect(new Set(hostile.taken).size).toBe(READERS);
  expect(hostile.taken).toHaveLength(READERS);
});

test("after a pause the unconfirmed are sent again, and the sending comes to its end", async () => {
  const { id, campaignId } = await booked({ end: null });
  await runDispatch(septima, id);
  await steerDispatch(septima, id, "sending");
  await steerDispatch(septima, id, "paused");
  hostile.script = {};
  await sendUnconfirmed(septima, id);
  await runDispatch(septima, id);
  expect(await dispatchOf(campaignId, id)).toMatchObject({ state: "sent" });
  expect((await dispatchOf(campaignId, id)).counts).toMatchObject({ accepted: READERS, unconfirmed: 0 });
});

test("a passing refusal waits minutes, then longer, and ends as failed; the others do not wait for it", async () => {
  const tries: number[] = [];
  const { id, campaignId } = await booked({
    rcpt: (address) => {
      if (address !== "reader3@mail.example") return undefined;
      tries.push(now);
      return "451 4.7.1 Come back later";
    },
  });
  for (let minutes = 0; minutes < 600; minutes++) {
    await runDispatch(septima, id);
    if (minutes === 0) expect((await dispatchOf(campaignId, id)).counts.accepted).toBe(READERS - 1);
    if ((await dispatchOf(campaignId, id)).state === "sent") break;
    now += MINUTE;
  }
  const waits = tries.slice(1).map((at, index) => (at - tries[index]) / MINUTE);
  expect(waits.length).toBeGreaterThanOrEqual(3);
  expect(waits[0]).toBeGreaterThanOrEqual(5);
  for (const [index, wait] of waits.slice(1).entries()) expect(wait).toBeGreaterThan(waits[index]);
  expect((await dispatchOf(campaignId, id)).counts).toMatchObject({
    accepted: READERS - 1,
    failed: 1,
    pending: 0,
  });
  expect(new Set(hostile.taken).size).toBe(READERS - 1);
});

test("a refusal for good of the address ends with it: it is not written to again", async () => {
  const { id, campaignId } = await booked({
    rcpt: (address) => (address === "reader5@mail.example" ? "550 5.1.1 Nobody here" : undefined),
  });
  await runDispatch(septima, id);
  expect((await dispatchOf(campaignId, id)).counts).toMatchObject({ accepted: READERS - 1, failed: 1 });
  const [{ status }] = await septima.db.query<{ status: string }>(
    "select status from contacts where email = 'reader5@mail.example'",
  );
  expect(status).toBe("bounced");
  // The counts that were kept know it at once.
  const { readers } = await countSelection(septima, (await campaign(septima, campaignId)).readers);
  expect(readers).toBe(READERS - 1);
});

test("a refusal of one message says nothing about the address", async () => {
  const { id, campaignId } = await booked({
    rcpt: (address) => (address === "reader5@mail.example" ? "550 5.7.1 Blocked by policy" : undefined),
  });
  await runDispatch(septima, id);
  expect((await dispatchOf(campaignId, id)).counts).toMatchObject({ accepted: READERS - 1, failed: 1 });
  expect(await septima.db.query("select 1 from contacts where status = 'bounced'")).toEqual([]);
});

test("after “Cancel the rest” the next booking reaches the rest only, also those who were being handed over", async () => {
  let id = "";
  let calls = 0;
  const first = await booked({
    rcpt: () => {
      // In the middle of a batch, with other hand-overs under way.
      if (++calls === 3) void steerDispatch(septima, id, "cancelled");
      return undefined;
    },
  });
  id = first.id;
  const running = runDispatch(septima, id);
  await expect.poll(async () => (await dispatchOf(first.campaignId, id)).state).toBe("cancelled");
  // Booked while the last hand-overs of the first are still under way.
  const second = await book(first.campaignId).catch(() => null);
  await running;
  // Three connections were at work when the button was pressed; nothing more was begun.
  const got = (await dispatchOf(first.campaignId, id)).counts.accepted;
  expect(got).toBeLessThanOrEqual(6);
  const next = second ?? (await book(first.campaignId).catch(() => null));
  if (next) await runDispatch(septima, next);
  expect(new Set(hostile.taken).size).toBe(hostile.taken.length);
  expect([...hostile.taken].sort()).toHaveLength(READERS);
});
