/** Sources in the running program: a catalogue, a calendar and a file of records, read, sought, corrected, read again. */
import { mkdtemp, rm, writeFile } from "node:fs/promises";
import http from "node:http";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, afterEach, beforeAll, beforeEach, expect, test } from "vitest";
import type { TypedBlock } from "~/core/blocks";
import { blocksOf } from "~/core/email";
import { By, Key, keepFailure, openBrowser, type Page } from "./browser";
import { addSource, campaignNamed, copyOf, designOf, startBlank } from "./campaigns";
import { type Program, startProgram } from "./program";

let program: Program;
let page: Page;
let server: http.Server;
let folder: string;
/** What the shop of this test answers. */
let goods = "";

const HEAD = "sku;Bezeichnung;Preis;Bestand;Kategorie;Link\n";
const lines = (price: string, last: string) =>
  `${HEAD}a1;Löffel;${price};4;Küche > Besteck;/a1\na2;Gabel;5,00 €;0;Küche > Besteck;/a2\n${last}`;

beforeAll(async () => {
  server = http.createServer((_request, response) => void response.end(goods));
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  folder = await mkdtemp(path.join(tmpdir(), "septima-e2e-sources-"));
  program = await startProgram({ contacts: 200, env: { SEPTIMA_STANDINS: `kitchen=${base}` } });
});
afterAll(async () => {
  await program?.stop();
  server.close();
  await rm(folder, { recursive: true, force: true });
});
beforeEach(async () => {
  page = await openBrowser(program.address);
});
afterEach(async ({ task }) => {
  await keepFailure(page, task);
  await page.driver.quit();
});

const held = () => page.words("section[aria-label='What it holds'] ul");

test("the shop's catalogue is sought by words, category and stock, in the order that is chosen", async () => {
  await page.open("/sources");
  await page.press("Shop 90 products");
  await page.until(async () => (await held()).includes("Runner bean"), "the products are there");
  await page.fill("Search Shop", "forged");
  await page.until(async () => (await held()).startsWith("Trowel, forged"), "it is found by its text");
  expect(await held()).not.toContain("Runner bean");
  await page.fill("Search Shop", "");
  await page.choose("Category", "Tomatoes");
  await page.until(async () => !(await held()).includes("Runner bean"), "the category narrows");
  await page.choose("Order", "Cheapest first");
  await page.until(async () => (await held()).startsWith("Tomato “Old Kiln”"), "what is on sale costs least");
  expect(await held()).toMatch(/£3\.50\s*£2\.80/);
  await page.choose("Category", "Every category");
  await page.fill("Search Shop", "two are plenty");
  await page.until(async () => (await held()).includes("sold out"), "one is sold out");
  await page.press("In stock");
  await page.until(async () => !(await held()).includes("sold out"), "what is left is in stock");
});

test("the calendar's appointments come soonest first, each of a recurring one by itself", async () => {
  await page.open("/sources");
  await page.until(
    async () => (await page.words("ul[aria-label=Sources]")).includes("Workshops"),
    "it is there",
  );
  await page.driver
    .findElement(By.xpath("//ul[@aria-label='Sources']//button[contains(., 'Workshops')]"))
    .click();
  await page.fill("Search Workshops", "open bench");
  await page.until(async () => {
    const words = await held();
    return words.includes("The open bench") && !words.includes("Grafting");
  }, "they are there");
  const times = [...(await held()).matchAll(/(\d\d:\d\d) to (\d\d:\d\d)/g)].map(
    ([, from, to]) => `${from} ${to}`,
  );
  expect(times.length).toBeGreaterThan(5);
  // Their hour stays what it is, in summer time and out of it.
  expect(new Set(times)).toEqual(new Set(["10:00 11:00"]));
});

test("a catalogue from elsewhere is added, and what changed in it is shown; its rhythm and its name are kept", async () => {
  goods = lines("3,50 €", "a3;Messer;9,00 €;2;Küche;/a3\n");
  await page.open("/sources");
  await page.fill("Add a source", "standin://kitchen/all.csv");
  await page.press("Add");
  await page.until(async () => (await held()).includes("Löffel"), "it is read");
  expect(await held()).toContain("€3.50");
  expect(await held()).toContain("sold out");
  goods = lines("2,95 €", "a4;Schöpfkelle;12,00 €;1;Küche;/a4\n");
  await page.press("Refresh");
  await page.press("1 with another price");
  await page.until(async () => !(await held()).includes("Gabel"), "only that one");
  expect(await held()).toContain("was €3.50");
  await page.press("1 with another price");
  await page.press("1 gone");
  await page.until(async () => {
    const words = await held();
    return words.includes("Messer") && !words.includes("Gabel");
  }, "what is gone is told");
  await page.press("all");
  await page.fill("Name of the source", "Kitchen");
  await page.keys("\uE007");
  await page.sees("Kitchen", "ul[aria-label=Sources]");
  await page.choose("How often it is read again", "once a day");
  await page.until(async () => {
    await page.reload();
    return (await page.words("[aria-label='How often it is read again']")) === "once a day";
  }, "the rhythm is kept");
});

