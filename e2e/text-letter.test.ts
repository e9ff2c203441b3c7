/** A letter in text only, from its first word to what each reader got. */
import { simpleParser } from "mailparser";
import { afterAll, afterEach, beforeAll, expect, test } from "vitest";
import { By, Key, keepFailure, openBrowser, type Page } from "./browser";
import { chooseStart } from "./campaigns";
import { download, mailboxOf } from "./postroom";
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

const shown = () => page.words("[data-testid=text-part]");
const LONG =
  "the ground is still warm, and whoever sows broad beans this week will pick them three weeks before everybody else in the street does.";

test("is written in a plain editor with reader data, and seen as it is sent, wrapped", async () => {
  await chooseStart(page, "Text only", "A word in plain text");
  await page.press("Start composing");
  const editor = await page.find("[aria-label='The letter']");
  await page.click("[aria-label='Subject']");
  await page.driver.actions().sendKeys("Beans, now").perform();
  await editor.click();
  await page.driver.actions().sendKeys("Dear @first").perform();
  await page.until(
    async () => (await page.driver.findElements(By.css("[role=listbox] [role=option]"))).length > 0,
    "no reader data was offered",
  );
  await page.driver.actions().sendKeys(Key.ENTER).perform();
  await page.driver.actions().sendKeys(",", Key.ENTER, LONG).perform();
  const reader = (await page.words("[aria-label=Reader] button")).split(/\s/)[0];
  await page.until(
    async () => (await shown()).includes(`Dear ${reader},\n\nthe ground`),
    "the reader’s name is not there",
  );
  for (const line of (await shown()).split("\n"))
    if (!line.includes("http")) expect(line.length).toBeLessThanOrEqual(76);
  await page.fill("Wrapped at", "40");
  await page.until(
    async () => (await shown()).split("\n").every((line) => line.length <= 40 || line.includes("http")),
    "it is not wrapped anew",
  );
  await page.press("Previous edition").catch(() => undefined);
  await page.driver.actions().keyDown(Key.CONTROL).sendKeys("z").keyUp(Key.CONTROL).perform();
  await page.saved();
  expect(await page.driver.findElements(By.css("[data-testid=canvas]"))).toHaveLength(0);
});

test("goes out as text and nothing else: to a proof, and to each reader with their own words", async () => {
  await page.press("Proof");
  await page.fill("To", "hanna@tansyrow.example");
  await page.press("Send the proof");
  await page.sees("Sent to");
  const [proof] = await mailboxOf(program, "Proof: Beans, now");
  const first = await download(program, proof);
  expect([first.html, first.text?.startsWith("Proof, as ")]).toEqual([false, true]);

  await page.press("Readers");
  await page.choose("Add readers", "Seed club");
  await page.sees("Each address once.");
  await page.press("On to sending");
  const button = await page.find("main button[class*=bg-mulberry]");
  await page.until(async () => (await button.getText()).startsWith("Send to"), "the readers are not counted");
  const readers = Number(/Send to ([\d,]+) readers/.exec(await button.getText())?.[1].replace(",", ""));
  expect(readers).toBeGreaterThan(10);
  await button.click();
  await page.find("[role=dialog] button[class*=bg-mulberry]").then((confirm) => confirm.click());
  await page.until(
    async () => (await page.words("main")).includes(`Sent to ${readers} readers`),
    "it was not sent",
    60_000,
  );
  const all = (await mailboxOf(program, "Beans, now")).filter(({ subject }) => !subject.startsWith("Proof"));
  expect(all).toHaveLength(readers);
  const greetings = new Set<string>();
  for (const message of all.slice(0, 10)) {
    const source = await (
      await fetch(`${program.address}/postroom/${message.id}/source/${message.id}.eml`)
    ).text();
    expect(source).toMatch(/^Content-Type: text\/plain; charset=utf-8\r?$/m);
    expect(source).not.toMatch(/multipart|text\/html|<table|<\/p>/);
    for (const line of source.split(/\r?\n/)) expect(line.length).toBeLessThanOrEqual(998);
    const mail = await simpleParser(source, { skipTextToHtml: true });
    const text = mail.text ?? "";
    expect(mail.html).toBe(false);
    expect(text.replace(/\s+/g, " ")).toContain(LONG);
    const name = message.to.includes("<") ? "" : message.to;
    greetings.add(/^Dear ?([^,\n]*)/m.exec(text)?.[1] ?? name);
    expect(text).toMatch(/Unsubscribe[\s\S]*https?:\/\/\S+\/unsubscribe\//);
    expect(text).not.toMatch(/first_name|undefined|null|\{\{/);
    expect(mail.headers.get("list")).toBeDefined();
  }
  expect(greetings.size).toBeGreaterThan(3);
});
