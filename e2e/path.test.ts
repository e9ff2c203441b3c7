/** The whole way, as a designer goes it: compose by hand, look as readers, prove, send, and read what arrived. */

import { simpleParser } from "mailparser";
import { afterAll, afterEach, beforeAll, expect, test } from "vitest";
import { createBlock } from "~/core/blocks";
import type { Email } from "~/core/email";
import { difference, pack } from "~/core/steps";
import { By, Key, keepFailure, openBrowser, type Page } from "./browser";
import { download, mailboxOf, unfilled } from "./postroom";
import { type Program, startProgram } from "./program";

let program: Program;
let page: Page;
/** The campaign that asks its readers something. */
let asked: string;

beforeAll(async () => {
  program = await startProgram({ contacts: 1500 });
  page = await openBrowser(program.address);
});
afterAll(async () => {
  await page?.driver.quit();
  await program?.stop();
});

afterEach(({ task }) => keepFailure(page, task));

test("the program says that it is well", async () => {
  const answer = await fetch(`${program.address}/healthz`);
  expect(answer.status).toBe(200);
  expect(await answer.json()).toMatchObject({
    status: "ok",
    version: expect.any(String),
    schema: expect.any(Number),
  });
});

test("compose by dragging, with a tag, a rule and a feed; see it as different readers", async () => {
  await page.open("/campaigns");
  await page.press("New campaign");
  await page.fill("Name", "Spring letter");
  await page.press("Start composing");
  await page.sees("Reading as");

  // A heading, dragged with the pointer to a named place.
  const shelf = await page.find('[data-thing="Heading"]');
  let landing = "";
  await page.drag(await page.centre(shelf), await page.onCanvas("Begin with what matters"), async () => {
    await page.find("[data-testid=landing]");
    landing = await page.words("[data-testid=landing]");
  });
  expect(landing).toMatch(/(after|before|below|above)/);
  await page.until(async () => (await page.canvasWords()).includes("A heading"), "the heading did not land");

  // Its words, edited where they stand, with reader data inserted by @.
  await page.clickAt(await page.onCanvas("A heading"));
  await page.clickAt(await page.onCanvas("A heading"));
  await page.until(
    () =>
      page.run(
        "return !!document.querySelector('[data-testid=canvas]').shadowRoot.querySelector('.ProseMirror')",
      ),
    "no editor",
  );
  await page.driver.actions().keyDown(Key.CONTROL).sendKeys("a").keyUp(Key.CONTROL).perform();
  await page.typeTag("Good morning, ", "First name");
  await page.run(
    "document.querySelector('[data-testid=canvas]').shadowRoot.querySelector('.ProseMirror .reader-value').click()",
  );
  await page.fill("For readers without it", "gardener");
  await page.keys(Key.ENTER);
  await page.until(
    () => page.run<boolean>("return !document.querySelector('[aria-label=\"Reader data\"][role=dialog]')"),
    "the tag stayed open",
  );
  await page.until(
    () =>
      page.run<boolean>(
        "return !!document.querySelector('[data-testid=canvas]').shadowRoot.activeElement?.closest('.ProseMirror')",
      ),
    "the words have the focus again",
  );
  await page.keys(Key.END);
  await page.keys("!");
  await page.until(
    async () => (await page.canvasWords()).includes("Good morning, Ines!"),
    "the value is not on the canvas",
  );
  await page.keys(Key.ESCAPE);

  // A text for one zone only.
  await page.clickAt(await page.onCanvas("Begin with what matters"));
  await page.press("Add a rule");
  await page.choose("What is looked at", "Growing zone");
  await page.choose("Value", "Cool");
  await page.sees("Readers whose growing zone is Cool", "[data-testid=panel]");
  await page.until(
    async () => /Who gets it\s*[\d,]+ of [\d,]+ readers/.test(await page.words("[data-testid=panel]")),
    "the rule is not counted",
  );
  await page.press("Done");

  // A live feed.
  await page.drag(
    await page.centre(await page.find('[data-thing="Articles"]')),
    await page.onCanvas("Read more"),
  );
  await page.choose("From", "Journal");
  await page.until(
    async () => (await page.canvasWords()).includes("Hold your beans"),
    "the feed is not on the canvas",
  );

  // The button leads somewhere.
  await page.clickAt(await page.onCanvas("Read more"));
  await page.fill("Leads to", "https://shop.tansyrow.example/");

  // The subject, with a tag of its own.
  const subject = await page.named("Subject");
  await subject.click();
  await page.typeTag("News for ", "First name");
  await page.until(
    async () => (await subject.getText()).includes("News for Ines"),
    "the subject shows no value",
  );
  const preheader = await page.named("Preheader");
  await preheader.click();
  await page.keys("What to sow, and when");
  await page.saved();

  // Other readers get other things.
  expect(await page.canvasWords()).toContain("Begin with what matters");
  await page.until(
    async () => /of [2-9]/.test(await page.words("[data-testid=edition]")),
    "the editions were not found",
  );
  const seen = new Set<string>();
  for (let step = 0; step < 4; step++) {
    seen.add((await page.canvasWords()).includes("Begin with what matters") ? "cool" : "other");
    const before = await page.words("[data-testid=edition]");
    await page.press("Next edition");
    await page.until(
      async () => (await page.words("[data-testid=edition]")) !== before,
      "the edition did not change",
    );
  }
  expect(seen).toEqual(new Set(["cool", "other"]));
});

