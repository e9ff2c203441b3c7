/** What stands around composing: links, the text part, versions, bringing in and taking out, several blocks at once. */
import { readFile } from "node:fs/promises";
import axe from "axe-core";
import { unzipSync } from "fflate";
import { afterAll, afterEach, beforeAll, expect, test } from "vitest";
import { BLOCK_TYPES, type BlockTypeName } from "~/core/blocks";
import { Key, keepFailure, openBrowser, type Page } from "./browser";
import { campaignNamed } from "./campaigns";
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

async function compose(name: string): Promise<string> {
  const id = await campaignNamed(program, name);
  await page.open(`/campaigns/${id}/compose`);
  await page.sees("Reading as");
  return id;
}

async function menu(item: string): Promise<void> {
  await page.press("More");
  await page.press(item);
}

const exported = async (id: string, format: string) =>
  fetch(`${program.address}/campaigns/${id}/export/${format}`);

async function editing(words: string): Promise<void> {
  await page.clickAt(await page.onCanvas(words));
  await page.clickAt(await page.onCanvas(words));
  await page.until(
    () =>
      page.run<boolean>(
        "return !!document.querySelector('[data-testid=canvas]').shadowRoot.querySelector('[role=textbox]')",
      ),
    "the words are not being edited",
  );
}

test("a link changed in the table, replaced in many and given parameters is so in the message", async () => {
  const id = await compose("Pattern book");
  await menu("Links");
  await page.fill("Address of “To the seed list”", "https://tansyrow.example/spring");
  await page.fill("In the address", "tansyrow.example");
  await page.fill("Instead", "shop.example");
  await page.sees("Replace in");
  await page.driver.findElement({ css: "[role=dialog] form button[type=submit]" }).click();
  await page.press("Add a parameter");
  await page.fill("Name of parameter 1", "from");
  await page.fill("Value of parameter 1", "pattern book");
  await page.press("“To the seed list” is tracked: it is counted, and gets the parameters");
  await page.press("Close");
  await page.saved();
  const html = await (await exported(id, "html")).text();
  expect(html).toContain('href="https://shop.example/spring"');
  expect(html).toContain('href="https://shop.example/journal?from=pattern%20book"');
  // Only the logo, whose address is the brand’s, and what leads to items, whose addresses are their source’s.
  const ours = [...html.matchAll(/href="https:\/\/tansyrow\.example([^"]*)/g)].map(([, path]) => path);
  expect(ours.filter((path) => !path.startsWith("/shop/"))).toEqual(["?from=pattern%20book"]);
});

test("the text part is written by hand, says what the design has changed since, and takes it over", async () => {
  const id = await compose("What to sow now");
  await menu("Text part");
  const text = () => page.words("[data-testid=text-part]");
  await page.press("Numbered");
  await page.until(async () => /\[1\] https:/.test(await text()), "links are not numbered");
  await page.press("Write it yourself");
  const own = await page.find(".own-words [role=textbox]");
  await own.click();
  await page.chord(Key.CONTROL, "a");
  await page.typeTag("By hand for ", "First name");
  await page.until(async () => /By hand for \w+/.test(await text()), "own words are not in the text");
  await page.press("Close");
  await page.saved();
  expect(await (await exported(id, "txt")).text()).toContain("By hand for ");

  const first = (await page.canvasWords()).split("\n").find((line) => line.trim() !== "") ?? "";
  await editing(first);
  await page.keys(" Changed.");
  await page.keys(Key.ESCAPE, Key.ESCAPE, Key.ESCAPE);
  await menu("Text part");
  await page.sees("The design has changed since");
  await page.press("Take it over");
  await page.until(async () => (await text()).includes("Changed."), "the design’s words did not come back");
  await page.press("Close");
});

test("a version is kept, compared and brought back; undo brings the newer one back", async () => {
  await compose("Winter workshops");
  await menu("Versions");
  await page.fill("Name of a new version", "Before the changes");
  await page.press("Keep");
  await page.sees("Before the changes");
  await page.press("Close");
  const first = "Warm hands";
  await editing(first);
  await page.keys(" and more");
  await page.keys(Key.ESCAPE);
  await page.until(
    async () => (await page.canvasWords()).includes(`${first} and more`),
    "it was not written",
  );
  await page.saved();
  await menu("Versions");
  await page.sees("Before the changes", "[role=dialog] ol");
  await page.run(
    "[...document.querySelectorAll('[role=dialog] ol button')].find(e => e.innerText.includes('Before the changes')).click()",
  );
  await page.sees("Bring this version back");
  await page.sees("Changed");
  const marked = (side: string) =>
    page.run<string>(`return document.querySelector('[data-testid=version-${side}]').shadowRoot.textContent`);
  await page.until(async () => (await marked("after")).includes("and more"), "the change is not shown");
  expect(await marked("before")).not.toContain(`${first} and more`);
  await page.press("Bring this version back");
  await page.until(
    async () => !(await page.canvasWords()).includes("and more"),
    "the version did not come back",
  );
  await page.chord(Key.CONTROL, "z");
  await page.until(async () => (await page.canvasWords()).includes("and more"), "undo did not bring it back");
  await page.saved();
});

