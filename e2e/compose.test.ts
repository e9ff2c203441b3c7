/** Whole newsletters from blank, by pointer and by keys, and what the composer does with what it is given. */
import http from "node:http";
import type { AddressInfo } from "node:net";
import { afterAll, afterEach, beforeAll, expect, test } from "vitest";
import { BLOCK_TYPES, type BlockTypeName } from "~/core/blocks";
import { HOSTILE_HTML } from "~/core/blocks/code/hostile";
import { By, Key, keepFailure, openBrowser, type Page } from "./browser";
import { campaignNamed } from "./campaigns";
import { mailboxOf } from "./postroom";
import { FEW, type Program, startProgram } from "./program";
import { expectSameEverywhere } from "./same";

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

const LAYOUTS = ["Section", "Row", "2 columns", "3 columns", "4 columns"];
const KINDS = (Object.keys(BLOCK_TYPES) as BlockTypeName[]).filter((type) => type !== "footer");
const LABELS = KINDS.map((type) => BLOCK_TYPES[type].label);

async function start(name: string): Promise<string> {
  await page.open("/campaigns");
  await page.press("New campaign");
  await page.fill("Name", name);
  await page.run("document.querySelector('input[name=layout][value=empty]').click()");
  await page.press("Start composing");
  await page.sees("Reading as");
  return campaignNamed(program, name);
}

/** How many blocks, rows and the like stand on the canvas. */
const parts = (kind: string) =>
  page.run<number>(
    `return document.querySelector('[data-testid=canvas]').shadowRoot.querySelectorAll('[data-kind=${kind}]').length`,
  );

/** A place on the canvas, in view: the first empty column, else the lower edge of the last block but the footer. */
async function landingSpot(): Promise<{ x: number; y: number }> {
  let last = "";
  let spot = { x: 0, y: 0 };
  await page.until(async () => {
    spot = await page.run<{ x: number; y: number }>(
      `const root = document.querySelector('[data-testid=canvas]').shadowRoot;
       const empty = [...root.querySelectorAll('.waiting')].find(e => /^(Drop a block|An empty section)/.test(e.textContent));
       const blocks = [...root.querySelectorAll('[data-kind=block]')];
       const at = empty ?? blocks.at(-2) ?? blocks.at(-1);
       at.scrollIntoView({block: 'center'});
       const r = at.getBoundingClientRect();
       return {x: Math.round(r.x + r.width / 2), y: Math.round(empty ? r.y + r.height / 2 : Math.min(r.bottom - 3, innerHeight - 80))};`,
    );
    const now = JSON.stringify(spot);
    const settled = now === last;
    last = now;
    return settled;
  }, "the canvas did not settle");
  return spot;
}

async function dragFromShelf(label: string): Promise<void> {
  const item = await page.find(`[data-thing="${label}"]`);
  await page.run("arguments[0].scrollIntoView({block: 'center'})", item);
  const spot = await landingSpot();
  await page.drag(await page.centre(item), spot, async () => {
    await page.find("[data-testid=landing]");
  });
}

interface Hand {
  press(name: string): Promise<void>;
  fill(name: string, text: string): Promise<void>;
  choose(name: string, option: string): Promise<void>;
  picture(): Promise<void>;
}

/** Gives the selected block what it needs to be sent, in the panel, by whatever means `press` and `fill` use. */
async function fillSelected(label: string, hand: Hand): Promise<void> {
  switch (label) {
    case "Picture":
    case "Captioned":
    case "Overlaid":
    case "Beside text":
    case "Video":
    case "Signature":
      await hand.picture();
      break;
    case "Image set":
      await hand.press("Remove picture 4");
      await hand.press("Remove picture 3");
      await hand.press("Remove picture 2");
      await hand.picture();
      break;
    case "Button":
      await hand.fill("Leads to", "https://tansyrow.example/seeds");
      break;
    case "Countdown":
      await hand.fill("Ends", "3 Dec 2026");
      await hand.fill("Ends, time", "18:00");
      break;
    case "Calendar":
      await hand.fill("Title", "Seed swap");
      await hand.fill("Starts", "3 Dec 2026");
      await hand.fill("Starts, time", "6 pm");
      break;
    case "Items by rule":
      await hand.choose("From", "Shop");
      break;
    case "Items":
      await hand.fill("Find an item", "trowel");
      await page.named("Add Trowel, forged");
      await hand.press("Add Trowel, forged");
      break;
    case "Coupon":
      await hand.choose("Batch", "A tenth off seed");
      break;
    case "Code":
      await hand.fill("HTML of the block", "<p><b>Own</b> words</p>");
      break;
  }
}

/** Waits until the library has closed, with a picture chosen from it. */
const chosen = () =>
  page.until(
    async () => (await page.driver.findElements(By.css("[role=dialog] [role=option]"))).length === 0,
    "no picture was chosen",
  );

