/** One design in several languages: side by side, on the canvas, out to translators and back, and to each reader theirs. */
import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, afterEach, beforeAll, expect, test } from "vitest";
import type { Inline, Translations } from "~/core/email";
import { blocksOf, inlineText } from "~/core/email";
import { By, Key, keepFailure, openBrowser, type Page } from "./browser";
import { chooseReaders, designOf, eventually, sendNow, startBlank } from "./campaigns";
import { download, mailboxOf } from "./postroom";
import { FEW, type Program, startProgram } from "./program";

let program: Program;
let page: Page;
let campaign: string;
let folder: string;

beforeAll(async () => {
  program = await startProgram({ contacts: FEW });
  page = await openBrowser(program.address);
  folder = await mkdtemp(path.join(tmpdir(), "septima-words-"));
});
afterAll(async () => {
  await page?.driver.quit();
  await program?.stop();
  await rm(folder, { recursive: true, force: true });
});
afterEach(({ task }) => keepFailure(page, task));

const openLanguages = async () => {
  await page.press("More");
  await page.press("Languages");
  await page.sees("The design itself is in");
};
/** Writes into the place of a unit, as `[data-unit]` names it. */
async function write(unit: string, words: string, box = "[role=textbox]"): Promise<void> {
  const field = await page.find(`[data-unit="${unit}"] ${box}`);
  await field.click();
  await page.keys(words);
}
const stateOf = (unit: string) =>
  page.run<string>(
    "return [...document.querySelectorAll('[data-unit]')].find((row) => row.dataset.unit === arguments[0])?.dataset.state",
    unit,
  );
const heading = async () => {
  const block = blocksOf(await designOf(program, campaign)).find(({ type }) => type === "heading")!;
  const there = (block.translations as Translations | undefined)?.de?.content?.value as Inline[] | undefined;
  return { id: block.id, own: inlineText(block.content as Inline[]), de: there && inlineText(there) };
};
/** Reads as somebody who gets the email in a language. */
async function readIn(language: string): Promise<void> {
  for (let edition = 0; edition < 60; edition++) {
    if ((await page.words("[data-testid=spoken]")).startsWith(language)) return;
    const at = await page.words("[data-testid=edition]");
    await page.press("Next edition");
    await page.until(async () => (await page.words("[data-testid=edition]")) !== at, "no other edition");
  }
  throw new Error(`no edition is in ${language}`);
}

test("a language is added and written side by side; what is missing is counted down", async () => {
  campaign = await startBlank(page, program, "A letter", "Leaf news");
  await chooseReaders(page, campaign, "Monthly letter");
  await page.open(`/campaigns/${campaign}/compose`);
  await page.press("Subject");
  await page.keys("Leaf news of the month");
  await page.clickAt(await page.onCanvas("Read more"));
  await page.fill("Leads to", "https://tansyrow.example/leaf");
  await page.saved();
  await openLanguages();
  await page.choose("Add a language", "German");
  await page.sees("Remove German");
  const missing = Number(/Missing (\d+)/.exec(await page.words("[role=dialog]"))?.[1]);
  expect(missing).toBeGreaterThan(4);
  await write("envelope subject", "Blattwerk des Monats");
  await page.until(async () => (await stateOf("envelope subject")) === "done", "the subject is not done");
  const { id } = await heading();
  await write(`${id} content`, "Guten Tag");
  await page.sees(`Missing ${missing - 2}`);
  const footer = blocksOf(await designOf(program, campaign)).find(({ type }) => type === "footer")!;
  await write(`${footer.id} unsubscribeWords`, "Abmelden", "input");
  await page.sees(`Missing ${missing - 3}`);
  await page.press("Close");
  await page.saved();
  expect(await heading()).toMatchObject({ de: "Guten Tag" });
});

