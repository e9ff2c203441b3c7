/** What readers choose about their letters, and who can never be written to. */
import { afterAll, beforeAll, expect, test } from "vitest";
import { setReaders, startCampaign } from "../campaigns/campaigns";
import { usesOf } from "../mentions";
import { findingsOf } from "../preflight/preflight";
import { prefer, preferences, resubscribe, unsubscribe } from "../readers/preferences";
import type { Septima } from "../septima";
import { addList, openWorld } from "../test-world";
import { readerAddresses } from "../tokens";
import { setRemoved } from "../workspace/removals";
import { behaviourChanged } from "./answers";
import { bulk } from "./bulk";
import { changeById } from "./changing";
import { chooseTopics, subscribeAgain } from "./choices";
import { contactFacts } from "./contact-facts";
import { addContacts, contactById } from "./contacts";
import { listSizes, saveList } from "./groups";
import { addEvents } from "./history";
import { countSelection, selectedReaders } from "./selection";
import { audienceCounts, recordSizes, sizesOf } from "./sizes";
import { tableRows } from "./table";
import { takeBack } from "./taking-back";

let septima: Septima;
let close: () => Promise<void>;
let campaign: string;
let token: string;
const everyone = { include: [{ kind: "everyone" as const, id: "" }], exclude: [] };
const query = {
  group: { kind: "everyone" as const, id: "" },
  words: "",
  filter: null,
  sort: { by: "email", down: false },
};

beforeAll(async () => {
  ({ septima, close } = await openWorld());
  await addList(septima, "staff", "Staff");
  await saveList(septima, { id: "letter", name: "Letter", about: "Once a month.", topic: true });
  await saveList(septima, { id: "club", name: "Club", about: "", topic: true });
  await addContacts(septima, [
    { email: "ines@a.example", fields: { first_name: "Ines" }, lists: ["letter", "staff"] },
    { email: "maud@a.example", fields: {}, lists: ["letter"] },
    { email: "odd@a.example", fields: {}, lists: ["letter"] },
    { email: "spam@a.example", fields: {}, lists: ["letter"] },
  ]);
  await septima.db.query("update contacts set status = 'bounced' where email = 'odd@a.example'");
  await septima.db.query("update contacts set status = 'complained' where email = 'spam@a.example'");
  campaign = await startCampaign(septima, "Letter", "letter");
  const address = await readerAddresses(septima);
  token = address(1, campaign).unsubscribe.split("/").at(-1)!;
});
afterAll(() => close());

test("a reader's choice of topics is kept and written down; lists that are no topics stay", async () => {
  expect((await preferences(septima, token)).topics).toEqual([
    { id: "club", name: "Club", about: "", on: false },
    { id: "letter", name: "Letter", about: "Once a month.", on: true },
  ]);
  await prefer(septima, token, ["club", "staff", "nowhere"]);
  expect((await contactById(septima, 1)).lists.toSorted()).toEqual(["club", "staff"]);
  await prefer(septima, token, ["club"]);
  const chosen = (await contactFacts(septima, 1)).history.filter(({ kind }) => kind === "chose");
  expect(chosen.map(({ how, trouble, campaign: from }) => [how, trouble, from?.id])).toEqual(
    expect.arrayContaining([
      ["Joined Club", "On the preference page", campaign],
      ["Left Letter", "On the preference page", campaign],
    ]),
  );
  expect(chosen).toHaveLength(2);
});

test("who comes back is written down; who bounced or complained cannot", async () => {
  await unsubscribe(septima, token, "one-click");
  expect((await preferences(septima, token)).status).toBe("unsubscribed");
  await resubscribe(septima, token);
  await resubscribe(septima, token);
  const { history, status } = await contactFacts(septima, 1);
  expect(status).toBe("subscribed");
  expect(history.filter(({ how }) => how === "Subscribed again")).toHaveLength(1);
  await expect(subscribeAgain(septima, 3, { way: "On the telephone" })).rejects.toThrow("takes no mail");
  await expect(subscribeAgain(septima, 4, { way: "On the telephone" })).rejects.toThrow("spam");
  await expect(subscribeAgain(septima, 2, { way: " " })).rejects.toThrow("how they asked");
});

