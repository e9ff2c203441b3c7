/** What a dispatch froze stays, whatever is changed while it is paused. */
import { afterAll, beforeAll, expect, test } from "vitest";
import { createBlock } from "~/core/blocks";
import type { Block, Inline } from "~/core/email";
import { blocksOf } from "~/core/email";
import { MessageFactory } from "~/core/mime";
import { keeperOf, readerOf } from "~/core/personal";
import { newestOf } from "~/core/render/sample";
import { audienceChanged } from "../audience/answers";
import { addContacts, contactById } from "../audience/contacts";
import { saveField } from "../audience/fields";
import { audienceContext, saveSegment } from "../audience/groups";
import { saveRecords, saveTable } from "../audience/records";
import { countSelection } from "../audience/selection";
import { campaign, setReaders, startCampaign } from "../campaigns/campaigns";
import { boundEmail, sharedHeaders } from "../campaigns/rendering";
import { tagFacts } from "../campaigns/tag-facts";
import type { Septima } from "../septima";
import { picksFor } from "../sources/picks";
import { addSource } from "../sources/sources";
import { addList, openWorld, saveDesign, TEST_BRAND, withStandins } from "../test-world";
import { countedAddresses, readerAddresses } from "../tokens";
import { saveLookup } from "../workspace/lookups";
import { brandOf, setBrand } from "../workspace/settings";
import { bookDispatch } from "./bookings";
import { dispatchesOf, steerDispatch } from "./dispatches";
import { messageAsSent } from "./frozen";
import { runDispatch } from "./run";

const READERS = 12;
const DAY = 86_400_000;
let septima: Septima;
let close: () => Promise<void>;
beforeAll(async () => {
  const world = await openWorld();
  const published = await withStandins(world.septima);
  septima = published.septima;
  close = async () => {
    published.close();
    await world.close();
  };
});
afterAll(() => close());

const tag = (field: string, format: "asIs" | "longDate" | "number" = "asIs"): Inline => ({
  type: "mergeTag",
  attrs: { field, fallback: "nothing", format },
});
const either = (when: object, met: string): Inline =>
  ({
    type: "either",
    attrs: {
      cases: [{ when, words: [{ type: "text", text: met }] }],
      otherwise: [{ type: "text", text: "not that" }],
    },
  }) as Inline;
const says = (text: string): Inline => ({ type: "text", text });

