/** The audience in the running program: contacts, their table, lists and segments, and all of it as a file. */
import { afterAll, afterEach, beforeAll, beforeEach, expect, test } from "vitest";
import { Key, keepFailure, openBrowser, type Page } from "./browser";
import { type Program, startProgram } from "./program";

let program: Program;
let page: Page;
beforeAll(async () => {
  program = await startProgram();
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

test("the audience, a list and a segment are taken out as a file, with everybody in it once", async () => {
  const records = async (query?: string) => (await csv(query)).trimEnd().split("\r\n");
  const all = await records();
  expect(all).toHaveLength(12_001);
  expect(all[0]).toMatch(/^\ufeffEmail address,First name,Last name,.*,Lists,Status$/);
  expect(new Set(all.slice(1).map((line) => line.split(",")[0])).size).toBe(12_000);
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

const found = () => page.words("[aria-label='Contacts of the group'] [role=status]");
/** The names of the rows in view, from the top. */
const names = () =>
  page.run<string[]>("return [...document.querySelectorAll('[data-row] a')].map((it) => it.textContent)");

test("the table scrolls through everybody, is sorted and sought; what is done to many is taken back", async () => {
  await page.open("/audience");
  await page.until(
    async () => /^12,000 contacts, 11,\d{3} readers among them$/.test(await found()),
    "the table is there",
  );
  await page.run("document.querySelector('[aria-label=Contacts]').scrollTop = 200000");
  await page.until(
    async () =>
      (await names()).length > 10 &&
      (await page.run<number>(
        "return Number(document.querySelector('[data-row] a').closest('[data-row]').dataset.row)",
      )) > 5000,
    "rows far down are drawn",
  );
  await page.press("Name");
  await page.until(async () => (await names())[0]?.startsWith("A") ?? false, "sorted by name");
  await page.press("Name");
  await page.until(async () => !(await names())[0]?.startsWith("A"), "sorted the other way");
  await page.fill("Search contacts", "calder");
  await page.until(async () => /^\d{2,3} contacts(, |$)/.test(await found()), "the search has found some");
  const calders = Number((await found()).split(" ")[0]);
  expect((await names()).every((name) => name.includes("Calder"))).toBe(true);
  await page.press("Mark everybody");
  await page.sees(`${calders} contacts marked`);
  await page.press(`Mark ${(await names())[0]}`);
  await page.sees(`${calders - 1} contacts marked`);
  await page.choose("Add to a list", "Seed club");
  await page.sees("Added to Seed club:");
  const club = async () =>
    (await csv("?kind=list&id=seed-club")).split("\r\n").filter((line) => line.includes(",Calder,")).length;
  expect(await club()).toBeGreaterThanOrEqual(calders - 1);
  await page.press("Undo");
  await page.sees("It is as it was before");
  expect(await club()).toBeLessThan(calders / 2);
});

test("rows are walked, marked and opened by keys", async () => {
  await page.open("/audience");
  await page.until(async () => (await names()).length > 10, "the table is there");
  await page.run("document.querySelector('[data-row=\"0\"] a').focus()");
  for (let step = 0; step < 40; step++) await page.keys(Key.ARROW_DOWN);
  await page.until(
    async () => (await page.run("return document.activeElement.closest('[data-row]')?.dataset.row")) === "40",
    "the focus is on row 40",
  );
  await page.keys(" ");
  await page.sees("1 contact marked");
  const name = await page.run<string>("return document.activeElement.textContent");
  await page.keys(Key.ENTER);
  await page.sees(name, "h1");
});

test("a segment is built by pointer, with behaviour, and says what each line removes", async () => {
  await page.open("/audience");
  await page.press("New segment");
  await page.fill("Name", "Openers who bought seeds");
  await page.choose("What is looked at", "Opened");
  await (await page.named("Times")).sendKeys(Key.chord(Key.CONTROL, "a"), "2", Key.TAB);
  await page.choose("Period", "ever");
  await page.sees("2 campaigns", "section[aria-label='New segment']");
  await page.press("Line");
  await page.until(
    async () => (await page.driver.findElements({ css: "[data-line]" })).length === 2,
    "a second line",
  );
  const lines = await page.driver.findElements({ css: "[data-line] button[aria-label='What is looked at']" });
  await lines[1].click();
  await page.keys("Bought", Key.ENTER);
  await page.choose("Category", "from Seeds");
  await page.sees(
    "Readers who opened at least 2 campaigns and who ordered something from Seeds in the last 90 days",
  );
  await page.until(
    async () =>
      /removes [\d,]+\s*[\d,]+ left[\s\S]*removes [\d,]+\s*[\d,]+ left/.test(
        await page.words("section[aria-label='New segment']"),
      ),
    "each line says what it removes",
  );
  const left = /removes [\d,]+\s*([\d,]+) left\s*$/m.exec(await page.words("[data-line]:last-child"))?.[1];
  await page.press("Save the segment");
  await page.until(
    async () => (await page.words("h2")).includes("Openers who bought seeds"),
    "the segment is shown",
  );
  const side = await page.words("nav[aria-label=Groups] [aria-current=page]");
  expect(side.replace(/\s+/g, " ")).toBe(`Openers who bought seeds ${left}`);
});

test("a segment is built by keys alone", async () => {
  await page.open("/audience");
  await page.until(async () => (await names()).length > 10, "the table is there");
  await (await page.named("New segment")).sendKeys(Key.ENTER);
  await page.named("Name", "section[aria-label='New segment'] input");
  await page.keys("Balcony buyers", Key.TAB, Key.TAB);
  // How the lines are joined, then what is looked at.
  await page.keys(Key.ARROW_DOWN);
  await page.find("[role=listbox]");
  await page.keys("Plot");
  await page.until(
    async () => (await page.words("[role=listbox] [aria-selected=true]")).startsWith("Plot"),
    "the keys are on the plot",
  );
  await page.keys(Key.ENTER);
  await page.until(
    async () => (await page.words("section[aria-label='New segment']")).includes("plot"),
    "the line is about the plot",
  );
  await page.keys(Key.TAB, Key.TAB, Key.ARROW_DOWN, Key.HOME, Key.ENTER);
  await page.sees("Readers whose plot is Balcony");
  await page.until(
    async () => /[\d,]+ readers, such as/.test(await page.words("section[aria-label='New segment']")),
    "they are counted",
  );
  await (await page.named("Save the segment")).sendKeys(Key.ENTER);
  await page.until(async () => (await page.words("h2")).includes("Balcony buyers"), "the segment is kept");
});

test("a list is made, edited and deleted while a draft uses it, and comes back", async () => {
  await page.open("/audience?kind=list&id=letter");
  await page.sees("Used in", "header");
  await page.press("Edit");
  await page.fill("Name", "Garden letter");
  await page.press("Save the list");
  await page.until(async () => (await page.words("h2")).includes("Garden letter"), "it has its new name");
  await page.press("Remove “Garden letter”");
  await page.sees("find nobody on it any more");
  await page.press("Remove it");
  await page.sees("“Garden letter” was removed");
  const draft = async () => {
    const answer = await fetch(`${program.address}/audience/export/contacts.csv?kind=list&id=letter`);
    return (await answer.text()).trimEnd().split("\r\n").length - 1;
  };
  expect(await draft()).toBe(0);
  await page.press("Undo");
  await page.sees("is back");
  expect(await draft()).toBeGreaterThan(5000);
});

test("the zone by which days begin is chosen in Settings, and kept", async () => {
  await page.open("/settings");
  await page.fill("Address", "https://assistant.example/septima");
  await page.choose("Time zone of the workspace", "Pacific/Kiritimati");
  await page.sees("Kept");
  expect(await (await page.named("Address")).getAttribute("value")).toBe("https://assistant.example/septima");
  const there = new Intl.DateTimeFormat("en-GB", { weekday: "long", timeZone: "Pacific/Kiritimati" });
  await page.reload();
  await page.sees(`There it is ${there.format(Date.now())}`, "section[aria-label='Time zone']");
  await page.choose("Time zone of the workspace", "Europe/London");
  await page.sees("Kept");
});

test("a form in a dialog asks before it is closed with something written in it", async () => {
  const gone = (words: string) =>
    page.until(async () => !(await page.words()).includes(words), `“${words}” is still there`);
  await page.open("/audience");
  // Nothing was written: it closes.
  await page.press("New list");
  await page.named("Save the list");
  await page.keys(Key.ESCAPE);
  await gone("Save the list");
  await page.press("New list");
  await page.fill("Name", "Bulbs by po");
  await page.keys(Key.ESCAPE);
  await page.sees("Close without saving?");
  // Escape again goes back to the writing.
  await page.keys(Key.ESCAPE);
  await gone("Close and lose it");
  await page.keys("st");
  expect(await (await page.named("Name")).getAttribute("value")).toBe("Bulbs by post");
  await page.press("Close");
  await page.press("Go on writing");
  await page.press("Close");
  await page.press("Close and lose it");
  await gone("Save the list");
  await page.press("New list");
  expect(await (await page.named("Name")).getAttribute("value")).toBe("");
  await page.fill("Name", "Bulbs by post");
  await page.press("Save the list");
  await page.sees("Bulbs by post", "nav[aria-label=Groups]");
});

test("a contact’s page shows what is known, was sent and would be; each field is changed by its kind", async () => {
  await page.open("/audience");
  await page.press("Ines Calder");
  await page.sees("Subscribed");
  await page.sees("Got", "section[aria-label=History]");
  await page.sees("What to sow now", "section[aria-label='What they would get']");
  await page.fill("First name", "=Inès");
  // What is written stays while something else on the page is changed.
  await page.press("Unsubscribe them");
  await page.fill("How they asked to be written to again", "On the telephone");
  await page.press("Subscribe again");
  await page.named("Unsubscribe them");
  expect(await (await page.named("First name")).getAttribute("value")).toBe("=Inès");
  await page.choose("Growing zone", "Warm");
  await page.fill("Orders", "41");
  const born = await page.named("Birthday");
  await born.sendKeys(Key.chord(Key.CONTROL, "a"), "29.2.1988", Key.TAB);
  await page.press("Seed club");
  await page.press("Save");
  await page.sees("Saved");
  await page.reload();
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