test("no list and no group reaches those who are suppressed, and each is counted", async () => {
  await chooseTopics(septima, 4, ["letter", "club"], { way: "test" });
  for (const selection of [everyone, { include: [{ kind: "list" as const, id: "letter" }], exclude: [] }]) {
    const { readers } = await selectedReaders(septima, selection);
    expect([readers.has(3), readers.has(4)]).toEqual([false, false]);
  }
  expect(await countSelection(septima, everyone)).toMatchObject({
    included: 4,
    bounced: 1,
    complained: 1,
    readers: 2,
  });
});

test("what is done to marked contacts is taken back as a whole", async () => {
  const all = async () => septima.db.query("select id, status, fields from contacts order by id");
  const before = await all();
  const pick = { all: query, but: [2] };
  for (const doing of [
    { do: "unsubscribe" as const },
    { do: "remove" as const },
    { do: "set" as const, field: "first_name", value: "X" },
    { do: "join" as const, list: "club" },
  ]) {
    const { id, finished } = await bulk(septima, pick, doing);
    await finished;
    expect((await changeById(septima, id)).state).toBe("done");
    await takeBack(septima, id);
    expect(await all()).toEqual(before);
  }
  expect((await contactById(septima, 4)).lists).toContain("club");
  await expect(bulk(septima, pick, { do: "set", field: "birthday", value: "soon" })).rejects.toThrow(
    "“Birthday” should be a day",
  );
  await expect(bulk(septima, pick, { do: "join", list: "gone" })).rejects.toThrow("does not exist any more");
});

test("who is removed is out of sight, and as before when brought back", async () => {
  const { finished } = await bulk(septima, { ids: [2, 4] }, { do: "remove" });
  expect(await finished).toBe(2);
  expect((await tableRows(septima, query, 0, 10)).rows.map(({ id }) => id)).toEqual([1, 3]);
  expect((await countSelection(septima, everyone)).included).toBe(2);
  expect((await listSizes(septima)).get("letter")).toBe(1);
  const removed = { ...query, group: { kind: "standing" as const, id: "removed" } };
  expect(await tableRows(septima, removed, 0, 10)).toMatchObject({ total: 2, readers: 0 });
  expect(await tableRows(septima, query, 0, 10)).toMatchObject({ total: 2, readers: 1 });
  await (await bulk(septima, { all: removed, but: [] }, { do: "restore" })).finished;
  expect([(await contactById(septima, 2)).status, (await contactById(septima, 4)).status]).toEqual([
    "subscribed",
    "complained",
  ]);
});

test("a list that is deleted reaches nobody, and everybody when it is back", async () => {
  await setReaders(septima, campaign, { include: [{ kind: "list", id: "letter" }], exclude: [] });
  const reach = async () =>
    (await countSelection(septima, { include: [{ kind: "list", id: "letter" }], exclude: [] })).readers;
  expect(await reach()).toBe(1);
  const { setRemoved } = await import("../workspace/removals");
  expect((await usesOf(septima.db, "list", ["letter"])).map(({ name }) => name)).toEqual(["Letter"]);
  await setRemoved(septima, "list", "letter", true);
  expect(await reach()).toBe(0);
  await setRemoved(septima, "list", "letter", false);
  expect(await reach()).toBe(1);
});

test("sizes are written down by the day", async () => {
  await recordSizes(septima);
  const size = (await audienceCounts(septima)).groups["list letter"];
  await recordSizes(septima);
  expect((await sizesOf(septima, "list", "letter")).map((one) => one.size)).toEqual([size]);
});

test("the table is sorted by any column, with nothing last, and sought", async () => {
  const emails = async (part: Partial<typeof query>) =>
    (await tableRows(septima, { ...query, ...part }, 0, 10)).rows.map(({ email }) => email.split("@")[0]);
  expect(await emails({})).toEqual(["ines", "maud", "odd", "spam"]);
  expect(await emails({ sort: { by: "email", down: true } })).toEqual(["spam", "odd", "maud", "ines"]);
  expect((await emails({ sort: { by: "name", down: true } }))[0]).toBe("ines");
  expect((await emails({ sort: { by: "name", down: false } }))[0]).toBe("ines");
  expect(await emails({ words: "A.EXAMPLE ines" })).toEqual(["ines"]);
  expect(await emails({ sort: { by: "no such field", down: false } })).toHaveLength(4);
  expect((await tableRows(septima, query, 3, 10)).rows.map(({ email }) => email)).toEqual(["spam@a.example"]);
});