test("a newsletter of thirty blocks in five layouts, by pointer, is the same everywhere", async () => {
  const id = await start("By pointer");
  const hand = {
    press: (name: string) => page.press(name),
    fill: (name: string, text: string) => page.fill(name, text),
    choose: (name: string, option: string) => page.choose(name, option),
    async picture() {
      await page.press("Choose a picture");
      await page.click("[role=dialog] [role=option] img");
      await chosen();
    },
  };
  for (const layout of LAYOUTS) {
    const before = await parts("column");
    await dragFromShelf(layout);
    await page.until(async () => (await parts("column")) > before, `${layout} did not land`);
  }
  for (const label of [...LABELS, "Heading", "Text", "Button"]) {
    const before = await parts("block");
    await dragFromShelf(label);
    await page.until(async () => (await parts("block")) === before + 1, `${label} did not land`);
    await fillSelected(label, hand);
  }
  expect(await parts("block")).toBeGreaterThan(30);
  await page.press("Subject");
  await page.keys("By pointer, from blank");
  await expectSameEverywhere(page, program, id);
});

/** Presses Tab until a control of that name has the focus. */
async function tabTo(name: string, most = 200): Promise<void> {
  for (let at = 0; at < most; at++) {
    const here = await page.run<string>(
      `const e = document.activeElement; const by = e.getAttribute('aria-label') || (e.id && document.querySelector('label[for="' + CSS.escape(e.id) + '"]')?.innerText) || e.innerText || ''; return by.trim();`,
    );
    if (here === name) return;
    await page.keys(Key.TAB);
  }
  throw new Error(`Tab does not lead to “${name}”`);
}

test("a newsletter of thirty blocks in five layouts, wholly by keys, is the same everywhere", async () => {
  await page.open("/campaigns");
  await page.sees("New campaign");
  await tabTo("New campaign");
  await page.keys(Key.ENTER);
  await page.sees("Start from");
  await page.keys("By keys");
  await page.keys(Key.TAB, Key.ARROW_RIGHT, Key.ARROW_RIGHT, Key.ARROW_RIGHT);
  await tabTo("Start composing");
  await page.keys(Key.ENTER);
  await page.sees("Reading as");
  const id = await campaignNamed(program, "By keys");

  /** Opens find-anything, types, and takes the first thing found. */
  const find = async (words: string, found: string) => {
    await page.driver.actions().keyDown(Key.CONTROL).sendKeys("k").keyUp(Key.CONTROL).perform();
    await page.until(
      () => page.run<boolean>("return document.activeElement?.getAttribute('cmdk-input') !== null"),
      "find anything did not open",
    );
    await page.keys(words);
    await page.until(
      async () => (await page.words("[cmdk-item][data-selected=true]")).trim().startsWith(found),
      `“${found}” is not found first`,
    );
    await page.keys(Key.ENTER);
    await page.until(
      () => page.run<boolean>("return !document.querySelector('[cmdk-root]')"),
      "find anything did not close",
    );
  };
  const add = (label: string) => find(`Add: ${label}`, `Add: ${label}`);
  const hand = {
    async press(name: string) {
      await tabTo(name);
      await page.keys(Key.ENTER);
    },
    async fill(name: string, text: string) {
      await tabTo(name);
      await page.driver.actions().keyDown(Key.CONTROL).sendKeys("a").keyUp(Key.CONTROL).perform();
      await page.keys(text);
    },
    async choose(name: string, option: string) {
      await tabTo(name);
      await page.keys(option[0]);
    },
    async picture() {
      await tabTo("Choose a picture");
      await page.keys(Key.ENTER);
      await page.find("[role=dialog] [role=option] img");
      await tabTo("Upload");
      await page.keys(Key.TAB, Key.ENTER);
      await chosen();
    },
  };
  // The row first: it goes into the section that is there.
  for (const layout of [...LAYOUTS.slice(1), LAYOUTS[0]]) {
    const before = await parts("column");
    await add(layout);
    await page.until(async () => (await parts("column")) > before, `${layout} did not come`);
  }
  for (const label of [...LABELS, "Heading", "Text", "Button"]) {
    const before = await parts("block");
    if ((await page.canvasWords()).includes("Drop a block here")) await find("Empty column", "Empty column");
    await add(label);
    await page.until(async () => (await parts("block")) === before + 1, `${label} did not come`);
    await fillSelected(label, hand);
  }
  // One is found, moved down and doubled, and the doubling is taken back.
  const order = () => page.canvasWords();
  await page.driver.actions().keyDown(Key.CONTROL).sendKeys("k").keyUp(Key.CONTROL).perform();
  await page.keys("How useful", Key.ENTER);
  const before = await order();
  await page.driver.actions().keyDown(Key.ALT).sendKeys(Key.ARROW_UP).keyUp(Key.ALT).perform();
  await page.until(async () => (await order()) !== before, "it did not move");
  const count = await parts("block");
  await page.driver.actions().keyDown(Key.CONTROL).sendKeys("d").keyUp(Key.CONTROL).perform();
  await page.until(async () => (await parts("block")) === count + 1, "it was not doubled");
  await page.driver.actions().keyDown(Key.CONTROL).sendKeys("z").keyUp(Key.CONTROL).perform();
  await page.until(async () => (await parts("block")) === count, "the doubling was not taken back");
  await tabTo("Subject");
  await page.keys("By keys, from blank");
  await expectSameEverywhere(page, program, id);
});

