/** What depends on the reader and is written once: lookups in words, links and as the sender; codes from a file. */
import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, afterEach, beforeAll, expect, test } from "vitest";
import { By, Key, keepFailure, openBrowser, type Page } from "./browser";
import { designOf, eventually, sendToLetter, startBlank } from "./campaigns";
import { download, mailboxOf, unfilled } from "./postroom";
import { FEW, type Program, startProgram } from "./program";

let program: Program;
let page: Page;
let campaign: string;
let folder: string;

beforeAll(async () => {
  program = await startProgram({ contacts: FEW });
  page = await openBrowser(program.address);
  folder = await mkdtemp(path.join(tmpdir(), "septima-codes-"));
});
afterAll(async () => {
  await page?.driver.quit();
  await program?.stop();
  await rm(folder, { recursive: true, force: true });
});
afterEach(({ task }) => keepFailure(page, task));

/** Fills a field of one of a lookup's values, counted from 0. */
async function fillValue(at: number, label: string, words: string): Promise<void> {
  const labels = By.xpath(`//main//label[normalize-space(.)=${JSON.stringify(label)}]`);
  const id = String(await (await page.driver.findElements(labels))[at].getAttribute("for"));
  await page.driver.findElement(By.id(id)).sendKeys(words);
}

test("a lookup is made: a person for one branch, somebody else for all others", async () => {
  await page.open("/lookups");
  await page.press("Lookup");
  await page.find("section[aria-label='New lookup']");
  await page.fill("Name", "Letter writer");
  await page.press("A person");
  await page.press("Case");
  await page.choose("What is looked at", "Branch");
  await page.choose("Value", "Marl Bay");
  await page.sees("Readers whose branch is Marl Bay");
  await page.press("Done");
  // The first label of the name is that of the lookup itself.
  await fillValue(1, "Name", "Idris Okafor");
  await fillValue(0, "Address", "idris@tansyrow.example");
  await fillValue(2, "Name", "Everyone’s {$nobody");
  await fillValue(1, "Address", "letters@tansyrow.example");
  await page.sees("The tag has no end");
  await page.press("Save the lookup");
  await page.sees("Everybody else, name: The tag has no end");
  const labels = By.xpath("//main//label[normalize-space(.)='Name']");
  const id = String(await (await page.driver.findElements(labels))[2].getAttribute("for"));
  const field = await page.driver.findElement(By.id(id));
  await field.sendKeys(Key.chord(Key.CONTROL, "a"), Key.BACK_SPACE);
  await field.sendKeys("Tansy Row");
  await page.press("Save the lookup");
  await page.sees("“Letter writer” is saved.");
});

test("a batch of codes comes from a file; lines that hold none are named", async () => {
  const codes = Array.from({ length: FEW + 50 }, (_, at) => `"LEAF-${1000 + at}"`);
  const file = path.join(folder, "codes.csv");
  await writeFile(file, `Code\r\n${codes.join("\r\n")}\r\ntwo,columns\r\n`);
  await page.open("/sources");
  await page.press("Batch");
  await page.fill("Name", "Leaf codes");
  await page.driver.findElement(By.css("[role=dialog] input[type=file]")).sendKeys(file);
  await page.sees(`${FEW + 50} codes`);
  await page.sees(`Line ${FEW + 52}, “two,columns”: more than one column`);
  await page.press("Make the batch");
  await page.sees(`${FEW + 50} of ${FEW + 50} codes left`);
});

test("in a design they are words, a link and the sender, seen as the reader on the canvas gets them", async () => {
  campaign = await startBlank(page, program, "A letter", "Leaf letter");
  await page.choose("Sender", "Letter writer");
  const subject = await page.named("Subject");
  await subject.click();
  await page.typeTag("A code for you from ", "Letter writer");
  await page.saved();
  const design = await designOf(program, campaign);
  expect(design.envelope.sender).toMatchObject({ address: "{$lookup.letter_writer.address}" });
  const writers = /from (Idris Okafor|Tansy Row)/;
  await page.until(async () => writers.test(await (await page.named("Subject")).getText()), "no writer");

  const button = await page.onCanvas("Read more");
  await page.clickAt(button);
  await page.fill("Leads to", "https://tansyrow.example/shop?code=");
  await page.press("Put in reader data");
  await page.fill("Search reader data", "Leaf");
  await (await page.driver.findElement(By.css("[role=menuitem]"))).click();
  await page.saved();
  expect(JSON.stringify(await designOf(program, campaign))).toContain("/shop?code={$code.leaf_codes}");
});

test("each reader gets a code of their own, from whoever writes to them", async () => {
  const readers = await sendToLetter(page, program, campaign);
  const mails = await eventually("everybody has it", async () => {
    const found = await mailboxOf(program, "A code for you");
    return found.length === readers && found;
  });
  const codes = new Set<string>();
  const writers = new Set<string>();
  for (const listed of mails) {
    const mail = await download(program, listed);
    expect(unfilled(mail)).toEqual([]);
    const from = mail.from?.value[0];
    const idris = mail.subject === "A code for you from Idris Okafor";
    expect(from?.address).toBe(idris ? "idris@tansyrow.example" : "letters@tansyrow.example");
    expect(from?.name).toBe(idris ? "Idris Okafor" : "Tansy Row");
    writers.add(String(from?.name));
    // The link leads over an address of its own, in both parts.
    const counted = [...`${mail.html}`.matchAll(/href="([^"]+\/c\/[\w-]+)"/g)].map(([, href]) => href);
    const led = await Promise.all(
      counted.map(async (href) => (await fetch(href, { redirect: "manual" })).headers.get("location")),
    );
    const at = led.findIndex((to) => to?.includes("shop?code="));
    const [, code = ""] = /shop\?code=(LEAF-\d+)$/.exec(led[at] ?? "") ?? [];
    expect(mail.text).toContain(counted[at]);
    codes.add(code);
  }
  expect(codes.size).toBe(readers);
  expect(codes.has("")).toBe(false);
  expect(writers.size).toBe(2);
  await page.open("/sources?codes=leaf_codes");
  await page.sees(`${FEW + 50 - readers} of ${FEW + 50} codes left`);
});

test("who removes a lookup is asked, with the number and the names of what uses it", async () => {
  await page.open("/lookups");
  await page.press("Remove “Letter writer”");
  await page.sees("uses it", "[role=dialog] [data-testid=uses]");
  await page.sees("stop a sending", "[role=dialog]");
  await page.press("Keep it");
  await page.sees("Letter writer", "main ul");
  await page.press("Remove “Letter writer”");
  await page.press("Remove it");
  await page.sees("“Letter writer” was removed.");
  await page.press("Undo");
  await page.sees("“Letter writer” is saved.");
});
