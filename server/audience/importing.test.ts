/** Files of contacts brought in, cancelled, killed and taken back, against a whole picture of the audience before. */
import { existsSync } from "node:fs";
import { readdir } from "node:fs/promises";
import path from "node:path";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { blocksOf, typedTag } from "~/core/email";
import { guessColumns, type Plan } from "~/core/importing";
import { campaign, startCampaign } from "../campaigns/campaigns";
import type { Septima } from "../septima";
import { addList, openWorld, saveDesign } from "../test-world";
import { changeById, changeMany, keptContacts } from "./changing";
import { chooseTopics, endSubscription } from "./choices";
import { changeContact } from "./contact-facts";
import { addContacts, contactById, searchContacts } from "./contacts";
import { fieldsOf, fieldUses, ownFields, removeField, restoreField, saveField, setFields } from "./fields";
import { lists, saveList, saveSegment } from "./groups";
import { checkImport } from "./import-check";
import { fileFacts, readDifferently, takeFile } from "./import-file";
import { cancelImport, rejectedLines, runImport } from "./importing";
import { saveRecords, saveTable } from "./records";
import { settleChanges, takeBack } from "./taking-back";

let septima: Septima;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ septima, close } = await openWorld());
});
beforeEach(async () => {
  await septima.db.query(
    "truncate contacts, lists, list_members, changes, change_rows, rejected_lines, record_tables, records, orders, recipients, unsubscribes, proofs, choices, referrals, kept_contacts, removed_values, returned, suppressions restart identity",
  );
  await setFields(septima, []);
  await addList(septima, "letter", "Letter");
  await addContacts(septima, [
    { email: "Ines@a.example", fields: { first_name: "Ines", language: "en" }, lists: ["letter"] },
    { email: "maud@a.example", fields: {} },
    { email: "gone@a.example", fields: {} },
  ]);
  await septima.db.query("update contacts set status = 'complained' where email = 'gone@a.example'");
});
afterAll(() => close());

const stream = (octets: Uint8Array | string, size = 64_000) => {
  const all = typeof octets === "string" ? new TextEncoder().encode(octets) : octets;
  let at = 0;
  return new ReadableStream<Uint8Array>({
    pull(controller) {
      if (at >= all.length) return controller.close();
      controller.enqueue(all.slice(at, at + size));
      at += size;
    },
  });
};
const take = (text: Uint8Array | string, name = "friends.csv") => takeFile(septima, name, stream(text));

async function planFor(id: string, more: Partial<Plan> = {}): Promise<Plan> {
  const { columns } = await fileFacts(septima, id);
  return {
    columns: guessColumns(columns, await fieldsOf(septima)),
    known: "fill",
    lists: [],
    newList: "",
    consent: { source: "", date: "" },
    lenient: false,
    ...more,
  };
}

/** Everything that an import may touch. */
async function picture() {
  const all = await septima.db.query(
    `select id, email, fields, status, (select array_agg(list_id order by list_id) from list_members where contact_id = c.id) as lists
     from contacts c order by id`,
  );
  const left = await septima.db.query("select * from change_rows");
  return { all, lists: await lists(septima), fields: await ownFields(septima), left };
}

async function bring(text: string, more: Partial<Plan> = {}) {
  const id = await take(text);
  const plan = await planFor(id, more);
  const check = await checkImport(septima, id, plan);
  await (await runImport(septima, id, plan)).finished;
  return { id, check, change: await changeById(septima, id) };
}