test("writing and a whole email come in; a design goes out and comes back the same", async () => {
  const id = await compose("Pattern book");
  await menu("Bring in…");
  await page.press("Markdown");
  await page.fill("Writing to bring in", "# Brought in\n\nSome **bold** words.\n\n- one\n- two\n");
  await page.press("Read it");
  await page.press("Add 2 blocks");
  await page.until(async () => (await page.canvasWords()).includes("Brought in"), "the blocks did not come");

  await menu("Bring in…");
  await page.press("HTML");
  const mail =
    '<!doctype html><html><head><style>p{color:red}@media(max-width:400px){p{color:blue}}</style></head><body><table><tr><td><h1>Old letter</h1><p onclick="x()">Kept words</p></td></tr></table></body></html>';
  await page.run(
    "const set = Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, 'value').set; set.call(arguments[0], arguments[1]); arguments[0].dispatchEvent(new Event('input', {bubbles: true}))",
    await page.named("Writing to bring in"),
    mail,
  );
  await page.press("Read it");
  await page.sees("a complete HTML email");
  await page.sees("event handlers");
  await page.press("Keep it whole in a code block");
  await page.until(async () => (await page.canvasWords()).includes("Kept words"), "the email did not come");
  const color = await page.run<string>(
    "const frame = document.querySelector('[data-testid=canvas]').shadowRoot.querySelector('[data-framed] > iframe'); const p = [...frame.contentDocument.querySelectorAll('p')].find(e => e.textContent === 'Kept words'); return getComputedStyle(p).color",
  );
  expect(color).toBe("rgb(255, 0, 0)");
  await page.saved();

  const json = await (await exported(id, "json")).text();
  const body = new FormData();
  body.append("file", new File([json], "design.json"));
  const back = (await (await fetch(`${program.address}/intake`, { method: "POST", body })).json()) as {
    result: { email: unknown };
  };
  expect(back.result.email).toEqual((JSON.parse(json) as { email: unknown }).email);

  const zip = unzipSync(new Uint8Array(await (await exported(id, "zip")).arrayBuffer()));
  const html = new TextDecoder().decode(zip["index.html"]);
  for (const [, src] of html.matchAll(/<img src="(pictures\/[^"]+)"/g))
    expect(Object.keys(zip)).toContain(src);
  expect(html).toContain('src="pictures/');
  const eml = await (await exported(id, "eml")).text();
  expect(eml).toMatch(/^From: .*\r\n/m);
  expect(eml).toContain("multipart/alternative");
});

test("several blocks are selected, moved in the outline and deleted together; a boundary is dragged", async () => {
  await compose("Pattern book");
  await page.press("Outline");
  /** The middles of two lines, both in view. */
  const lines = (...words: string[]) =>
    page.run<{ x: number; y: number }[]>(
      `const all = arguments[0].map(words => [...document.querySelectorAll('[data-outline]')].find(e => e.innerText.includes(words)));
       all[0].scrollIntoView({block: 'center'});
       return all.map(e => { const r = e.getBoundingClientRect(); return {x: Math.round(r.x + 90), y: Math.round(r.y + r.height / 2)}; });`,
      words,
    );
  await page.clickAt(await page.onCanvas("Boxed words"));
  await page.driver.actions().keyDown(Key.SHIFT).perform();
  await page.clickAt(await page.onCanvas("I sowed on your word"));
  await page.driver.actions().keyUp(Key.SHIFT).perform();
  await page.sees("2 blocks");
  const order = async () => {
    const words = await page.canvasWords();
    return ["Boxed words", "I sowed on", "Words on a picture"].map((one) => words.indexOf(one));
  };
  const [start, target] = await lines("Boxed words", "Words on a picture");
  await page.drag(start, { x: target.x, y: target.y + 11 });
  await page.until(async () => {
    const [boxed, quote, picture] = await order();
    return picture < boxed && boxed < quote;
  }, "they did not move together");
  await page.keys(Key.DELETE);
  await page.until(async () => !(await page.canvasWords()).includes("Boxed words"), "they were not deleted");
  await page.chord(Key.CONTROL, "z");
  await page.until(async () => (await page.canvasWords()).includes("Boxed words"), "they did not come back");

  await page.clickAt(await page.onCanvas("Full sun"));
  await page.keys(Key.ESCAPE);
  const boundary = await page.find("[data-testid=boundary-1]");
  const from = await page.centre(boundary);
  await page.drag(from, { x: from.x + 90, y: from.y });
  await page.until(
    async () =>
      Number(await (await page.find("[data-testid=boundary-1]")).getAttribute("aria-valuenow")) > 58,
    "the boundary did not move",
  );
});

