import { randomUUID } from "node:crypto";
import type { Email } from "~/core/email";
import { difference, pack } from "~/core/steps";
import { By, type Page } from "./browser";
import type { Program } from "./program";

/** The id of a campaign, by its name. */
export async function campaignNamed(program: Program, name: string): Promise<string> {
  const found = (await (await fetch(`${program.address}/find`)).json()) as {
    id: string;
    kind: string;
    name: string;
  }[];
  const id = found.find((one) => one.kind === "campaign" && one.name === name)?.id;
  if (!id) throw new Error(`no campaign is called “${name}”`);
  return id;
}

/** The design of a campaign as it is saved. */
export async function designOf(program: Program, id: string): Promise<Email> {
  const answer = await fetch(`${program.address}/campaigns/${id}/save`);
  return ((await answer.json()) as { email: Email }).email;
}

/** Saves another design in a campaign's place, as a window would that has the newest one. */
export async function saveDesign(program: Program, id: string, email: Email): Promise<void> {
  const where = `${program.address}/campaigns/${id}/save`;
  const saved = (await (await fetch(where)).json()) as { email: Email; revision: number };
  const answer = await fetch(where, {
    method: "POST",
    headers: { "content-type": "application/json", origin: program.address },
    body: JSON.stringify({
      revision: saved.revision,
      save: randomUUID(),
      steps: pack(difference(saved.email, email)),
    }),
  });
  const { state } = (await answer.json()) as { state: string };
  if (state !== "saved") throw new Error(`the design was not saved: ${state}`);
}

/** Adds a source by its address, as its page does. Returns its id. */
export async function addSource(program: Program, address: string): Promise<string> {
  const answer = await fetch(`${program.address}/sources/change`, {
    method: "POST",
    headers: { "content-type": "application/json", origin: program.address },
    body: JSON.stringify({ intent: "add", address }),
  });
  const { problem, result } = (await answer.json()) as { problem: string | null; result: { id: string } };
  if (problem) throw new Error(`${address} was not added: ${problem}`);
  return result.id;
}

/** Adds a contact to the list of the monthly letter. */
export async function addContact(
  program: Program,
  email: string,
  first: string,
  last: string,
): Promise<void> {
  const { status } = await fetch(`${program.address}/audience.data`, {
    method: "POST",
    headers: { "content-type": "application/json", origin: program.address },
    body: JSON.stringify({
      intent: "contact",
      email,
      first_name: first,
      last_name: last,
      lists: ["letter"],
    }),
  });
  if (status !== 200) throw new Error(`${email} was not added (${status})`);
}

/** Starts a campaign from a template that is shown in the gallery. */
export async function startFrom(
  page: Page,
  program: Program,
  template: string,
  name: string,
): Promise<string> {
  await page.open("/templates");
  await page.press(template);
  await page.find(`aside[aria-label="${template}"]`);
  await page.press("Start from it");
  await page.fill("Name of the campaign", name);
  await page.press("Start composing");
  await page.sees("Reading as");
  return campaignNamed(program, name);
}

/** Opens the dialog for a new campaign and chooses what to start from. */
export async function chooseStart(page: Page, layout: string, name: string): Promise<void> {
  await page.open("/campaigns");
  await page.press("New campaign");
  await page.fill("Name", name);
  const layouts = By.xpath(`//*[@role='dialog']//label[contains(., ${JSON.stringify(layout)})]`);
  await (await page.driver.findElement(layouts)).click();
}

/** Starts a campaign from a blank layout. */
export async function startBlank(
  page: Page,
  program: Program,
  layout: string,
  name: string,
): Promise<string> {
  await chooseStart(page, layout, name);
  await page.press("Start composing");
  await page.sees("Reading as");
  return campaignNamed(program, name);
}

/** Sends a form to one of the program's pages, as a browser without scripts would. */
export async function submit(
  program: Program,
  path: string,
  form: Record<string, string>,
): Promise<{ status: number; html: string }> {
  const response = await fetch(program.address + path, {
    method: "POST",
    headers: { "content-type": "application/x-www-form-urlencoded" },
    body: new URLSearchParams(form),
  });
  return { status: response.status, html: await response.text() };
}

/** Copies a campaign as the list of campaigns does. Returns the copy. */
export async function copyOf(program: Program, id: string): Promise<string> {
  const answer = await fetch(`${program.address}/campaigns`, {
    method: "POST",
    body: new URLSearchParams({ intent: "copy", id, open: "yes" }),
    redirect: "manual",
  });
  const [, copy] = /^\/campaigns\/(\w+)\/compose$/.exec(answer.headers.get("location") ?? "") ?? [];
  if (!copy) throw new Error(`the campaign was not copied (${answer.status})`);
  return copy;
}

/** How many readers the sheet says it goes to. */
export async function readersOf(program: Program, id: string): Promise<number> {
  const sheet = await (await fetch(`${program.address}/campaigns/${id}/send/sheet`)).json();
  return (sheet as { readers: number }).readers;
}

/** Polls until a condition holds. */
export async function eventually<T>(
  what: string,
  look: () => Promise<T | null | false>,
  patience = 60_000,
): Promise<T> {
  const end = Date.now() + patience;
  for (;;) {
    const found = await look();
    if (found !== null && found !== false) return found;
    if (Date.now() > end) throw new Error(`did not happen: ${what}`);
    await new Promise((resolve) => setTimeout(resolve, 25));
  }
}

/** Gives a campaign to one more group, and waits until it is kept and counted. */
export async function chooseReaders(page: Page, id: string, group: string): Promise<void> {
  await page.open(`/campaigns/${id}/readers`);
  await page.choose("Add readers", group);
  await page.sees("Each address once.");
}

/** Gives a campaign to everybody on the monthly letter's list and sends it. Returns to how many readers. */
export async function sendToLetter(page: Page, program: Program, id: string): Promise<number> {
  await chooseReaders(page, id, "Monthly letter");
  return sendNow(program, id);
}

/** What a page says, without its markup: it shows what stops a sending. */
const wordsOf = (html: string) =>
  html
    .replace(/<(script|style)[\s\S]*?<\/\1>/g, "")
    .replace(/<[^>]*>/g, " ")
    .replace(/\s+/g, " ");

/** Sends a campaign to those who are chosen. Returns to how many. */
export async function sendNow(program: Program, id: string): Promise<number> {
  const readers = await readersOf(program, id);
  const { status, html } = await bookNow(program, id, readers);
  if (status >= 400) throw new Error(`${readers} readers, not sent (${status}): ${wordsOf(html)}`);
  return readers;
}

/** Books a campaign as its sheet does, whatever comes of it. */
export const bookNow = (program: Program, id: string, readers: number) =>
  submit(program, `/campaigns/${id}/send`, {
    intent: "book",
    confirmed: String(readers),
    when: "now",
    date: "",
    time: "",
    zone: "UTC",
  });
