/** The brand, and what is kept on shelves, in the running program. */
import { readFileSync } from "node:fs";
import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { createRequire } from "node:module";
import { tmpdir } from "node:os";
import path from "node:path";
import sharp from "sharp";
import { afterAll, afterEach, beforeAll, beforeEach, expect, test } from "vitest";
import { blocksOf } from "~/core/email";
import { By, Key, keepFailure, openBrowser, type Page } from "./browser";
import { campaignNamed, designOf, startFrom } from "./campaigns";
import { FEW, type Program, startProgram } from "./program";

let program: Program;
let page: Page;
let folder: string;
beforeAll(async () => {
  program = await startProgram({ contacts: FEW });
  folder = await mkdtemp(path.join(tmpdir(), "septima-e2e-"));
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

/** Gives a file to a control that takes one. */
async function give(css: string, name: string, data: string | Buffer): Promise<void> {
  const file = path.join(folder, name);
  await writeFile(file, data);
  await (await page.driver.findElement(By.css(css))).sendKeys(file);
}

const canvas = <T = string>(script: string) =>
  page.run<T>(`const root = document.querySelector('[data-testid=canvas]').shadowRoot; return ${script};`);

test("a palette from the logo becomes colours and a theme; a constant is put in with @, as a link", async () => {
  await page.open("/brand");
  await page.press("Take them from the logo");
  await page.sees("A theme that begins with them");
  expect((await page.words("section[aria-label=Colours]")).match(/every pair can be read/g)).toHaveLength(2);
  await page.press("Keep it as a theme");
  await page.sees("The theme “Tansy Row” is there");
  await page.press("Add a constant");
  await page.fill("Short name 4", "Shop Phone");
  await page.sees("Small letters, digits and _");
  await page.fill("Short name 4", "shop_phone");
  await page.fill("Words 4", "01632 960 100");
  await page.fill("Leads to 4", "tel:+441632960100");
  await page.fill("Answers go to 1", "nobody");
  await page.sees("This is not an address");
  await page.fill("Answers go to 1", "answers@tansyrow.example");
  await page.press("Save");
  await page.sees("Saved");
  await page.open("/campaigns");
  await page.press("New campaign");
  await page.fill("Name", "On brand");
  await page.press("Start composing");
  await page.sees("Reading as");
  const id = await campaignNamed(program, "On brand");
  expect((await designOf(program, id)).theme).toMatch(/@1$/);
  await page.clickAt(await page.onCanvas("Begin with what matters"));
  await page.keys(Key.ENTER);
  await page.typeTag(" Call ", "Shop phone");
  await page.keys(Key.ESCAPE);
  await page.until(
    async () => (await page.canvasWords()).includes("Call 01632 960 100"),
    "the constant is not there",
  );
  await page.saved();
  const html = await (await fetch(`${program.address}/campaigns/${id}/picture`)).text();
  expect(html).toMatch(/<a href="tel:\+441632960100"[^>]*>01632 960 100<\/a>/);
  await page.open("/brand");
  await page.fill("Short name 1", "name");
  await page.press("Save");
  await page.sees("“name” is the brand’s own already");
});

test("a font of one’s own: from a file, in a theme, on the canvas and in the message; a social link has a picture", async () => {
  await page.open("/brand");
  const font = createRequire(import.meta.url).resolve(
    "@fontsource-variable/hanken-grotesk/files/hanken-grotesk-latin-wght-normal.woff2",
  );
  const add = async (file: string) =>
    (await page.driver.findElement(By.css("section[aria-label=Type] input[type=file]"))).sendKeys(file);
  await add(createRequire(import.meta.url).resolve("react/package.json"));
  await page.sees("is not a WOFF2 font");
  await add(font);
  await page.sees("weights 100 to 900, kept here");
  await page.fill("Address of a font", "http://127.0.0.1:1/x.woff2");
  await page.press("Fetch it");
  await page.sees("an address inside a private network");
  await page.press("Drawing 2: camera. Choose another");
  await page.press("Sunflower");
  await page.press("Save");
  await page.sees("Saved");
  const campaign = await startFrom(page, program, "Thank you", "In our own type");
  await page.press("Change this theme");
  await page.choose("Headings", "Hanken Grotesk");
  await page.choose("Weight of links", "700");
  await page.choose("Colour of heading 1", "Links");
  await page.fill("Name of the theme", "Our type");
  await page.press("Save the theme");
  await page.sees("“Our type” is kept");
  await page.saved();
  const heading = () =>
    page.run<string[]>(
      `const heading = document.querySelector('[data-testid=canvas]').shadowRoot.querySelector('h1');
       const { fontFamily, color } = getComputedStyle(heading);
       return [fontFamily.split(",")[0].replaceAll('"', ""), color, String([...document.fonts].some((face) => face.family.includes("Hanken Grotesk") && face.status === "loaded"))];`,
    );
  await page.until(async () => (await heading())[2] === "true", "the font did not come");
  const [family, color] = await heading();
  expect(family).toBe("Hanken Grotesk");
  const html = await (await fetch(`${program.address}/campaigns/${campaign}/export/html`)).text();
  const [, file] =
    /@font-face\{font-family:"Hanken Grotesk";src:url\([^)]*\/fonts\/(own-[0-9a-f]{16}\.woff2)\)/.exec(
      html,
    ) ?? [];
  const served = await fetch(`${program.address}/fonts/${file}`);
  expect(served.headers.get("access-control-allow-origin")).toBe("*");
  expect(Buffer.from(await served.arrayBuffer())).toEqual(readFileSync(font));
  expect(html).toContain('mso-font-alt:"Arial"');
  expect(color).not.toBe("");
  await page.press("Add");
  await page.press("Social links");
  await page.saved();
  const social = blocksOf(await designOf(program, campaign)).find(({ type }) => type === "social");
  expect(JSON.stringify(social)).toMatch(
    /"label":"Pictures"[^}]*"picture":"\/pictures\/|"picture":"\/pictures\/[^}]*"label":"Pictures"/,
  );
});