test("a file of records is read, and what its columns mean is corrected", async () => {
  const file = path.join(folder, "Houses to let.csv");
  await writeFile(
    file,
    "ref,headline,words,rooms\nA,Cottage,By the sea,3\nB,Barn,To be done up,5\n,,,\nC,,No headline,1\n",
  );
  await page.open("/sources");
  const input = await page.driver.findElement(By.css("input[type=file][aria-label='From a file']"));
  await input.sendKeys(file);
  await page.until(async () => (await held()).includes("Cottage"), "the file is read");
  await page.sees("has no title and is left out");
  expect(await held()).toContain("Rooms: 3");
  await page.press("Columns");
  await page.choose("What headline becomes", "Leave out");
  await page.choose("What words becomes", "Title");
  await page.fill("What the fact in rooms is called", "Bedrooms");
  await page.press("Keep, and read it anew");
  await page.until(async () => (await held()).includes("No headline"), "it is read anew");
  expect(await held()).toContain("Bedrooms: 3");
  expect(await held()).not.toContain("Cottage");
});

test("three products are sought, dragged into an email as a set, put in order and worded; the message has them", async () => {
  const id = await copyOf(program, await campaignNamed(program, "What to sow now"));
  await page.open(`/campaigns/${id}/compose`);
  await page.fill("Find a block", "tomato");
  const tick = async (name: string) => (await page.find(`input[aria-label='Take ${name} along']`)).click();
  for (const name of ["Tomato “Old Kiln”", "Tomato “Amber Row”", "Tomato feed, 1 litre"]) await tick(name);
  await page.drag(
    await page.centre(await page.find("[data-thing*='Old Kiln']")),
    await page.onCanvas("Hold your beans"),
    async () => {
      await page.find("[data-testid=landing]");
    },
  );
  await page.until(
    async () => (await page.words("[data-testid=panel]")).includes("Item 3"),
    "the set is placed",
  );
  expect(await page.canvasWords()).toContain("£2.80");
  // One is moved, its text is hidden, and one is called otherwise.
  const grips = await page.driver.findElements(By.css("[data-testid=panel] [data-grip]"));
  const [second, third] = [await page.centre(grips[1]), await page.centre(grips[2])];
  await page.drag(third, { x: second.x, y: second.y - 8 });
  await page.until(
    async () => (await page.words("[data-testid=panel] li:nth-of-type(2)")).includes("Tomato feed"),
    "the third is dragged before the second",
  );
  await page.fill("Title of item 1", "Old Kiln, the beef tomato");
  await page.press("Text");
  await page.saved();
  const design = await designOf(program, id);
  const block = blocksOf(design).find((one): one is TypedBlock<"items"> => one.type === "items");
  expect(block?.items.map(({ item, title }) => title ?? item.title)).toEqual([
    "Old Kiln, the beef tomato",
    "Tomato feed, 1 litre",
    "Tomato “Amber Row”",
  ]);
  expect(block?.off).toContain("text");
  // One is taken out for another in its place, with what was typed over it, and comes back.
  await page.press("Replace item 1");
  await page.fill("Another instead of item 1", "trowel, forged");
  await page.press("Take Trowel, forged");
  await page.until(
    async () => (await page.canvasWords()).includes("Trowel, forged"),
    "another is in its place",
  );
  expect(await page.canvasWords()).not.toContain("the beef tomato");
  await page.press("Undo replacing an item");
  await page.until(async () => (await page.canvasWords()).includes("the beef tomato"), "it is back");
  await page.saved();
  await page.open(`/campaigns/${id}/preview`);
  await page.choose("Shown as", "Text only");
  await page.find("main pre");
  const text = await page.words("main pre, main");
  expect(text).toContain("Old Kiln, the beef tomato\n£2.80, was £3.50\n");
  expect(text.indexOf("Tomato feed, 1 litre")).toBeLessThan(text.indexOf("Tomato “Amber Row”"));
  expect(text).not.toContain("A beef tomato for a greenhouse");
});

test("the shelf is looked through by source, category, price and stock, in an order", async () => {
  const id = await copyOf(program, await campaignNamed(program, "What to sow now"));
  await page.open(`/campaigns/${id}/compose`);
  const found = () => page.words("section[aria-label='Items of your sources'] ul");
  await page.press("Look through them");
  await page.choose("Of which source", "Shop");
  await page.until(async () => (await found()).includes("Runner bean"), "the shop's goods are there");
  await page.choose("Of which category", "Tomatoes");
  await page.choose("In which order", "Cheapest first");
  await page.until(async () => (await found()).startsWith("Tomato “Old Kiln”"), "the cheapest comes first");
  await page.fill("Price from", "3");
  await page.until(async () => !(await found()).includes("£2.80"), "what costs less is left out");
  await page.press("Any price");
  await page.until(async () => (await found()).startsWith("Tomato “Old Kiln”"), "any price will do again");
  await page.press("In stock");
  await page.until(async () => !(await found()).includes("sold out"), "what is sold out is left out");
  await page.choose("Of which source", "Journal");
  await page.until(
    async () => (await found()).includes("Hold your beans"),
    "the journal's articles are there",
  );
  // What is placed of a feed looks as articles do.
  await (await page.find("[data-thing='Hold your beans']")).click();
  await page.saved();
  const placed = blocksOf(await designOf(program, id)).find(
    (one): one is TypedBlock<"items"> => one.type === "items",
  );
  expect(placed).toMatchObject({ arranged: "list", leadsBy: "words", linkWords: "Read on" });
});