test("hostile code does nothing on the canvas, in the preview and in the message, and a note says what went", async () => {
  const id = await start("Hostile");
  await dragFromShelf("Code");
  await page.sees("Write inline styles");
  const all = HOSTILE_HTML.map(({ html }) =>
    html.replace("window.harmed", "window.parent.harmed = window.harmed"),
  );
  const field = await page.named("HTML of the block");
  // Each by itself, as one left open would swallow the others.
  for (const html of ["<p>Harmless words</p>", ...all]) {
    await page.run(
      `const set = Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, 'value').set;
       set.call(arguments[0], arguments[1]); arguments[0].dispatchEvent(new Event('input', {bubbles: true}));`,
      field,
      `<p>Before</p>${html}`,
    );
    await page.until(
      async () => (await page.canvasWords()).includes("Before"),
      "the code is not on the canvas",
    );
    const left = await page.run<string>(
      `const root = document.querySelector('[data-testid=canvas]').shadowRoot;
       const frames = [...root.querySelectorAll('iframe')];
       if (frames.length !== 1 || frames[0].getAttribute('sandbox') !== 'allow-same-origin') return 'not in its frame';
       const inside = frames[0].contentDocument;
       const bad = [root, inside.body].flatMap(e => [...e.querySelectorAll('script, form, input, object, embed, meta, base, link, svg, template, .canvas style, body iframe, body style')]);
       const handlers = [...root.querySelectorAll('.canvas *'), ...inside.body.querySelectorAll('*')].filter(e => [...e.attributes].some(a => a.name !== 'srcdoc' && (/^on/i.test(a.name) || /^\\s*javascript:/i.test(a.value))));
       return [...bad, ...handlers].map(e => e.outerHTML.slice(0, 120)).join(' ');`,
    );
    expect(left, html).toBe("");
    expect(await page.run("return window.harmed"), html).toBeNull();
    // The canvas around it is whole: the footer still stands in a section of its own.
    expect(await parts("section"), html).toBe(2);
  }
  await page.run(
    `const set = Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, 'value').set;
     set.call(arguments[0], arguments[1]); arguments[0].dispatchEvent(new Event('input', {bubbles: true}));`,
    field,
    all
      .filter((html) => !/<img/i.test(html))
      .slice(0, 16)
      .join("\n"),
  );
  await page.sees("Left out, because mail programs refuse it");
  await page.sees("addresses that are not http");
  await page.press("Subject");
  await page.keys("Nothing happens");
  await expectSameEverywhere(page, program, id);
  expect(await page.run("return window.harmed")).toBeNull();
});

test("a picture from elsewhere in HTML of one’s own is fetched nowhere; in the postroom on asking", async () => {
  let asked = 0;
  const elsewhere = http.createServer((_request, response) => {
    asked++;
    response.writeHead(200, { "content-type": "image/gif" });
    response.end(Buffer.from("R0lGODlhAQABAIAAAP///wAAACH5BAEAAAAALAAAAAABAAEAAAICRAEAOw==", "base64"));
  });
  await new Promise<void>((resolve) => elsewhere.listen(0, "127.0.0.1", resolve));
  const spy = `http://127.0.0.1:${(elsewhere.address() as AddressInfo).port}/spy.gif`;
  try {
    const id = await start("Spied on");
    await dragFromShelf("Code");
    await page.sees("Write inline styles");
    const field = await page.named("HTML of the block");
    await field.click();
    const html = `<p>Looked at</p><img src="${spy}?a=1" alt="seen" width="20" height="20"><table background="${spy}?b=2"><tr><td style="background-image:url(${spy}?c=3)">Behind</td></tr></table>`;
    await page.keys(html);
    expect(await field.getAttribute("value")).toContain(html);
    await page.until(async () => (await page.canvasWords()).includes("Behind"), "it is not on the canvas");
    await page.press("Subject");
    await page.keys("Looked at");
    await page.saved();
    for (const step of ["preview", "proof", "send"]) {
      await page.open(`/campaigns/${id}/${step}`);
      await page.find("iframe");
      // A picture of our own in a frame after this one has been drawn: by then the others would have been asked for.
      await page.run(
        "return new Promise(done => { const image = new Image(); image.onload = image.onerror = () => done(true); image.src = '/glyphs/envelope-1E1B24.png?' + Math.random(); })",
      );
    }
    await page.open(`/campaigns/${id}/proof`);
    await page.fill("To", "spied@mail.example");
    await page.press("Send the proof");
    await page.until(async () => (await mailboxOf(program, "spied@mail.example")).length > 0, "no proof");
    const [letter] = await mailboxOf(program, "spied@mail.example");
    await page.open(`/postroom/${letter.id}`);
    await page.sees("Pictures from elsewhere are not fetched");
    expect(asked).toBe(0);
    await page.press("Show them");
    await page.until(async () => asked > 0, "they were not fetched when asked for");
  } finally {
    elsewhere.closeAllConnections();
    elsewhere.close();
  }
});