test("a file is brought in as was said before, and taken back without a trace", async () => {
  const before = await picture();
  const text = [
    "E-Mail;Vorname;Geburtstag;Shoe size;Lists",
    "ines@a.example;Inês;29.02.1988;39;Friends",
    "zoe@b.example;Zoë;;40;Letter",
    "zoe@b.example;Again;01.02.1990;;",
    "maud@a.example;;;41;",
    "gone@a.example;Gone;;;",
    "no address;X;;;",
    "x@b.example;X;31.02.2020;;",
    "E-Mail;Vorname;Geburtstag;Shoe size;Lists",
    "y@b.example;a;b;c;d;e;f",
  ].join("\r\n");
  const id = await take(text);
  expect((await fileFacts(septima, id)).lines).toBe(9);
  const plan = await planFor(id, {
    newList: "Newcomers",
    consent: { source: "On paper", date: "2026-01-01" },
  });
  plan.columns[2].target = { to: "field", field: "birthday" };
  plan.columns[3].target = { to: "new", field: { key: "shoe_size", label: "Shoe size", kind: "number" } };
  const check = await checkImport(septima, id, plan);
  expect(await picture()).toEqual(before);
  expect(check.newLists).toEqual(["Friends"]);
  await (await runImport(septima, id, plan)).finished;
  const { state, counts } = await changeById(septima, id);
  expect(state).toBe("done");
  expect(counts).toEqual(check.counts);
  expect(counts).toEqual({
    made: 1,
    changed: 3,
    same: 0,
    suppressed: 1,
    again: 1,
    rejected: 4,
    lessened: 0,
    seen: 9,
  });
  expect((await rejectedLines(septima, id)).map(({ line, reason }) => `${line} ${reason}`)).toEqual([
    "7 “no address” is no address",
    "8 “Birthday” should be a day, not “31.02.2020”",
    "9 is the header once more",
    "10 has 7 cells, the first line 5",
  ]);
  const { contacts } = await searchContacts(septima, "zoe", 5);
  expect(contacts[0]).toMatchObject({
    email: "zoe@b.example",
    fields: {
      first_name: "Zoë",
      birthday: "1990-02-01",
      shoe_size: 40,
      consent_source: "On paper",
      consent_date: "2026-01-01",
    },
  });
  const names = new Map((await lists(septima)).map((list) => [list.id, list.name]));
  expect(contacts[0].lists.map((list) => names.get(list)).sort()).toEqual(["Letter", "Newcomers"]);
  // Gaps are filled; what was known stays, and who complained is never written to again.
  const ines = (await searchContacts(septima, "ines", 5)).contacts[0];
  expect(ines.fields).toMatchObject({ first_name: "Ines", birthday: "1988-02-29", shoe_size: 39 });
  expect((await searchContacts(septima, "gone", 5)).contacts[0].status).toBe("complained");
  await takeBack(septima, id);
  expect(await picture()).toEqual(before);
  await expect(takeBack(septima, id)).rejects.toThrow("taken back already");
});

test.each([
  ["update", "Inês", "Zoë Two"],
  ["fill", "Ines", "Zoë"],
  ["keep", "Ines", "Zoë"],
] as const)("of known addresses, with %s", async (known, ines, zoe) => {
  const text = "email,first name\nines@A.example,Inês\nz@b.example,Zoë\nZ@B.example,Zoë Two\n";
  const { change } = await bring(text, { known });
  expect(change.state).toBe("done");
  expect((await searchContacts(septima, "ines", 5)).contacts[0].fields.first_name).toBe(ines);
  expect((await searchContacts(septima, "z@b", 5)).contacts[0].fields.first_name).toBe(zoe);
  expect((await searchContacts(septima, "z@b", 5)).total).toBe(1);
});

test("what somebody changed since an import stays, and who was written to is not deleted", async () => {
  const { id } = await bring("email,first name\nmaud@a.example,Maud\nnew@b.example,New\n");
  const maud = (await searchContacts(septima, "maud", 1)).contacts[0];
  await (await changeMany(septima, "By hand", [maud.id], { fields: { first_name: "Maudie" } })).finished;
  const fresh = (await searchContacts(septima, "new@b", 1)).contacts[0];
  await septima.db.query(
    "insert into orders (number, contact_id, at, currency, total) values ('1', $1, now(), 'GBP', 1)",
    [fresh.id],
  );
  await takeBack(septima, id);
  expect((await contactById(septima, maud.id)).fields.first_name).toBe("Maudie");
  expect((await contactById(septima, fresh.id)).status).toBe("removed");
});

const many = (count: number) =>
  `email,first name\n${Array.from({ length: count }, (_, n) => `r${n}@b.example,R${n}`).join("\n")}\nmaud@a.example,Maud\n`;

test("one that is cancelled half way is not there", async () => {
  const before = await picture();
  const id = await take(many(2000));
  const { finished } = await runImport(septima, id, await planFor(id));
  await cancelImport(septima, id);
  await finished;
  expect(await changeById(septima, id)).toMatchObject({
    state: "undone",
    trouble: expect.stringContaining("cancelled"),
  });
  expect(await picture()).toEqual(before);
});

