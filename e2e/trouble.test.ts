/** What goes wrong: two windows, a server that goes away, broken feeds, hostile names. Nothing is lost. */
import axe from "axe-core";
import { afterAll, afterEach, beforeAll, expect, test } from "vitest";
import { By, Key, keepFailure, openBrowser, type Page } from "./browser";
import { addContact, campaignNamed, eventually, sendToLetter } from "./campaigns";
import { download, mailboxOf, unfilled } from "./postroom";
import { FEW, type Program, startProgram } from "./program";

let program: Program;
let page: Page;

beforeAll(async () => {
  program = await startProgram({ contacts: FEW });
  page = await openBrowser(program.address);
});
afterAll(async () => {
  await page?.driver.quit();
  await program?.stop();
});
afterEach(({ task }) => keepFailure(page, task));

const HOSTILE = "<img src=x onerror=alert(1)>";

test("a hostile name is text everywhere, and a line break reaches no header", async () => {
  for (const [email, first] of [
    ["hostile@mail.example", HOSTILE],
    ["broken@mail.example", "Ines\r\nBcc: all@victim.test"],
  ]) {
    await addContact(program, email, first, "Calder");
  }
  const id = await campaignNamed(program, "Winter workshops");
  await page.open("/audience?q=hostile");
  await page.sees(HOSTILE);
  await page.open(`/campaigns/${await campaignNamed(program, "What to sow now")}/compose`);
  await page.sees("Reading as");
  await page.find("[aria-label=Reader] button").then((button) => button.click());
  await page.fill("Look for a reader", "hostile");
  await page.sees(HOSTILE, "[aria-label='Readers found']");
  await page.find("[aria-label='Readers found'] button").then((button) => button.click());
  await page.until(
    async () => (await page.canvasWords()).includes(`Good morning, ${HOSTILE}`),
    "the name is not on the canvas as text",
  );
  expect(
    await page.run<number>(
      "return document.querySelector('[data-testid=canvas]').shadowRoot.querySelectorAll('img[src=x]').length",
    ),
  ).toBe(0);
  await page.open(`/campaigns/${await campaignNamed(program, "What to sow now")}/preview`);
  await page.click("main .bg-teal-wash");
  await page.fill("Look for a reader", "hostile");
  await page.sees(HOSTILE);

  const readers = await sendToLetter(page, program, id);
  await eventually("all arrive", async () => (await mailboxOf(program, "")).length === readers);
  const [broken] = await mailboxOf(program, "broken@mail.example");
  const mail = await download(program, broken);
  expect(mail.headers.has("bcc")).toBe(false);
  expect(mail.to && !Array.isArray(mail.to) && mail.to.value[0]).toEqual({
    address: "broken@mail.example",
    name: "Ines Bcc: all@victim.test Calder",
  });
  const [hostile] = await mailboxOf(program, "hostile@mail.example");
  expect((await download(program, hostile)).html).not.toContain("<img src=x");
  expect(unfilled(await download(program, hostile))).toEqual([]);
  await page.open(`/postroom/${hostile.id}`);
  await page.sees(HOSTILE.slice(1, 20));
});

test("the same draft in two windows: each is told, changes come together, contradictions are asked about", async () => {
  const id = await campaignNamed(program, "What to sow now");
  await page.open(`/campaigns/${id}/compose`);
  await page.sees("Reading as");
  const first = await page.driver.getWindowHandle();
  // The first hears nothing until it has written too.
  await page.run(
    `const real = window.fetch;
     const open = new Promise((resolve) => { window.letThrough = resolve; });
     window.fetch = (...request) => open.then(() => real(...request));`,
  );
  await page.driver.switchTo().newWindow("tab");
  const second = await page.driver.getWindowHandle();
  await page.open(`/campaigns/${id}/compose`);
  await page.sees("Open in 1 other window");
  await page.press("Preheader");
  await page.keys(Key.END, " From the second window.");
  await page.press("Subject");
  await page.driver.actions().keyDown(Key.CONTROL).sendKeys("a").keyUp(Key.CONTROL).perform();
  await page.keys("A second subject");
  await page.saved();

  await page.driver.switchTo().window(first);
  // What is typed here meets what was saved there: other words stay beside them, the same place is asked about.
  await page.press("Subject");
  await page.driver.actions().keyDown(Key.CONTROL).sendKeys("a").keyUp(Key.CONTROL).perform();
  await page.keys("Quite another subject");
  await page.run("window.letThrough()");
  await page.sees("1 question about changes made in two windows");
  await page.sees("The subject", "[data-testid=questions]");
  await page.sees("Quite another subject", "[data-testid=questions]");
  // Closed, it can be opened again, also after a reload.
  await page.keys(Key.ESCAPE);
  await page.until(
    async () => (await (await page.named("Preheader")).getText()).includes("From the second window."),
    "the other side's words did not come",
  );
  await page.saved();
  await page.reload();
  await page.sees("Reading as");
  await page.press("1 question");
  await page.press("Take mine");
  await page.until(
    async () => (await (await page.named("Subject")).getText()).includes("Quite another subject"),
    "mine was not taken",
  );
  await page.saved();
  await page.driver.switchTo().window(second);
  await page.until(
    async () => (await (await page.named("Subject")).getText()).includes("Quite another subject"),
    "the decision did not come to the other window",
    30_000,
  );
  await page.driver.close();
  await page.driver.switchTo().window(first);
  const preview = await (await fetch(`${program.address}/campaigns/${id}/preview`)).text();
  expect(preview).toContain("From the second window.");
  expect(preview).toContain("Quite another subject");
});