test("undo and redo go all the way, and what is saved is there after a reload", async () => {
  const words = await page.canvasWords();
  const undo = async () => (await page.driver.findElements(By.css("button[aria-label^=Undo]")))[0];
  let steps = 0;
  while (await (await undo()).isEnabled()) {
    await (await undo()).click();
    if (++steps > 60) break;
  }
  expect(steps).toBeGreaterThan(5);
  await page.until(async () => !(await page.canvasWords()).includes("Good morning"), "undo left the heading");
  for (let step = 0; step < steps; step++)
    await (await page.driver.findElements(By.css("button[aria-label^=Redo]")))[0].click();
  await page.until(async () => (await page.canvasWords()) === words, "redo did not bring everything back");
  await page.saved();
  await page.reload();
  await page.until(async () => (await page.canvasWords()).includes("Hold your beans"), "the design was lost");
});

test("the same things by keyboard: add, move from place to place, delete, undo", async () => {
  const item = await page.find('[data-thing="Divider"]');
  await page.run("arguments[0].focus()", item);
  await page.keys(" ");
  await page.find("[data-testid=landing]");
  const first = await page.words("[data-testid=landing]");
  await page.keys(Key.ARROW_DOWN);
  await page.until(
    async () => (await page.words("[data-testid=landing]")) !== first,
    "the place did not change",
  );
  const place = await page.words("[data-testid=landing]");
  await page.keys(" ");
  await page.sees("Divider", "[data-testid=panel]");
  expect(place.length).toBeGreaterThan(5);

  const order = () =>
    page.run<string[]>(
      "return [...document.querySelector('[data-testid=canvas]').shadowRoot.querySelectorAll('[data-kind=block]')].map(e => e.dataset.node)",
    );
  const before = await order();
  await page.driver.actions().keyDown(Key.ALT).sendKeys(Key.ARROW_DOWN).keyUp(Key.ALT).perform();
  await page.until(async () => (await order()).join() !== before.join(), "Alt and arrow moved nothing");
  await page.keys(Key.DELETE);
  await page.until(async () => (await order()).length === before.length - 1, "nothing was deleted");
  await page.driver.actions().keyDown(Key.CONTROL).sendKeys("zzz").keyUp(Key.CONTROL).perform();
  await page.until(
    async () =>
      (await order()).length === before.length - 1 &&
      !(await order()).includes(before.find((id) => !before.includes(id)) ?? ""),
    "undo failed",
  );
  await page.saved();
});