test("on the canvas a reader's language is shown, and what is written there is that language's", async () => {
  await page.until(async () => /of \d\d*/.test(await page.words("[data-testid=edition]")), "no editions");
  await readIn("German");
  const before = await heading();
  const at = await page.onCanvas("Guten Tag");
  await page.until(
    async () => (await (await page.named("Subject")).getText()) === "Blattwerk des Monats",
    "no German subject",
  );
  await page.clickAt(at);
  await page.driver.actions().move(at).doubleClick().perform();
  await page.keys(Key.END, " zusammen");
  await page.keys(Key.ESCAPE);
  await page.saved();
  expect(await heading()).toEqual({ ...before, de: "Guten Tag zusammen" });
  await page.sees("Words written on the canvas are the German ones");
  await readIn("English");
  await page.onCanvas(before.own);
});

test("once the design says something else its translation is outdated, until somebody says it is right", async () => {
  const { own, id } = await heading();
  const at = await page.onCanvas(own);
  await page.clickAt(at);
  await page.driver.actions().move(at).doubleClick().perform();
  await page.keys(Key.END, " again", Key.ESCAPE);
  await page.saved();
  await openLanguages();
  await page.press("Outdated 1");
  await page.sees("English changed:");
  expect(await stateOf(`${id} content`)).toBe("outdated");
  await page.press("It is still right");
  await page.sees("Outdated 0");
  await page.saved();
  expect(await stateOf(`${id} content`)).toBe("done");
});

test("out to translators and back: a script of another make changes one text, and only that changes", async () => {
  const before = JSON.stringify(await designOf(program, campaign));
  await page.run(
    "const make = URL.createObjectURL; URL.createObjectURL = (blob) => { window.taken = blob; return make.call(URL, blob); };",
  );
  await page.press("For translators");
  // The browser's own reader and writer of XML stand for the translator's tool.
  const changed = await page.run<string>(
    `const file = new DOMParser().parseFromString(await window.taken.text(), "application/xml");
     if (file.querySelector("parsererror")) throw new Error(file.documentElement.textContent);
     const segment = [...file.querySelectorAll("unit")].find((unit) => unit.id === "envelope:subject").querySelector("segment");
     segment.querySelector("target").textContent = "Laub & Blatt <des Monats>";
     segment.setAttribute("state", "final");
     return new XMLSerializer().serializeToString(file);`,
  );
  const file = path.join(folder, "back.xlf");
  await writeFile(file, changed);
  await (await page.driver.findElement(By.css("input[aria-label='Bring back']"))).sendKeys(file);
  await page.sees("German: 1 text changed");
  await page.press("Close");
  await page.until(
    async () => (await page.driver.findElements(By.css("[role=dialog]"))).length === 1,
    "it stays",
  );
  await page.press("Close");
  await page.saved();
  const after = JSON.stringify(await designOf(program, campaign));
  expect(after).toBe(before.replace("Blattwerk des Monats", "Laub & Blatt <des Monats>"));

  await writeFile(file, "<xliff version='1.2'></xliff>");
  await openLanguages();
  await (await page.driver.findElement(By.css("input[aria-label='Bring back']"))).sendKeys(file);
  await page.sees("The file is XLIFF 1.2. Have it saved as XLIFF 2.0 or 2.1.");
  await page.press("Close");
});

test("each reader gets it in their language, and what nobody translated in the design's", async () => {
  const { own, de } = await heading();
  const readers = await sendNow(program, campaign);
  const mails = await eventually("everybody has it", async () => {
    const german = await mailboxOf(program, "Laub & Blatt");
    const english = await mailboxOf(program, "Leaf news of the month");
    return german.length + english.length === readers && { german, english };
  });
  expect(mails.german.length).toBeGreaterThan(3);
  expect(mails.english.length).toBeGreaterThan(mails.german.length);
  for (const listed of mails.german.slice(0, 8)) {
    const mail = await download(program, listed);
    expect(mail.html).toContain('<html lang="de"');
    expect(mail.text).toContain(de);
    expect(mail.text).toContain("Abmelden");
  }
  for (const listed of mails.english.slice(0, 8)) {
    const mail = await download(program, listed);
    expect(mail.html).toContain('<html lang="en"');
    expect(mail.text).toContain(own);
    expect(mail.text).toContain("Unsubscribe");
  }
});
