/** Preflight in the running program: faults planted in the demo are found, mended, set aside; what stops is held. */
import { afterAll, afterEach, beforeAll, expect, test } from "vitest";
import { blocksOf, mapEmail } from "~/core/email";
import { keepFailure, openBrowser, type Page } from "./browser";
import {
  addContact,
  bookNow,
  campaignNamed,
  copyOf,
  designOf,
  eventually,
  readersOf,
  saveDesign,
} from "./campaigns";
import { download, mailboxOf } from "./postroom";
import { FEW, type Program, startProgram } from "./program";

let program: Program;
let page: Page;
let hasty: string;
let id: string;

beforeAll(async () => {
  program = await startProgram({ contacts: FEW });
  page = await openBrowser(program.address);
  hasty = await campaignNamed(program, "Bare-root week");
  id = await copyOf(program, hasty);
});
afterAll(async () => {
  await page?.driver.quit();
  await program?.stop();
});
afterEach(({ task }) => keepFailure(page, task));

/** What is said of findings under a headline. */
const section = (title: string) => page.words(`section[aria-label='${title}']`);
const whole = () => page.sees("Fine");
const named = async (name: string) =>
  blocksOf(await designOf(program, id)).find((block) => block.name === name)!;

test("a planted fault is found, mended by its click, and gone; and the mend is taken back", async () => {
  await page.open(`/campaigns/${id}/preflight`);
  await page.sees("1 thing stops it");
  await whole();
  expect(await section("Stops sending")).toContain("A button leads nowhere.");
  const found = await section("Look at this");
  expect(found).toContain("“the the” says a word twice.");
  expect(found).toMatch(/is a \w+day\./);
  expect(found).toContain("can hardly be read");
  const said = await named("Greeting");
  expect(JSON.stringify(said)).toContain("the the");
  await page.press("Say it once");
  await page.sees("Say it once: done.");
  await page.until(
    async () => !(await section("Look at this")).includes("says a word twice"),
    "it is still found",
  );
  expect(JSON.stringify(await named("Greeting"))).not.toContain("the the");
  await page.press("Undo");
  await page.until(
    async () => (await section("Look at this")).includes("says a word twice"),
    "it was not taken back",
  );
  expect(await named("Greeting")).toEqual(said);
});

test("a word that no dictionary knows is written as it is meant, or kept as a word of one’s own", async () => {
  await page.open(`/campaigns/${id}/preflight`);
  await whole();
  const told = () => section("Look at this");
  expect(await told()).toContain("says “appels”, which no dictionary here knows.");
  expect(await told()).toContain("Perhaps “apples” is meant");
  await page.press("“appels” is a word of ours");
  await page.sees("It is known from now on");
  await page.until(async () => !(await told()).includes("appels"), "it is not known");
  await page.open("/brand");
  await page.fill("Words that no dictionary knows", "kohlrabis");
  await page.press("Save");
  await page.sees("Saved");
  await page.open(`/campaigns/${id}/preflight`);
  await whole();
  await page.press("Write “apples”");
  await page.sees("Write “apples”: done.");
  await page.until(async () => !(await told()).includes("appels"), "it is still found");
  expect(JSON.stringify(await named("Greeting"))).toContain("currants and apples stand");
});

