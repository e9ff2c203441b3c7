/**
 * Live content: three lists picked for 100,000 readers out of 5,000 items by rules on their own data; what goes together
 * in a million order lines; messages with three product lists beside precompiled Handlebars doing the same; and the door.
 */
import { performance } from "node:perf_hooks";
import Handlebars from "handlebars";
import type { Contact } from "~/core/audience";
import { createBlock, listAsks } from "~/core/blocks";
import { type Block, type Email, SCHEMA_VERSION } from "~/core/email";
import { itemOf } from "~/core/items";
import { ByteSink, bind, bytePart, previewAddresses, readerOf, runBytes } from "~/core/personal";
import { type ItemRule, type ListAsk, pickLists, type Stock } from "~/core/picking";
import { companions } from "~/core/recommend";
import { compile } from "~/core/render";
import { SAMPLE_OPTIONS, sampleContact, sampleEmail } from "~/core/render/sample";
import { addContacts } from "~/server/audience/contacts";
import { knock } from "~/server/door/door";
import { makeKey } from "~/server/door/keys";
import { openWorld } from "~/server/test-world";
import type { Line } from "./line";

const BRANCHES = Array.from({ length: 40 }, (_, at) => `Branch ${at}`);
const INTERESTS = ["vegetables", "flowers", "fruit", "herbs", "tools"];
const ITEMS = Array.from({ length: 5000 }, (_, at) =>
  itemOf({
    id: String(at),
    title: `Item ${at} & more`,
    text: "Climbs to eight feet and crops until the first frost, and asks for nothing but water.",
    link: `https://shop.example/${at}`,
    picture: `https://shop.example/${at}.png`,
    price: 1 + ((at * 37) % 90),
    ...(at % 5 === 0 && { sale: 0.5 + ((at * 37) % 90) }),
    currency: "GBP",
    stock: (at * 7) % 50,
    date: new Date(Date.UTC(2026, 0, 1) + ((at * 53) % 300) * 86_400_000).toISOString(),
    category: [INTERESTS[at % 5]],
    facts: { branch: BRANCHES[(at * 11 + Math.floor(at / 200)) % 40] },
  }),
);
const READERS: Contact[] = Array.from({ length: 100_000 }, (_, id) =>
  sampleContact(id + 1, {
    first_name: `Name${id % 977}`,
    branch: BRANCHES[(id * 7) % 40],
    interests: INTERESTS.filter((_interest, at) => ((id >> at) & 1) === 0),
  }),
);
const STOCK: Stock = {
  items: () => ITEMS,
  placed: new Set(),
  audience: { today: "2026-12-01" },
  seed: "campaign",
};
const BOTH: ItemRule = {
  kind: "all",
  of: [
    { kind: "like", field: "fact.branch", op: "shares", reader: "branch" },
    { kind: "like", field: "category", op: "shares", reader: "interests" },
  ],
};
const ask = (block: string, by: "newest" | "cheapest" | "saving"): ListAsk => ({
  block,
  source: "shop",
  ways: [{ by }],
  filter: BOTH,
  count: 4,
  apart: true,
  unsent: 0,
  unbought: 0,
  sold: false,
});
const ASKS = [ask("a", "newest"), ask("b", "cheapest"), ask("c", "saving")];

const seconds = (since: number) => (performance.now() - since) / 1000;
const rate = (count: number, time: number) => `${Math.round(count / time).toLocaleString("en")}/s`;

function picking(): Line {
  const begun = performance.now();
  const lists = pickLists(ASKS, STOCK);
  let picked = 0;
  for (const reader of READERS) for (const { pick } of lists) picked += pick(reader).length;
  const fast = seconds(begun);
  // The same as one would say it, for a hundredth of the readers.
  const some = READERS.filter((_, at) => at % 100 === 0);
  const slow = performance.now();
  for (const { fields } of some)
    for (const by of [-1, 1, 2])
      ITEMS.filter(
        (item) =>
          item.stock !== 0 &&
          item.facts.branch === fields.branch &&
          (fields.interests as string[]).includes(item.category[0]),
      )
        .sort((one, other) => by * ((one.price ?? 0) - (other.price ?? 0)))
        .slice(0, 4);
  const ratio = (seconds(slow) * 100) / fast;
  return [
    "3 lists of 4 from 5,000 items picked for 100,000 readers, two rules on their own data",
    `${fast.toFixed(2)} s (${picked.toLocaleString("en")} picked; ${ratio.toFixed(0)} × filter and sort)`,
    "under 3 s",
  ];
}

function together(): Line {
  const count = 1_000_000;
  const column = (of: (at: number) => number) => Int32Array.from({ length: count }, (_, at) => of(at));
  const sales = {
    // Of three things that go together each order has two or three.
    item: column(
      (at) => ((Math.floor(at / 3) * 7919) % 1600) * 3 + (at % 3 === 2 && at % 7 === 0 ? 0 : at % 3),
    ),
    reader: column((at) => Math.floor(at / 9)),
    order: column((at) => Math.floor(at / 3)),
    day: column((at) => 20_000 + (at % 365)),
    ids: ITEMS.map(({ id }) => id),
  };
  const begun = performance.now();
  const found = companions(sales, 3).reduce((sum, all) => sum + all.length, 0);
  return [
    "what goes together in 1,000,000 order lines",
    `${seconds(begun).toFixed(2)} s (${found.toLocaleString("en")} pairs)`,
    "under 5 s",
  ];
}