test("one that was killed half way is taken back at the next start", async () => {
  const before = await picture();
  const id = await take(many(3000));
  // The process dies after some stretches: nothing more is written, nothing is settled.
  let stretches = 0;
  const dying: Septima = {
    ...septima,
    db: {
      ...septima.db,
      query: (sql, params) => (stretches > 3 ? new Promise(() => undefined) : septima.db.query(sql, params)),
      transaction: (work) => {
        stretches += 1;
        return stretches > 3 ? new Promise(() => undefined) : septima.db.transaction(work);
      },
    },
  };
  void (await runImport(dying, id, await planFor(id))).finished;
  await expect.poll(() => stretches, { timeout: 20_000 }).toBeGreaterThan(3);
  expect((await searchContacts(septima, "b.example", 1)).total).toBeGreaterThan(0);
  // Another process that is alive is left alone.
  await settleChanges(septima, false);
  expect((await changeById(septima, id)).state).toBe("running");
  await settleChanges(septima, true);
  expect(await changeById(septima, id)).toMatchObject({
    state: "undone",
    trouble: expect.stringContaining("stopped"),
  });
  expect(await picture()).toEqual(before);
});

describe("files that nobody should give", () => {
  test.each([
    [Uint8Array.from([0x4d, 0x5a, 0x90, 0, 3, 0, 0, 0]), "looks like a program"],
    ["", "is empty"],
    ["email,first name\n", "nothing below them"],
    ['email,first name\na@b.example,"Ines\nb@b.example,Maud\n', "opens in line 2 is never closed"],
    [`${Array.from({ length: 1001 }, (_, n) => `c${n}`).join(",")}\nx\n`, "1,001 columns in line 1"],
  ])("%# are refused with the name, the place and the remedy", async (octets, words) => {
    await expect(take(octets, "odd.csv")).rejects.toThrow(words);
    await expect(take(octets, "odd.csv")).rejects.toThrow("odd.csv");
    const kept = await readdir(path.join(septima.config.data, "imports"));
    const known = await septima.db.query<{ id: string }>("select id from import_files");
    expect(kept.filter((name) => !known.some(({ id }) => id === name))).toEqual([]);
  });

  test("300 columns, a column twice, a cell of a million characters and short lines are taken or named", async () => {
    const names = ["email", "note", "note", ...Array.from({ length: 297 }, (_, n) => `c${n}`)];
    const text = `${names.join(",")}\na@b.example,"${"x".repeat(1_000_000)}",two\nb@b.example\nc@b.example,short,also\n`;
    const id = await take(text);
    const { columns, lines } = await fileFacts(septima, id);
    expect([columns.length, lines, columns[2].name]).toEqual([300, 3, "note (2)"]);
    const plan = await planFor(id);
    plan.columns[1].target = { to: "new", field: { key: "note", label: "Note", kind: "text" } };
    const { counts, rejected } = await checkImport(septima, id, plan);
    expect([counts.made, rejected]).toEqual([
      2,
      [{ line: 2, reason: "“Note” has more than 2000 characters", cells: expect.anything() }],
    ]);
    const gentle = { ...plan, lenient: true };
    expect((await checkImport(septima, id, gentle)).counts).toMatchObject({
      made: 3,
      lessened: 1,
      rejected: 0,
    });
    await (await runImport(septima, id, plan)).finished;
    expect((await rejectedLines(septima, id))[0].cells[1].length).toBeLessThan(1100);
  });

  test("what was read wrongly is read differently", async () => {
    const id = await take("i@b.example|a, b\nm@b.example|c\n");
    const { reading } = await fileFacts(septima, id);
    expect(reading).toMatchObject({ delimiter: "|", header: false });
    await readDifferently(septima, id, { ...reading, delimiter: "," });
    expect((await fileFacts(septima, id)).columns).toHaveLength(2);
    await readDifferently(septima, id, { ...reading, header: true });
    expect((await fileFacts(septima, id)).columns.map(({ name }) => name)).toEqual(["i@b.example", "a, b"]);
  });

  test("a plan without addresses, a field twice and a name that is taken are refused in words", async () => {
    const id = await take("email,a,b\nx@b.example,1,2\n");
    const plan = await planFor(id);
    const first = (key: string) => ({ to: "field" as const, field: key });
    const with1 = (at: number, target: Plan["columns"][number]["target"]) => ({
      ...plan,
      columns: plan.columns.map((column, index) => (index === at ? { ...column, target } : column)),
    });
    const check = (it: Plan) => checkImport(septima, id, it);
    await expect(check(with1(0, { to: "nothing" }))).rejects.toThrow("which column holds the addresses");
    await expect(check({ ...with1(1, first("email")) })).rejects.toThrow("filled from two columns");
    const taken = { key: "x", label: "first NAME", kind: "text" as const };
    await expect(check(with1(1, { to: "new", field: taken }))).rejects.toThrow(
      "There is a field “first NAME” already",
    );
    await expect(check({ ...plan, columns: [] })).rejects.toThrow("read differently meanwhile");
  });
});

