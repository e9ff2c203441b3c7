/** What readers reach by their messages: each link leads where it should and is counted, and nothing that was changed does. */
import type http from "node:http";
import type { AddressInfo } from "node:net";
import express from "express";
import fc from "fast-check";
import { simpleParser } from "mailparser";
import { afterAll, beforeAll, expect, test } from "vitest";
import type { Inline } from "~/core/email";
import { mapEmail } from "~/core/email";
import { readersDoors } from "~/start/readers";
import { contactFacts } from "../audience/contact-facts";
import { countSelection } from "../audience/selection";
import { campaign } from "../campaigns/campaigns";
import { bookDispatch } from "../dispatch/bookings";
import { messageAsSent } from "../dispatch/frozen";
import { runDispatch } from "../dispatch/run";
import type { Septima } from "../septima";
import { addReaders, openWorld, readyLetter, saveDesign } from "../test-world";
import { saveLookup } from "../workspace/lookups";
import { followLink, uncounted } from "./links";

const READERS = 12;
let septima: Septima;
let close: () => Promise<void>;
let dispatch: string;
let campaignId: string;
let doors: ReturnType<typeof readersDoors>;
let server: http.Server;
let origin: string;
let ids: number[];

const link = (href: string, text: string): Inline => ({
  type: "text",
  text,
  marks: [{ type: "link", attrs: { href } }],
});

beforeAll(async () => {
  const world = await openWorld();
  doors = readersDoors(world.septima);
  const app = express().use(doors.router);
  server = app.listen(0, "127.0.0.1");
  await new Promise((resolve) => server.once("listening", resolve));
  origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  septima = world.septima;
  Object.assign(septima.config, { readers: origin });
  close = async () => {
    server.closeAllConnections();
    server.close();
    await world.close();
  };
  await addReaders(septima, "all", READERS, (at) => ({ first_name: `Näme & ${at}` }));
  ids = (await septima.db.query<{ id: number }>("select id from contacts order by id")).map(({ id }) => id);
  campaignId = await readyLetter(septima, "all", () => [{ type: "text", text: "Links" }]);
  const { email } = await campaign(septima, campaignId);
  let first = true;
  await saveLookup(
    septima,
    {
      key: "page",
      name: "Page",
      kind: "text",
      cases: [
        {
          name: "Three",
          when: { kind: "field", field: "first_name", op: "is", value: "Näme & 3" },
          value: { text: "https://shop.example/three" },
        },
      ],
      otherwise: { text: "https://shop.example/others" },
    },
    null,
  );
  const words = [
    link("{$lookup.page}", "by lookup"),
    link("https://shop.example/a?x=1&y=2", "one"),
    link("https://shop.example/for/{$first_name}", "own"),
    link("https://shop.example/alone", "alone"),
    ...[1, 2, 3, 4].map((at) => link(`https://shop.example/more/${at}`, `more ${at}`)),
  ];
  const next = mapEmail(email, (node) => {
    if (!("type" in node) || node.type !== "text" || !first) return node;
    first = false;
    return { ...node, content: { type: "doc", content: [{ type: "paragraph", content: words }] } } as never;
  });
  await saveDesign(septima, campaignId, {
    ...next,
    links: { parameters: [], untracked: ["https://shop.example/alone"] },
  });
  const { readers } = await campaign(septima, campaignId);
  const count = await countSelection(septima, readers, campaignId);
  dispatch = await bookDispatch(septima, campaignId, { confirmed: count.readers, when: null });
  await runDispatch(septima, dispatch);
});
afterAll(() => close());

/** The addresses in the HTML part of what a reader got: those that count, by the words that lead there, and the picture. */
async function addressesOf(contact: number) {
  const { html } = await simpleParser(Buffer.from(await messageAsSent(septima, dispatch, contact)));
  const all = [...(html || "").matchAll(/<a [^>]*?href="([^"]+)"[^>]*>([^<]*)<\/a>/g)];
  return {
    links: new Map(all.map(([, href, said]) => [said, href])),
    opening: /<img src="([^"]+\/o\/[^"]+)"/.exec(html || "")![1],
  };
}
const events = async (kinds: number[]) => {
  await doors.end();
  return septima.db.query<{
    contact_id: number;
    kind: number;
    edition: number;
    block: string;
    address: string;
  }>(
    `select e.contact_id, e.kind, e.edition, p.block, p.address from events e left join places p on p.id = e.place
     where e.kind = any($1::int[]) order by e.at, p.address`,
    [kinds],
  );
};
const BROWSER = { "user-agent": "Mozilla/5.0 (X11; Linux x86_64) Gecko/20100101" };
const get = (address: string, headers: Record<string, string> = BROWSER, method = "GET") =>
  fetch(address, { redirect: "manual", headers, method });