test("what has changed at the source since something was placed is told, and taken over with a press, and back", async () => {
  goods = lines("3,50 €", "").replaceAll("Löffel", "Schneebesen");
  const source = await addSource(program, "standin://kitchen/placed.csv");
  const id = await copyOf(program, await campaignNamed(program, "What to sow now"));
  await page.open(`/campaigns/${id}/compose`);
  await page.fill("Find a block", "schneebesen");
  await (await page.find("[data-thing='Schneebesen']")).click();
  await page.until(async () => (await page.canvasWords()).includes("€3.50"), "it is placed");
  await page.saved();
  goods = lines("2,95 €", "").replaceAll("Löffel", "Schneebesen");
  await fetch(`${program.address}/sources/change`, {
    method: "POST",
    headers: { "content-type": "application/json", origin: program.address },
    body: JSON.stringify({ intent: "refresh", id: source }),
  });
  await page.reload();
  await page.clickAt(await page.onCanvas("Schneebesen"));
  await page.sees("Changed since: price, now €2.95", "[data-testid=panel]");
  await page.press("Take over what changed of item 1");
  await page.until(async () => (await page.canvasWords()).includes("€2.95"), "the new price stands");
  await page.until(
    async () => !(await page.words("[data-testid=panel]")).includes("Changed since"),
    "there is nothing more to take over",
  );
  await page.chord(Key.CONTROL, "z");
  await page.until(async () => (await page.canvasWords()).includes("€3.50"), "it is as it was");
});

test("what cannot be read is told where it is asked for, and nothing is added", async () => {
  goods = `${HEAD}a1;"Löffel;3,50 €;4;Küche;/a1\n`;
  await page.open("/sources");
  const before = await page.words("ul[aria-label=Sources]");
  await page.fill("Add a source", "standin://kitchen/broken.csv");
  await page.press("Add");
  await page.sees("The quotation mark that opens in line 2 is never closed");
  goods = "<!doctype html><p>Closed</p>";
  await page.press("Add");
  await page.sees("found a web page");
  const file = path.join(folder, "holiday.png");
  await writeFile(file, Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]));
  await page.driver.findElement(By.css("input[type=file][aria-label='From a file']")).sendKeys(file);
  await page.sees("looks like a picture");
  await page.reload();
  expect(await page.words("ul[aria-label=Sources]")).toBe(before);
});

test("a recommendation says why, and a list by rule gives each reader other things by where they live", async () => {
  const id = await startBlank(page, program, "A letter", "By rule");
  await page.press("Items by rule");
  await page.choose("From", "Shop");
  await page.choose("Order, way 1", "Looked at and not bought");
  const given = () => page.words("section[aria-label='What is picked']");
  await page.until(
    async () => /looked at on \d+ \w+ and not bought/.test(await given()),
    "the reason is said",
  );
  await page.until(
    async () => /get fewer than 4|get none|None of/.test(await given()),
    "it is counted who gets fewer",
  );
  // What is picked stands on the canvas, and in the message.
  const [, first] = /gets\s+(.+)/.exec(await given()) ?? [];
  await page.onCanvas(first);
  await page.press("Add a rule");
  await page.choose("What is looked at", "Zones");
  // What is for elsewhere: most of what there is grows everywhere.
  await page.choose("Comparison", "is not the reader’s own");
  await page.choose("Order, way 1", "Cheapest first");
  await page.until(
    async () =>
      (await page.words("[data-testid=panel]")).includes("zones is not the reader’s own growing zone"),
    "the rule is said",
  );
  await page.until(async () => (await given()).includes("Cheapest first"), "the order is another");
  await page.saved();
  // Readers of different zones get different things, each as many as there are for them.
  const titles = async (reader: number) => {
    const html = await (
      await fetch(`${program.address}/campaigns/${id}/export/html?reader=${reader}`)
    ).text();
    return [...html.matchAll(/<h\d[^>]*><a [^>]*>([^<]+)/g)].map(([, title]) => title).join(", ");
  };
  const all = await Promise.all(Array.from({ length: 12 }, (_, at) => titles(at + 1)));
  expect(new Set(all).size).toBeGreaterThan(1);
  expect(all.filter((one) => one.split(", ").length >= 4).length).toBeGreaterThan(0);
  await page.open(`/campaigns/${id}/all-editions`);
  await page.sees("Filled per reader");
});
