/** Links that lead to what was searched for: an event’s calendar file, a survey, a product; named wherever they are seen. */
import { rm } from "node:fs/promises";
import { afterAll, afterEach, beforeAll, beforeEach, expect, test } from "vitest";
import { createBlock } from "~/core/blocks";
import { type Block, blocksOf } from "~/core/email";
import { By, Key, keepFailure, openBrowser, type Page } from "./browser";
import { campaignNamed, copyOf, designOf, saveDesign } from "./campaigns";
import { type Program, startProgram } from "./program";

let program: Program;
let page: Page;
beforeAll(async () => {
  program = await startProgram({ contacts: 200 });
});
afterAll(async () => {
  await program?.stop();
  if (program) await rm(program.data, { recursive: true, force: true });
});
beforeEach(async () => {
  page = await openBrowser(program.address);
});
afterEach(async ({ task }) => {
  await keepFailure(page, task);
  await page.driver.quit();
});

/** Searches in a field that asks for a link, and takes what is called so. */
async function leadTo(field: string, words: string, name: string, what: string): Promise<void> {
  await page.fill(field, words);
  const option = By.xpath(`//*[@role='option'][contains(., '${name}')][contains(., '${what}')]`);
  await page.until(async () => (await page.driver.findElements(option)).length > 0, `${name} is not offered`);
  await page.driver.findElement(option).click();
}

