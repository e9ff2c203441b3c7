/** Placed items that follow their source until they are sent, and those that stay as they were placed. */
import http from "node:http";
import type { AddressInfo } from "node:net";
import { afterAll, beforeAll, expect, test } from "vitest";
import { createBlock } from "~/core/blocks";
import { type Block, itemTag } from "~/core/email";
import { campaign } from "../campaigns/campaigns";
import { campaignAs } from "../campaigns/rendering";
import { bookDispatch } from "../dispatch/bookings";
import { htmlAsSent } from "../dispatch/frozen";
import { runDispatch } from "../dispatch/run";
import { findingsOf } from "../preflight/preflight";
import { followLink } from "../readers/links";
import type { Septima } from "../septima";
import { addReaders, openWorld, readyLetter, saveDesign } from "../test-world";
import { findItems } from "./items";
import { addSource, refreshSource } from "./sources";

let world: Awaited<ReturnType<typeof openWorld>>;
let septima: Septima;
let server: http.Server;
let goods = "";
const list = (...lines: string[]) => ["sku,title,price,link", ...lines].join("\n");
beforeAll(async () => {
  world = await openWorld();
  server = http.createServer((_request, response) => void response.end(goods));
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const kitchen = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  septima = { ...world.septima, config: { ...world.septima.config, standins: { kitchen } } };
  await addReaders(septima, "all", 2);
});
afterAll(async () => {
  server.close();
  await world.close();
});

test("what follows its source is sent as its source has it then, what is gone is left out; the others stay", async () => {
  goods = list(
    "a,Spoon,4.25,https://shop.example/a",
    "b,Fork,5.15,https://shop.example/b",
    "c,Ladle,6.00,https://shop.example/c",
  );
  const source = await addSource(septima, "standin://kitchen/goods.csv");
  const { items } = await findItems(septima, { source, order: "given" });
  const id = await readyLetter(septima, "all", () => [{ type: "text", text: "Kitchen" }]);
  const { email } = await campaign(septima, id);
  const placed = (name: string, follow: boolean): Block =>
    ({
      ...createBlock("items", name),
      follow,
      items: items.map(({ item }, at) => ({
        id: String(at),
        source,
        item,
        ...(at === 1 && { title: `Our fork, ${name}` }),
      })),
    }) as Block;
  const next = structuredClone(email);
  next.sections[0].rows[0].columns[0].blocks.push(placed("following", true), placed("standing", false));
  await saveDesign(septima, id, next);
  const dispatch = await bookDispatch(septima, id, { confirmed: 2, when: null });
  goods = list("a,Spoon of silver,3.75,https://shop.example/a", "b,Fork,5.35,https://shop.example/b");

  await runDispatch(septima, dispatch);
  const [{ contact_id: reader }] = await septima.db.query<{ contact_id: number }>(
    "select contact_id from recipients where dispatch_id = $1 order by contact_id limit 1",
    [dispatch],
  );
  const html = await htmlAsSent(septima, dispatch, reader);
  const times = (words: string) => html.split(`>${words}<`).length - 1;
  expect([times("Spoon of silver"), times("3.75")]).toEqual([1, 1]);
  expect([times("Spoon"), times("4.25")]).toEqual([1, 1]);
  // What was typed over one stays, with the price of now beside it.
  expect([times("Our fork, following"), times("Our fork, standing"), times("5.35"), times("5.15")]).toEqual([
    1, 1, 1, 1,
  ]);
  expect(times("Ladle")).toBe(1);
  // Whoever looks at it before sees the same, and the design keeps what was placed.
  expect((await campaignAs(septima, id)).message.html).toContain("Spoon of silver");
  expect(JSON.stringify((await campaign(septima, id)).email)).not.toContain("silver");
  // What stays as it was placed is not what its source asks for now; what is gone there is not compared.
  const prices = (await findingsOf(septima, id)).filter(({ check }) => check === "prices");
  expect(
    prices.map(({ block, text }) => [block, /costs (\S+) here, and (\S+) at/.exec(text)?.slice(1)]),
  ).toEqual([
    ["standing", ["4.25", "3.75"]],
    ["standing", ["5.15", "5.35"]],
  ]);
  // What is followed is asked about before it goes.
  goods = "";
  await refreshSource(septima, source);
  const copy = await readyLetter(septima, "all", () => [{ type: "text", text: "Again" }]);
  await saveDesign(septima, copy, next);
  const said = async () => (await findingsOf(septima, copy)).map(({ text }) => text).join(" ");
  expect(await said()).toContain("cannot be read");
  await septima.db.query("update sources set deleted_at = now() where id = $1", [source]);
  expect(await said()).toContain("a source that is not there");
});

test("a link to an item leads, counted, where its source has it when it is sent; one that is gone is told before", async () => {
  goods = list("a,Spoon,4.25,https://shop.example/a?x=1", "b,Fork,5.15,https://shop.example/b");
  const source = await addSource(septima, "standin://kitchen/linked.csv");
  const { items } = await findItems(septima, { source, order: "given" });
  const [spoon, fork] = items.map(({ item }) => itemTag(source, item, "link"));
  const id = await readyLetter(septima, "all", () => [{ type: "text", text: "Led" }]);
  const { email } = await campaign(septima, id);
  const next = {
    ...structuredClone(email),
    links: { parameters: [{ name: "from", value: "letter" }], untracked: [] },
  };
  const spoken = { type: "text", text: "The spoon", marks: [{ type: "link", attrs: { href: spoon } }] };
  next.sections[0].rows[0].columns[0].blocks.push(
    { ...createBlock("heading", "spoon"), content: [spoken] } as Block,
    { ...createBlock("button", "fork"), href: fork } as Block,
  );
  await saveDesign(septima, id, next);
  const dispatch = await bookDispatch(septima, id, { confirmed: 2, when: null });
  goods = list("a,Spoon,4.25,https://shop.example/moved?x=1", "b,Fork,5.15,https://shop.example/b");
  await runDispatch(septima, dispatch);
  const [{ contact_id: reader }] = await septima.db.query<{ contact_id: number }>(
    "select contact_id from recipients where dispatch_id = $1 order by contact_id limit 1",
    [dispatch],
  );
  const html = await htmlAsSent(septima, dispatch, reader);
  const led = await Promise.all(
    [...html.matchAll(/\/c\/([\w.-]+)"/g)].map(async ([, token]) => (await followLink(septima, token)).to),
  );
  expect(led).toContain("https://shop.example/moved?x=1&from=letter");
  expect(led).toContain("https://shop.example/b?from=letter");
  // Whoever looks at it sees the address itself.
  expect((await campaignAs(septima, id)).message.html).toContain(
    "https://shop.example/moved?x=1&amp;from=letter",
  );
  // What is gone is told while it is composed, and leads where it was.
  goods = list("a,Spoon,4.25,https://shop.example/moved?x=1");
  await refreshSource(septima, source);
  const copy = await readyLetter(septima, "all", () => [{ type: "text", text: "Again" }]);
  await saveDesign(septima, copy, next);
  expect((await findingsOf(septima, copy)).map(({ text }) => text).join(" ")).toContain(
    "leads to something that its source does not have any more: it leads to https://shop.example/b, where that was",
  );
  expect((await campaignAs(septima, copy)).message.html).toContain("https://shop.example/b?from=letter");
});