function messages(): Line {
  const blocks = ASKS.map(
    ({ block, ways }) =>
      ({
        ...createBlock("picks", block),
        source: "shop",
        ways: ways.map(({ by }) => ({ id: by, by })),
        filter: BOTH,
        count: 4,
      }) as Block,
  );
  const email = {
    ...sampleEmail(1),
    schema: SCHEMA_VERSION,
    sections: [{ id: "s", rows: [{ id: "r", columns: [{ id: "c", width: 100, blocks }] }] }],
  } as Email;
  const asks = listAsks(email);
  const lists = pickLists(asks, STOCK);
  const some = READERS.slice(0, 4000);
  // What is picked is known before messages are made, as in a sending.
  const picked = lists.map(({ pick }) => new Map(some.map((reader) => [reader, pick(reader)])));
  const bound = bind(compile(email, SAMPLE_OPTIONS), {
    audience: { today: "2026-12-01", segments: new Map() },
    picks: ({ block }) => {
      const at = asks.findIndex((one) => one.block === block);
      return { items: lists[at].items, pick: (reader) => picked[at].get(reader) ?? [] };
    },
  });
  const encoder = new TextEncoder();
  const part = bytePart(bound.html, (text) => encoder.encode(text));
  const sink = new ByteSink();
  const system = previewAddresses("https://s.example");
  const ours = () => {
    for (const reader of some) {
      runBytes(part, bound, readerOf(reader, "en", system), sink);
      sink.lend();
    }
  };
  // The same message: what an item writes, with its own words in their places.
  const places: [RegExp, string][] = [
    [/Item 0 &amp; more/g, "{{title}}"],
    [/https:\/\/shop\.example\/0\.png/g, "{{picture}}"],
    [/https:\/\/shop\.example\/0(?!\d)/g, "{{link}}"],
    [/Climbs to eight feet[^<]*/g, "{{text}}"],
    [/£\d+(\.\d\d)?/g, "{{price}}"],
  ];
  const whole = { ...ITEMS[0], sale: undefined };
  const templateOf = (variant: number) => {
    const list = bind(compile(email, SAMPLE_OPTIONS), {
      audience: { today: "2026-12-01", segments: new Map() },
      picks: () => ({ items: [whole], pick: () => [{ at: 0, way: 0 }] }),
    }).lists?.[0];
    const html = (list?.code(variant, 0) ?? []).map((op) => (op.op === "static" ? op.text : "")).join("");
    return places.reduce((text, [words, tag]) => text.replace(words, tag), html);
  };
  let template = "";
  const open: { to: number; close: string }[] = [];
  for (const [at, op] of bound.html.entries()) {
    for (const one of open.filter(({ to }) => to === at).reverse()) template += one.close;
    if (op.op === "static") template += op.text.replace(/\{\{/g, "\\{{");
    else if (op.op === "fewer") {
      template += `{{#if l${op.list}.[${op.than - 1}]}}`;
      open.push({ to: op.to, close: "{{/if}}" });
    } else if (op.op === "item") template += `{{#with l${op.list}.[${op.place}]}}${templateOf(0)}{{/with}}`;
    else if (op.op === "value") template += "{{unsubscribe}}";
  }
  const made = Handlebars.compile(template);
  const inputs = some.map((reader) => ({
    unsubscribe: "https://s.example/unsubscribe/preview",
    ...Object.fromEntries(
      picked.map((map, at) => [
        `l${at}`,
        (map.get(reader) ?? []).map(({ at: item }) => {
          const { title, link, picture, text, price } = lists[at].items[item];
          return { title, link, picture, text: text.slice(0, 87), price: `£${price}` };
        }),
      ]),
    ),
  }));
  const theirs = () => {
    for (const input of inputs) encoder.encode(made(input));
  };
  const timed = (work: () => void) => {
    const begun = performance.now();
    work();
    return seconds(begun);
  };
  const rounds = Array.from({ length: 7 }, () => [timed(ours), timed(theirs)]);
  const [own, other] = [0, 1].map((which) => rounds.map((round) => round[which]).sort((a, b) => a - b)[3]);
  return [
    "a message with three product lists, beside precompiled Handlebars doing the same",
    `${rate(some.length, own)}, ${(other / own).toFixed(1)} × (${Math.round(encoder.encode(made(inputs[0])).length / 1000)} kB)`,
    "at least 4 ×",
  ];
}

async function door(): Promise<Line> {
  const { septima, close } = await openWorld();
  try {
    await addContacts(
      septima,
      Array.from({ length: 2000 }, (_, at) => ({ email: `reader${at}@mail.example`, fields: {} })),
    );
    const key = await makeKey(septima, { name: "Bench", may: ["events"], most: 6000 });
    const batches = 90;
    const bodies = Array.from({ length: batches }, (_, batch) =>
      JSON.stringify({
        batch: String(batch),
        entries: Array.from({ length: 100 }, (__, at) => ({
          email: `reader${(batch * 37 + at * 19) % 2000}@mail.example`,
          what: "viewed",
          item: String((batch + at) % 90),
          at: "2026-11-30T12:00:00Z",
        })),
      }),
    );
    const begun = performance.now();
    for (const body of bodies) await knock(septima, "events", `Bearer ${key}`, body);
    return [
      "events taken in by the door, in batches of 100 (embedded)",
      rate(batches * 100, seconds(begun)),
      "3,000/s",
    ];
  } finally {
    await close();
  }
}

export async function liveLines(): Promise<Line[]> {
  return [picking(), together(), messages(), await door()];
}
