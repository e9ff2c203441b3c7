/** Proofs, unsubscribing, editions and live content, on a real database, postroom and feed. */
import { strFromU8, unzipSync } from "fflate";
import { simpleParser } from "mailparser";
import { afterAll, beforeAll, expect, test } from "vitest";
import { newestOf } from "~/core/render/sample";
import type { Publisher } from "~/standins/publisher";
import { addContacts } from "./audience/contacts";

import { campaign, setReaders, startCampaign } from "./campaigns/campaigns";
import { exportCampaign } from "./campaigns/export";
import { proofs, sendProof } from "./campaigns/proofs";
import { campaignAs, draftNumbers, editionsOf } from "./campaigns/rendering";
import { preferences, resubscribe, unsubscribe } from "./readers/preferences";
import type { Septima } from "./septima";
import { findItems } from "./sources/items";
import { addSource, moveSource, refreshSource, sources } from "./sources/sources";
import { addList, everybody, openWorld, saveDesign, withStandins } from "./test-world";
import { readerAddresses } from "./tokens";
import { setRemoved } from "./workspace/removals";
import { brandOf, setBrand } from "./workspace/settings";

let septima: Septima;
let close: () => Promise<void>;
let id: string;
let publisher: Publisher;

beforeAll(async () => {
  const world = await openWorld();
  const shown = await withStandins(world.septima);
  ({ septima, publisher } = shown);
  close = async () => {
    shown.close();
    await world.close();
  };

  await addList(septima, "letter", "Letter");
  await addContacts(septima, [
    { email: "ines@mail.example", fields: { first_name: "Ines", zone: "cool" }, lists: ["letter"] },
    { email: "nobody@mail.example", fields: { zone: "cool" }, lists: ["letter"] },
    { email: "tobin@mail.example", fields: { first_name: "Tobin", zone: "warm" }, lists: ["letter"] },
    { email: "wren@mail.example", fields: { first_name: "Wren", zone: "warm" }, lists: [] },
  ]);
  id = await startCampaign(septima, "Letters", "letter");
  const { email } = await campaign(septima, id);
  const next = structuredClone(email);
  const tag = {
    type: "mergeTag" as const,
    attrs: { field: "first_name", fallback: "friend", format: "asIs" as const },
  };
  next.envelope.subject = [{ type: "text", text: "Dear " }, tag];
  next.sections[0].rows[0].columns[0].blocks[1].show = {
    kind: "field",
    field: "zone",
    op: "is",
    value: "cool",
  };
  await saveDesign(septima, id, next);
  await setReaders(septima, id, { include: [{ kind: "list", id: "letter" }], exclude: [] });
});
afterAll(() => close());

test("editions are counted over the selected readers, and again when the audience changes", async () => {
  const it = await campaign(septima, id);
  const { editions, readers } = await editionsOf(septima, it.email, it.readers);
  expect(readers).toBe(3);
  expect(editions.map((edition) => [edition.count, edition.fallbacks])).toEqual(
    expect.arrayContaining([
      [1, []],
      [1, ["first_name"]],
      [1, []],
    ]),
  );
  expect(await draftNumbers(septima, it)).toEqual({ readers: 3, editions: 3 });
  // What was worked out is known for these readers and this message, and for no others.
  const those = await editionsOf(septima, it.email, it.readers);
  expect(await editionsOf(septima, it.email, it.readers)).toBe(those);
  const everyone = { include: [{ kind: "everyone" as const, id: "" }], exclude: [] };
  expect((await editionsOf(septima, it.email, everyone)).readers).toBe(4);
  const plain = { ...it.email, envelope: { ...it.email.envelope, subject: [] } };
  expect((await editionsOf(septima, plain, it.readers)).editions).toHaveLength(2);
  await addContacts(septima, [
    { email: "late@mail.example", fields: { first_name: "Late", zone: "warm" }, lists: ["letter"] },
  ]);
  expect(await draftNumbers(septima, it)).toEqual({ readers: 4, editions: 3 });
  expect((await campaignAs(septima, id)).contact?.fields.zone).toBe("warm");
  await expect(campaignAs(septima, id, 9999)).rejects.toThrow("does not exist");
});

test("a proof is rendered as its reader, says so, and names every mistake", async () => {
  const [ines, nobody] = await everybody(septima);
  await expect(
    sendProof(septima, id, { to: "me@x.example, half@, also bad", contactId: ines.id, note: "" }),
  ).rejects.toThrow(/“half@”, “also”, “bad” are not addresses/);
  await expect(sendProof(septima, id, { to: " ", contactId: ines.id, note: "" })).rejects.toThrow("to whom");
  expect(
    await sendProof(septima, id, {
      to: "me@x.example; you@x.example",
      contactId: nobody.id,
      note: "Look <here>",
    }),
  ).toEqual({ addresses: ["me@x.example", "you@x.example"], readers: 1 });
  const { messages } = await septima.mailboxes!.search({ text: "you@x.example", offset: 0, limit: 5 });
  const mail = await simpleParser((await septima.mailboxes!.source(messages[0].id))!);
  expect(mail.subject).toBe("Proof: Dear friend");
  expect(mail.html).toContain("Look &lt;here&gt;");
  expect(mail.text).toMatch(/^Proof, as nobody@mail\.example would get it\. .* Look <here>/);
  expect(mail.headers.has("list-unsubscribe-post")).toBe(false);
  expect(await proofs(septima, id)).toMatchObject([
    { addresses: ["me@x.example", "you@x.example"], reader: "nobody@mail.example", note: "Look <here>" },
  ]);
});