test("a link is searched for, kept as what it is, named among the links, and leads there in the message", async () => {
  const id = await copyOf(program, await campaignNamed(program, "What to sow now"));
  const design = await designOf(program, id);
  design.sections[0].rows[0].columns[0].blocks.push({
    ...createBlock("survey", "how"),
    content: [{ type: "text", text: "How was the seed?" }],
  } as Block);
  await saveDesign(program, id, design);
  await page.open(`/campaigns/${id}/compose`);

  await page.clickAt(await page.onCanvas("See what to sow"));
  await leadTo("Leads to", "open bench", "The open bench", "calendar file");
  const chosen = async () =>
    (await page.driver.findElements(By.css("[role=group][aria-label^='Leads to']")))[0]?.getText() ?? "";
  await page.until(async () => (await chosen()).includes("The open bench"), "it is named");
  expect(await chosen()).toContain("calendar file");
  // Something else instead, by the keys alone.
  await page.press("Lead elsewhere than to “The open bench”");
  await page.fill("Leads to", "how was the");
  await page.sees("How was the seed?", "[role=listbox]");
  await page.keys(Key.ARROW_DOWN, Key.ENTER);
  await page.until(async () => (await chosen()).includes("survey"), "the survey is led to");
  // One step back the event is led to again.
  await page.click("button[aria-label^='Undo']");
  await page.until(async () => (await chosen()).includes("The open bench"), "the event is led to again");

  // A product, from words.
  await page.write("Tomatoes");
  await page.chord(Key.CONTROL, "a");
  await page.press("Link");
  await leadTo("Leads to", "old kiln", "Tomato “Old Kiln”", "product");
  await page.press("Set the link");
  await page.saved();

  await page.press("More");
  await page.press("Links");
  const table = () => page.words("[role=dialog] table");
  await page.until(async () => (await table()).includes("Tomato “Old Kiln”"), "the product is named");
  expect(await table()).toContain("The open bench");
  await page.fill("Filter the links", "calendar file");
  await page.until(async () => !(await table()).includes("Old Kiln"), "they are filtered by what they are");

  const html = await (await fetch(`${program.address}/campaigns/${id}/export/html`)).text();
  const [, shop] = /item\.link [^}]*else=\|([^|]+)\|/.exec(JSON.stringify(await designOf(program, id))) ?? [];
  expect(shop).toMatch(/^https:\/\//);
  expect(html).toContain(`href="${shop}`);
  const [, file] = /href="([^"]*\/calendar\.ics\?title=The\+open\+bench[^"]*)"/.exec(html) ?? [];
  const calendar = await (await fetch(file.replaceAll("&amp;", "&"))).text();
  expect(calendar).toMatch(/BEGIN:VEVENT[\s\S]*SUMMARY:The open bench/);
  const kept = blocksOf(await designOf(program, id)).find(({ type }) => type === "button");
  expect(String(kept?.href)).toMatch(/^\{\$item\.calendar source=/);
});

test("an event with picture, three lines and a button is written by hand, and the message has it", async () => {
  const id = await copyOf(program, await campaignNamed(program, "What to sow now"));
  const design = await designOf(program, id);
  design.sections[1].rows[0].columns[0].blocks.unshift({
    ...createBlock("items", "hand"),
    off: ["badge", "facts", "price", "stock", "calendar"],
  } as Block);
  await saveDesign(program, id, design);
  await page.open(`/campaigns/${id}/compose`);
  await page.clickAt(await page.onCanvas("Choose items"));
  await page.press("Write one by hand");
  await page.fill("Title of item 1", "Grafting day");
  await page.fill("Text of item 1", "Bring a knife.");
  await page.fill("Day of item 1", "6 Feb 2027");
  await page.fill("Place of item 1", "The long shed");
  await leadTo("Where item 1 leads", "open bench", "The open bench", "event");
  // Where readers check in, as a fact of its own.
  await page.press("Facts");
  await page.press("Add a fact");
  await page.fill("Check-in of item 1", "https://shed.example/in");
  await page.press("Choose a picture for item 1");
  await page.click("[role=dialog] [role=option] img");
  await page.until(
    async () => (await page.words("[data-testid=panel]")).includes("Choose another"),
    "the picture is there",
  );
  await page.saved();
  const html = await (await fetch(`${program.address}/campaigns/${id}/export/html`)).text();
  for (const words of ["Grafting day", "6 February 2027", "The long shed", "Bring a knife."])
    expect(html).toContain(`>${words}<`);
  expect(html).toMatch(/<a href="https:\/\/shed\.example\/in"[^>]*>Check-in</);
  // The picture and the button lead to the event, in whose place another comes from the table of links.
  expect(
    html.match(/<a href="https:[^"]+" aria-label="Grafting day"><img src="[^"]+\/pictures\//g),
  ).toHaveLength(1);
  await page.press("More");
  await page.press("Links");
  await page.click("[role=dialog] button[aria-label^='Lead elsewhere']");
  await page.fill("Address of “Grafting day”", "https://shed.example/graft");
  await page.press("Close");
  await page.saved();
  const next = await (await fetch(`${program.address}/campaigns/${id}/export/html`)).text();
  expect(next).toContain('<a href="https://shed.example/graft" aria-label="Grafting day">');
});

test("a film of a feed fills a video block: it leads to the film, shows its picture and says what it is called", async () => {
  const id = await copyOf(program, await campaignNamed(program, "What to sow now"));
  const design = await designOf(program, id);
  design.sections[1].rows[0].columns[0].blocks.unshift(createBlock("video", "film") as Block);
  await saveDesign(program, id, design);
  await page.open(`/campaigns/${id}/compose`);
  await page.clickAt(await page.onCanvas("Watch the film"));
  // The press met the place that waits for a picture.
  await page.find("[role=dialog]");
  await page.keys(Key.ESCAPE);
  await page.press("Take Pinching sweet peas");
  await page.until(
    async () => (await page.words("[role=group][aria-label^='Leads to']")).includes("film"),
    "the film is led to",
  );
  await page.saved();
  const html = await (await fetch(`${program.address}/campaigns/${id}/export/html`)).text();
  const film = 'href="https://films.tansyrow.example/pinching-sweet-peas"';
  expect(html).toMatch(
    new RegExp(`<a ${film}[^>]*><img src="[^"]*/pictures/[^"]+/play"[^>]*alt="Play: Pinching sweet peas"`),
  );
});
