/** All editions of a campaign: how many there are, what makes them, who gets each and what two differ in. */
import { afterAll, afterEach, beforeAll, expect, test } from "vitest";
import { By, keepFailure, openBrowser, type Page } from "./browser";
import { campaignNamed } from "./campaigns";
import { type Program, startProgram } from "./program";

let program: Program;
let page: Page;

beforeAll(async () => {
  program = await startProgram();
  page = await openBrowser(program.address);
});
afterAll(async () => {
  await page?.driver.quit();
  await program?.stop();
});
afterEach(({ task }) => keepFailure(page, task));

const number = (text: string | undefined) => Number(String(text).replaceAll(",", ""));
/** How many readers each edition has that is shown, in order. */
const cards = () =>
  page.run<number[]>(
    "return [...document.querySelectorAll('main [data-edition]')].map((card) => Number(card.dataset.count))",
  );
const press = async (edition: number) => page.click(`[data-edition="${edition}"]`);

test("from the reader bar to all editions: every reader is in one of them", async () => {
  const campaign = await campaignNamed(program, "What to sow now");
  await page.open(`/campaigns/${campaign}/compose`);
  await page.sees("readers get this one");
  await page.click("[data-testid=edition]");
  await page.sees("What splits them");
  // One of its batches has too few codes, which no count of editions may hide.
  await page.sees("are missing");
  await page.sees("The editions here are as if there were enough");
  const [, editions, readers] = /([\d,]+) editions for ([\d,]+) readers/.exec(await page.words("h1")) ?? [];
  // So many are drawn at once; the rest come when they are asked for.
  while ((await page.words("main")).includes("Show ")) {
    const drawn = (await cards()).length;
    await (await page.driver.findElement(By.xpath("//main//button[starts-with(., 'Show ')]"))).click();
    await page.until(async () => (await cards()).length > drawn, "no more of them");
  }
  const counts = await cards();
  expect(counts).toHaveLength(number(editions));
  expect(counts.reduce((sum, one) => sum + one, 0)).toBe(number(readers));
  expect(counts).toEqual([...counts].sort((a, b) => b - a));
});

test("one edition says what makes it and names its readers; two are compared part by part", async () => {
  const [count] = await cards();
  await press(1);
  await page.sees("Made by");
  await page.sees("Its readers");
  await page.sees(`and ${(count - 100).toLocaleString("en")} more`);
  await press(2);
  await page.sees("1 and 2 differ in 3 places");
  // Who is in another zone gets another advice, and neither gets both.
  const words = await page.words("aside[aria-label='Chosen editions']");
  expect(words.match(/Advice, (cool|mild|warm) zone/g)).toHaveLength(2);
  expect(words.match(/not shown/g)).toHaveLength(2);
  expect(words).toContain("‹first name›");
  await page.press("Read as one of 2");
  await page.sees("Reading as");
  await page.until(
    async () => (await page.words("[data-testid=edition]")).startsWith("Edition 2 of"),
    "another edition",
  );
});

test("editions are found by what makes them", async () => {
  await page.click("[data-testid=edition]");
  await page.sees("What splits them");
  const said = () =>
    page.run<string[]>(
      "return [...document.querySelectorAll('main [data-edition]')].map((card) => card.innerText)",
    );
  for (const what of ["no first name", "French"]) {
    expect((await said()).every((text) => text.includes(what))).toBe(false);
    await page.fill("Search the editions", what);
    await page.until(async () => {
      const found = await said();
      return found.length > 0 && found.every((text) => text.includes(what));
    }, `others are found than those with ${what}`);
  }
});
