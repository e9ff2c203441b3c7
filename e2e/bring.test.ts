/** Letters and writing from elsewhere, brought into a design in the running program. */
import { readdirSync, readFileSync } from "node:fs";
import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { pathToFileURL } from "node:url";
import { strToU8, zipSync } from "fflate";
import sharp from "sharp";
import { afterAll, afterEach, beforeAll, beforeEach, expect, test } from "vitest";
import { createBlock } from "~/core/blocks";
import { type Block, blocksOf, type Email } from "~/core/email";
import { bind, personalise, previewAddresses, readerOf } from "~/core/personal";
import { compile } from "~/core/render";
import { SAMPLE_OPTIONS, sampleContact, sampleEmail, sampleWorld } from "~/core/render/sample";
import { By, keepFailure, openBrowser, type Page } from "./browser";
import { designOf, eventually, startFrom } from "./campaigns";
import { FEW, type Program, startProgram } from "./program";

let program: Program;
let page: Page;
let folder: string;
beforeAll(async () => {
  program = await startProgram({ contacts: FEW });
  folder = await mkdtemp(path.join(tmpdir(), "septima-bring-"));
});
afterAll(async () => {
  await program?.stop();
  await rm(folder, { recursive: true, force: true });
});
beforeEach(async () => {
  page = await openBrowser(program.address);
});
afterEach(async ({ task }) => {
  await keepFailure(page, task);
  await page.driver.quit();
});

const fixture = (name: string) => readFileSync(path.join(process.cwd(), "core/apart/fixtures", name), "utf8");
const red = () =>
  sharp({ create: { width: 64, height: 48, channels: 3, background: "#b03030" } })
    .png()
    .toBuffer();

/** Gives a file to the dialog that brings things in. */
async function bringIn(name: string, data: string | Buffer): Promise<void> {
  const file = path.join(folder, name);
  await writeFile(file, data);
  await page.press("More");
  await page.press("Bring in…");
  await page.find("[role=dialog]");
  await (await page.driver.findElement(By.css("[role=dialog] input[type=file]"))).sendKeys(file);
}

const saved = (id: string, fits: (email: Email) => boolean) =>
  eventually("the design as it should be", async () => {
    const email = await designOf(program, id);
    return fits(email) && email;
  });
const ofType = (email: Email, type: string) =>
  blocksOf(email).filter((block) => block.type === type) as Block[];

test("a letter in an archive is taken apart: look, words, columns, placeholders and pictures; undo takes it back", async () => {
  const id = await startFrom(page, program, "Card", "Gartenblatt");
  const before = await designOf(program, id);
  const zip = zipSync({
    "blatt/index.html": strToU8(fixture("verein.html")),
    "blatt/bilder/krokus.png": new Uint8Array(await red()),
  });
  await bringIn("blatt.zip", Buffer.from(zip));
  const dialog = "[role=dialog]";
  await page.sees("This is a complete HTML email with", dialog);
  await page.sees("Gartenblatt März", dialog);
  await page.sees("2 pictures did not come with it", dialog);
  await page.sees("Septima’s own takes its place", dialog);
  await page.sees("3 placeholders were left in it", dialog);
  expect(await (await page.named("What [Vorname] is", "[role=combobox]")).getText()).toContain("First name");
  await page.choose("What %%MITGLIEDSNUMMER%% is", "Nothing, taken out");
  // What did not come can be given.
  const given = path.join(folder, "unterschrift.png");
  await writeFile(
    given,
    await sharp({ create: { width: 140, height: 44, channels: 3, background: "#224488" } })
      .png()
      .toBuffer(),
  );
  await (
    await page.driver.findElement(By.css("section[aria-label='Pictures that did not come'] input"))
  ).sendKeys(given);
  await page.sees("1 picture did not come with it", dialog);
  await page.press("Take it apart in place of this design");
  await page.sees("The letter came in");
  const email = await saved(id, (one) => JSON.stringify(one).includes("Gartenblatt im"));
  expect(email.language).toBe("de");
  expect(email.theme).not.toBe(before.theme);
  expect(JSON.stringify(email.envelope.subject)).toContain("Gartenblatt März");
  expect(JSON.stringify(email)).toMatch(/"field":"first_name"[\s\S]*"field":"last_name"/);
  expect(JSON.stringify(email)).not.toContain("MITGLIEDSNUMMER");
  const images = ofType(email, "image").map(({ src }) => String(src));
  expect(images.filter((src) => src.startsWith("/pictures/"))).toHaveLength(2);
  expect(images.filter((src) => src === "")).toHaveLength(1);
  expect(email.sections.some(({ rows }) => rows.some(({ columns }) => columns.length === 2))).toBe(true);
  expect(ofType(email, "table")).toHaveLength(1);
  expect(ofType(email, "footer")).toMatchObject([{ unsubscribeWords: "Hier abbestellen" }]);
  await page.until(
    async () => (await page.canvasWords()).includes("Saatguttausch"),
    "it is not on the canvas",
  );
  // The heading has the look of the letter.
  const color = await page.run<string>(
    "const h = [...document.querySelector('[data-testid=canvas]').shadowRoot.querySelectorAll('h1')].find(e => e.textContent.includes('Gartenblatt')); return getComputedStyle(h).color + ' ' + getComputedStyle(h).fontSize",
  );
  expect(color).toBe("rgb(107, 31, 42) 34px");
  await page.press("Undo bringing a letter in");
  await saved(id, (one) => !JSON.stringify(one).includes("Gartenblatt im"));
});