test("paused half way, everything changed and resumed, the second half gets octet for octet what it would have got", async () => {
  await addList(septima, "all", "All");
  await addList(septima, "growers", "Growers");
  await saveTable(septima, {
    id: "branches",
    name: "Branches",
    facts: [{ key: "town", label: "Town", kind: "text" }],
  });
  const towns = (town: string) =>
    saveRecords(septima, "branches", [
      { id: "a", name: "Quay", facts: { town } },
      { id: "b", name: "Mill", facts: { town: "Sorrel Cross" } },
    ]);
  await towns("Alderwick");
  await saveField(septima, { key: "branch", label: "Branch", kind: "record", table: "branches" } as never);
  await addContacts(
    septima,
    Array.from({ length: READERS }, (_, at) => ({
      email: `reader${at}@mail.example`,
      fields: {
        ...(at % 4 > 0 && { first_name: `Näme ${at}` }),
        branch: at % 2 ? "a" : "b",
        language: ["en", "de-AT", "fr"][at % 3],
        orders: 1000.5 + at,
      },
      lists: at % 3 ? ["all"] : ["all", "growers"],
    })),
  );
  const rule = (value: string) => ({ kind: "field", field: "branch", op: "is", value }) as const;
  await saveSegment(septima, { id: "near", name: "Near", rule: rule("a") });
  const lookup = {
    key: "offer",
    name: "Offer",
    kind: "text" as const,
    cases: [],
    otherwise: { text: "peas" },
  };
  await saveLookup(septima, lookup, null);
  const source = await addSource(septima, "standin://publisher/journal.rss");
  const id = await startCampaign(septima, "Frozen", "letter");
  const next = structuredClone((await campaign(septima, id)).email);
  next.envelope.subject = [
    says("Letter "),
    tag("first_name"),
    says(" "),
    either({ kind: "segment", segment: "near", in: true }, "near "),
    either({ kind: "list", list: "growers", in: true }, "growing "),
    either({ kind: "did", what: "sent", often: "atLeast", times: 1 }, "again "),
    tag("lookup.offer"),
    says(" "),
    tag("brand.name"),
    says(" "),
    tag("branch.town"),
    says(" "),
    tag("date.today", "longDate"),
    says(" "),
    tag("orders", "number"),
  ];
  next.sections[0].rows[0].columns[0].blocks.push({
    ...newestOf("feed"),
    source,
    count: 3,
  } as Block);
  next.sections[0].rows[0].columns[0].blocks.push({
    ...createBlock("picks", "for-each"),
    source: await addSource(septima, "standin://shop/products.csv"),
    ways: [{ id: "w", by: "random" }],
    count: 3,
  } as Block);
  for (const block of blocksOf(next)) if (block.type === "button") block.href = "https://shop.example/";
  await saveDesign(septima, id, next);
  await setReaders(septima, id, { include: [{ kind: "list", id: "all" }], exclude: [] });
  const { readers } = await countSelection(septima, (await campaign(septima, id)).readers, id);
  expect(readers).toBe(READERS);
  const dispatch = await bookDispatch(septima, id, { confirmed: readers, when: null });

  // What everybody gets, made of what is live before the first of them does.
  const { email } = await campaign(septima, id);
  const bound = await boundEmail(septima, email, {
    tags: await tagFacts(septima, id),
    counted: true,
    picks: await picksFor(septima, email, id),
  });
  const of = { campaign: id, sending: dispatch };
  const factory = new MessageFactory(
    bound,
    sharedHeaders(email, await brandOf(septima), of),
    `septima-${dispatch}`,
  );
  const address = await readerAddresses(septima);
  const people = await septima.db.query<{ id: number }>("select id from contacts order by id");
  // Links of items are counted in the order in which readers first get them.
  const keeper = keeperOf(bound);
  for (const { id: contact } of people) keeper.facts(await contactById(septima, contact));
  expect(keeper.freeze([]).lists!.at(-1)!.items.length).toBeGreaterThan(10);
  const counted = await countedAddresses(septima, {
    origin: septima.config.origin,
    dispatch,
    links: bound.links!.length,
  });
  const wanted = new Map<number, (messageId: string, at: Date) => Uint8Array>();
  for (const { id: contact } of people) {
    const reader = readerOf(
      await contactById(septima, contact),
      email.language,
      { ...address(contact, id), ...counted(contact) },
      {},
    );
    const { first_name: name } = reader.contact.fields;
    wanted.set(contact, (messageId, at) =>
      factory.build(reader, {
        to: { name: typeof name === "string" ? name : "", address: reader.contact.email },
        messageId,
        date: at.getTime(),
        unsubscribe: reader.system.unsubscribe,
      }),
    );
  }
  expect(bound.asked).toHaveLength(3);

  let sent = 0;
  const pausing: Septima = {
    ...septima,
    relay: {
      ...septima.relay,
      connections: 1,
      async send(...given) {
        await septima.relay.send(...given);
        if (++sent === READERS / 2) await steerDispatch(septima, dispatch, "paused");
      },
    },
  };
  await runDispatch(pausing, dispatch);
  const [half] = await dispatchesOf(septima, id);
  expect(half).toMatchObject({ state: "paused", counts: { pending: expect.any(Number) } });
  expect(half.counts.accepted).toBeGreaterThanOrEqual(READERS / 2);
  expect(half.counts.pending).toBeGreaterThan(0);

  await saveSegment(septima, { id: "near", name: "Near", rule: rule("b") });
  await saveLookup(septima, { ...lookup, otherwise: { text: "beans" } }, 1);
  await setBrand(septima, { ...TEST_BRAND, name: "Another", address: "9 Hill Street, Sorrel Cross" });
  await towns("Elsewhere");
  await septima.db.query("delete from list_members where list_id = 'growers'");
  await septima.db.query(
    "update contacts set fields = fields || jsonb_build_object('first_name', 'Somebody', 'language', 'nl', 'orders', 7)",
  );
  await septima.db.query("delete from items");
  await septima.db.query("update themes set theme = theme");
  audienceChanged(septima);
  const later: Septima = {
    ...septima,
    config: { ...septima.config, origin: "https://moved.example" },
    now: () => Date.now() + 3 * DAY,
    cache: new Map(),
  };
  expect((await audienceContext(later)).today).not.toBe((await audienceContext(septima)).today);
  await steerDispatch(later, dispatch, "sending");
  await runDispatch(later, dispatch);
  expect((await dispatchesOf(later, id))[0]).toMatchObject({
    state: "sent",
    counts: { accepted: READERS },
  });
  const rows = await septima.db.query<{ id: number; message_id: string; handed_at: Date }>(
    "select contact_id as id, message_id, handed_at from recipients where dispatch_id = $1",
    [dispatch],
  );
  const { messages } = await septima.mailboxes!.search({ text: "Letter", offset: 0, limit: 100 });
  expect(messages).toHaveLength(READERS);
  for (const row of rows) {
    const own = messages.find(({ messageId }) => messageId === row.message_id)!;
    const source = (await septima.mailboxes!.source(own.id))!.toString();
    expect(source).toBe(Buffer.from(wanted.get(row.id)!(row.message_id, row.handed_at)).toString());
    // And it can be made again now that everything is different.
    expect(Buffer.from(await messageAsSent(later, dispatch, row.id)).toString()).toBe(source);
  }
  expect(new Set(messages.map(({ subject }) => subject)).size).toBe(READERS);
});
