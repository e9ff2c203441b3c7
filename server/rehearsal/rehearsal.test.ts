/** Every message made and read back, none of them sent: what is odd is found, and what is sent afterwards is the same. */
import { afterAll, beforeAll, expect, test } from "vitest";
import { createBlock } from "~/core/blocks";
import type { Block, Inline } from "~/core/email";
import { addContacts } from "../audience/contacts";
import { countSelection } from "../audience/selection";
import { campaign, setReaders } from "../campaigns/campaigns";
import { bookDispatch } from "../dispatch/bookings";
import { messageAsSent } from "../dispatch/frozen";
import type { Frozen } from "../dispatch/making";
import { runDispatch } from "../dispatch/run";
import type { Septima } from "../septima";
import { addBatch, codeStock } from "../sources/codes";
import { addList, everybody, openWorld, readyLetter, saveDesign } from "../test-world";
import {
  askRehearsal,
  callOffRehearsal,
  messageRehearsed,
  type Rehearsal,
  rehearsalOf,
  rehearse,
} from "./rehearsal";
import { longestLine, rehearseStretch } from "./stretch";

const READERS = 30;
let septima: Septima;
let close: () => Promise<void>;
const tag = (field: string, fallback = ""): Inline =>
  ({ type: "mergeTag", attrs: { field, fallback, format: "asIs" } }) as Inline;
const says = (text: string): Inline => ({ type: "text", text });

/** Whose name shows nothing, whose name is long, and whose name would end a header. */
const ODD_NAMES: Record<number, string> = {
  7: "\u200b",
  11: "Ann".repeat(60),
  13: "Bea\r\nBcc: everybody@mail.example",
  17: 'Cy "the" <grower>, Äpfel',
};

beforeAll(async () => {
  ({ septima, close } = await openWorld());
  await addList(septima, "all", "All");
  await addContacts(
    septima,
    Array.from({ length: READERS }, (_, at) => ({
      email: `reader${at}@mail.example`,
      fields: { first_name: ODD_NAMES[at] ?? `Näme ${at}`, last_name: at % 2 ? "Moor" : "" },
      lists: ["all"],
    })),
  );
  await addBatch(
    septima,
    { key: "kale", name: "Kale", per: "campaign", example: "KALE", low: 0, ends: null },
    Array.from({ length: READERS }, (_, at) => `KALE-${at}`).join("\n"),
  );
});
afterAll(() => close());

/** A letter that greets its readers and gives each a code. */
async function letter(): Promise<string> {
  const id = await readyLetter(septima, "all", () => [says("For "), tag("first_name"), says(", a code")]);
  const next = structuredClone((await campaign(septima, id)).email);
  const text = (words: Inline[]) =>
    ({
      ...createBlock("text", septima.newId()),
      content: { type: "doc", content: [{ type: "paragraph", content: words }] },
    }) as Block;
  next.sections[0].rows[0].columns[0].blocks.unshift(
    text([says("Hello "), tag("first_name"), says(", here is your code: "), tag("code.kale", "none")]),
  );
  await saveDesign(septima, id, next);
  return id;
}

async function rehearsed(id: string, world = septima): Promise<Rehearsal> {
  await askRehearsal(world, id);
  await rehearse(world, id);
  return (await rehearsalOf(world, id))!;
}

const kale = async () => (await codeStock(septima)).find(({ key }) => key === "kale")?.free;
/** A message without what is settled when it is handed over. */
const undated = (message: Uint8Array) =>
  Buffer.from(message)
    .toString("latin1")
    .replace(/^Date: .*\r\n/m, "");

