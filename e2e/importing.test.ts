/** Files of contacts, fields and records of one's own, in the running program. */
import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, afterEach, beforeAll, beforeEach, expect, test } from "vitest";
import { By, keepFailure, openBrowser, type Page } from "./browser";
import { campaignNamed } from "./campaigns";
import { type Program, startProgram } from "./program";

let program: Program;
let page: Page;
let folder: string;
beforeAll(async () => {
  program = await startProgram();
  folder = await mkdtemp(path.join(tmpdir(), "septima-files-"));
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

async function give(name: string, octets: Buffer | string): Promise<void> {
  const file = path.join(folder, name);
  await writeFile(file, octets);
  await page.open("/audience/import");
  await page.driver.findElement(By.css("input[type=file]")).sendKeys(file);
}
const happens = () => page.words("section[aria-label='What will happen']");
const found = async (words: string) => {
  const answer = await fetch(`${program.address}/readers/search?q=${encodeURIComponent(words)}`);
  return (await answer.json()) as {
    total: number;
    contacts: { id: number; email: string; fields: Record<string, unknown> }[];
  };
};

test("a file is imported, mapped, and taken back", async () => {
  const rows = Array.from({ length: 900 }, (_, n) =>
    n % 9 === 4
      ? `Karla;karla.${n}.post.example;0${n};;`
      : `Zoë${n};zoe${n}@new.example;0${1000 + n};0${1 + (n % 9)}.04.2021;Marl Bay;${"a long remark ".repeat(100)}`,
  );
  const text = [
    "Vorname;E-Mail;PLZ;Kunde seit;Filiale;Remark",
    ...rows,
    "Ines;ines.calder.1@mail.example;;;",
  ].join("\r\n");
  await give("friends.csv", Buffer.from(text, "latin1"));
  await page.sees("901 lines · semicolons · Latin-1 · the first line names the columns");
  await page.until(async () => /800\s+new contacts/.test(await happens()), "it is worked out");
  expect(await happens()).toMatch(/100\s+lines cannot be taken/);
  await page.sees("“karla.4.post.example” is no address", "section[aria-label='Lines that cannot be taken']");
  await page.choose("What PLZ becomes", "A new field");
  await page.fill("Name of the new field for PLZ", "Postcode");
  await page.choose("Kind of the new field for PLZ", "text");
  await page.fill("Name of a new list for everybody", "Friends of the nursery");
  await page.fill("How they agreed", "On paper");
  await page.until(async () => /1\s+known, something new/.test(await happens()), "the list is counted in");
  await page.sees("Marl Bay", "section[aria-label='The first lines as they will be']");
  await page.press("Bring in 801");
  await page.sees("They are in");
  const { contacts } = await found("zoe7@new.example");
  expect(contacts[0].fields).toMatchObject({
    first_name: "Zoë7",
    postcode: "01007",
    joined: "2021-04-08",
    branch: "Marl Bay",
    consent_source: "On paper",
  });
  const rejected = await (
    await fetch(`${(await page.driver.getCurrentUrl()).split("?")[0]}/rejected.csv`)
  ).text();
  expect(rejected.split("\r\n")[1]).toBe(
    "6,“karla.4.post.example” is no address,Karla,karla.4.post.example,04,,",
  );
  await page.open("/audience");
  await page.sees("Friends of the nursery", "nav[aria-label=Groups]");
  await page.open("/audience/import");
  await page.press("Take back");
  await page.sees("“friends.csv” was taken back");
  expect((await found("new.example")).total).toBe(0);
  await page.open("/audience/fields");
  expect(await page.words("main")).not.toContain("Postcode");
  expect(await page.words("main")).toContain("Branch");
});

test("files that are none, or are broken, are refused with their name, place and remedy", async () => {
  await give("setup.csv", Buffer.from([0x4d, 0x5a, 0x90, 0, 3, 0, 0, 0, 4]));
  await page.sees("“setup.csv” is no text: it looks like a program.");
  await give("open.csv", 'email,name\na@b.example,"Ines\nb@b.example,Maud\n');
  await page.sees("opens in line 2 is never closed");
  await give("names.csv", "email,name\n");
  await page.sees("has names of columns and nothing below them");
  // Who has no addresses is told before anything happens.
  await give("nobody.csv", "a,b\nc,d\n");
  await page.sees("Say which column holds the addresses");
  expect(await (await page.named("Bring in")).isEnabled()).toBe(false);
});

test("a field is made and filled, removed and brought back with its values", async () => {
  await page.open("/audience/fields");
  await page.press("Field");
  await page.fill("Name", "Greenhouse");
  await page.choose("What it holds", "one of several");
  await page.fill("The choices, one to a line", "None\nGlass\nFilm");
  await page.press("Save the field");
  await page.sees("None, Glass, Film");
  await page.open("/audience/2");
  await page.choose("Greenhouse", "Glass");
  await page.press("Save");
  await page.sees("Saved");
  await page.open("/audience/fields");
  await page.sees("1 filled");
  await page.press("Remove Greenhouse");
  await page.sees("“Greenhouse” was removed");
  await page.until(
    async () => !(await page.words("section[aria-label='Own fields']")).includes("Greenhouse"),
    "it is out of the list",
  );
  await page.press("Undo");
  await page.sees("is back, with its values");
  await page.open("/audience/2");
  expect(await (await page.named("Greenhouse")).getText()).toBe("Glass");
});

test("a branch record is changed, and its readers' tags with it", async () => {
  const ines = (await found("ines.calder.1@")).contacts[0];
  const preview = `/campaigns/${await campaignNamed(program, "Winter workshops")}/preview?reader=${ines.id}`;
  await page.open(preview);
  await page.sees("Winter workshops at Alderwick");
  await page.open("/audience/fields");
  await page.press("Alderwick");
  await page.fill("Name", "the Old Nursery");
  await page.press("Save the record");
  await page.until(
    async () => (await page.words("section[aria-label=Branches]")).includes("Old Nursery"),
    "the record is kept",
  );
  await page.open(preview);
  await page.sees("Winter workshops at the Old Nursery");
  // A rule on a fact finds those who point to the record.
  await page.open("/audience");
  await page.press("New segment");
  await page.choose("What is looked at", "Branch: manager");
  await page.choose("Comparison", "is");
  await page.fill("Value", "Petra Lindqvist");
  await page.until(
    async () => /[\d,]{5} readers, such as/.test(await page.words("section[aria-label='New segment']")),
    "its readers are counted",
  );
});

test("words for who may be written to that nobody knows are asked before anybody is brought in", async () => {
  const people = ["ja", "Gold", "gekündigt", "Gold", "spam complaint", "", "pending"];
  const lines = people.map((word, at) => `word${at}@state.example,${word}`);
  await give("words.csv", `Email,Newsletter\n${lines.join("\n")}\n`);
  const words = "section[aria-label='Whether they may be written to']";
  await page.sees("“Gold”", words);
  await page.sees("nothing stands there", words);
  await page.sees("Say first what 2 words mean");
  const bring = await page.named("Bring in 3");
  expect(await bring.isEnabled()).toBe(false);
  await page.choose("What “Gold” means", "may be written to");
  await page.choose("What nothing stands there means", "has unsubscribed");
  await page.press("Bring in 6");
  await page.sees("They are in");
  const { total } = await found("state.example");
  expect(total).toBe(6);
  const [{ id }] = (await found("word2@state.example")).contacts;
  await page.open(`/audience/${id}`);
  await page.sees("Unsubscribed");
});