test("what another window writes comes at once, and the cursor stays where one writes", async () => {
  const id = await campaignNamed(program, "What to sow now");
  const subject = async () => (await page.named("Subject")).getText();
  const write = async (words: string) => {
    await page.press("Subject");
    await page.chord(Key.CONTROL, "a");
    await page.keys(words);
    await page.saved();
  };
  await page.open(`/campaigns/${id}/compose`);
  await page.sees("Reading as");
  await write("Seeds and bulbs for the winter");
  await page.keys(Key.HOME, ...Array<string>("Seeds".length).fill(Key.ARROW_RIGHT));
  const first = await page.driver.getWindowHandle();
  await page.driver.switchTo().newWindow("tab");
  const second = await page.driver.getWindowHandle();
  await page.open(`/campaigns/${id}/compose`);
  await page.sees("Open in 1 other window");
  await page.press("Subject");
  await page.keys(Key.END, ", and cuttings");
  await page.saved();
  await page.driver.switchTo().window(first);
  // Asked for every ten seconds it would take twice as long.
  await page.until(async () => (await subject()).endsWith(", and cuttings"), "the words did not come", 5_000);
  await page.keys(", roots");
  expect(await subject()).toBe("Seeds, roots and bulbs for the winter, and cuttings");
  await page.saved();
  await page.driver.switchTo().window(second);
  await page.until(async () => (await subject()).startsWith("Seeds, roots and"), "nor did mine", 5_000);
  await page.driver.close();
  await page.driver.switchTo().window(first);
  await page.until(
    async () => !(await page.words()).includes("other window"),
    "it is said to be open still",
    5_000,
  );
});

test("with the server gone editing goes on, and is saved when it is back, also after a reload", async () => {
  const id = await campaignNamed(program, "What to sow now");
  await page.open(`/campaigns/${id}/compose`);
  await page.sees("Reading as");
  await page.run(
    "const real = window.fetch; window.backAgain = () => { window.fetch = real; }; window.fetch = () => Promise.reject(new TypeError('away'))",
  );
  await page.clickAt(await page.onCanvas("See what to sow"));
  await page.fill("Leads to", "https://away.example/");
  await page.sees("Server away; kept here");
  await page.reload();
  await page.sees("were brought back");
  await page.saved();
  expect(await (await fetch(`${program.address}/campaigns/${id}/preview`)).text()).toContain(
    "https://away.example/",
  );
});

test("with the server gone a search and another page say so, and try again when it is back", async () => {
  await page.open("/pictures");
  await page.find("main [role=option] img");
  // The page learns of the others that it links to a moment after it is there.
  await page.until(
    () => page.run<boolean>("return 'routes/brand' in window.__reactRouterManifest.routes"),
    "the page does not know of the brand's",
  );
  await page.run("window.fetch = () => Promise.reject(new TypeError('Failed to fetch'))");
  await (await page.find("[aria-label='Search pictures']")).sendKeys("zinnia");
  await page.sees("The server does not answer, so this cannot be shown");
  await page.press("Brand");
  await page.sees("Septima cannot be reached. Nothing that was saved is lost");
  await page.press("Try again");
  await page.find("section[aria-label='The sender']");
});

test("a feed that answers 500, sends garbage or has wrong dates is named; the last good copy stays", async () => {
  await page.open("/sources");
  await page.fill("Add a source", "standin://publisher/faults/garbage.rss");
  await page.press("Add");
  await page.sees("This is no source");
  await page.fill("Add a source", "http://127.0.0.1:1/feed");
  await page.press("Add");
  await page.sees("inside a private network");
  const address = await page.named("Address of the source");
  await address.sendKeys(Key.chord(Key.CONTROL, "a"), Key.BACK_SPACE);
  await address.sendKeys("standin://publisher/faults/500.rss");
  await page.press("Change address");
  await page.sees("answered 500");
  await page.sees("stays in use");
  await page.sees("Hold your beans");
  await page.fill("Address of the source", "standin://publisher/faults/dates.rss");
  await page.press("Change address");
  await page.sees("no readable date");
  await page.fill("Address of the source", "standin://publisher/journal.rss");
  await page.press("Change address");
  await page.sees("every ten minutes");
  await page.press("Publish an article");
  await page.sees("has a new article");
  await page.press("Refresh");
  await page.sees("Fresh from the bench, no. 1");
});