test("Latin-1, UTF-16 and vCards come in as what they say", async () => {
  const latin = Uint8Array.from(
    [..."email;Vorname\nz@b.example;Zo"].map((it) => it.charCodeAt(0)).concat([0xeb, 0x0a]),
  );
  const wide = Buffer.from("\ufeffemail\tVorname\ny@b.example\tÇağla\n", "utf16le");
  const card = "BEGIN:VCARD\nN:Brandt;Jörg\nEMAIL:j@b.example\nEND:VCARD\n";
  for (const octets of [latin, new Uint8Array(wide), new TextEncoder().encode(card)]) {
    const id = await take(octets);
    await (await runImport(septima, id, await planFor(id))).finished;
    expect((await changeById(septima, id)).counts.made).toBe(1);
    expect(existsSync(path.join(septima.config.data, "imports", id))).toBe(false);
  }
  const name = async (words: string) => (await searchContacts(septima, words, 1)).contacts[0].fields;
  expect((await name("z@b")).first_name).toBe("Zoë");
  expect((await name("y@b")).first_name).toBe("Çağla");
  expect(await name("j@b")).toMatchObject({ first_name: "Jörg", last_name: "Brandt" });
});

test("records are found by their names, and new choices offer what the file had", async () => {
  await saveTable(septima, { id: "t", name: "Branches", facts: [] });
  await saveRecords(septima, "t", [{ id: "r1", name: "Marl Bay", facts: {} }]);
  await setFields(septima, [{ key: "branch", label: "Branch", kind: "record", table: "t" }]);
  const id = await take("email,Branch,Size\nx@b.example,marl bay,S\ny@b.example,Nowhere,M\nz@b.example,,M\n");
  const plan = await planFor(id);
  plan.columns[2].target = { to: "new", field: { key: "size", label: "Size", kind: "choice" } };
  await (await runImport(septima, id, plan)).finished;
  expect((await searchContacts(septima, "x@b", 1)).contacts[0].fields).toMatchObject({
    branch: "r1",
    "branch.name": "Marl Bay",
  });
  expect((await rejectedLines(septima, id)).map(({ reason }) => reason)).toEqual([
    "“Branch” cannot be “Nowhere”",
  ]);
  expect(
    (await ownFields(septima)).find(({ key }) => key === "size")?.options?.map(({ value }) => value),
  ).toEqual(["S", "M"]);
});

test("values too long to choose from leave a new choice open", async () => {
  const id = await take(`email,Remark\nx@b.example,"${"word ".repeat(150)}"\ny@b.example,short\n`);
  const plan = await planFor(id);
  plan.columns[1].target = { to: "new", field: { key: "remark", label: "Remark", kind: "choice" } };
  await (await runImport(septima, id, plan)).finished;
  expect((await changeById(septima, id)).state).toBe("done");
  expect((await ownFields(septima))[0].options).toBeUndefined();
});

test("a file can say that somebody must not be written to, and never that they may again", async () => {
  const { change } = await bring(
    "email,Status\nmaud@a.example,Unsubscribed\ngone@a.example,subscribed\nnew@b.example,bounced\n",
  );
  expect(change.counts).toMatchObject({ made: 1, changed: 1, same: 1 });
  const status = async (words: string) => (await searchContacts(septima, words, 1)).contacts[0].status;
  expect([await status("maud"), await status("gone"), await status("new")]).toEqual([
    "unsubscribed",
    "complained",
    "bounced",
  ]);
});