test("an unsubscribe link works once looked at or not, twice as once, and not when tampered with", async () => {
  const address = await readerAddresses(septima);
  const [ines, nobody] = await everybody(septima);
  const token = address(ines.id, id).unsubscribe.split("/").at(-1)!;
  expect(await preferences(septima, token)).toEqual({ email: ines.email, status: "subscribed", topics: [] });
  await unsubscribe(septima, token, "one-click");
  await unsubscribe(septima, token, "page");
  expect(await preferences(septima, token)).toMatchObject({ status: "unsubscribed" });
  expect(await septima.db.query("select way from unsubscribes")).toEqual([{ way: "one-click" }]);
  expect((await everybody(septima)).map((one) => one.id)).not.toContain(ines.id);
  await resubscribe(septima, token);
  expect(await preferences(septima, token)).toMatchObject({ status: "subscribed" });
  const [payload, signature] = token.split(".");
  const other = address(nobody.id, id).unsubscribe.split("/").at(-1)!.split(".")[0];
  for (const forged of ["", "x", payload, `${other}.${signature}`, `${payload}.${"A".repeat(22)}`]) {
    await expect(unsubscribe(septima, forged, "page")).rejects.toMatchObject({ status: 404 });
  }
});

test("a feed over HTTP is read, grows, and keeps its last good copy through faults", async () => {
  const feed = await addSource(septima, "standin://publisher/journal.rss");
  const [source] = await sources(septima);
  expect(source.name).toBe("The Tansy Row journal");
  expect(source.held).toBe(42);
  const items = (await findItems(septima, { source: feed, limit: 100 })).items.map(({ item }) => item);
  expect(items.filter(({ picture }) => picture === null).length).toBeGreaterThan(3);
  expect(items.map(({ text }) => text).join()).not.toMatch(/<b>|&nbsp;|&#/);
  publisher.publish();
  expect(await refreshSource(septima, feed)).toBeNull();
  expect((await findItems(septima, { source: feed, order: "newest" })).items[0].item.title).toBe(
    "Fresh from the bench, no. 1",
  );
  expect(await moveSource(septima, feed, "standin://publisher/faults/500.rss")).toContain("answered 500");
  expect(await moveSource(septima, feed, "standin://publisher/faults/garbage.rss")).toContain("not a feed");
  const [broken] = await sources(septima);
  expect(broken.held).toBe(43);
  expect(broken.failure).toContain("not a feed");
  expect(await moveSource(septima, feed, "standin://publisher/journal.json")).toBeNull();
  expect((await sources(septima))[0]).toMatchObject({ failure: null, failedAt: null });
  await expect(addSource(septima, "standin://nobody/x")).rejects.toThrow("no stand-in");
  await setRemoved(septima, "source", feed, true);
  expect(await sources(septima)).toEqual([]);
  await setRemoved(septima, "source", feed, false);
  expect(await sources(septima)).toHaveLength(1);
  await expect(setRemoved(septima, "source", feed, false)).rejects.toMatchObject({ status: 404 });
});

test("the brand is kept, and stands in the footer", async () => {
  const brand = await brandOf(septima);
  await setBrand(septima, { ...brand, name: "Tansy & Row", address: "3 Nursery Lane" });
  const { message } = await campaignAs(septima, id);
  expect(message.html).toContain("Tansy &amp; Row, 3 Nursery Lane");
  expect(message.text).toContain("Tansy & Row, 3 Nursery Lane");
});

test("pictures of a feed have a height in messages, and go into the archive", async () => {
  const feed = await addSource(septima, "standin://publisher/journal.rss", "With pictures");
  const own = await startCampaign(septima, "From the journal", "letter");
  const { email } = await campaign(septima, own);
  const next = structuredClone(email);
  next.sections[0].rows[0].columns[0].blocks.push({
    ...newestOf("a1"),
    source: feed,
    count: 5,
  });
  await saveDesign(septima, own, next);
  const shown = (await findItems(septima, { source: feed, order: "newest", limit: 5 })).items;
  const sizes = shown.flatMap(({ item: { picture, size } }) => (picture ? [size] : []));
  expect(sizes.length).toBeGreaterThan(1);
  for (const size of sizes) expect(size).toEqual({ width: expect.any(Number), height: expect.any(Number) });
  const files = unzipSync((await exportCampaign(septima, own, "zip")).data as Uint8Array);
  const html = strFromU8(files["index.html"]);
  const pictures = [...html.matchAll(/<img src="([^"]+)"[^>]* width="(\d+)"( height="\d+")?/g)];
  expect(pictures.filter(([, src]) => src.startsWith("pictures/web-")).length).toBe(sizes.length);
  for (const [, src, , height] of pictures.filter(([, name]) => name.startsWith("pictures/"))) {
    expect(files[src].length).toBeGreaterThan(100);
    expect(height).toBeDefined();
  }
});
