/** What repeats: each date carried out once or skipped with its reason, everything new in one of them and in one alone. */
import { afterAll, beforeAll, beforeEach, expect, test } from "vitest";
import { newestOf } from "~/core/render/sample";
import type { Rhythm } from "~/core/sending";
import type { Publisher } from "~/standins/publisher";
import { campaign, setReaders } from "../campaigns/campaigns";
import type { Septima } from "../septima";
import { addSource, refreshSource } from "../sources/sources";
import { addReaders, openWorld, readyLetter, saveDesign, withStandins } from "../test-world";
import { bookDispatch } from "./bookings";
import {
  asUsual,
  bookDigest,
  carryOutDigests,
  type DigestAsked,
  digestOf,
  endDigest,
  sendNextNow,
  skipDate,
  takeDesign,
} from "./digests";
import { steerDispatch } from "./dispatches";
import { htmlAsSent } from "./frozen";
import { runDispatch } from "./run";
import { tellOfDigests } from "./telling";

const READERS = 3;
let world: Awaited<ReturnType<typeof openWorld>>;
let standins: Awaited<ReturnType<typeof withStandins>>;
let septima: Septima;
let publisher: Publisher;
let clock = Date.parse("2026-12-02T10:00:00Z");
let source: string;
beforeAll(async () => {
  world = await openWorld();
  standins = await withStandins(world.septima);
  septima = { ...standins.septima, now: () => clock };
  ({ publisher } = standins);
  await addReaders(septima, "all", READERS);
  source = await addSource(septima, "standin://publisher/journal.rss");
});
afterAll(async () => {
  standins.close();
  await world.close();
});
beforeEach(() => {
  clock = Math.max(clock, Date.now());
});

const WEEKLY: Rhythm = { days: { every: "week", on: [1] }, time: "09:00", zone: "Europe/London" };
const ASKED: DigestAsked = { rhythm: WEEKLY, least: 1, tells: [], tolerance: null };

/** A letter with a list of what is new, ready to be booked. */
async function letter(words: string, sinceLast = true): Promise<string> {
  const id = await readyLetter(septima, "all", () => [{ type: "text", text: words }]);
  const { email } = await campaign(septima, id);
  const next = structuredClone(email);
  next.sections[0].rows[0].columns[0].blocks.push(newestOf("new", { source, count: 12, sinceLast }));
  await saveDesign(septima, id, next);
  return id;
}

const shown = async (id: string) => (await digestOf(septima, id))!;
const next = async (id: string) => Date.parse((await shown(id)).toCome[0].at);

/** Lets a date come, and carries out what it plans; what is new is published before. */
async function letDateCome(id: string, articles: number): Promise<void> {
  clock = await next(id);
  for (let n = 0; n < articles; n++) publisher.publish();
  await carryOut();
}
async function carryOut(): Promise<void> {
  await carryOutDigests(septima);
  const open = await septima.db.query<{ id: string }>("select id from dispatches where state = 'scheduled'");
  for (const { id } of open) await runDispatch(septima, id);
}

/** Which articles a reader got by the last date that went, by their numbers. */
async function got(id: string): Promise<number[]> {
  const { past } = await shown(id);
  const { dispatch } = past.find(({ outcome }) => outcome === "sent")!;
  const [{ contact_id }] = await septima.db.query<{ contact_id: number }>(
    "select contact_id from recipients where dispatch_id = $1 order by contact_id limit 1",
    [dispatch!.id],
  );
  const html = await htmlAsSent(septima, dispatch!.id, contact_id);
  return [...new Set([...html.matchAll(/Fresh from the bench, no\. (\d+)/g)].map(([, n]) => Number(n)))].sort(
    (a, b) => a - b,
  );
}

/** The subjects of what somebody was told, in order. */
async function toldTo(address: string): Promise<string[]> {
  const { messages } = await septima.mailboxes!.search({ text: address, offset: 0, limit: 50 });
  return messages.map(({ subject }) => subject).sort();
}