test("whoever acted since, or was changed by something else, stays when an import is taken back, and is listed", async () => {
  await saveList(septima, { id: "news", name: "News", about: "", topic: true });
  const who = ["chose", "left", "edited", "again", "brought", "nothing"];
  const { id } = await bring(`email\n${who.map((name) => `${name}@b.example`).join("\n")}\n`);
  const numberOf = async (name: string) => (await searchContacts(septima, `${name}@b`, 1)).contacts[0]?.id;
  const numbers = await Promise.all(who.map(numberOf));
  const [chose, left, edited, , brought] = numbers;
  await chooseTopics(septima, chose, ["news"], { way: "page" });
  await endSubscription(septima, left, { campaign: null, way: "page" });
  await changeContact(septima, edited, {
    email: "edited@b.example",
    fields: { first_name: "Ed" },
    lists: [],
  });
  const second = await bring("email,first name\nagain@b.example,Again\n");
  await septima.db.query(
    "insert into referrals (id, referrer, email, asked_at) values ('f', $1, 'friend@b.example', now())",
    [brought],
  );
  await takeBack(septima, id);
  expect(await Promise.all(who.map(numberOf))).toEqual([...numbers.slice(0, 5), undefined]);
  expect((await contactById(septima, left)).status).toBe("unsubscribed");
  expect((await keptContacts(septima, id)).map(({ email, why }) => [email.split("@")[0], why])).toEqual([
    ["again", "was changed by something later"],
    ["brought", "brought a friend, or was brought"],
    ["chose", "chose what they get"],
    ["edited", "was edited"],
    ["left", "unsubscribed"],
  ]);
  await takeBack(septima, second.id);
});

test("an import that names a new list like one that is there is refused before anything is changed", async () => {
  const before = await picture();
  await expect(bring("email\nnew@b.example\n", { newList: "LETTER" })).rejects.toThrow(
    "There is a list “Letter” already",
  );
  expect(await picture()).toEqual(before);
});

test("a field goes with its values, comes back with them, and another of its name does not have them", async () => {
  const field = { key: "size", label: "Size", kind: "text" as const };
  await saveField(septima, field);
  await addContacts(septima, [{ email: "tall@b.example", fields: { size: "tall" } }]);
  const size = async () => (await searchContacts(septima, "tall@b", 1)).contacts[0].fields.size;
  await removeField(septima, "size");
  expect(await size()).toBeUndefined();
  await restoreField(septima, field);
  expect(await size()).toBe("tall");
  await removeField(septima, "size");
  await saveField(septima, { ...field, kind: "number" });
  expect(await size()).toBeUndefined();
  await removeField(septima, "size");
  await restoreField(septima, field);
  expect(await size()).toBeUndefined();
});

test("what uses a field is found in rules, in words and in typed tags", async () => {
  await saveField(septima, { key: "size", label: "Size", kind: "text" });
  await saveField(septima, { key: "siz", label: "Siz", kind: "text" });
  await saveSegment(septima, {
    id: "tall",
    name: "Tall",
    rule: { kind: "field", field: "size", op: "known" },
  });
  const typed = async (name: string, href: string) => {
    const id = await startCampaign(septima, name, "letter");
    const { email } = await campaign(septima, id);
    const next = structuredClone(email);
    for (const block of blocksOf(next)) if (block.type === "button") block.href = href;
    await saveDesign(septima, id, next);
  };
  await typed("Plain", "https://s.example/?s={$size}");
  await typed("With more", "https://s.example/?s={$size else=|m|}");
  await typed(
    "Written",
    `https://s.example/?s=${typedTag({ field: "size", fallback: "", format: "upper" })}`,
  );
  await typed("Another", "https://s.example/?s={$sizes}&size=1");
  const uses = Object.fromEntries(
    (await fieldUses(septima)).map((it) => [it.field.key, it.uses.map(({ name }) => name)]),
  );
  expect(uses).toEqual({ size: ["Plain", "With more", "Written", "Tall"], siz: [] });
});
