/** Lists that are picked for each reader, run in the one program. */
import { describe, expect, test } from "vitest";
import type { Contact } from "../audience";
import { createBlock, listAsks } from "../blocks";
import { type Block, type Email, SCHEMA_VERSION } from "../email";
import { itemOf } from "../items";
import { pickLists } from "../picking";
import { compile } from "../render";
import { SAMPLE_OPTIONS, sampleContact, sampleEmail } from "../render/sample";
import {
  type Bound,
  ByteSink,
  bind,
  bytePart,
  editionCounter,
  editionQuestions,
  editions,
  type FrozenProgram,
  frozenContact,
  keeperOf,
  personalise,
  previewAddresses,
  readerOf,
  runBytes,
  thaw,
} from ".";

const ITEMS = Array.from({ length: 9 }, (_, at) =>
  itemOf({
    id: `i${at}`,
    title: `Item ${at} <&>`,
    text: "Some words of it that go on a little, so that lines are broken where they have to be.",
    link: `https://shop.example/${at}`,
    price: 1 + at,
    currency: "EUR",
    category: [["north", "south", "east"][at % 3]],
  }),
);
const PICKS = {
  source: "shop",
  filter: { kind: "like" as const, field: "category", op: "shares" as const, reader: "branch" },
  ways: [{ id: "w", by: "cheapest" as const }],
  count: 3,
  across: 2,
};
const READERS = ["north", "south", "east", "nowhere", "north"].map((branch, id) =>
  sampleContact(id + 1, { branch, first_name: "Ines" }),
);

function emailWith(...blocks: Block[]): Email {
  const all = blocks.map((block, at) => ({ ...block, id: `b${at}` }));
  const rows = [{ id: "r", columns: [{ id: "c", width: 100, blocks: all }] }];
  return { ...sampleEmail(1), schema: SCHEMA_VERSION, sections: [{ id: "s", rows }] } as Email;
}
const list = (more: object = {}) => ({ ...createBlock("picks", "b"), ...PICKS, ...more }) as Block;
const placed = (ids: readonly number[]) =>
  ({
    ...createBlock("items", "b"),
    across: 2,
    items: ids.map((at) => ({ id: `p${at}`, source: "shop", item: ITEMS[at] })),
  }) as Block;

function boundOf(email: Email, counted = false): Bound {
  const asks = listAsks(email);
  const lists = pickLists(asks, {
    items: () => ITEMS,
    placed: new Set(),
    audience: { today: "2026-12-01" },
    seed: "c",
  });
  return bind(compile(email, { ...SAMPLE_OPTIONS, counted }), {
    audience: { today: "2026-12-01", segments: new Map() },
    picks: (ask) => lists[asks.findIndex((one) => one.block === ask.block)],
  });
}
const addresses = (contact: Contact) => ({
  ...previewAddresses("https://s.example"),
  link: (place: number) => `https://s.example/l/${contact.id}.${place}`,
});
const messageOf = (bound: Bound, contact: Contact) =>
  personalise(bound, readerOf(contact, "en", addresses(contact)));

/** Without the style block: of a list it names the colours of all that an item could have. */
const undressed = (html: string) => html.replace(/<style[\s\S]*?<\/style>/g, "");