test("all are made, the odd are found, nothing is taken or sent, and what is sent afterwards is the same to the octet", async () => {
  const id = await letter();
  const sent = await septima.mailboxes!.search({ text: "", offset: 0, limit: 1 });
  const came = await rehearsed(id);
  expect(came).toMatchObject({ state: "done", made: READERS, total: READERS, trouble: null, stale: false });
  expect(came.odd.map(({ kind, count, some }) => [kind, count, some[0].address])).toEqual([
    ["gap", 1, "reader7@mail.example"],
  ]);
  expect(came.odd[0].some[0].said).toContain("For , a code");
  const ends = Object.fromEntries(came.extremes.map(({ name, some }) => [name, some[0]]));
  expect(ends.name.address).toBe("reader11@mail.example");
  expect(ends.subject).toMatchObject({
    address: "reader11@mail.example",
    measure: 180 + "For , a code".length,
  });
  expect(ends.heaviest.address).toBe("reader11@mail.example");
  // Nobody got anything, and no code is gone.
  expect(await kale()).toBe(READERS);
  expect(await septima.mailboxes!.search({ text: "", offset: 0, limit: 1 })).toEqual(sent);
  expect(
    await septima.db.query(
      "select 1 from recipients r join dispatches d on d.id = r.dispatch_id where d.campaign_id = $1",
      [id],
    ),
  ).toEqual([]);

  const readers = new Map((await everybody(septima)).map((one) => [one.email, one.id]));
  const kept = new Set(
    [...came.odd, ...came.extremes].flatMap(({ some }) => some.map(({ reader }) => reader)),
  );
  for (const at of [7, 11, 13]) expect(kept).toContain(readers.get(`reader${at}@mail.example`));
  const before = new Map<number, Uint8Array>();
  for (const reader of kept) before.set(reader, await messageRehearsed(septima, id, reader));
  const dispatch = await bookDispatch(septima, id, { confirmed: READERS, when: null });
  await runDispatch(septima, dispatch);
  for (const [reader, message] of before)
    expect(undated(message)).toBe(undated(await messageAsSent(septima, dispatch, reader)));
  // And it is what came over the wire.
  const there = await septima.mailboxes!.search({ text: "reader7@mail.example", offset: 0, limit: 5 });
  const source = await septima.mailboxes!.source(there.messages[0].id);
  expect(undated(source!)).toContain(undated(before.get(readers.get("reader7@mail.example")!)!).trimEnd());
  // What comes next is another sending, with addresses of its own.
  await expect(bookDispatch(septima, id, { confirmed: 0, when: null })).rejects.toThrow();
});

test("a change of the design or of the readers makes it one from before", async () => {
  const id = await letter();
  await rehearsed(id);
  const { email } = await campaign(septima, id);
  await saveDesign(septima, id, { ...email, envelope: { ...email.envelope, preheader: [says("Now")] } });
  expect((await rehearsalOf(septima, id))?.stale).toBe(true);
  expect((await rehearsed(id)).stale).toBe(false);
  await setReaders(septima, id, {
    include: [{ kind: "list", id: "all" }],
    exclude: [{ kind: "list", id: "all" }],
  });
  expect(await rehearsalOf(septima, id)).toMatchObject({ stale: true });
  expect(await rehearsed(id)).toMatchObject({ state: "done", made: 0, total: 0 });
});

test("what stands in its way is said: nobody chosen, too few codes, a process that ended", async () => {
  const id = await letter();
  await setReaders(septima, id, { include: [], exclude: [] });
  await expect(askRehearsal(septima, id)).rejects.toThrow("Nobody is chosen yet");
  await setReaders(septima, id, { include: [{ kind: "list", id: "all" }], exclude: [] });
  await askRehearsal(septima, id);
  await expect(askRehearsal(septima, id)).rejects.toThrow("being rehearsed already");
  const later: Septima = { ...septima, now: () => Date.now() + 10 * 60_000 };
  expect(await rehearsalOf(later, id)).toMatchObject({
    state: "stopped",
    trouble: expect.stringContaining("Rehearse again"),
  });
  // A code that must be there is short: 30 went with the letter before.
  const { email } = await campaign(septima, id);
  const bare = JSON.parse(JSON.stringify(email).replace('"fallback":"none"', '"fallback":""'));
  await saveDesign(septima, id, bare);
  expect(await rehearsed(id, later)).toMatchObject({
    state: "stopped",
    trouble: expect.stringMatching(/Kale.*30/),
  });
});

test("called off it ends, and a reader who is gone is shown no more", async () => {
  const id = await letter();
  await askRehearsal(septima, id);
  await callOffRehearsal(septima, id);
  await rehearse(septima, id);
  expect(await rehearsalOf(septima, id)).toMatchObject({ state: "stopped", trouble: "It was called off." });
  await addContacts(septima, [
    { email: "gone@mail.example", fields: { first_name: "\u200b" }, lists: ["all"] },
  ]);
  const gap = ({ odd }: Rehearsal) => odd.find(({ kind }) => kind === "gap");
  const came = await rehearsed(id);
  expect(gap(came)?.some.map(({ address }) => address)).toContain("gone@mail.example");
  const { reader } = gap(came)!.some.find(({ address }) => address === "gone@mail.example")!;
  await septima.db.query("delete from contacts where id = $1", [reader]);
  const after = gap((await rehearsalOf(septima, id))!);
  expect(after?.count).toBe(2);
  expect(after?.some.map(({ address }) => address)).toEqual(["reader7@mail.example"]);
  await expect(messageRehearsed(septima, id, reader)).rejects.toThrow("rehearse again");
  expect((await countSelection(septima, (await campaign(septima, id)).readers, id)).readers).toBe(READERS);
});