test("what only some editions have says which, and they stand first on the wall, each as its readers get it", async () => {
  await page.open(`/campaigns/${id}/preflight`);
  await whole();
  const { editions, readers } = await page.run<{ editions: string; readers: number }>(
    `const card = document.querySelector('[data-check=contrast]').innerText;
     const [, editions, readers] = /Editions? ([\\d, ]+) · ([\\d,]+) readers/.exec(card);
     return { editions, readers: Number(readers.replaceAll(',', '')) };`,
  );
  const numbers = editions.split(",").map((one) => one.trim());
  expect(readers).toBeLessThan(await readersOf(program, id));
  const first = numbers[0];
  await page.press(`Edition ${first}, Desktop: larger`);
  await page.sees("A simulation, 640 px wide");
  const shown = async () =>
    page.run<string>(
      "return document.querySelector('[role=dialog] iframe').contentDocument?.body?.textContent ?? ''",
    );
  await page.until(async () => (await shown()).includes("Wait for the thaw"), "the edition does not show it");
  await page.press("Close");
  const without = await page.run<string>(
    `const all = [...document.querySelectorAll("aside li p:first-child")].map((one) => one.innerText.trim());
     return all.find((one) => !arguments[0].includes(one));`,
    numbers,
  );
  await page.press(`Edition ${without}, Desktop: larger`);
  await page.until(async () => (await shown()).includes("Bare-root week"), "the other edition is not shown");
  expect(await shown()).not.toContain("Wait for the thaw");
  await page.press("Close");
});

test("a finding is set aside with a reason, and comes back when its place changes", async () => {
  await page.open(`/campaigns/${id}/preflight`);
  await whole();
  await page.press("Set aside…: An alternative text is the name of a file, “IMG_2041.jpg”.");
  await page.fill("Why it may stay", "The picture has no meaning of its own");
  await page.press("Set aside");
  await page.until(
    async () => (await section("Set aside")).includes("The picture has no meaning of its own"),
    "it is not set aside",
  );
  expect(await section("Look at this")).not.toContain("IMG_2041.jpg");
  const bench = await named("Bench");
  await page.open(`/campaigns/${id}/compose?select=${bench.id}`);
  await page.fill("Alt text", "IMG_2042.jpg");
  await page.saved();
  await page.open(`/campaigns/${id}/preflight`);
  await whole();
  await page.until(
    async () => (await section("Look at this")).includes("IMG_2042.jpg"),
    "it did not come back",
  );
});

test("the count stands in the bar while one composes, and follows what is saved", async () => {
  const button = await named("To the sale");
  await page.open(`/campaigns/${id}/compose?select=${button.id}`);
  const counted = () => page.words("[data-testid=preflight-count]");
  await page.until(async () => /stops it/.test(await counted()), "nothing is counted");
  const before = Number.parseInt(await counted(), 10);
  await page.fill("Leads to", "https://tansyrow.example/bare-roots");
  await page.saved();
  await page.until(
    async () => Number.parseInt(await counted(), 10) === before - 1 && !/stops it/.test(await counted()),
    "the count does not follow",
  );
});

test("a proof goes out once per edition, each saying which; a group of addresses is kept and used", async () => {
  await page.open(`/campaigns/${id}/proof`);
  await page.fill("To", "team@tansyrow.example");
  await page.press("Keep as a group…");
  await page.fill("Name of the group", "The team");
  await page.press("Keep the group");
  await page.named("Forget the group The team");
  await page.reload();
  await page.press("The team");
  await page.press("One per edition");
  const { readers, editions } = (await (
    await fetch(`${program.address}/campaigns/${id}/preflight/findings`)
  ).json()) as { readers: number; editions: { number: number; count: number }[] };
  await page.sees(`${editions.length} messages to each address`);
  await page.press("Send the proof");
  await page.sees(`Sent to team@tansyrow.example, as ${editions.length} readers.`);
  const sent = await mailboxOf(program, "team@tansyrow.example");
  expect(sent).toHaveLength(editions.length);
  const said = await Promise.all(
    sent.map(async (one) => {
      const { subject, text } = await download(program, one);
      expect(subject).toMatch(/^Proof: /);
      const [, number, of, count] = /Edition (\d+) of (\d+); ([\d,]+) readers? gets? it/.exec(
        (text ?? "").replace(/\s+/g, " "),
      )!;
      return { number: Number(number), of: Number(of), count: Number(count.replaceAll(",", "")) };
    }),
  );
  said.sort((one, other) => one.number - other.number);
  expect(said).toEqual(editions.map(({ number, count }) => ({ number, of: editions.length, count })));
  expect(said.reduce((sum, { count }) => sum + count, 0)).toBe(readers);
});

