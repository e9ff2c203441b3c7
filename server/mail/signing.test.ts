/** Signatures as a stranger reads them, and the keys they are made with. */
import dgram from "node:dgram";
import { mkdtemp, readdir, rm, stat } from "node:fs/promises";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, beforeAll, expect, test } from "vitest";
import { saveField } from "../audience/fields";
import { countSelection } from "../audience/selection";
import { campaign } from "../campaigns/campaigns";
import { sendProof } from "../campaigns/proofs";
import { bookDispatch } from "../dispatch/bookings";
import { dispatchesOf, steerDispatch } from "../dispatch/dispatches";
import { messageAsSent } from "../dispatch/frozen";
import { runDispatch } from "../dispatch/run";
import { findingsOf } from "../preflight/preflight";
import { seal, unseal } from "../seal";
import type { Septima } from "../septima";
import { addReaders, openWorld, readyLetter, saveDesign } from "../test-world";
import { askRecord } from "./dns";
import {
  checkKey,
  letSign,
  makeKeys,
  retireKey,
  senderDomains,
  setRelaySigns,
  signingKeys,
} from "./signing-keys";
import { hasVerifier, verified } from "./verifier";

const DOMAIN = "marlmoss.example";
const READERS = 40;
let septima: Septima;
let close: () => Promise<void>;

beforeAll(async () => {
  ({ septima, close } = await openWorld());
  await addReaders(septima, "all", READERS, (at) => ({
    first_name: `Näme ${at}`,
    from_shop: at === 7 ? "bay@other.example" : "quay@marlmoss.example",
  }));
});
afterAll(() => close());

const letter = () =>
  readyLetter(septima, "all", (id) => [
    { type: "text", text: `Letter ${id} for ` },
    { type: "mergeTag", attrs: { field: "first_name", fallback: "you", format: "asIs" } },
  ]);

async function booked(id: string): Promise<string> {
  const { readers } = await campaign(septima, id);
  const { readers: count } = await countSelection(septima, readers, id);
  return bookDispatch(septima, id, { confirmed: count, when: null });
}

async function arrived(text: string): Promise<{ to: string; source: Buffer }[]> {
  const { messages } = await septima.mailboxes!.search({ text, offset: 0, limit: 500 });
  return Promise.all(
    messages.map(async ({ to, id }) => ({ to, source: (await septima.mailboxes!.source(id))! })),
  );
}

const records = async () => (await signingKeys(septima)).map(({ record }) => record);