test("a letter is added below what is there; one of another kind is told where it goes", async () => {
  const id = await startFrom(page, program, "Card", "Below");
  const before = await designOf(program, id);
  await bringIn("contacts.csv", "name\nInes");
  await page.sees("those are brought in under Audience and Sources", "[role=dialog]");
  await (await page.driver.findElement(By.css("[role=dialog] input[type=file]"))).sendKeys(
    path.join(process.cwd(), "core/apart/fixtures/hybrid.html"),
  );
  await page.sees("This is a complete HTML email with", "[role=dialog]");
  await page.press("Add it below");
  await page.sees("The letter came in");
  const email = await saved(id, (one) => one.sections.length > before.sections.length);
  expect(email.theme).toBe(before.theme);
  expect(email.envelope).toEqual(before.envelope);
  expect(email.sections.slice(0, before.sections.length - 1)).toEqual(before.sections.slice(0, -1));
  expect(email.sections.at(-1)).toEqual(before.sections.at(-1));
  expect(ofType(email, "footer")).toHaveLength(1);
  expect(JSON.stringify(email)).toContain("9 Ropewalk, Fennimoor");
});

test("letters that are kept whole stay within a phone, keep their rules for it, and their buttons for one engine", async () => {
  const id = await startFrom(page, program, "Card", "Kept whole");
  await bringIn("house.html", fixture("vml.html"));
  await page.press("Keep it whole in a code block");
  await saved(id, (one) => ofType(one, "code").length === 1);
  const html = await (await fetch(`${program.address}/campaigns/${id}/export/html`)).text();
  // Which of them is missing is enough to know; the message is long.
  const wanted = [
    /<!--\[if mso\]>\s*<v:roundrect [^>]*href="https:\/\/house\.example\/buy\/kettle"/,
    /@media \(max-width: 600px\)\{\.own-[\w-]+ \.o-stack\{display:block !important/,
    /class="o-stack"/,
  ];
  expect(wanted.filter((pattern) => !pattern.test(html))).toEqual([]);
  const session = page.driver as unknown as {
    sendDevToolsCommand(name: string, values: object): Promise<void>;
  };
  await session.sendDevToolsCommand("Emulation.setDeviceMetricsOverride", {
    width: 375,
    height: 800,
    deviceScaleFactor: 1,
    mobile: true,
  });
  const over: string[] = [];
  for (const name of readdirSync(path.join(process.cwd(), "core/apart/fixtures"))) {
    const body = new FormData();
    body.append("kind", "html");
    body.append("text", fixture(name));
    const answer = await fetch(`${program.address}/intake`, { method: "POST", body });
    const { result } = (await answer.json()) as { result: { whole: { html: string; sheets: string } } };
    const block = { ...createBlock("code", "kept"), ...result.whole };
    const sample = sampleEmail(1);
    const email = {
      ...sample,
      sections: [{ id: "s", rows: [{ id: "r", columns: [{ id: "c", width: 100, blocks: [block] }] }] }],
    };
    const world = sampleWorld("2026-11-25");
    const reader = readerOf(sampleContact(1, {}), "en", previewAddresses("https://s.example"));
    const message = personalise(bind(compile(email, SAMPLE_OPTIONS), world), reader).html;
    const file = path.join(folder, name);
    await writeFile(file, message.replace(/ src="https?:[^"]*"/g, ' src="data:,"'));
    await page.driver.get(pathToFileURL(file).href);
    const width = () => page.run<number>("return document.documentElement.scrollWidth");
    // Pictures that do not come take their room back a moment later.
    await page
      .until(async () => (await width()) <= 375, "it is too wide", 5_000)
      .catch(async () => over.push(`${name}: ${await width()} px`));
  }
  expect(over).toEqual([]);
});

test("a document, an email and Markdown come in as files, with their colours, pictures and lists", async () => {
  const id = await startFrom(page, program, "Card", "From files");
  const xml = (text: string) => strToU8(`<?xml version="1.0"?>${text}`);
  const words = (text: string, look = "") =>
    `<w:r><w:rPr>${look}</w:rPr><w:t xml:space="preserve">${text}</w:t></w:r>`;
  const document = zipSync({
    "word/document.xml": xml(
      `<w:document xmlns:w="w" xmlns:r="r" xmlns:wp="wp" xmlns:a="a"><w:body><w:p><w:pPr><w:pStyle w:val="Heading1"/></w:pPr>${words("Minutes")}</w:p><w:p>${words("We met and ")}${words("agreed", '<w:color w:val="B00020"/>')}${words(" on most of what there was to be said.")}</w:p><w:p><w:r><w:drawing><wp:inline><wp:extent cx="609600" cy="457200"/><wp:docPr descr="A red bed"/><a:blip r:embed="p"/></wp:inline></w:drawing></w:r></w:p></w:body></w:document>`,
    ),
    "word/_rels/document.xml.rels": xml(
      '<Relationships><Relationship Id="p" Target="media/bed.png"/></Relationships>',
    ),
    "word/media/bed.png": new Uint8Array(await red()),
  });
  await bringIn("minutes.docx", Buffer.from(document));
  await page.press("Add 3 blocks");
  const first = await saved(id, (one) => JSON.stringify(one).includes("Minutes"));
  expect(JSON.stringify(first)).toContain('"color":"#B00020"');
  expect(ofType(first, "image").find(({ alt }) => alt === "A red bed")?.src).toMatch(/^\/pictures\//);

  await bringIn("list.md", "## From a list\n\n- peas\n- beans\n");
  await page.press("Add 2 blocks");
  await saved(id, (one) => JSON.stringify(one).includes("From a list"));

  const eml = await (await fetch(`${program.address}/campaigns/${id}/export/eml`)).text();
  await bringIn("sent.eml", eml);
  await page.sees("This is an email with", "[role=dialog]");
  await page.press("Take it apart in place of this design");
  await page.sees("The letter came in");
  const last = await saved(id, (one) => JSON.stringify(one).includes("Minutes") && one.theme !== first.theme);
  expect(JSON.stringify(last)).toContain("peas");

  // The same ones kept whole: an email, and an archive with its picture.
  await bringIn("sent.eml", eml);
  await page.press("Keep it whole in a code block");
  const whole = await saved(id, (one) => ofType(one, "code").length === 1);
  expect(String(ofType(whole, "code")[0].html)).toContain("peas");
  const zip = zipSync({
    "index.html": strToU8(
      '<html><body><p>Kept with its bed <img src="bed.png" width="40"></p></body></html>',
    ),
    "bed.png": new Uint8Array(await red()),
  });
  await bringIn("kept.zip", Buffer.from(zip));
  await page.press("Keep it whole in a code block");
  const both = await saved(id, (one) => ofType(one, "code").length === 2);
  const kept = ofType(both, "code").map(({ html }) => String(html));
  expect(kept.some((html) => /Kept with its bed <img[^>]* src="\/pictures\//.test(html))).toBe(true);
});

test("a design from elsewhere says what it names that is not here; it is mapped, or left out with what it decided", async () => {
  const id = await startFrom(page, program, "Card", "From another workspace");
  const { email, ...file } = (await (
    await fetch(`${program.address}/campaigns/${id}/export/json`)
  ).json()) as { septima: number; name: string; email: Email };
  const [first] = email.sections;
  first.show = { kind: "segment", segment: "their-segment", in: true };
  email.envelope.subject = [
    { type: "mergeTag", attrs: { field: "their_name", fallback: "you", format: "asIs" } },
    { type: "text", text: ", from elsewhere" },
  ];
  const names = { "segment their-segment": "Their best readers", "field their_name": "Name of theirs" };
  await bringIn("theirs.json", JSON.stringify({ ...file, names, email }));
  const dialog = "[role=dialog]";
  await page.sees("It names 2 things that this workspace does not have", dialog);
  await page.sees("the segment “Their best readers”", dialog);
  await page.choose("What takes the place of the field “Name of theirs”", "First name");
  await page.choose("What takes the place of the segment “Their best readers”", "Leave it out");
  await page.press("Replace this design");
  const here = await saved(id, (one) => JSON.stringify(one.envelope.subject).includes("from elsewhere"));
  expect(JSON.stringify(here.envelope.subject)).toContain('"field":"first_name"');
  expect(here.sections).toHaveLength(email.sections.length - 1);
  expect(JSON.stringify(here)).not.toContain("their");
});