test("each link leads its reader where the design says, and the press is counted with block, address and edition", async () => {
  const { links } = await addressesOf(ids[3]);
  const led = async (said: string) => (await get(links.get(said)!)).headers.get("location");
  expect(links.get("one")).toMatch(new RegExp(`^${origin}/c/[\\w-]{20,60}$`));
  expect(await led("one")).toBe("https://shop.example/a?x=1&y=2");
  expect(await led("own")).toBe("https://shop.example/for/N%C3%A4me%20%26%203");
  expect(links.get("alone")).toBe("https://shop.example/alone");
  expect(await events([3])).toMatchObject([
    {
      contact_id: ids[3],
      address: "https://shop.example/a?x=1&y=2",
      block: expect.stringMatching(/./),
      edition: 1,
    },
    { contact_id: ids[3], address: "https://shop.example/for/…" },
  ]);
  // Of an address that is another for others, results name the one they were led to.
  expect(await led("by lookup")).toBe("https://shop.example/three");
  expect((await events([3])).at(-1)).toMatchObject({ address: "https://shop.example/three" });
  const other = (await addressesOf(ids[2])).links.get("by lookup")!;
  expect((await get(other)).headers.get("location")).toBe("https://shop.example/others");
  const { history } = await contactFacts(septima, ids[3]);
  expect(
    history
      .filter(({ kind }) => kind === "clicked")
      .map(({ how }) => how)
      .sort(),
  ).toEqual(["https://shop.example/a?x=1&y=2", "https://shop.example/for/…", "https://shop.example/three"]);
});

test("an opening is counted by its picture", async () => {
  const { opening } = await addressesOf(ids[4]);
  const answer = await get(opening);
  expect(answer.headers.get("content-type")).toBe("image/gif");
  expect(answer.headers.get("cache-control")).toBe("no-store");
  expect((await answer.arrayBuffer()).byteLength).toBe(42);
  expect(await events([2])).toMatchObject([{ contact_id: ids[4], kind: 2 }]);
});

test("an address that was changed in any way leads nowhere, and counts nothing", async () => {
  const { links, opening } = await addressesOf(ids[5]);
  const token = links.get("one")!.split("/c/")[1];
  const before = await events([2, 3, 12, 13]);
  const letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-_";
  await fc.assert(
    fc.asyncProperty(fc.nat(token.length - 1), fc.constantFrom(...letters), async (at, letter) => {
      fc.pre(token[at] !== letter);
      const changed = token.slice(0, at) + letter + token.slice(at + 1);
      await expect(followLink(septima, changed)).rejects.toMatchObject({ status: 404 });
    }),
    { numRuns: 300 },
  );
  const pieces = [
    token.slice(0, -1),
    `${token}A`,
    "",
    "x",
    "A".repeat(190),
    `${token}/../x`,
    "https:%2F%2Fevil.test",
  ];
  for (const one of pieces) expect((await get(`${origin}/c/${one}`)).status).toBe(404);
  // That of the picture is no link, and that of a link no picture.
  const ofPicture = opening.split("/o/")[1].replace(".gif", "");
  expect((await get(`${origin}/c/${ofPicture}`)).status).toBe(404);
  expect((await get(`${origin}/o/${token}`)).status).toBe(404);
  expect((await get(`${origin}/c/${token}?to=https://evil.test`)).headers.get("location")).toBe(
    "https://shop.example/a?x=1&y=2",
  );
  const other = (await addressesOf(ids[6])).links.get("one")!.split("/c/")[1];
  expect(other).not.toBe(token);
  expect(await events([2, 3, 12, 13])).toHaveLength(before.length + 1);
});

test("whoever looks at a message and is not its reader counts nothing, and sees where it leads", async () => {
  const { html } = await simpleParser(Buffer.from(await messageAsSent(septima, dispatch, ids[9])));
  expect(html).toMatch(/\/o\/[\w-]+\.gif/);
  const shown = await uncounted(septima, html || "");
  expect(shown).not.toMatch(/\/[co]\/[\w-]{20}/);
  expect(shown).toContain('href="https://shop.example/a?x=1&amp;y=2"');
  expect(shown).toContain('href="https://shop.example/for/N%C3%A4me%20%26%209"');
  const strange = '<a href="https://other.example/c/AAAAAAAAAAAAAAAAAAAAAAAA">x</a>';
  expect(await uncounted(septima, strange)).toBe(strange);
});

test("what programs do that look ahead of people is kept apart", async () => {
  const { links, opening } = await addressesOf(ids[7]);
  const before = { people: (await events([2, 3])).length, programs: (await events([12, 13])).length };
  await get(links.get("one")!, { "user-agent": "LinkScanner/2.0" });
  await get(links.get("one")!, BROWSER, "HEAD");
  await get(opening, { "user-agent": "" });
  expect(await events([2, 3])).toHaveLength(before.people);
  expect(await events([12, 13])).toHaveLength(before.programs + 3);
  // Whoever presses all there is within a moment is one, whatever it calls itself; another reader is not.
  const others = await addressesOf(ids[8]);
  for (const at of [1, 2, 3, 4]) await get(links.get(`more ${at}`)!);
  await get(others.links.get("one")!);
  expect((await events([12, 13])).slice(before.programs + 3)).toHaveLength(4);
  expect((await events([3])).filter(({ contact_id }) => contact_id === ids[8])).toHaveLength(1);
});

test("a burst is written down whole, also where the database is away for a moment", async () => {
  const all = await Promise.all(ids.map((id) => addressesOf(id)));
  const before = (await events([3])).length;
  let fails = 2;
  const real = septima.db.query;
  septima.db.query = ((...given: Parameters<typeof real>) =>
    /insert into events/.test(given[0]) && fails-- > 0
      ? Promise.reject(new Error("away"))
      : real.apply(septima.db, given)) as typeof real;
  try {
    await Promise.all(
      Array.from({ length: 40 }, (_, round) => round).flatMap(() =>
        all.map(async ({ links }) => expect((await get(links.get("one")!)).status).toBe(302)),
      ),
    );
    expect(await events([3])).toHaveLength(before + 40 * READERS);
    expect(fails).toBeLessThan(1);
  } finally {
    septima.db.query = real;
  }
});
