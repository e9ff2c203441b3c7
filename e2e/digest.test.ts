/** A weekly digest in the running program: it skips an empty week and goes the next, the clock set by the test. */
import { afterAll, afterEach, expect, test } from "vitest";
import { readyList } from "~/core/blocks";
import { blocksOf, mapEmail } from "~/core/email";
import { keepFailure, openBrowser, type Page } from "./browser";
import { campaignNamed, copyOf, designOf, readersOf, saveDesign } from "./campaigns";
import { FEW, type Program, startProgram } from "./program";

let program: Program;
let page: Page;
const DAY = 86_400_000;

/** The same program so long before a moment. */
async function goTo(moment: number, before: number): Promise<void> {
  await page?.driver.quit();
  await program.rest();
  const { data } = program;
  const ahead = String(Math.round((moment - before - Date.now()) / 1000));
  program = await startProgram({ data, contacts: FEW, env: { SEPTIMA_AHEAD: ahead } });
  page = await openBrowser(program.address);
}
afterEach(({ task }) => keepFailure(page, task));
afterAll(async () => {
  await page?.driver.quit();
  await program?.stop();
});

test("a week without anything new is skipped, and what came since goes the next week", async () => {
  program = await startProgram({ contacts: FEW });
  page = await openBrowser(program.address);
  const id = await copyOf(program, await campaignNamed(program, "What to sow now"));
  const email = await designOf(program, id);
  // Its articles are only what is new; the rest of what the letter shows by rule is left out.
  const [list] = blocksOf(email).filter(({ type }) => type === "picks");
  await saveDesign(
    program,
    id,
    mapEmail(email, (node) => (node.id === list.id ? { ...node, ...readyList("articles"), count: 3 } : node)),
  );
  await page.open(`/campaigns/${id}/compose?select=${list.id}`);
  await page.press("Only what is new since the last one");
  await page.sees("Saved");
  await page.open(`/campaigns/${id}/send`);
  await page.press("Again and again");
  await page.press("Only when something is new");
  await page.fill("Tell when it went or was skipped", "team@tansyrow.example");
  expect(await page.words("[data-testid=next-dates]")).toMatch(/^Next: Mon /);
  const readers = await readersOf(program, id);
  await page.press(`Begin for ${readers} readers`);
  await page.press(`Begin ${readers}`);
  await page.sees("Every week on Monday at 10:00");
  expect(await page.words("ol[aria-label='Dates to come']")).toMatch(/Mon .*10:00 UTC\s*Send now\s*Skip/);

  // The first Monday at ten, and those after it.
  const today = new Date();
  const toMonday = (8 - today.getUTCDay()) % 7;
  const tenToday = Date.UTC(today.getUTCFullYear(), today.getUTCMonth(), today.getUTCDate(), 10);
  const first = tenToday + toMonday * DAY + (toMonday === 0 && Date.now() >= tenToday ? 7 * DAY : 0);

  // What the journal had this week goes by the first; the second week brings nothing.
  await goTo(first, 0);
  await page.open(`/campaigns/${id}/send`);
  const past = () => page.words("ol[aria-label='Dates before']");
  await page.until(
    async () => /Went to \d+ readers|Skipped/.test(await past()),
    "the first date is over",
    120_000,
  );
  await goTo(first + 7 * DAY, 0);
  await page.open(`/campaigns/${id}/send`);
  await page.until(
    async () => (await past()).includes("Skipped. Nothing was new."),
    "the empty week was skipped",
    120_000,
  );

  await goTo(first + 14 * DAY, 25_000);
  await page.open("/sources");
  await page.press("Journal 42 articles");
  await page.press("Publish an article");
  await page.sees("Refresh to bring it in.");

  await page.open(`/campaigns/${id}/send`);
  await page.until(
    async () => /^Mon[^\n]*\n+Went to \d+ readers/.test(await past()),
    "the third date went",
    120_000,
  );
  await page.open("/postroom?q=team%40tansyrow.example");
  await page.until(
    async () => /went to \d+ readers/.test(await page.words("main")),
    "who wanted to know was told",
  );
  expect(await page.words("main")).toContain("was skipped");
});
