/** The windows a design is open in: what each is told, and when. */
import { afterAll, beforeAll, expect, test, vi } from "vitest";
import type { Septima } from "../septima";
import { openWorld, saveDesign } from "../test-world";
import { startCampaign } from "./campaigns";
import { savedDesign, saveSteps } from "./saving";
import { follow, goneFrom, type Standing, seenIn } from "./windows";

let septima: Septima;
let close: () => Promise<void>;
beforeAll(async () => {
  // What is told from time to time stands still: only what is told at once is heard.
  vi.useFakeTimers({ toFake: ["setInterval"] });
  ({ septima, close } = await openWorld());
});
afterAll(async () => {
  await close();
  vi.useRealTimers();
});

async function start() {
  const id = await startCampaign(septima, "Windows", "news");
  return { id, ...(await savedDesign(septima, id)) };
}

/** A window that is told: what it was told, and how to wait for the next. */
async function open(campaign: string, name: string) {
  const told: Standing[] = [];
  const closing = new AbortController();
  let wake = () => {};
  const hear = (standing: Standing) => {
    told.push(standing);
    wake();
  };
  await follow(septima, campaign, name, hear, closing.signal);
  const next = async (fits: (standing: Standing) => boolean): Promise<void> => {
    while (!told.some(fits))
      await new Promise<void>((resolve) => {
        wake = resolve;
      });
  };
  return { told, next, close: () => closing.abort() };
}

test("each window is told of the others, until they close or fall silent", async () => {
  const { id, revision } = await start();
  let now = Date.now();
  const clock = { ...septima, now: () => now };
  expect(await seenIn(clock, id, "one")).toEqual({ others: 0, revision });
  expect(await seenIn(clock, id, "two")).toEqual({ others: 1, revision });
  await goneFrom(clock, id, "one");
  expect(await seenIn(clock, id, "two")).toEqual({ others: 0, revision });
  await seenIn(clock, id, "three");
  now += 60_000;
  expect(await seenIn(clock, id, "two")).toEqual({ others: 0, revision });
});

test("a save is told at once to every window, and to no window of another design", async () => {
  const { id, email, revision } = await start();
  const other = await start();
  const [one, two, elsewhere] = [
    await open(id, "one"),
    await open(id, "two"),
    await open(other.id, "elsewhere"),
  ];
  expect(one.told[0]).toEqual({ others: 0, revision });
  expect(two.told[0]).toEqual({ others: 1, revision });
  await one.next(({ others }) => others === 1);
  await saveDesign(septima, id, {
    ...email,
    envelope: { ...email.envelope, subject: [{ type: "text", text: "Windows" }] },
  });
  const saved = (standing: Standing) => standing.revision > revision;
  await Promise.all([one.next(saved), two.next(saved)]);
  expect(elsewhere.told).toEqual([{ others: 0, revision: other.revision }]);
  for (const window of [one, two, elsewhere]) window.close();
});

test("a window that closes is told of; one that is closed hears nothing any more", async () => {
  const { id, email, revision } = await start();
  const [one, two] = [await open(id, "one"), await open(id, "two")];
  await one.next(({ others }) => others === 1);
  two.close();
  await one.next(({ others }) => others === 0 && one.told.length > 2);
  const heard = two.told.length;
  await saveDesign(septima, id, {
    ...email,
    envelope: { ...email.envelope, subject: [{ type: "text", text: "Windows" }] },
  });
  await one.next((standing) => standing.revision > revision);
  expect(two.told).toHaveLength(heard);
  one.close();
});

test("what is not saved after all is not told", async () => {
  const { id, revision } = await start();
  const one = await open(id, "one");
  const refused = await saveSteps(septima, id, { revision: revision + 7, save: "s", steps: [] });
  expect(refused.state).toBe("behind");
  await expect(
    septima.db.transaction(async (tx) => {
      await tx.query("update campaigns set revision = revision + 1 where id = $1", [id]);
      await tx.query("select pg_notify('designs', $1)", [id]);
      throw new Error("not after all");
    }),
  ).rejects.toThrow("not after all");
  await seenIn(septima, id, "two");
  await one.next(({ others }) => others === 1);
  expect(one.told.map((standing) => standing.revision)).toEqual([revision, revision]);
  one.close();
});

test("a campaign that is not there is refused, and nothing is left listening", async () => {
  await expect(open("nowhere", "one")).rejects.toThrow("does not exist");
});