test.each([false, true])(
  "called off while readers are gathered, no message is made; begun anew: %s",
  async (anew) => {
    const id = await letter();
    await askRehearsal(septima, id);
    let made = 0;
    const world: Septima = {
      ...septima,
      db: {
        ...septima.db,
        query: (...asked) => septima.db.query(...asked),
        transaction: (work) =>
          septima.db.transaction(work).finally(async () => {
            await callOffRehearsal(septima, id);
            if (anew) await askRehearsal(septima, id);
          }),
      },
      rehearsalWork: {
        ...septima.rehearsalWork,
        run: (...given) => {
          made++;
          return septima.rehearsalWork.run(...given);
        },
      },
    };
    await rehearse(world, id);
    expect(made).toBe(0);
    // What is begun anew is another: the one before does not go on in its name.
    expect(await rehearsalOf(septima, id)).toMatchObject({ state: anew ? "running" : "stopped", made: 0 });
  },
);

test("a heavy message, and a link that says another address than it leads to though it is counted, are found", async () => {
  const id = await readyLetter(septima, "all", () => [says("Heavy")]);
  const next = structuredClone((await campaign(septima, id)).email);
  const link = (words: string, href: string): Inline =>
    ({ type: "text", text: words, marks: [{ type: "link", attrs: { href } }] }) as Inline;
  const text = (...words: Inline[]): Block =>
    ({
      ...createBlock("text", septima.newId()),
      content: { type: "doc", content: [{ type: "paragraph", content: words }] },
    }) as Block;
  const { blocks } = next.sections[0].rows[0].columns[0];
  blocks.push(
    text(link("shop.marlmoss.example", "https://other.example/shop")),
    text(link("www.fair.example", "https://fair.example/at")),
    ...Array.from({ length: 12 }, () => text(says("Beans and peas. ".repeat(620)))),
  );
  await saveDesign(septima, id, next);
  const { odd } = await rehearsed(id);
  expect(odd.map(({ kind, count }) => [kind, count])).toEqual([
    ["link", READERS],
    ["cut", READERS],
  ]);
  expect(odd[0].some[0].said).toBe("“shop.marlmoss.example” leads to https://other.example/shop");

  // What an edition should show and a message does not is missing.
  const [{ frozen }] = await septima.db.query<{ frozen: Frozen }>(
    "select frozen from rehearsals where campaign_id = $1",
    [id],
  );
  frozen.program.editions[0].codes = ["kale"];
  const to = {
    id: 1,
    edition: 0,
    facts: {},
    address: "a@mail.example",
    name: null,
    messageId: "x@y.example",
  };
  const tally = await rehearseStretch({
    secret: "secret",
    dispatch: { id: "d", campaignId: id },
    frozen,
    readers: [{ to: { ...to, at: new Date(0) }, codes: { kale: "NOT-THERE" } }],
  });
  expect(tally.odd.code?.some).toEqual([{ reader: 1, said: "The code NOT-THERE does not stand in it" }]);
});

test("the longest line of a message is measured without its end", () => {
  const lines = ["a", "b".repeat(80), "", "c".repeat(12)];
  expect(longestLine(Buffer.from(lines.join("\r\n")))).toBe(80);
  expect(longestLine(Buffer.from(`${lines.join("\n")}${"d".repeat(90)}`))).toBe(102);
});

test("two readers who were handed one code are found", async () => {
  await septima.db.query("alter table codes drop constraint codes_batch_code_key");
  await septima.db.query(
    "update codes set code = 'TWICE', contact_id = null, campaign_id = null, dispatch_id = null where place in (select place from codes order by place limit 2)",
  );
  const { odd } = await rehearsed(await letter());
  expect(odd.find(({ kind }) => kind === "code")?.some.map(({ said }) => said)).toEqual([
    "The code TWICE is somebody else’s, too",
  ]);
});
