/** What comes back, by each of its ways, and what comes of it. */
import { mkdir, readdir, utimes, writeFile } from "node:fs/promises";
import path from "node:path";
import nodemailer from "nodemailer";
import { afterAll, afterEach, beforeAll, beforeEach, expect, test } from "vitest";
import { bounce, complaint } from "~/standins/postroom/reports";
import { endSubscription } from "../audience/choices";
import { countSelection } from "../audience/selection";
import { liftSuppression, suppressionOf } from "../audience/suppressing";
import { campaign } from "../campaigns/campaigns";
import { bookDispatch } from "../dispatch/bookings";
import { recipientsOf } from "../dispatch/recipients";
import { runDispatch } from "../dispatch/run";
import type { Septima } from "../septima";
import { addReaders, openWorld, readyLetter } from "../test-world";
import { returnPaths } from "../tokens";
import { openDoor } from "./door";
import { takeFolder } from "./folder";
import { returnedPage, returnedSource } from "./listing";
import { POSTROOM_RETURNS, setReturns } from "./return-path";
import { SOFT, takeReturned } from "./taking";

const READERS = 8;
let septima: Septima;
let folder: string;
let close: () => Promise<void>;
let ids: number[];
const reader = (at: number) => `reader${at}@mail.example`;

beforeAll(async () => {
  ({ septima, folder, close } = await openWorld());
});
afterAll(() => close());
beforeEach(async () => {
  await septima.db.query(
    "truncate contacts, returned, suppressions, list_members, recipients, unsubscribes restart identity cascade",
  );
  await septima.db.query("delete from lists");
  await addReaders(septima, "all", READERS);
  const rows = await septima.db.query<{ id: number }>("select id from contacts order by email");
  ids = rows.map(({ id }) => id);
});
afterEach(() => septima.mailboxes!.behave([]));

/** Sends a letter to all. */
async function send(): Promise<string> {
  const id = await readyLetter(septima, "all", () => [{ type: "text", text: "Beans" }]);
  const { readers } = await campaign(septima, id);
  const { readers: confirmed } = await countSelection(septima, readers, id);
  const dispatch = await bookDispatch(septima, id, { confirmed, when: null });
  await runDispatch(septima, dispatch);
  return dispatch;
}
const page = async (sort: "all" | "failed" | "complaints" | "answers" | "foreign" = "all") =>
  (await returnedPage(septima, { sort, text: "", offset: 0, limit: 50 })).rows;
const came = (number: number) =>
  expect.poll(async () => (await page()).length, { timeout: 10_000, interval: 50 }).toBe(number);
const statusOf = async (at: number) => {
  const [{ status }] = await septima.db.query<{ status: string }>(
    "select status from contacts where id = $1",
    [ids[at]],
  );
  return status;
};
/** What arrived for a reader, and by which return path. */
async function message(at: number) {
  const { messages } = await septima.mailboxes!.search({ text: reader(at), offset: 0, limit: 1 });
  return {
    returnPath: messages[0].from,
    reader: reader(at),
    source: (await septima.mailboxes!.source(messages[0].id))!,
    at: Date.now(),
  };
}
const GONE = { status: "5.1.1", words: "550 5.1.1 No such mailbox" };
const FULL = { status: "5.2.2", words: "552 5.2.2 Mailbox full" };

test("what the postroom sends back suppresses the right contact, each with its reason", async () => {
  await septima.mailboxes!.behave([
    { who: reader(0), does: { kind: "returns", ...GONE } },
    { who: reader(1), does: { kind: "returns", ...FULL } },
    { who: reader(2), does: { kind: "complains" } },
    { who: reader(3), does: { kind: "answers", words: "Thank you." } },
  ]);
  const dispatch = await send();
  await came(4);
  const all = await Promise.all(ids.map((_, at) => statusOf(at)));
  expect(all).toEqual(["bounced", "subscribed", "complained", ...Array(READERS - 3).fill("subscribed")]);
  const rows = await page();
  const of = (kind: string) => rows.filter((row) => row.kind === kind);
  expect(
    of("bounce")
      .map(({ effect, severity, contact }) => [contact?.id, severity, effect])
      .sort(),
  ).toEqual(
    [
      [ids[0], "gone", "suppressed"],
      [ids[1], "soft", "counted"],
    ].sort(),
  );
  expect(of("complaint")).toMatchObject([{ contact: { id: ids[2] }, effect: "suppressed" }]);
  expect(of("reply")).toMatchObject([{ contact: { id: ids[3] }, effect: "shown", sender: reader(3) }]);
  expect(await suppressionOf(septima, ids[0])).toMatchObject({ kind: "gone", words: GONE.words });
  expect(await suppressionOf(septima, ids[2])).toMatchObject({ kind: "complaint" });
  expect(await suppressionOf(septima, ids[4])).toBe(null);
  const told = await recipientsOf(septima, dispatch, { text: reader(0) });
  expect(JSON.stringify(told)).toContain(`Came back: ${GONE.words}`);
  expect(Buffer.from(await returnedSource(septima, of("complaint")[0].id)).toString()).toContain(
    "Feedback-Type: abuse",
  );
  expect(await page("failed")).toHaveLength(2);
  expect(await page("answers")).toHaveLength(1);
  expect(await page("foreign")).toHaveLength(0);
});