test("a slash adds a block at the cursor, what is pasted comes in clean, an assistant’s words can be refused", async () => {
  await compose("What to sow now");
  await page.clickAt(await page.onCanvas("See what to sow"));
  const before = await page.run<number>(
    "return document.querySelector('[data-testid=canvas]').shadowRoot.querySelectorAll('[data-kind=block]').length",
  );
  const words = (await page.canvasWords()).split("\n").find((it) => it.length > 60) ?? "";
  await editing(words.slice(0, 30));
  await page.keys(Key.ENTER, "/", "quo");
  await page.find("[role=listbox]");
  await page.keys(Key.ENTER);
  await page.until(
    async () => (await page.canvasWords()).includes("What somebody said"),
    "the quote did not come",
  );
  await editing("What somebody said");
  await page.run(
    `const box = document.querySelector('[data-testid=canvas]').shadowRoot.querySelector('[role=textbox]');
     const data = new DataTransfer();
     data.setData('text/html', '<p class=MsoNormal style="color:red">Clean <b>words</b><script>x()</script></p><p class=MsoListParagraph style="mso-list:l0 level1 lfo1"><span style="mso-list:Ignore">·</span>An item</p>');
     box.dispatchEvent(new ClipboardEvent('paste', {clipboardData: data, bubbles: true, cancelable: true, composed: true}));`,
  );
  const html = () =>
    page.run<string>(
      "return document.querySelector('[data-testid=canvas]').shadowRoot.querySelector('[role=textbox]').innerHTML",
    );
  await page.until(async () => /<ul>.*An item/s.test(await html()), "the list did not come in");
  expect(await html()).toContain("<strong>words</strong>");
  expect(await html()).not.toMatch(/color|script|Mso/);
  await page.keys(Key.ESCAPE);
  await page.clickAt(await page.onCanvas("Clean words"));
  await page.press("More formal");
  await page.until(
    async () => /It would change nothing|Refuse/.test(await page.words("[data-testid=panel]")),
    "the assistant did not answer",
  );
  await page.sees("Simulated assistant");
  expect(
    await page.run<number>(
      "return document.querySelector('[data-testid=canvas]').shadowRoot.querySelectorAll('[data-kind=block]').length",
    ),
  ).toBeGreaterThan(before);
});

test("axe finds nothing in the panel of any block, row, column or section, nor in the dialogs", async () => {
  await compose("Pattern book");
  const source = axe.source || (await readFile("node_modules/axe-core/axe.min.js", "utf8"));
  await page.run(source);
  const everything = "{exclude: [['iframe'], ['[data-testid=canvas]'], ['[data-testid=version-before]']]}";
  const look = async (where: string, context = everything) => {
    const found = await page.driver.executeAsyncScript<string>(
      `const done = arguments[arguments.length - 1];
       axe.run(${context}, {resultTypes: ['violations']}).then(r => done(r.violations.map(v => v.id + ': ' + v.nodes.slice(0, 3).map(n => n.html.slice(0, 140)).join(' | ')).join('\\n')), e => done(String(e)))`,
    );
    expect(found, where).toBe("");
  };
  await page.press("Outline");
  const ids = await page.run<string[]>(
    "return [...document.querySelectorAll('[data-outline]')].map(e => e.dataset.outline)",
  );
  const seen = new Set<string>();
  for (const id of ids) {
    await page.run(`document.querySelector('[data-outline="' + arguments[0] + '"] button').click()`, id);
    const title = (await page.words("[data-testid=panel] [aria-current=true]")).trim();
    if (seen.has(title)) continue;
    seen.add(title);
    await look(title, "document.querySelector('[data-testid=panel]')");
  }
  const labels = (Object.keys(BLOCK_TYPES) as BlockTypeName[]).map((type) => BLOCK_TYPES[type].label);
  expect([...seen]).toEqual(expect.arrayContaining([...labels, "Section", "Row", "Column 1"]));
  await look("the outline and everything else");
  for (const item of ["Links", "Text part", "Versions", "Bring in…", "Keys"]) {
    await menu(item);
    await page.find("[role=dialog]");
    await look(item);
    await page.press("Close");
  }
});