test("a block is dragged across the canvas, and carried by its handle with keys", async () => {
  const order = () =>
    page.run<string[]>(
      "return [...document.querySelector('[data-testid=canvas]').shadowRoot.querySelectorAll('[data-kind=block]')].map(e => e.innerText.trim().slice(0, 24))",
    );
  const before = await order();
  const from = await page.onCanvas("Read more");
  const to = await page.run<{ x: number; y: number }>(
    `const root = document.querySelector('[data-testid=canvas]').shadowRoot;
     const r = [...root.querySelectorAll('[data-kind=block]')].find(e => e.innerText.includes('Hold your beans')).getBoundingClientRect();
     return {x: Math.round(r.x + r.width / 2), y: Math.round(Math.max(r.y, 70) + 12)};`,
  );
  await page.drag(from, to, async () => {
    await page.find("[data-testid=landing]");
  });
  await page.until(async () => (await order()).join() !== before.join(), "the block did not move");
  const moved = await order();
  expect([...moved].sort()).toEqual([...before].sort());
  expect(moved.indexOf("Read more")).toBeLessThan(
    moved.findIndex((words) => words.startsWith("Hold your beans")),
  );

  const handle = await page.find("[role=toolbar] button[aria-label^=Move\\:]");
  await page.run("arguments[0].focus()", handle);
  await page.keys(" ");
  await page.find("[data-testid=landing]");
  await page.keys(Key.ARROW_DOWN, " ");
  await page.until(async () => (await order()).join() !== moved.join(), "the keys did not carry it");
  for (let step = 0; step < 2; step++)
    await page.driver.actions().keyDown(Key.CONTROL).sendKeys("z").keyUp(Key.CONTROL).perform();
  await page.until(async () => (await order()).join() === before.join(), "undo did not bring it back");
  await page.saved();
});

test("a part is copied in one campaign and pasted in another, by keys; both sides of a pair are edited in place", async () => {
  const blocks = () =>
    page.run<number>(
      "return document.querySelector('[data-testid=canvas]').shadowRoot.querySelectorAll('[data-kind=block]').length",
    );
  const hold = async (key: string) =>
    page.driver.actions().keyDown(Key.CONTROL).sendKeys(key).keyUp(Key.CONTROL).perform();
  await page.clickAt(await page.onCanvas("Good morning"));
  await hold("c");
  const here = await page.driver.getCurrentUrl();
  await page.open("/campaigns");
  await page.press("New campaign");
  await page.fill("Name", "For pasting");
  await page.press("Start composing");
  await page.sees("Reading as");
  await page.clickAt(await page.onCanvas("Begin with what matters"));
  const before = await blocks();
  await hold("v");
  await page.until(
    async () => (await blocks()) === before + 1 && (await page.canvasWords()).includes("Good morning, Ines!"),
    "nothing was pasted",
  );

  const item = await page.find('[data-thing="Pair"]');
  await page.run("arguments[0].focus()", item);
  await page.keys(Key.ENTER);
  await page.until(async () => (await page.canvasWords()).includes("Tell me more"), "the pair is not there");
  const second = await page.run<{ x: number; y: number }>(
    "const r = document.querySelector('[data-testid=canvas]').shadowRoot.querySelector('[data-edit=second]').getBoundingClientRect(); return {x: Math.round(r.x + r.width / 2), y: Math.round(r.y + r.height / 2)}",
  );
  await page.clickAt(second);
  await page.until(
    () =>
      page.run(
        "return !!document.querySelector('[data-testid=canvas]').shadowRoot.querySelector('[data-edit=second] .ProseMirror')",
      ),
    "no editor",
  );
  await hold("a");
  await page.keys("Not now");
  await page.keys(Key.ESCAPE);
  await page.until(
    async () => /Yes, please\s+Not now/.test(await page.canvasWords()),
    "the second button was not edited",
  );
  await page.saved();
  await page.driver.get(here);
  await page.sees("Reading as");
});

test("the footer cannot be deleted, and says why", async () => {
  await page.clickAt(await page.onCanvas("Unsubscribe"));
  await page.keys(Key.DELETE);
  await page.sees("It can be moved, not deleted");
  expect(await page.canvasWords()).toContain("Unsubscribe");
});

test("the preview shows desktop, tablet and phone as the same reader", async () => {
  await page.press("Preview");
  await page.find("iframe[title='The email on a phone']");
  const frames = await page.driver.findElements(By.css("figure iframe"));
  expect(frames).toHaveLength(3);
  const html = await Promise.all(frames.map((frame) => frame.getAttribute("srcdoc")));
  expect(new Set(html).size).toBe(1);
  expect(html[0]).toMatch(/Good morning, \S+!/);
});