test("a week in which nothing is new is skipped, and the next one goes with all that came since the last", async () => {
  const id = await letter("Weekly");
  await bookDigest(septima, id, READERS, { ...ASKED, least: 2, tells: ["team@nursery.example"] });
  await letDateCome(id, 2);
  expect(await got(id)).toEqual([1, 2]);
  await letDateCome(id, 0);
  await letDateCome(id, 1);
  const { past } = await shown(id);
  expect(past.map(({ outcome, why }) => [outcome, why])).toEqual([
    ["skipped", "Only 1 of the 2 items it waits for was new."],
    ["skipped", "Nothing was new."],
    ["sent", null],
  ]);
  // What did not suffice for one date counts for the next.
  await letDateCome(id, 1);
  expect(await got(id)).toEqual([3, 4]);
  const all = await septima.db.query(
    "select 1 from recipients r join dispatches d on d.id = r.dispatch_id where d.campaign_id = $1 and r.state = 'accepted'",
    [id],
  );
  expect(all).toHaveLength(2 * READERS);

  await tellOfDigests(septima);
  await tellOfDigests(septima);
  expect(await toldTo("team@nursery.example")).toEqual([
    "“Test” was skipped",
    "“Test” was skipped",
    "“Test” went to 3 readers",
    "“Test” went to 3 readers",
  ]);
  await endDigest(septima, id);
});

test("what a source is read with while a date is carried out belongs to the next one, whatever time it says", async () => {
  const id = await letter("Between");
  await bookDigest(septima, id, READERS, ASKED);
  await letDateCome(id, 1);
  const first = await got(id);
  publisher.publish();
  // Seen at the very moment of the last.
  await refreshSource(septima, source);
  await letDateCome(id, 1);
  expect(await got(id)).toEqual([first[0] + 1, first[0] + 2]);
  await endDigest(septima, id);
});

test("a date is skipped by hand, goes at once, or has a design of its own; the others are as they were", async () => {
  const id = await letter("Usual");
  const booking = await bookDigest(septima, id, READERS, { ...ASKED, least: null });
  const subjectOf = async () => {
    const [{ email }] = await septima.db.query<{ email: { envelope: { subject: { text: string }[] } } }>(
      "select email from dispatches where campaign_id = $1 order by created_at desc limit 1",
      [id],
    );
    return email.envelope.subject[0].text;
  };
  const [first, second, third] = (await shown(id)).toCome;
  await skipDate(septima, booking, first.at, true);
  const { email } = await campaign(septima, id);
  await saveDesign(septima, id, {
    ...email,
    envelope: { ...email.envelope, subject: [{ type: "text", text: "Only once" }] },
  });
  expect((await shown(id)).differs).toBe(true);
  await takeDesign(septima, booking, second.at);
  expect((await shown(id)).toCome.slice(0, 3).map(({ skip, own }) => [skip, own])).toEqual([
    [true, false],
    [false, true],
    [false, false],
  ]);
  await letDateCome(id, 0);
  expect((await shown(id)).past[0]).toMatchObject({ outcome: "skipped", why: "It was skipped by hand." });
  await letDateCome(id, 0);
  expect(await subjectOf()).toBe("Only once");
  // The one after it, before its time.
  clock += 3_600_000;
  await sendNextNow(septima, booking);
  await expect(sendNextNow(septima, booking)).rejects.toThrow("The one before had not ended");
  await carryOut();
  expect(await subjectOf()).toBe("Usual");
  expect((await shown(id)).past[0]).toMatchObject({ at: third.at, outcome: "sent" });
  expect(await next(id)).toBeGreaterThan(Date.parse(third.at));
  await takeDesign(septima, booking, null);
  await letDateCome(id, 0);
  expect(await subjectOf()).toBe("Only once");
  await expect(skipDate(septima, booking, first.at, true)).rejects.toThrow("no such date");
  await expect(asUsual(septima, booking, "2026-13-45")).rejects.toThrow("no such date");
  await endDigest(septima, id);
  await endDigest(septima, booking);
  expect((await shown(id)).toCome).toEqual([]);
  await expect(sendNextNow(septima, booking)).rejects.toThrow("end");
});