test("what is forged or about others does nothing, and is shown", async () => {
  const dispatch = await send();
  const real = await message(5);
  const take = (to: string, source: Buffer | string) =>
    takeReturned(septima, { via: "door", to, source: Buffer.from(source) });
  const other = (await returnPaths(septima, "another"))(ids[5]);
  const forged = [
    // A return path with another number, with another signature, of another sending, of a contact that did not get it.
    real.returnPath.replace(`-${ids[5].toString(36)}-`, `-${ids[6].toString(36)}-`),
    real.returnPath.replace(/.(?=@)/, (letter) => (letter === "a" ? "b" : "a")),
    `${other}@${POSTROOM_RETURNS}`,
    `${(await returnPaths(septima, dispatch))(987654)}@${POSTROOM_RETURNS}`,
    `r-@${POSTROOM_RETURNS}`,
  ];
  const nobody = { ...real, source: Buffer.from("Subject: x\r\n\r\n") };
  for (const path of forged) await take(path, bounce({ ...nobody, returnPath: path }, GONE).source);
  // A Message-ID as a neighbour's must be, but for what nobody can guess.
  const guessed = real.source
    .toString("latin1")
    .replace(/^(Message-ID: <)[^>]*/m, `$1${dispatch}.${ids[6]}.1.${"0".repeat(16)}@marlmoss.example`);
  for (const one of [bounce, complaint])
    await take(
      "abuse@marlmoss.example",
      one({ ...real, returnPath: "", source: Buffer.from(guessed, "latin1") }, GONE).source,
    );
  await take("abuse@marlmoss.example", "Subject: Buy\r\n\r\nNow.\r\n");
  for (const at of ids.keys()) expect(await statusOf(at)).toBe("subscribed");
  const rows = await page("foreign");
  expect(rows).toHaveLength(forged.length + 3);
  for (const row of rows) expect(row).toMatchObject({ contact: null, effect: "shown" });
  // What is real is heard, written however large or small, and by its Message-ID alone.
  await take(real.returnPath.toUpperCase(), bounce(nobody, GONE).source);
  expect(await statusOf(5)).toBe("bounced");
  const seventh = await message(7);
  await take("abuse@marlmoss.example", complaint({ ...seventh, returnPath: "" }).source);
  expect(await statusOf(7)).toBe("complained");
});

test("twice is as once, and letters that fail for a passing reason are enough after some", async () => {
  let now = Date.now();
  const world = { ...septima, now: () => now };
  const fails = async () => {
    await send();
    const about = await message(0);
    const back = bounce(about, FULL);
    expect(await takeReturned(world, { via: "door", to: back.to, source: back.source })).toBe(true);
    expect(await takeReturned(world, { via: "door", to: back.to, source: back.source })).toBe(false);
    // Another notification about the same letter counts with it.
    const again = bounce(about, FULL);
    await takeReturned(world, { via: "door", to: again.to, source: again.source });
  };
  for (let letter = 1; letter < SOFT.letters; letter++) await fails();
  expect(await statusOf(0)).toBe("subscribed");
  now += (SOFT.days + 1) * 86_400_000;
  await fails();
  expect(await statusOf(0)).toBe("subscribed");
  for (let letter = 2; letter < SOFT.letters; letter++) await fails();
  expect(await statusOf(0)).toBe("subscribed");
  await fails();
  expect(await statusOf(0)).toBe("bounced");
  expect((await suppressionOf(septima, ids[0]))?.words).toMatch(/^3 letters within 30 days came back.*552/);
});