test("a proof goes out as a reader, with a note; mistakes in the addresses are named", async () => {
  await page.press("Proof");
  await page.fill("To", "me@tansyrow.example, oops, also wrong@");
  await page.fill("Note", "Is the date right?");
  await page.press("Send the proof");
  await page.sees("“wrong@”");
  await page.sees("nothing was sent");
  expect(await mailboxOf(program, "me@tansyrow.example")).toHaveLength(0);
  await page.fill("To", "me@tansyrow.example; you@tansyrow.example");
  await page.press("Send the proof");
  await page.sees("Sent to me@tansyrow.example, you@tansyrow.example");
  const [proof] = await mailboxOf(program, "you@tansyrow.example");
  const mail = await download(program, proof);
  expect(mail.subject).toMatch(/^Proof: News for /);
  expect(mail.text).toContain("Is the date right?");
  expect(mail.html).toContain("Is the date right?");
  expect(unfilled(mail)).toEqual([]);
});

test("readers are chosen with the count after suppression", async () => {
  await page.press("Readers");
  await page.choose("Add readers", "Seed club");
  await page.sees("Each address once.");
  await page.choose("Leave out", "Balcony gardeners");
  await page.until(async () => /Left out\s+[1-9]/.test(await page.words("aside")), "nobody was left out");
});

test("a time in the past is refused, and nothing is sent", async () => {
  await page.press("On to sending");
  await page.press("At a time");
  await page.fill("Date", "1 Jan 2020");
  await page.keys(Key.TAB);
  // Once the readers are counted.
  const button = await page.find("main button[class*=bg-mulberry]:not(:disabled)");
  await button.click();
  await page.find("[role=dialog] button[class*=bg-mulberry]").then((confirm) => confirm.click());
  await page.sees("has passed");
});

/** Adds a question to the design that is about to go out, as another window would. */
async function ask(): Promise<string> {
  const campaign = /campaigns\/(\w+)/.exec(await page.driver.getCurrentUrl())![1];
  const where = `${program.address}/campaigns/${campaign}/save`;
  const { email, revision } = (await (await fetch(where)).json()) as { email: Email; revision: number };
  const next = structuredClone(email);
  next.sections[0].rows[0].columns[0].blocks.push(createBlock("survey", "asked"));
  const body = { revision, save: "added-by-another", steps: pack(difference(email, next)) };
  expect((await fetch(where, { method: "POST", body: JSON.stringify(body) })).status).toBe(200);
  return campaign;
}

test("after one confirmation that states the number, each reader gets the right message", async () => {
  asked = await ask();
  await page.press("Now");
  const button = await page.find("main button[class*=bg-mulberry]");
  const readers = Number(/Send to ([\d,]+) readers/.exec(await button.getText())![1].replace(",", ""));
  expect(readers).toBeGreaterThan(20);
  await button.click();
  await page.sees(`${readers.toLocaleString("en")} readers`, "[role=dialog]");
  await page.find("[role=dialog] button[class*=bg-mulberry]").then((confirm) => confirm.click());
  await page.until(
    async () => (await page.words("main")).includes(`Sent to ${readers.toLocaleString("en")} readers`),
    "it was not sent",
    60_000,
  );

  const all = (await mailboxOf(program, "News for")).filter(
    (message) => !message.subject.startsWith("Proof"),
  );
  expect(all).toHaveLength(readers);
  const kinds = new Set<string>();
  for (const message of all.slice(0, 60)) {
    const mail = await download(program, message);
    expect(unfilled(mail)).toEqual([]);
    expect(mail.html && mail.text).toBeTruthy();
    expect(mail.headers.get("list")).toBeDefined();
    expect(String(mail.headerLines.find((it) => it.key === "list-unsubscribe-post")?.line)).toBe(
      "List-Unsubscribe-Post: List-Unsubscribe=One-Click",
    );
    const cool = (mail.html || "").includes("Begin with what matters");
    expect((mail.text ?? "").includes("Begin with what matters")).toBe(cool);
    expect(mail.html).toContain("Hold your beans");
    kinds.add(cool ? "cool" : "other");
  }
  expect(kinds).toEqual(new Set(["cool", "other"]));
});

test("each recipient is found, with what was tried and the message as it was sent, octet for octet", async () => {
  const where = await page.driver.getCurrentUrl();
  const [some] = (await mailboxOf(program, "News for")).filter(({ subject }) => !subject.startsWith("Proof"));
  await page.fill("Search recipients", some.to);
  // Nobody else is left in the list.
  await page.until(
    async () =>
      (await page.words("[aria-label=Recipients]")).split("handed over").length === 2 &&
      (await page.words("[aria-label=Recipients]")).includes(some.to),
    "the reader was not found",
  );
  await page.find("[aria-label$='as it was sent']").then((link) => link.click());
  await page.sees("The message as it was sent");
  await page.sees(some.to);
  const file = await (await page.named("Download .eml", "a")).getAttribute("href");
  const bytes = async (address: string) => Buffer.from(await (await fetch(address)).arrayBuffer());
  const again = await bytes(file!);
  expect(again.equals(await bytes(`${program.address}/postroom/${some.id}/source/it.eml`))).toBe(true);
  await page.press("The reader");
  await page.sees("as it was sent", "[aria-label=History]");
  await page.driver.get(where);
});