test("the logo is another on dark grounds and where it is small; a footer takes its words from the brand", async () => {
  await page.open("/brand");
  const mark = await sharp({ create: { width: 64, height: 64, channels: 3, background: "#AA5500" } })
    .png()
    .toBuffer();
  await give("[aria-label='Upload: Small']", "leaf.png", mark);
  await page.until(
    async () => (await page.words("section[aria-label=Logos]")).includes("leaf.png"),
    "the small logo was not taken",
  );
  await give("[aria-label='Upload: Small']", "words.png", "no picture at all");
  await page.sees("“words.png” is not a picture that can be read");
  await page.press("Save");
  await page.sees("Saved");
  await startFrom(page, program, "Card", "With logos");
  await page.press("Logo");
  const logo = () =>
    canvas("[...root.querySelectorAll('img')].find((one) => one.alt === 'Tansy Row')?.src ?? ''");
  await page.until(async () => (await logo()) !== "", "there is no logo");
  const dark = await logo();
  await page.fill("Width", "40");
  await page.keys(Key.ENTER);
  await page.until(
    async () =>
      (await canvas<number>(
        "[...root.querySelectorAll('img')].find((one) => one.alt === 'Tansy Row')?.width",
      )) === 40,
    "it is not small",
  );
  // The same one, as wide as it is needed now.
  expect((await logo()).replace(/\/\d+$/, "")).toBe(dark);
  await page.run("document.querySelector('nav[aria-label^=\"Path\"] button').click()");
  await page.press("Harbour");
  await page.until(async () => !(await logo()).startsWith(dark), "it is the one for dark grounds still");
  const shown = await sharp(Buffer.from(await (await fetch(await logo())).arrayBuffer()))
    .raw()
    .toBuffer();
  expect([...shown.subarray(0, 3)]).toEqual([0xaa, 0x55, 0x00]);
  await page.clickAt(await page.onCanvas("You get this because"));
  await page.choose("Words", "Workshops");
  await page.until(
    async () => (await page.canvasWords()).includes("because you came to a workshop of ours"),
    "the footer has not taken the words",
  );
});