test("campaigns are renamed, copied, deleted, and a deletion is taken back", async () => {
  await page.open("/campaigns");
  await page.press("More for What to sow now");
  await page.press("Copy");
  await page.sees("What to sow now (copy)");
  await page.press("More for What to sow now (copy)");
  await page.press("Name and labels");
  await page.fill("Name", "Second letter");
  await page.driver.findElement(By.css("[role=dialog] button[type=submit]")).click();
  await page.until(
    async () =>
      (await page.words("main")).includes("Second letter") && !(await page.words("main")).includes("(copy)"),
    "it was not renamed",
  );
  await page.press("More for Second letter");
  await page.press("Delete");
  await page.until(async () => !(await page.words("main")).includes("Second letter"), "it was not deleted");
  await page.press("Undo");
  await page.sees("Second letter", "main");
});

test("a picture that is none, or is far too large, is refused with the reason", async () => {
  const upload = async (bytes: Uint8Array<ArrayBuffer>) => {
    const sent = { method: "POST", headers: { "content-type": "application/octet-stream" }, body: bytes };
    return (await (await fetch(`${program.address}/library/take?name=shot.png`, sent)).json()) as {
      problem: string | null;
    };
  };
  expect((await upload(new TextEncoder().encode("no picture"))).problem).toContain("not a picture");
  const header = Buffer.from("89504e470d0a1a0a0000000d49484452000061a80000c35008060000004a7e4e2b", "hex");
  expect((await upload(new Uint8Array(header))).problem).toMatch(/megapixels|not a picture|damaged/);
});

test("axe finds nothing on any page", async () => {
  const id = await campaignNamed(program, "What to sow now");
  const pages = [
    "/campaigns",
    "/audience",
    "/audience/1",
    "/audience?kind=segment&id=members",
    "/audience/fields",
    "/audience/import",
    "/lookups",
    "/referrals",
    "/join/preview",
    "/sources",
    "/sources?codes=bulb_gift",
    "/brand",
    "/pictures",
    "/templates",
    "/postroom",
    "/settings",
    "/settings/sending",
    "/settings/returned",
    "/settings/door",
    ...["compose", "preview", "all-editions", "readers", "preflight", "proof", "review", "send"].map(
      (step) => `/campaigns/${id}/${step}`,
    ),
  ];
  const found: string[] = [];
  const check = async (where: string) => {
    await page.run(axe.source);
    const results = await page.driver.executeAsyncScript<{ id: string; nodes: { html: string }[] }[]>(
      "const done = arguments[arguments.length - 1]; axe.run({exclude: [['iframe'], ['[data-testid=canvas]']]}, {iframes: false}).then(r => done(r.violations.map(v => ({id: v.id, nodes: v.nodes.map(n => ({html: n.html.slice(0, 160)}))}))))",
    );
    for (const violation of results) found.push(`${where}: ${violation.id} ${violation.nodes[0].html}`);
  };
  for (const path of pages) {
    await page.open(path);
    await page.find("main, [data-testid=panel]");
    await check(path);
  }
  await page.open(`/campaigns/${id}/compose`);
  await page.press("Ask");
  await page.press("Subjects");
  await page.find("[aria-label=Answers] li li");
  await check("answers of the assistant");
  await page.open("/pictures");
  await page.click("main [role=option]:has(img)");
  await page.find("aside[aria-label='The picture'] img");
  await check("a picture chosen");
  await page.press("Edit");
  await page.find("[data-testid=stage] image");
  for (const step of [
    "Crop",
    "Rotate",
    "Flip",
    "Light",
    "Tone",
    "Words",
    "Pen",
    "Frame",
    "Focus",
    "Size",
    "Lighter",
  ]) {
    await page.press(step);
    await check(`the step ${step}`);
  }
  await page.open(`/campaigns/${id}/compose`);
  await page.sees("Reading as");
  for (const words of [
    "Hold your beans",
    "touch freezing",
    "See what to sow",
    "From the journal",
    "Unsubscribe",
    "Tomatoes",
  ]) {
    await page.clickAt(await page.onCanvas(words));
    await check(`the panel of “${words}”`);
    for (const level of ["row", "section"]) {
      await page.keys(Key.ESCAPE, Key.ESCAPE);
      await check(`the ${level} of “${words}”`);
      if (words !== "Tomatoes") break;
    }
  }
  await page.press("Outline");
  await check("the outline");
  await page.open("/campaigns");
  await page.press("New campaign");
  await check("the start dialog");
  expect(found).toEqual([]);
});
