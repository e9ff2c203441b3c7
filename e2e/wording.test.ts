/** Wording that differs from reader to reader, made where it stands, and what each reader gets of it. */
import { afterAll, afterEach, beforeAll, expect, test } from "vitest";
import { Key, keepFailure, openBrowser, type Page } from "./browser";
import { campaignNamed, designOf } from "./campaigns";
import { type Program, startProgram } from "./program";

let program: Program;
let page: Page;
let campaign: string;

beforeAll(async () => {
  program = await startProgram();
  page = await openBrowser(program.address);
  campaign = await campaignNamed(program, "What to sow now");
});
afterAll(async () => {
  await page?.driver.quit();
  await program?.stop();
});
afterEach(({ task }) => keepFailure(page, task));

const opened = () =>
  page.run<number>("return document.querySelectorAll('[aria-label=\"Either/or\"][role=dialog]').length");

/** Types an either/or where the cursor stands, and waits until it is open. */
async function insert(): Promise<void> {
  const before = await opened();
  await page.keys(" @either");
  await page.until(
    async () => (await page.words("[role=listbox] [aria-selected=true]")).startsWith("Either/or"),
    "either/or is not offered",
  );
  await page.keys(Key.ENTER);
  await page.until(async () => (await opened()) === before + 1, "it did not open");
}

/** Writes the words of a case of the one that was opened last. */
async function write(label: string, words: string): Promise<void> {
  const fields = async () => page.driver.findElements({ css: `[aria-label="${label}"][role=textbox]` });
  await page.until(async () => (await fields()).length > 0, `there is no “${label}”`);
  await (await fields()).at(-1)!.click();
  await page.keys(words);
}

/** Says whom the first case is for. */
async function forZone(zone: string): Promise<void> {
  await page.run("[...document.querySelectorAll('[role=dialog] button[aria-expanded=false]')][0].click()");
  await page.choose("What is looked at", "Growing zone");
  await page.choose("Value", zone);
  await page.sees(`Readers whose growing zone is ${zone}`, "[role=dialog]");
  await page.press("Done");
}

async function close(): Promise<void> {
  const before = await opened();
  await page.keys(Key.ESCAPE);
  await page.until(async () => (await opened()) < before, "it did not close");
}

test("an either/or in a sentence and one in the subject: each edition reads its own words", async () => {
  const eithers = (it: unknown) => JSON.stringify(it).split('"type":"either"').length - 1;
  const before = await designOf(program, campaign);
  await page.open(`/campaigns/${campaign}/compose`);
  await page.sees("Reading as");
  const place = await page.onCanvas("Hold your beans");
  await page.clickAt(place);
  await page.clickAt(place);
  await page.until(
    () =>
      page.run<boolean>(
        "return !!document.querySelector('[data-testid=canvas]').shadowRoot.querySelector('.ProseMirror')",
      ),
    "no editor",
  );
  await page.keys(Key.END);
  await insert();
  await forZone("Cool");
  await write("Words of case 1", "Wait a while.");
  await write("Words for everybody else", "Go on");
  // Whichever of them this reader gets, it says why.
  expect(await page.words("[data-testid=here]")).toMatch(/^This reader, because .*zone.* (cool|mild|warm)/i);
  // The cases share out the readers of the campaign, and each shows somebody who gets it.
  const numbers = (text: string, of: RegExp) =>
    [...text.matchAll(of)].map(([, said]) => Number(said.replaceAll(",", "")));
  await page.until(async () => {
    const [all] = numbers(await page.words("[aria-label=Reader]"), /of ([\d,]+) readers/g);
    const cases = numbers(await page.words('[aria-label="Either/or"]'), /([\d,]+) readers/g);
    return cases.length === 2 && cases[0] + cases[1] === all;
  }, "the cases do not share out the readers");
  const first = await page.words("[data-testid=here]");
  const others = first.includes("Cool") ? "everybody else" : "case 1";
  await page.press(`See a reader of ${others}`);
  await page.until(
    async () => (await page.words("[data-testid=here]")).includes("Cool") === (others === "case 1"),
    "it shows nobody who gets the other",
  );
  expect(await page.run("return document.activeElement.getAttribute('role')")).toBe("textbox");
  await write("Words for everybody else", Key.END);
  // One within the other.
  await insert();
  await write("Words of case 1", "with a name");
  await close();
  await close();
  await page.saved();

  await page.press("Subject");
  await page.keys(Key.END);
  await insert();
  await forZone("Cool");
  await write("Words of case 1", "in a while");
  await write("Words for everybody else", "at once");
  await close();
  await page.saved();

  const design = await designOf(program, campaign);
  expect(eithers(design.envelope.subject)).toBe(eithers(before.envelope.subject) + 1);
  expect(eithers(design.sections)).toBe(eithers(before.sections) + 2);

  const zones = new Set<string>();
  for (let step = 0; step < 8 && zones.size < 2; step++) {
    const reader = await page.words("[aria-label=Reader]");
    const cool = reader.includes("cool zone");
    zones.add(String(cool));
    await page.until(
      async () => (await page.canvasWords()).includes(cool ? "Wait a while." : "Go on with a name"),
      `the canvas says something else to ${reader}`,
    );
    expect(await page.canvasWords()).not.toContain(cool ? "Go on" : "Wait a while.");
    await page.until(
      async () => (await (await page.named("Subject")).getText()).includes(cool ? "in a while" : "at once"),
      `the subject says something else to ${reader}`,
    );
    const before = await page.words("[data-testid=edition]");
    await page.press("Next edition");
    await page.until(async () => (await page.words("[data-testid=edition]")) !== before, "no next edition");
  }
  expect(zones.size).toBe(2);
});

test("why a reader gets a part, and why another does not", async () => {
  await page.open(`/campaigns/${campaign}/compose`);
  await page.sees("readers get this one");
  const place = await page.onCanvas("zone");
  await page.clickAt(place);
  await page.sees("gets it, because growing zone is", "[data-testid=why]");
  const reader = await page.words("[aria-label=Reader]");
  const zone = /(cool|mild|warm) zone/.exec(reader)![1];
  expect(await page.words("[data-testid=why]")).toContain(
    `growing zone is ${zone[0].toUpperCase()}${zone.slice(1)}`,
  );
  // Who is in another zone does not get this part.
  for (let step = 0; step < 8 && !(await page.words("[data-testid=why]")).includes("does not"); step++) {
    const before = await page.words("[data-testid=edition]");
    await page.press("Next edition");
    await page.until(async () => (await page.words("[data-testid=edition]")) !== before, "no next edition");
  }
  await page.sees("does not get it, because growing zone is", "[data-testid=why]");
});
