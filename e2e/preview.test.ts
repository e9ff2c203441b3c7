/** Preview in the running program: as any reader, in any width, as each class of mail programs shows it. */
import sharp from "sharp";
import { afterAll, afterEach, beforeAll, expect, test } from "vitest";
import { createBlock } from "~/core/blocks";
import { type Block, mapEmail, paragraphOf } from "~/core/email";
import { Key, keepFailure, openBrowser, type Page } from "./browser";
import { campaignNamed, copyOf, designOf, saveDesign } from "./campaigns";
import { FEW, type Program, startProgram } from "./program";

let program: Program;
let page: Page;
let id: string;

beforeAll(async () => {
  program = await startProgram({ contacts: FEW });
  page = await openBrowser(program.address);
  id = await campaignNamed(program, "What to sow now");
});
afterAll(async () => {
  await page?.driver.quit();
  await program?.stop();
});
afterEach(({ task }) => keepFailure(page, task));

/** The first frame's message. */
const shown = () => page.run<string>("return document.querySelector('main iframe')?.srcdoc ?? ''");
const frames = () => page.run<number>("return document.querySelectorAll('main iframe').length");

test("each kind of reader stands in: the rarest edition, the longest name, anybody, nobody’s data; editions follow each other", async () => {
  await page.open(`/campaigns/${id}/preview`);
  await page.sees("1 of ");
  const first = await shown();
  await page.press("Edition after");
  await page.sees("2 of ");
  await page.until(async () => (await shown()) !== first, "it is the same edition");
  await page.choose("Or as", "The rarest edition");
  await page.until(
    async () => /\b(\d+) of \1, /.test(await page.words("main [role=combobox]")),
    "not the last",
  );
  await page.choose("Or as", "The longest name");
  await page.sees("Söhnke D'Arcy-Lund");
  await page.until(async () => (await shown()).includes("Söhnke"), "the name is not in the message");
  await page.choose("Or as", "Nobody’s data");
  await page.sees("Nobody", "main .bg-teal-wash");
  await page.until(async () => !(await shown()).includes("Söhnke"), "somebody’s name is left");
  await page.choose("Or as", "Somebody at random");
  await page.sees("Another");
});

test("widths are a device’s, or as wide as one drags it; letters grow and nothing else does", async () => {
  await page.open(`/campaigns/${id}/preview`);
  await page.find("iframe[title='The email on a tablet']");
  expect(await frames()).toBe(3);
  // A tablet shows what a desktop does: it is wide enough for it.
  const columns = (title: string) =>
    page.run<string>(
      "return getComputedStyle(document.querySelector('iframe[title$=\" ' + arguments[0] + '\"]')).width",
      title,
    );
  expect([await columns("desktop"), await columns("tablet"), await columns("phone")]).toEqual([
    "720px",
    "768px",
    "360px",
  ]);
  await page.press("Free");
  expect(await frames()).toBe(1);
  const edge = await page.find("[role=slider]");
  expect(await page.words("[data-testid=width]")).toBe("480");
  const { x, y, width } = await edge.getRect();
  const from = { x: Math.round(x + width / 2), y: Math.round(y + 80) };
  await page.drag(from, { x: from.x + 120, y: from.y });
  await page.until(
    async () => Math.abs(Number(await page.words("[data-testid=width]")) - 600) <= 3,
    "it is not as wide as it was dragged",
  );
  await edge.sendKeys(Key.ARROW_LEFT);
  await page.until(
    async () => Math.abs(Number(await page.words("[data-testid=width]")) - 590) <= 3,
    "a key does not move it",
  );
  const sizes = async () =>
    [...(await shown()).matchAll(/font-size:([\d.]+)px/g)]
      .map(([, size]) => Number(size))
      .filter((it) => it > 2);
  const before = await sizes();
  await page.choose("Letters", "Letters 200 %");
  await page.until(async () => (await sizes())[0] === before[0] * 2, "letters did not grow");
  expect(await sizes()).toEqual(before.map((size) => size * 2));
});