test("a suppression is undone by hand where that is allowed, and keeps an earlier wish", async () => {
  await septima.mailboxes!.behave([
    { who: reader(0), does: { kind: "returns", ...GONE } },
    { who: reader(1), does: { kind: "complains" } },
    { who: reader(2), does: { kind: "says", at: "reader", reply: "550 5.1.1 Nobody here", times: null } },
  ]);
  await endSubscription(septima, ids[3], { campaign: null, way: "hand" });
  await send();
  await came(2);
  expect(await suppressionOf(septima, ids[2])).toMatchObject({
    kind: "gone",
    words: "550 5.1.1 Nobody here",
  });
  await expect(liftSuppression(septima, ids[0], " ")).rejects.toThrow(/Say how/);
  for (const at of [0, 2]) {
    await liftSuppression(septima, ids[at], "They wrote from it");
    expect(await statusOf(at)).toBe("subscribed");
    expect(await suppressionOf(septima, ids[at])).toBe(null);
  }
  await expect(liftSuppression(septima, ids[1], "They rang")).rejects.toThrow(/for ever/);
  expect(await statusOf(1)).toBe("complained");
  await expect(liftSuppression(septima, ids[4], "So")).rejects.toThrow(/not suppressed/);
  await septima.db.query("update contacts set status = 'bounced' where id = $1", [ids[3]]);
  await liftSuppression(septima, ids[3], "They rang");
  expect(await statusOf(3)).toBe("unsubscribed");
});

test("the door takes mail for our return paths over SMTP, and no other; what is too large it refuses", async () => {
  const dispatch = await send();
  await setReturns(septima, "returns.marlmoss.example");
  const door = await openDoor(() => septima, { host: "127.0.0.1", port: 0, via: "door" });
  const { hostname, port } = new URL(door.address);
  const mail = nodemailer.createTransport({ host: hostname, port: Number(port), ignoreTLS: true });
  try {
    const to = `${(await returnPaths(septima, dispatch))(ids[4])}@Returns.Marlmoss.example`;
    const back = bounce({ ...(await message(4)), returnPath: to }, GONE);
    await mail.sendMail({ envelope: { from: "", to: [to] }, raw: back.source });
    expect(await statusOf(4)).toBe("bounced");
    expect(await page()).toMatchObject([{ via: "door", kind: "bounce", contact: { id: ids[4] } }]);
    const other = mail.sendMail({ envelope: { from: "", to: ["me@marlmoss.example"] }, raw: back.source });
    await expect(other).rejects.toMatchObject({ responseCode: 550 });
    const large = mail.sendMail({ envelope: { from: "", to: [to] }, raw: Buffer.alloc(6_000_000, "a\r\n") });
    await expect(large).rejects.toMatchObject({ responseCode: 552 });
    expect(await page()).toHaveLength(1);
    // What cannot be written down is not said to be taken.
    const broken = await openDoor(
      () =>
        ({
          ...septima,
          db: { ...septima.db, transaction: () => Promise.reject(new Error("away")) },
        }) as Septima,
      { host: "127.0.0.1", port: 0, via: "postroom" },
    );
    const elsewhere = nodemailer.createTransport({
      host: "127.0.0.1",
      port: Number(new URL(broken.address).port),
      ignoreTLS: true,
    });
    await expect(
      elsewhere.sendMail({ envelope: { from: "", to: [to] }, raw: "Subject: x\r\n\r\n" }),
    ).rejects.toMatchObject({ responseCode: 451 });
    await broken.close();
  } finally {
    await door.close();
    await setReturns(septima, "");
  }
});

test("what is put into the folder is taken in, and put aside", async () => {
  await send();
  const returns = path.join(folder, "returns");
  await mkdir(path.join(returns, "new"), { recursive: true });
  const about = await message(1);
  const put = async (name: string, source: Buffer | string) => {
    await writeFile(path.join(returns, name), source);
    await utimes(path.join(returns, name), 1000, 1000);
  };
  const { source } = bounce(about, GONE);
  await put("new/1", Buffer.concat([Buffer.from(`Delivered-To: ${about.returnPath}\r\n`), source]));
  await put("2.eml", complaint(await message(2)).source);
  await put("3", "");
  await writeFile(path.join(returns, "4"), "still being written");
  expect(await takeFolder(septima)).toBe(2);
  expect(await statusOf(1)).toBe("bounced");
  expect(await statusOf(2)).toBe("complained");
  expect((await readdir(path.join(returns, "taken"))).sort()).toEqual(["1", "2.eml"]);
  expect(await readdir(path.join(returns, "odd"))).toEqual(["3"]);
  expect(await takeFolder(septima)).toBe(0);
  expect((await readdir(returns)).sort()).toEqual(["4", "new", "odd", "taken"]);
});
