/** Contacts in the running program: the page of each, and the audience as a file. */
import { afterAll, afterEach, beforeAll, beforeEach, expect, test } from "vitest";
import { Key, keepFailure, openBrowser, type Page } from "./browser";
import { type Program, startProgram } from "./program";

let program: Program;
let page: Page;
beforeAll(async () => {
  program = await startProgram({ contacts: 300 });
});
afterAll(() => program?.stop());
beforeEach(async () => {
  page = await openBrowser(program.address);
});
afterEach(async ({ task }) => {
  await keepFailure(page, task);
  await page.driver.quit();
});

const csv = async (query = "") => {
  const answer = await fetch(`${program.address}/audience/export/contacts.csv${query}`);
  expect(answer.headers.get("content-disposition")).toContain("contacts.csv");
  return Buffer.from(await answer.arrayBuffer()).toString("utf8");
};

test("a contact’s page shows what is known, was sent and would be; each field is changed by its kind", async () => {
  await page.open("/audience?q=ines");
  await page.press("Ines Calder");
  await page.sees("Subscribed");
  await page.sees("Got", "section[aria-label=History]");
  await page.sees("What to sow now", "section[aria-label='What they would get']");
  await page.fill("First name", "=Inès");
  await page.choose("Growing zone", "Warm");
  await page.fill("Orders", "41");
  const born = await page.named("Birthday");
  await born.sendKeys(Key.chord(Key.CONTROL, "a"), "29.2.1988", Key.TAB);
  await page.press("Seed club");
  await page.press("Save");
  await page.sees("Saved");
  await page.driver.navigate().refresh();
  expect(await (await page.named("First name")).getAttribute("value")).toBe("=Inès");
  expect(await (await page.named("Birthday")).getAttribute("value")).toContain("29 Feb 1988");
  await page.fill("Address", "nobody");
  await page.press("Save");
  await page.sees("“nobody” is not an address");
  // What a spreadsheet would run is words in the file.
  const file = await csv();
  expect(file).toMatch(/'=Inès,Calder/);
  await page.open("/audience/999999");
  await page.sees("This contact does not exist any more");
});

test("the audience, a list and a segment are taken out as a file, with everybody in it once", async () => {
  const records = async (query?: string) => (await csv(query)).trimEnd().split("\r\n");
  const all = await records();
  expect(all).toHaveLength(301);
  expect(all[0]).toMatch(/^\ufeffEmail address,First name,Last name,.*,Lists,Status$/);
  expect(new Set(all.slice(1).map((line) => line.split(",")[0])).size).toBe(300);
  expect(all.filter((line) => line.endsWith(",unsubscribed")).length).toBeGreaterThan(0);
  const club = await records("?kind=list&id=seed-club");
  expect(club.length).toBeGreaterThan(1);
  for (const line of club.slice(1)) expect(line).toContain("Seed club");
  const members = await records("?kind=segment&id=members");
  expect(members.length).toBeGreaterThan(1);
  expect(members.length).toBeLessThan(all.length);
  for (const group of ["kind=list&id=seed-club", "kind=segment&id=members"]) {
    await page.open(`/audience?${group}`);
    expect(await (await page.named("CSV")).getAttribute("href")).toContain(`contacts.csv?${group}`);
  }
  expect((await fetch(`${program.address}/audience/export/contacts.csv?kind=segment&id=gone`)).status).toBe(
    400,
  );
});