test("the style block names every colour that a picked item has in the dark", () => {
  const sold = { ...ITEMS[0], stock: 0, sale: 0.5, picture: "https://shop.example/0.png" };
  const byHand = {
    ...placed([1]),
    items: [
      { id: "1", source: "", item: sold },
      { id: "2", source: "", item: ITEMS[1] },
    ],
  };
  const named = (email: Email) =>
    new Set(messageOf(boundOf(email), READERS[0]).html.match(/\.d-[\w-]+(?=\{)/g));
  expect(
    [...named(emailWith(byHand as Block))].filter((tone) => !named(emailWith(list())).has(tone)),
  ).toEqual([]);
});

test("what is picked for a reader is written as if it had been placed by hand", () => {
  const bound = boundOf(emailWith(list()));
  for (const [at, ids] of [
    [0, 3, 6],
    [1, 4, 7],
    [2, 5, 8],
  ].entries()) {
    const byHand = messageOf(boundOf(emailWith(placed(ids))), READERS[at]);
    const { html, text } = messageOf(bound, READERS[at]);
    expect(undressed(html)).toBe(undressed(byHand.html));
    expect(text).toBe(byHand.text);
  }
});

test("with fewer rows than could be there, none stands empty", () => {
  const bound = boundOf(emailWith(list({ count: 8 })));
  expect(undressed(messageOf(bound, READERS[0]).html)).toBe(
    undressed(messageOf(boundOf(emailWith(placed([0, 3, 6]))), READERS[0]).html),
  );
});

describe("when there are too few,", () => {
  const FEW = { least: 3, title: "For you", instead: "Look in at your branch." };
  test("the block goes with its heading, or own words take its place", () => {
    const words = messageOf(boundOf(emailWith(list(FEW))), READERS[3]);
    expect(words.html).toContain("Look in at your branch.");
    expect(words.text).toContain("Look in at your branch.");
    expect(words.html).not.toContain("For you");
    const none = messageOf(boundOf(emailWith(list({ ...FEW, instead: "" }))), READERS[3]);
    expect(none.html + none.text).not.toMatch(/For you|Item/);
    const enough = messageOf(boundOf(emailWith(list(FEW))), READERS[0]);
    expect(enough.html).toMatch(/For you[\s\S]*Item 0/);
    expect(enough.html + enough.text).not.toContain("Look in at");
  });

  test("another way fills what the first leaves open", () => {
    const ways = [
      { id: "1", by: "cheapest", filter: { kind: "field", field: "price", op: "atMost", value: 1 } },
      { id: "2", by: "newest" },
    ];
    const { text } = messageOf(boundOf(emailWith(list({ ways, count: 2 }))), READERS[0]);
    expect([...text.matchAll(/Item \d/g)].map(String)).toEqual(["Item 0", "Item 3"]);
  });
});

test("who gets what makes no edition", () => {
  expect(editions(boundOf(emailWith(list({ instead: "None." }))), READERS)).toHaveLength(1);
});

test("bytes say what words say", () => {
  const bound = boundOf(emailWith(list(), list({ count: 1, across: 1 })));
  const encoder = new TextEncoder();
  const part = bytePart(bound.html, (text) => encoder.encode(text));
  const sink = new ByteSink();
  for (const contact of READERS) {
    runBytes(part, bound, readerOf(contact, "en", addresses(contact)), sink);
    expect(new TextDecoder().decode(sink.take())).toBe(messageOf(bound, contact).html);
  }
});

test("what was kept makes the same messages, with links that are counted, and holds only what somebody got", () => {
  const bound = boundOf(emailWith(list({ count: 2, instead: "None for you." }), list({ count: 1 })), true);
  const counter = editionCounter(bound, {
    meets: (rule, reader) => bound.rules[rule](READERS[reader]),
    writes: () => true,
    language: () => null,
  });
  expect(editionQuestions(bound).rules).toEqual([]);
  counter.take(READERS.keys());
  const keeper = keeperOf(bound);
  const facts = READERS.map((contact) => keeper.facts(contact));
  const frozen = JSON.parse(JSON.stringify(keeper.freeze(counter.found()))) as FrozenProgram;
  const before = READERS.map((contact) => messageOf(bound, contact));
  expect(before[0].html).toContain("https://s.example/l/1.");
  expect(frozen.lists?.map(({ items }) => items.length)).toEqual([6, 3]);
  // Each item that anybody got leads where it leads, from both blocks.
  expect(frozen.bound.links?.filter(({ to }) => JSON.stringify(to).includes("shop.example"))).toHaveLength(9);
  const again = thaw(frozen);
  for (const [at, contact] of READERS.entries()) {
    const kept = frozenContact({ id: contact.id, email: contact.email, edition: 0, facts: facts[at] });
    expect(messageOf(again, kept)).toEqual(before[at]);
  }
});