test("the shelf of clippings: nothing at first, brought in, labelled, found, deleted and back; a server that is away is named", async () => {
  await startFrom(page, program, "A plain letter", "Shelves");
  await (await page.named("Clippings", "[role=tab]")).click();
  await page.sees("What you keep will be here");
  await give("section[aria-label='Your clippings'] input[type=file]", "wrong.json", "{}");
  await page.sees("“wrong.json” cannot be brought in");
  const first = await page.run<string>(
    "return document.querySelector(\"section[aria-label='Ready-made clippings'] [data-thing]\").dataset.thing",
  );
  const { CLIPPINGS } = await import("~/core/templates");
  const { id } = CLIPPINGS.find(({ name }) => name === first)!;
  const file = await (await fetch(`${program.address}/clippings/${id}/file`)).text();
  await give("section[aria-label='Your clippings'] input[type=file]", "one.json", file);
  await page.sees("The clipping was brought in");
  const own = () => page.words("section[aria-label='Your clippings']");
  await page.until(async () => (await own()).includes(first), "it is not on the shelf");
  await page.press(`More for ${first}`);
  await page.press("Name and labels");
  await page.fill("Name", "Opening of ours");
  await page.fill("Labels", "quarterly, short");
  await page.press("Keep");
  await page.until(async () => (await own()).includes("Opening of ours"), "it has no new name");
  expect(await own()).toContain("quarterly");
  await page.fill("Find a clipping", "quarterly");
  await page.until(
    async () => (await page.words("section[aria-label='Ready-made clippings']")).includes("None of them"),
    "others are found by its label",
  );
  expect(await own()).toContain("Opening of ours");
  await page.fill("Find a clipping", "");
  await page.press("More for Opening of ours");
  await page.press("Where it is linked");
  await page.sees("Opening of ours", "[role=dialog]");
  await page.keys(Key.ESCAPE);
  await page.press("More for Opening of ours");
  await page.press("Delete");
  await page.until(async () => !(await own()).includes("Opening of ours"), "it is still there");
  // The notice's, not the composer's.
  await page.run(
    "[...document.querySelectorAll('button')].find((one) => one.textContent.trim() === 'Undo').click()",
  );
  await page.until(async () => (await own()).includes("Opening of ours"), "it did not come back");
  await page.run("window.fetch = () => Promise.reject(new TypeError('away'))");
  await page.press("More for Opening of ours");
  await page.press("Delete");
  await page.sees("Septima cannot be reached");
  expect(await own()).toContain("Opening of ours");
});

test("a theme goes out as a file and comes back; a mark on a template is taken back", async () => {
  await startFrom(page, program, "Thank you", "Out and in");
  await page.press("Change this theme");
  await page.fill("Name of the theme", "Sent by hand");
  const paper = await page.named("Paper");
  await paper.sendKeys(Key.chord(Key.CONTROL, "a"), "#EFE7FF", Key.ENTER);
  const link = await page.find("a[aria-label='Keep it as a file']");
  await page.until(
    async () => decodeURIComponent((await link.getAttribute("href")) ?? "").includes("#EFE7FF"),
    "the file has not the change",
  );
  const json = decodeURIComponent(((await link.getAttribute("href")) ?? "").split(",").slice(1).join(","));
  await page.press("Leave the theme as it was");
  await give("[data-testid=panel] input[type=file]", "bad.theme.json", "[]");
  await page.sees("is not a theme that was kept as a file here");
  await give("[data-testid=panel] input[type=file]", "good.theme.json", json);
  await page.sees("A theme of your own");
  await page.until(
    async () => (await canvas("root.innerHTML")).includes("#EFE7FF"),
    "the email does not show it",
  );
  await page.press("Save the theme");
  await page.sees("“Sent by hand” is kept");
  await page.saved();

  await page.open("/templates");
  await page.press("Favourite Card");
  const marked = async () => (await fetch(`${program.address}/templates?shelf=favourite`)).text();
  await page.until(async () => /\b1(<!-- -->)? of /.test(await marked()), "the mark is not kept");
  await page.open("/templates?shelf=favourite");
  await page.sees("1 of 29");
  await page.press("Favourite Card");
  await page.sees("Your favourites will be here");
});