test.skipIf(!hasVerifier)(
  "what arrives is signed by both keys as a stranger verifies it, proofs as well, and changed it is not",
  async () => {
    await setRelaySigns(septima, DOMAIN, false);
    await makeKeys(septima, DOMAIN);
    const id = await letter();
    await runDispatch(septima, await booked(id));
    await sendProof(septima, id, { to: "colleague@marlmoss.example", contactId: 3, note: "Look" });
    const mails = await arrived(id);
    expect(mails).toHaveLength(READERS + 1);
    const right = [
      [expect.stringMatching(/^septima-/), "rsa-sha256", true],
      [expect.stringMatching(/^septima-/), "ed25519-sha256", true],
    ];
    const told = await verified(
      await records(),
      mails.map(({ source }) => source),
    );
    for (const one of told) expect(one).toEqual(right);
    const proof = mails.find(({ to }) => to.startsWith("colleague"))!.source.toString("latin1");
    const real = mails.find(({ to }) => to.startsWith("reader2"))!.source.toString("latin1");
    const names = (source: string) =>
      source
        .slice(0, source.indexOf("\r\n\r\n"))
        .match(/^[\w-]+(?=:)/gm)!
        .filter((name) => name !== "Septima-Proof");
    expect(names(proof)).toEqual(names(real));
    expect(proof).toContain("\r\nSeptima-Proof: yes\r\n");
    const [{ source }] = mails;
    const text = source.toString("latin1");
    const changed = [
      text.replace("Subject: ", "Subject: Now "),
      text.replace("From: ", "From: you@mail.example\r\nFrom: "),
      text.replace("From: ", "Reply-To: you@mail.example\r\nFrom: "),
      text.replace(/href=3D"/, 'href=3D"x'),
      text.replace(/\r\nList-Unsubscribe: [\s\S]*?\r\n(?! )/, "\r\n"),
    ];
    for (const one of changed) expect(one).not.toBe(text);
    const wrong = await verified(
      await records(),
      changed.map((one) => Buffer.from(one, "latin1")),
    );
    for (const one of wrong) for (const [, , verdict] of one) expect(verdict).not.toBe(true);
  },
);

test.skipIf(!hasVerifier)(
  "a key exchanged in the middle of a sending: each message verifies, and is made again as it was sent",
  async () => {
    const id = await letter();
    const dispatch = await booked(id);
    let sent = 0;
    const exchange = async () => {
      await makeKeys(septima, DOMAIN);
      const waiting = (await signingKeys(septima)).find(
        ({ stage, algorithm }) => stage === "waiting" && algorithm === "rsa-sha256",
      )!;
      await letSign(septima, waiting.id);
    };
    await runDispatch(
      {
        ...septima,
        relay: {
          ...septima.relay,
          async send(...given) {
            if (++sent === 2) await exchange();
            await septima.relay.send(...given);
          },
        },
      },
      dispatch,
    );
    const mails = await arrived(id);
    expect(mails).toHaveLength(READERS);
    const told = await verified(
      await records(),
      mails.map(({ source }) => source),
    );
    for (const one of told) expect(one.map(([, , verdict]) => verdict)).toEqual([true, true]);
    const used = new Set(told.map(([[selector]]) => selector));
    expect(used.size).toBe(2);
    expect(new Set(told.map(([, [selector]]) => selector)).size).toBe(1);
    const numbers = await septima.db.query<{ id: number; email: string }>("select id, email from contacts");
    for (const { to, source } of mails) {
      const { id: contact } = numbers.find(({ email }) => email === to)!;
      expect(Buffer.from(await messageAsSent(septima, dispatch, contact)).equals(source)).toBe(true);
    }
  },
);

test("keys wait until they are published, take over, and are thrown away", async () => {
  const domain = "keys.example";
  const stages = async () =>
    (await signingKeys(septima)).filter((key) => key.domain === domain).map(({ stage }) => stage);
  await makeKeys(septima, ` Keys.Example `);
  expect(await stages()).toEqual(["signing", "signing"]);
  await makeKeys(septima, domain);
  expect(await stages()).toEqual(["signing", "signing", "waiting", "waiting"]);
  await expect(makeKeys(septima, domain)).rejects.toThrow(/wait already/);
  const waiting = (await signingKeys(septima)).filter(
    (key) => key.domain === domain && key.stage === "waiting",
  );
  await letSign(septima, waiting[0].id);
  expect(await stages()).toEqual(["signing", "signing", "waiting", "retired"]);
  await expect(letSign(septima, waiting[0].id)).rejects.toThrow(/does not wait/);
  await retireKey(septima, waiting[1].id);
  expect(await stages()).toEqual(["signing", "signing", "retired"]);
  await expect(makeKeys(septima, "no domain")).rejects.toThrow(/is no domain/);
  await expect(makeKeys(septima, "localhost")).rejects.toThrow(/is no domain/);
});

test("of two who exchange keys at once neither loses the other's", async () => {
  await Promise.all(
    ["one.example", "two.example", "three.example"].map((domain) => makeKeys(septima, domain)),
  );
  const turns = await septima.db.query<{ turn: number }>(
    "select distinct signs_from as turn from signing_keys where domain in ('one.example', 'two.example', 'three.example')",
  );
  expect(turns).toHaveLength(3);
});

test("a domain for which nothing signs stops a sending, also one that only some readers get it from", async () => {
  for (const { id, domain, stage } of await signingKeys(septima))
    if (domain === DOMAIN && stage !== "retired") await retireKey(septima, id);
  await setRelaySigns(septima, DOMAIN, false);
  const id = await letter();
  const said = async () => (await findingsOf(septima, id)).map(({ text }) => text).join(" ");
  expect(await said()).toMatch(/Nothing signs messages from marlmoss\.example.*Settings/);
  await setRelaySigns(septima, DOMAIN, true);
  expect(await said()).not.toMatch(/Nothing signs/);
  await saveField(septima, { key: "from_shop", label: "From", kind: "text" } as never);
  const { email } = await campaign(septima, id);
  await saveDesign(septima, id, {
    ...email,
    envelope: { ...email.envelope, sender: { ...email.envelope.sender, address: "{$from_shop}" } },
  });
  const dispatch = await booked(id);
  await runDispatch(septima, dispatch);
  const state = async () => (await dispatchesOf(septima, id)).find((one) => one.id === dispatch)!;
  expect((await state()).state).toBe("paused");
  expect((await state()).trouble).toMatch(/Nothing signs messages from other\.example.*Nobody got anything/);
  expect(await arrived(id)).toHaveLength(0);
});

test("with another key than the signing keys are sealed with nothing is booked, and what was booked waits for the right one", async () => {
  await setRelaySigns(septima, DOMAIN, false);
  if (!(await signingKeys(septima)).some(({ domain, stage }) => domain === DOMAIN && stage === "signing"))
    await makeKeys(septima, DOMAIN);
  const id = await letter();
  const dispatch = await booked(id);
  const key = { given: "another key, long enough", folder: tmpdir() };
  const locked: Septima = { ...septima, cache: new Map(), config: { ...septima.config, key } };
  const signs = async (world: Septima) =>
    (await senderDomains(world)).find(({ domain }) => domain === DOMAIN)!.signs;
  expect([await signs(septima), await signs(locked)]).toEqual(["keys", "sealed"]);
  await runDispatch(locked, dispatch);
  const [paused] = await dispatchesOf(septima, id);
  expect(paused.state).toBe("paused");
  expect(paused.trouble).toMatch(
    /SEPTIMA_KEY that is set is not theirs.*under Sending\. Nobody got anything yet\.$/,
  );
  expect(await arrived(id)).toHaveLength(0);
  const other = await letter();
  const stops = (await findingsOf(locked, other)).filter(({ weight }) => weight === "stops");
  expect(stops.map(({ text }) => text).join(" ")).toMatch(/SEPTIMA_KEY that is set is not theirs/);
  await expect(bookDispatch(locked, other, { confirmed: READERS, when: null })).rejects.toThrow(/not theirs/);
  await steerDispatch(septima, dispatch, "sending");
  await runDispatch(septima, dispatch);
  expect(await arrived(id)).toHaveLength(READERS);
});

test("what is sealed is in the data as nobody can read it, and opened by its key alone", async () => {
  await septima.db.query("delete from settings where key = 'seal'");
  septima.cache.delete("setting seal");
  const [{ all }] = await septima.db.query<{ all: string }>(
    "select string_agg(private, ' ') as all from signing_keys",
  );
  expect(all.length).toBeGreaterThan(1000);
  // Neither as text nor coded as keys are, where they begin.
  for (const one of all.split(" "))
    for (const form of [one, Buffer.from(one, "base64url").toString("latin1")])
      expect(form).not.toMatch(/PRIVATE KEY|LS0tLS1CRUdJTi|^(MII|MC4C)/);
  const folder = await mkdtemp(path.join(tmpdir(), "septima-keys-"));
  const elsewhere = (given: string | null, at = folder): Septima => ({
    ...septima,
    cache: new Map(),
    config: { ...septima.config, key: { given, folder: at } },
  });
  try {
    const sealed = await seal(elsewhere(null), "an open secret");
    expect(sealed).not.toContain("secret");
    expect(await unseal(elsewhere(null), sealed)).toBe("an open secret");
    const [file] = await readdir(folder);
    expect((await stat(path.join(folder, file))).mode & 0o077).toBe(0);
    await expect(unseal(elsewhere(null, path.join(folder, "none")), sealed)).rejects.toThrow(
      /the key to them is not on this machine.*SEPTIMA_KEY/,
    );
    await expect(unseal(elsewhere("another key, long enough"), sealed)).rejects.toThrow(/is not theirs/);
  } finally {
    await rm(folder, { recursive: true });
    await septima.db.query("delete from settings where key = 'seal'");
  }
});

/** A name server that says what it is told: the answer section of each name (RFC 1035). */
async function nameServer(says: Record<string, string[][]>) {
  const socket = dgram.createSocket("udp4");
  socket.on("message", (asked, from) => {
    const labels: string[] = [];
    let at = 12;
    while (asked[at] > 0) {
      labels.push(asked.subarray(at + 1, at + 1 + asked[at]).toString());
      at += asked[at] + 1;
    }
    const name = labels.join(".");
    const records = says[name];
    if (records?.[0]?.[0] === "SILENT") return;
    const answers = (records ?? []).map((parts) => {
      const data = Buffer.concat(parts.flatMap((part) => [Buffer.from([part.length]), Buffer.from(part)]));
      const head = Buffer.from([0xc0, 12, 0, 16, 0, 1, 0, 0, 0, 60, data.length >> 8, data.length & 255]);
      return Buffer.concat([head, data]);
    });
    const head = Buffer.from(asked.subarray(0, 12));
    head.writeUInt16BE(records ? 0x8180 : 0x8183, 2);
    head.writeUInt16BE(answers.length, 6);
    head.writeUInt32BE(0, 8);
    socket.send(Buffer.concat([head, asked.subarray(12, at + 5), ...answers]), from.port, from.address);
  });
  await new Promise<void>((resolve) => socket.bind(0, "127.0.0.1", resolve));
  return { address: `127.0.0.1:${(socket.address() as AddressInfo).port}`, close: () => socket.close() };
}

test("the DNS is asked, and what it answers is said in words", async () => {
  const [key] = (await signingKeys(septima)).filter(({ algorithm }) => algorithm === "rsa-sha256");
  const { name, text } = key.record;
  const split = [text.slice(0, 200), text.slice(200)];
  const says: Record<string, string[][]> = {};
  const server = await nameServer(says);
  const world = { ...septima, config: { ...septima.config, dns: server.address } };
  const answer = async (records?: string[][]) => {
    if (records) says[name] = records;
    else delete says[name];
    return askRecord(world, key.record);
  };
  try {
    expect(await answer([split])).toMatchObject({ what: "there" });
    expect(await answer()).toMatchObject({ what: "missing", words: expect.stringContaining(name) });
    expect(await answer([])).toMatchObject({ what: "missing" });
    expect(await answer([["v=DKIM1; p="]])).toMatchObject({
      what: "other",
      words: expect.stringMatching(/withdrawn/),
    });
    expect(await answer([["v=DKIM1; k=rsa; p=other"]])).toMatchObject({
      what: "other",
      words: expect.stringMatching(/another record/),
    });
    expect(await answer([split, ["v=DKIM1; p=other"]])).toMatchObject({
      what: "other",
      words: expect.stringMatching(/beside it/),
    });
    expect(await answer([["SILENT"]])).toMatchObject({
      what: "unanswered",
      words: expect.stringMatching(/says nothing about/),
    });
    await answer([split]);
    await checkKey(world, key.id);
    expect((await signingKeys(septima)).find(({ id }) => id === key.id)?.seen).toMatchObject({
      what: "there",
    });
  } finally {
    server.close();
  }
}, 30_000);