test("the table of a rule about behaviour has whoever did it since it was last looked at", async () => {
  const opened = {
    ...query,
    filter: { kind: "did" as const, what: "opened" as const, often: "atLeast" as const, times: 1 },
  };
  const found = async () => (await tableRows(septima, opened, 0, 10)).rows.map(({ id }) => id);
  expect(await found()).toEqual([]);
  await addEvents(septima.db, [{ what: "opened", contact: 2, at: new Date(septima.now()), campaign }]);
  behaviourChanged(septima);
  expect(await found()).toEqual([2]);
});

test("before a sending it is said that its readers are left out by a list that was deleted; back, it is not", async () => {
  const selection = { ...everyone, exclude: [{ kind: "list" as const, id: "staff" }] };
  const id = await startCampaign(septima, "Others", "letter");
  await setReaders(septima, id, selection);
  const said = async () => (await findingsOf(septima, id)).map(({ text }) => text).join();
  expect(await said()).not.toContain("deleted");
  await setRemoved(septima, "list", "staff", true);
  expect(await said()).toContain("chosen by a list that was deleted");
  await setRemoved(septima, "list", "staff", false);
  expect(await said()).not.toContain("deleted");
});

test("a wish for no more letters holds behind every undo, bringing back and import", async () => {
  await addContacts(
    septima,
    ["undo", "gone", "both"].map((name) => ({ email: `${name}@w.example`, fields: {} })),
  );
  const rows = await septima.db.query<{ id: number; email: string }>(
    "select id, email from contacts where email like '%@w.example'",
  );
  const numberOf = (name: string) => rows.find(({ email }) => email === `${name}@w.example`)!.id;
  const [undo, gone, both] = [numberOf("undo"), numberOf("gone"), numberOf("both")];
  const address = await readerAddresses(septima);
  const tokenOf = (id: number) => address(id, campaign).unsubscribe.split("/").at(-1)!;
  const status = async (id: number) => (await contactById(septima, id)).status;
  const doMany = async (doing: Parameters<typeof bulk>[2], id: number) => {
    const change = await bulk(septima, { ids: [id] }, doing);
    await change.finished;
    return change.id;
  };

  // Unsubscribed by somebody for many, then by the reader, then taken back.
  const change = await doMany({ do: "unsubscribe" }, undo);
  await unsubscribe(septima, tokenOf(undo), "one-click");
  await takeBack(septima, change);
  expect(await status(undo)).toBe("unsubscribed");

  // Removed, then the reader presses, then brought back, or the removal is taken back.
  await doMany({ do: "remove" }, gone);
  const removal = await doMany({ do: "remove" }, both);
  for (const id of [gone, both]) {
    expect((await preferences(septima, tokenOf(id))).status).toBe("subscribed");
    await unsubscribe(septima, tokenOf(id), "page");
    expect((await preferences(septima, tokenOf(id))).status).toBe("unsubscribed");
    expect(await status(id)).toBe("removed");
  }
  await doMany({ do: "restore" }, gone);
  await takeBack(septima, removal);
  expect([await status(gone), await status(both)]).toEqual(["unsubscribed", "unsubscribed"]);

  // Each wish is written down once; what they ask for themselves holds again.
  await unsubscribe(septima, tokenOf(gone), "page");
  const wishes = await septima.db.query("select 1 from unsubscribes where contact_id = $1", [gone]);
  expect(wishes).toHaveLength(1);
  await resubscribe(septima, tokenOf(gone));
  expect(await status(gone)).toBe("subscribed");
  const again = await doMany({ do: "remove" }, gone);
  await takeBack(septima, again);
  expect(await status(gone)).toBe("subscribed");
});

test("two lists are not called alike, not even one that comes back", async () => {
  await saveList(septima, { id: "one", name: "Winter", about: "", topic: false });
  const second = { id: "two", name: " winter ", about: "", topic: false };
  await expect(saveList(septima, second)).rejects.toThrow("There is a list “Winter” already");
  await saveList(septima, { id: "one", name: "WINTER", about: "", topic: false });
  await setRemoved(septima, "list", "one", true);
  await saveList(septima, second);
  await expect(setRemoved(septima, "list", "one", false)).rejects.toThrow("There is a list “winter” already");
});