test("the link of an answer shows a page that asks for a press; nothing else gives the answer", async () => {
  const [message] = (await mailboxOf(program, "News for")).filter(
    ({ subject }) => !subject.startsWith("Proof"),
  );
  const { html } = await download(program, message);
  const link = /href="(https?:[^"]*\/asked\/4)"/.exec(html || "")![1];
  const answers = async () =>
    (await fetch(`${program.address}/campaigns/${asked}/answers`)).json() as Promise<unknown>;
  const where = await page.driver.getCurrentUrl();
  await page.driver.get(link);
  await page.named("Send my answer");
  // There is nothing on it that could press it.
  expect(await page.run<number>("return document.scripts.length")).toBe(0);
  await page.reload();
  await page.sees("You chose 4 of 5");
  expect(await answers()).toEqual({});
  await page.press("Send my answer");
  await page.sees("has your answer: 4 of 5");
  expect(await answers()).toEqual({ asked: [{ answer: 4, count: 1 }] });
  expect((await fetch(`${link.replace(/\/asked\/4$/, "x/asked/4")}`)).status).toBe(404);
  await page.driver.get(where);
});

test("the postroom finds, shows and gives out messages", async () => {
  await page.press("See the messages in the postroom");
  await page.fill("Search by address or subject", "you@tansyrow.example");
  await page.sees("1 message found");
  await page.find("li a[href*='/postroom/']").then((link) => link.click());
  await page.find("iframe[title='The message']");
  await page.press("Text");
  await page.sees("Unsubscribe:");
  await page.press("Headers");
  await page.sees("Message-ID");
  await page.press("Source");
  await page.sees("multipart/alternative");
  const link = await page.named("Download .eml", "a");
  const href = await link.getAttribute("href");
  expect(href).toMatch(/\.eml$/);
  const source = Buffer.from(await (await fetch(href!)).arrayBuffer());
  expect((await simpleParser(source)).subject).toMatch(/^Proof: /);
});

test("the unsubscribe link opens a page; its button and the one-click POST unsubscribe, a look does not", async () => {
  const [first, second] = (await mailboxOf(program, "News for")).filter(
    (message) => !message.subject.startsWith("Proof"),
  );
  const linkOf = async (message: { id: string }) =>
    /<(https?:[^>]+)>/.exec(
      String(
        (await download(program, message)).headerLines.find((it) => it.key === "list-unsubscribe")?.line,
      ),
    )![1];
  const link = await linkOf(first);
  await page.driver.get(link);
  await page.sees(first.to);
  await page.reload();
  // A preference page: some topics, or none at all; who leaves may come back.
  await page.sees("What would you like to get");
  const chosen = async () => {
    const boxes = await page.driver.findElements({ css: "input[name=topic]" });
    return Promise.all(boxes.map((box) => box.isSelected()));
  };
  const before = await chosen();
  await (await page.driver.findElements({ css: "input[name=topic]" }))[1].click();
  await page.press("Keep my choice");
  await page.sees("Your choice is kept");
  await page.reload();
  expect(await chosen()).toEqual(before.map((on, at) => (at === 1 ? !on : on)));
  await page.press("Unsubscribe from everything");
  await page.sees("You are unsubscribed");
  await page.press("Subscribe again");
  await page.sees("What would you like to get");
  await page.press("Unsubscribe from everything");
  await page.sees("You are unsubscribed");

  const other = await linkOf(second);
  expect(await (await fetch(other)).text()).toContain("Or none at all");
  const post = await fetch(other, {
    method: "POST",
    headers: { "content-type": "application/x-www-form-urlencoded" },
    body: "List-Unsubscribe=One-Click",
  });
  expect(post.status).toBe(200);
  expect(await (await fetch(other)).text()).toContain("You are unsubscribed");
  const forged = await fetch(`${link.slice(0, -3)}abc`);
  expect(forged.status).toBe(404);
});
