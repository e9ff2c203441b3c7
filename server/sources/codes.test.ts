/** Codes: one for one reader, reserved before anything goes out, never used up by looking. */
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Rule } from "~/core/audience";
import { blocksOf } from "~/core/email";
import { addContacts } from "../audience/contacts";
import { saveField } from "../audience/fields";
import { countSelection } from "../audience/selection";
import { campaign, setReaders, startCampaign } from "../campaigns/campaigns";
import { exportCampaign } from "../campaigns/export";
import { sendProof } from "../campaigns/proofs";
import { campaignAs } from "../campaigns/rendering";
import { bookDispatch } from "../dispatch/bookings";
import { dispatchesOf, steerDispatch } from "../dispatch/dispatches";
import { runDispatch } from "../dispatch/run";
import { findingsOf } from "../preflight/preflight";
import { followLink } from "../readers/links";
import type { Septima } from "../septima";
import { addList, everybody, openWorld, saveDesign } from "../test-world";
import { addBatch, addCodes, changeBatch, codeStock, putAwayBatch } from "./codes";

let septima: Septima;
let close: () => Promise<void>;
const COOL: Rule = { kind: "field", field: "zone", op: "is", value: "cool" };
const READERS = 12;

beforeAll(async () => {
  ({ septima, close } = await openWorld());
  await addList(septima, "all", "All");
  await saveField(septima, { key: "zone", label: "Zone", kind: "text" });
  await addContacts(
    septima,
    Array.from({ length: READERS }, (_, id) => ({
      email: `reader${id}@mail.example`,
      fields: { zone: id % 3 === 0 ? "cool" : "mild" },
      lists: ["all"],
    })),
  );
});
afterAll(() => close());

const batch = (key: string, more: object = {}) => ({
  key,
  name: `Batch ${key}`,
  per: "campaign" as const,
  example: `${key}-example`,
  low: 0,
  ends: null,
  ...more,
});
const list = (key: string, count: number, from = 0) =>
  Array.from({ length: count }, (_, at) => `${key.toUpperCase()}-${from + at}`).join("\n");
const free = async (key: string) => (await codeStock(septima)).find((one) => one.key === key)?.free;
/** What stands in the way of a sending. */
const stops = async (id: string) =>
  (await findingsOf(septima, id)).filter(({ weight }) => weight === "stops").map(({ text }) => text);

/** A letter whose button leads to the shop with a code, for some or for all. */
async function letter(key: string, { show, fallback = "" }: { show?: Rule; fallback?: string } = {}) {
  const id = await startCampaign(septima, key, "letter");
  const email = structuredClone((await campaign(septima, id)).email);
  email.envelope.subject = [{ type: "text", text: `Letter ${id}` }];
  for (const block of blocksOf(email))
    if (block.type === "button") {
      const otherwise = fallback === "" ? "" : ` else=|${fallback}|`;
      block.href = `https://shop.example/?code={$code.${key}${otherwise}}`;
      if (show) block.show = show;
    }
  await saveDesign(septima, id, email);
  await setReaders(septima, id, { include: [{ kind: "list", id: "all" }], exclude: [] });
  return id;
}

async function order(id: string): Promise<string> {
  const { readers } = await countSelection(septima, (await campaign(septima, id)).readers, id);
  return bookDispatch(septima, id, { confirmed: readers, when: null });
}

/** The codes that came by mail, by the address they came to. */
async function delivered(id: string): Promise<Map<string, string>> {
  const { messages } = await septima.mailboxes!.search({ text: `Letter ${id}`, offset: 0, limit: 500 });
  const all = new Map<string, string>();
  for (const { id: message, to } of messages) {
    const raw = (await septima.mailboxes!.source(message))!.toString().replace(/=\r\n/g, "");
    // Of a sending the links are counted; of a proof they are as they are.
    const tokens = [...raw.matchAll(/\/c\/([\w-]+)/g)].map(([, token]) => token);
    const led = await Promise.all(tokens.map(async (token) => (await followLink(septima, token)).to));
    const [, code] = /code=([\w-]*)/.exec([...led, raw.replaceAll("=3D", "=")].join("\n")) ?? [];
    if (code !== undefined) all.set(to, code);
  }
  return all;
}