test("links are tried at their servers, and those that lead nowhere are told with the way to them", async () => {
  const copy = await copyOf(program, hasty);
  const email = await designOf(program, copy);
  await saveDesign(
    program,
    copy,
    mapEmail(email, (node) =>
      "name" in node && node.name === "To the sale"
        ? { ...node, href: "https://tansyrow.example/bare-roots" }
        : node,
    ),
  );
  await page.open(`/campaigns/${copy}/preflight`);
  await whole();
  await page.press("Try the links");
  // No server is known under names that end in “.example”.
  await page.until(
    async () => /of \d+ links? to look at/.test(await page.words("section[aria-label='Links tried']")),
    "they are not tried",
  );
  expect(await page.words("section[aria-label='Links tried'] li")).toContain("tansyrow.example");
});

test("what stops sending holds it, and after the mend it goes", async () => {
  const copy = await copyOf(program, hasty);
  await page.open(`/campaigns/${copy}/send`);
  await page.sees("A button leads nowhere.");
  const readers = await readersOf(program, copy);
  const [send] = await page.run<{ disabled: boolean }[]>(
    `return [...document.querySelectorAll("button")].filter((one) => /^Send to /.test(one.innerText)).map((one) => ({ disabled: one.disabled }));`,
  );
  expect(send?.disabled ?? true).toBe(true);
  const { html } = await bookNow(program, copy, readers);
  expect(html).toContain("A button leads nowhere.");
  const button = blocksOf(await designOf(program, copy)).find(({ name }) => name === "To the sale")!;
  await page.open(`/campaigns/${copy}/compose?select=${button.id}`);
  await page.fill("Leads to", "https://tansyrow.example/bare-roots");
  await page.saved();
  await page.open(`/campaigns/${copy}/send`);
  await page.press(`Send to ${readers} readers`);
  await page.press(`Send ${readers}`);
  await page.sees("Sent to", "main");
});

test("a rehearsal finds the one reader whose name shows nothing, and what is sent is what was rehearsed", async () => {
  const copy = await copyOf(program, hasty);
  const email = await designOf(program, copy);
  // Who has no name is greeted otherwise; who has one that shows nothing is not.
  const kind = JSON.parse(JSON.stringify(email).replaceAll('"fallback":""', '"fallback":"gardener"'));
  const sale = { href: "https://tansyrow.example/bare-roots" };
  await saveDesign(
    program,
    copy,
    mapEmail(kind, (node) => ("name" in node && node.name === "To the sale" ? { ...node, ...sale } : node)),
  );
  await addContact(program, "blank@box.example", "\u200b", "");
  await page.open(`/campaigns/${copy}/preflight`);
  await whole();
  expect(await section("Look at this")).not.toContain("Dear ,");
  const readers = await readersOf(program, copy);
  await page.press("Rehearse every message");
  await page.sees(`${readers} messages made and read back`);
  expect(await page.words("[aria-label='Odd messages']")).toMatch(/^A sentence has a gap, 1 message\n/);
  await page.press("Open the message of blank@box.example");
  await page.sees("The message as it was rehearsed");
  const source = async (address: string) => (await fetch(address)).text();
  const { pathname } = new URL(await page.driver.getCurrentUrl());
  const made = await source(`${program.address}${pathname}/source`);
  expect(made).toMatch(/^To: .*<blank@box\.example>\r$/m);
  expect(await mailboxOf(program, "blank@box.example")).toEqual([]);
  await bookNow(program, copy, readers);
  const sent = await eventually(
    "it arrives",
    async () => (await mailboxOf(program, "blank@box.example"))[0] ?? null,
  );
  const came = await source(`${program.address}/postroom/${sent.id}/source/${sent.id}.eml`);
  const settled = /^(?:DKIM-Signature|Date):.*\r\n(?:[ \t].*\r\n)*/gm;
  expect(came).not.toBe(made);
  expect(came.replace(settled, "")).toBe(made.replace(settled, ""));
});