test("whoever carries it out, and however many at once, a date goes once", async () => {
  const id = await letter("Many hands");
  await bookDigest(septima, id, READERS, { ...ASKED, least: null });
  clock = await next(id);
  await Promise.all(Array.from({ length: 4 }, () => carryOutDigests(septima)));
  const all = await septima.db.query("select 1 from dispatches where campaign_id = $1", [id]);
  expect(all).toHaveLength(1);
  await carryOut();
  expect((await shown(id)).past).toHaveLength(1);
});

test("dates that passed while nobody was there are left out but for one that is not long over", async () => {
  const id = await letter("Late");
  await bookDigest(septima, id, READERS, { ...ASKED, least: null });
  clock = (await next(id)) + 14 * 86_400_000 + 60_000;
  for (let n = 0; n < 3; n++) await carryOut();
  expect((await shown(id)).past.map(({ outcome, why }) => [outcome, why])).toEqual([
    ["sent", null],
    ["skipped", "Septima was not running then."],
    ["skipped", "Septima was not running then."],
  ]);
});

test("it ends after so many sendings; then it may be booked again, while it repeats it may not", async () => {
  const id = await letter("Twice");
  const rhythm: Rhythm = { ...WEEKLY, ends: { by: "number", number: 2 } };
  await bookDigest(septima, id, READERS, { ...ASKED, rhythm, least: null });
  await expect(bookDigest(septima, id, READERS, ASKED)).rejects.toThrow("repeats already");
  await expect(bookDispatch(septima, id, { confirmed: READERS, when: null })).rejects.toThrow(
    "repeats already",
  );
  await letDateCome(id, 0);
  const [one] = (await shown(id)).toCome;
  await skipDate(septima, (await shown(id)).id, one.at, true);
  await letDateCome(id, 0);
  await letDateCome(id, 0);
  const { past, ended, toCome } = await shown(id);
  expect(past.map(({ outcome }) => outcome)).toEqual(["sent", "skipped", "sent"]);
  expect([ended, toCome]).toEqual([expect.any(String), []]);
  await bookDigest(septima, id, READERS, { ...ASKED, least: null });
  expect((await shown(id)).past).toEqual([]);
});

test("what cannot be is refused: nothing that can be new, no date to come, readers who changed", async () => {
  const id = await letter("Never new", false);
  await expect(bookDigest(septima, id, READERS, ASKED)).rejects.toThrow("none of its lists asks for that");
  const over: Rhythm = { ...WEEKLY, ends: { by: "date", date: "2020-01-01" } };
  await expect(bookDigest(septima, id, READERS, { ...ASKED, rhythm: over, least: null })).rejects.toThrow(
    "over before its first date",
  );
  await expect(bookDigest(septima, id, READERS + 1, { ...ASKED, least: null })).rejects.toThrow(
    "has changed",
  );
});

test("a date that meets trouble waits, those after it are left out until it has ended, and somebody is told", async () => {
  const id = await letter("Trouble");
  await bookDigest(septima, id, READERS, { ...ASKED, least: null, tells: ["team@trouble.example"] });
  const booking = (await shown(id)).id;
  await setReaders(septima, id, { include: [], exclude: [] });
  await expect(takeDesign(septima, booking, null)).rejects.toThrow();
  await septima.db.query("update bookings set readers = $2::jsonb where id = $1", [
    booking,
    JSON.stringify({ include: [], exclude: [] }),
  ]);
  await letDateCome(id, 0);
  await letDateCome(id, 0);
  const { past } = await shown(id);
  expect(past[0]).toMatchObject({ outcome: "skipped", why: "The one before had not ended." });
  expect(past[1].dispatch).toMatchObject({ state: "paused" });
  await tellOfDigests(septima);
  await steerDispatch(septima, past[1].dispatch!.id, "cancelled");
  await Promise.all([tellOfDigests(septima), tellOfDigests(septima)]);
  expect(await toldTo("team@trouble.example")).toEqual([
    "“Test” waits for you",
    "“Test” was cancelled",
    "“Test” was skipped",
  ]);
});