describe("codes", () => {
  test("are handed to those who are shown one, one each, and to nobody by looks and proofs", async () => {
    await addBatch(septima, batch("spring"), list("spring", 20));
    const id = await letter("spring", { show: COOL });
    const someone = (await everybody(septima)).find(({ fields }) => fields.zone === "cool")!;
    expect((await campaignAs(septima, id, someone.id)).message.html).toContain("code=spring-example");
    expect(String((await exportCampaign(septima, id, "html", someone.id)).data)).toContain(
      "code=spring-example",
    );
    await sendProof(septima, id, { to: "me@tansyrow.example", contactId: someone.id, note: "" });
    expect(await free("spring")).toBe(20);
    await runDispatch(septima, await order(id));
    const got = await delivered(id);
    got.delete("me@tansyrow.example");
    expect(got.size).toBe(READERS / 3);
    expect(new Set(got.values()).size).toBe(READERS / 3);
    for (const code of got.values()) expect(code).toMatch(/^SPRING-\d+$/);
    expect(await free("spring")).toBe(20 - READERS / 3);
  });

  test("that are a reader's for ever are the same in the next campaign", async () => {
    await addBatch(septima, batch("ever", { per: "ever" }), list("ever", READERS));
    const [first, second] = [await letter("ever"), await letter("ever")];
    await runDispatch(septima, await order(first));
    expect(await stops(second)).toEqual([]);
    await runDispatch(septima, await order(second));
    expect(await delivered(second)).toEqual(await delivered(first));
    expect(await free("ever")).toBe(0);
  });

  test("that run short stop a sending, with the number that is missing, unless something else is said", async () => {
    await addBatch(septima, batch("few"), list("few", 5));
    const id = await letter("few");
    expect(await stops(id)).toEqual([
      "“Batch few” has 5 codes left for 12 readers: 7 are missing. Add codes under Sources, or say in the tag what those get for whom there is none.",
    ]);
    await expect(order(id)).rejects.toThrow("7 are missing");
    const kind = await letter("few", { fallback: "ask-us" });
    expect(await stops(kind)).toEqual([]);
    await runDispatch(septima, await order(kind));
    const got = [...(await delivered(kind)).values()];
    expect(got.filter((code) => code === "ask-us")).toHaveLength(7);
    expect(new Set(got).size).toBe(6);
  });

  test("that another campaign took meanwhile pause the sending before anybody gets it; with more it goes on", async () => {
    await addBatch(septima, batch("rush"), list("rush", READERS + 4));
    const [one, other] = [await letter("rush"), await letter("rush")];
    const orders = [await order(one), await order(other)];
    await Promise.all(orders.map((id) => runDispatch(septima, id)));
    const states = await Promise.all([one, other].map(async (id) => (await dispatchesOf(septima, id))[0]));
    expect(states.map(({ state }) => state).sort()).toEqual(["paused", "sent"]);
    const paused = states.find(({ state }) => state === "paused")!;
    expect(paused.trouble).toMatch(/8 (codes too few|are missing)/);
    expect((await delivered(paused.campaignId)).size).toBe(0);
    expect(await free("rush")).toBe(4);
    await addCodes(septima, "rush", list("rush", 8, 100));
    await steerDispatch(septima, paused.id, "sending");
    await runDispatch(septima, paused.id);
    expect((await dispatchesOf(septima, paused.campaignId))[0].state).toBe("sent");
    const all = [...(await delivered(one)).values(), ...(await delivered(other)).values()];
    expect(new Set(all).size).toBe(2 * READERS);
    expect(await free("rush")).toBe(0);
  });

  test("are all back when the process dies while readers are gathered", async () => {
    await addBatch(septima, batch("kill"), list("kill", READERS));
    const id = await letter("kill");
    const dispatch = await order(id);
    const dying: Septima = {
      ...septima,
      // It does not get to write down that it paused.
      stopping: AbortSignal.abort(),
      db: {
        ...septima.db,
        query: septima.db.query.bind(septima.db),
        transaction: (body) =>
          septima.db.transaction(async (tx) => {
            await body(tx);
            throw new Error("killed");
          }),
      },
    };
    await expect(runDispatch(dying, dispatch)).rejects.toThrow("killed");
    expect(await free("kill")).toBe(READERS);
    await runDispatch(septima, dispatch);
    expect(new Set((await delivered(id)).values()).size).toBe(READERS);
    expect(await free("kill")).toBe(0);
  });

  test("of those whose turn had not come are back when a sending is cancelled", async () => {
    await addBatch(septima, batch("stop"), list("stop", READERS));
    const id = await letter("stop");
    const dispatch = await order(id);
    let sent = 0;
    const relay = {
      connections: 1,
      close: async () => undefined,
      async send(...mail: Parameters<typeof septima.relay.send>) {
        await septima.relay.send(...mail);
        if (++sent === 5) await steerDispatch(septima, dispatch, "cancelled");
      },
    };
    await runDispatch({ ...septima, relay }, dispatch);
    expect((await delivered(id)).size).toBe(5);
    expect(await free("stop")).toBe(READERS - 5);
  });

  test("are few, or were good until a day that is past: somebody is told before the sending", async () => {
    await addBatch(septima, batch("low", { low: 10 }), list("low", READERS + 3));
    const id = await letter("low");
    const said = async () => (await findingsOf(septima, id)).map(({ weight, text }) => `${weight}: ${text}`);
    expect(await said()).toContain(
      "look: “Batch low” will have 3 codes left after this. Add codes under Sources.",
    );
    await changeBatch(septima, batch("low", { ends: "2020-01-31" }));
    expect(await stops(id)).toEqual([expect.stringContaining("were good until 2020-01-31")]);
    await putAwayBatch(septima, "low", true);
    expect(await stops(id)).toEqual([
      expect.stringContaining("asks for the batch of codes “low”, which is not there"),
    ]);
  });

  test("in a file that holds none are refused, with its first line", async () => {
    await expect(addBatch(septima, batch("bad"), "a;b\nc;d")).rejects.toThrow(
      "Line 1, “a;b”: more than one column",
    );
    await expect(addBatch(septima, batch("bad"), "\n\n")).rejects.toThrow("no code in this file");
    await expect(addBatch(septima, batch("bad"), "bad-example")).rejects.toThrow(
      "The example is one of the codes",
    );
    expect(await addBatch(septima, batch("bad"), '\ufeffCode\r\nA-1\r\n"A,2"\r\nA-1\r\n')).toEqual({
      added: 2,
      rejected: [{ line: 4, text: "A-1", why: "is there twice" }],
    });
  });
});