test("each class of mail programs leaves what it leaves, chosen one after the other", async () => {
  await page.open(`/campaigns/${id}/preview`);
  await page.press("Desktop");
  const choose = async (name: string, until: (html: string) => boolean) => {
    await page.choose("Shown as", name);
    await page.until(async () => until(await shown()), name);
  };
  await choose("Style block removed", (html) => !html.includes("<style") && html.includes("<table"));
  await choose("Pictures off", (html) => !/<img[^>]* src=/.test(html));
  await choose("Modern engine, dark", (html) => !html.includes("prefers-color-scheme"));
  await choose("All colours inverted", (html) => !/background-color:#FFFFFF/i.test(html));
  // What is chosen at once after another is not forgotten.
  await page.choose("Shown as", "Style block removed");
  await page.choose("Letters", "Letters 150 %");
  await page.until(async () => !(await shown()).includes("<style"), "the class was forgotten");
  await page.choose("Shown as", "Text only");
  await page.find("main pre");
  expect(await page.words("main pre")).toContain("Unsubscribe");
});

test("in the inbox it stands among others, with its preheader and without", async () => {
  await page.open(`/campaigns/${id}/preview?reader=rarest`);
  const phone = () => page.words("section[aria-label='In the inbox of a phone'] li[data-own]");
  await page.find("section[aria-label='In the inbox of a phone'] li[data-own]");
  const { preheader } = await page.run<{ preheader: string }>(
    "return { preheader: document.querySelector('li[data-own] p:last-child').innerText }",
  );
  expect(preheader.length).toBeGreaterThan(20);
  await page.press("Without the preheader");
  await page.until(async () => !(await phone()).includes(preheader), "the preheader stayed");
  expect(
    (await page.words("section[aria-label='In the inbox of a desktop'] li")).split("\n").length,
  ).toBeGreaterThan(3);
});

test("what differs from reader to reader is told with what one gets and why; a press leads there", async () => {
  await page.open(`/campaigns/${id}/preview`);
  await page.choose("Or as", "The longest name");
  await page.sees("Söhnke D'Arcy-Lund");
  await page.press("Who sees what");
  const told = "section[aria-label='Who sees what']";
  await page.sees("First name: Söhnke", told);
  await page.sees("From “First name”.", told);
  const words = await page.words(told);
  expect(words).toMatch(/[\d,]+ of [\d,]+ readers lack it/);
  expect(words).toMatch(/For readers .*: (Shown|Not shown)\n+Because /);
  expect(words).toMatch(/The case “[^”]+”, because /);
  // Somebody else gets something else, for another reason.
  await page.choose("Or as", "The rarest edition");
  await page.until(async () => !(await page.words(told)).includes("Söhnke"), "it is told of somebody else");
  await page.choose("Or as", "Nobody’s data");
  await page.sees("Choose a reader to see what they get");
  await page.choose("Or as", "The longest name");
  await page.sees("First name: Söhnke", told);
  await page.press("Heading “Hold your beans”");
  await page.sees("Heading", "nav[aria-label='Path of the selection']");
  await page.sees("Söhnke D'Arcy-Lund");
});

test("what is looked at is taken away as a picture or a PDF; all editions on the pages of one", async () => {
  const plain = await campaignNamed(program, "Bare-root week");
  await page.open(`/campaigns/${plain}/preview`);
  await page.press("Phone");
  await page.run(
    `window.made = []; const real = URL.createObjectURL;
     URL.createObjectURL = (blob) => { window.made.push(blob); return real.call(URL, blob); };`,
  );
  const made = (at: number) =>
    page.until(() => page.run<boolean>("return window.made.length > arguments[0]", at), "no file was made");
  const octets = (at: number) =>
    page.driver.executeAsyncScript<string>(
      `const done = arguments[1]; const reader = new FileReader();
       reader.onload = () => done(reader.result.split(",")[1]); reader.readAsDataURL(window.made[arguments[0]]);`,
      at,
    );
  const file = async (at: number) => Buffer.from(await octets(at), "base64");
  for (const [at, entry] of ["As a picture (PNG)", "As a PDF", "On the pages of one PDF"].entries()) {
    await page.press("Take away");
    await page.press(entry);
    await made(at);
  }
  const picture = await sharp(await file(0)).metadata();
  expect(picture.width).toBe(360);
  expect(picture.height).toBeGreaterThan(500);
  expect((await file(1)).subarray(0, 5).toString()).toBe("%PDF-");
  const sheet = (await file(2)).toString("latin1");
  const editions = Number(/1 of (\d+), /.exec(await page.words("main [role=combobox]"))![1]);
  expect(sheet.match(/\/Subtype\s*\/Image/g)).toHaveLength(editions);
});

test("where large webmail cuts a message off is shown in it", async () => {
  const heavy = await copyOf(program, id);
  const email = await designOf(program, heavy);
  const last = email.sections.find(({ show, rows }) => !show && !rows[0].show)!.rows[0].columns[0];
  const blocks = Array.from({ length: 60 }, (_, at): Block => {
    const content = {
      type: "doc" as const,
      content: [paragraphOf(`Number ${at}. ${"Words to read. ".repeat(110)}`)],
    };
    return { ...createBlock("text", `heavy-${at}`), content } as Block;
  });
  await saveDesign(
    program,
    heavy,
    mapEmail(email, (node) =>
      node.id === last.id ? { ...last, blocks: [...last.blocks, ...blocks] } : node,
    ),
  );
  await page.open(`/campaigns/${heavy}/preview`);
  await page.until(async () => (await shown()).includes("cuts the message off here"), "the cut is not shown");
  const html = await shown();
  const cut = html.indexOf("cuts the message off here");
  const before = new TextEncoder().encode(html.slice(0, cut)).length;
  expect(before).toBeGreaterThan(95 * 1024);
  expect(before).toBeLessThan(112 * 1024);
  expect(html.slice(0, cut)).toContain("Number 3.");
  expect(html.slice(cut)).toContain("Number 59.");
});
