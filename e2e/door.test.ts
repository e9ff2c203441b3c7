/** A key made by hand, used from outside, and withdrawn. */
import { afterAll, afterEach, beforeAll, expect, test } from "vitest";
import { keepFailure, openBrowser, type Page } from "./browser";
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

test("a key is made, shown once, used from outside, and opens nothing once it is withdrawn", async () => {
  await page.open("/settings/door");
  await page.sees("Shop");
  await page.fill("What it is for", "Our till");
  await page.click("section[aria-label='New key'] li:nth-of-type(1) input");
  await page.click("section[aria-label='New key'] li:nth-of-type(4) input");
  await page.press("Make the key");
  await page.sees("The key of “Our till”");
  const key = await (await page.named("Key")).getAttribute("value");
  expect(key).toMatch(/^[\w-]+\.[\w-]{43}$/);
  const send = (path: string, entries: unknown[]) =>
    fetch(`${program.address}/in/${path}`, {
      method: "POST",
      headers: { authorization: `Bearer ${key}` },
      body: JSON.stringify({ batch: "one", entries }),
    });
  const someone = { email: "till@post.example", fields: { first_name: "Tilda", last_name: "Marl" } };
  expect(await (await send("contacts", [someone])).json()).toEqual({ taken: 1, left: [], repeated: false });
  const line = { item: "1001", name: "Runner bean", quantity: 1, price: 3.2 };
  const order = { number: "T-1", email: someone.email, currency: "GBP", lines: [line] };
  expect((await send("orders", [order])).status).toBe(200);
  expect((await send("events", [{ email: someone.email, what: "viewed" }])).status).toBe(403);
  // What came in is there to be seen.
  await page.open("/audience?q=till%40post");
  await page.press("Tilda Marl");
  await page.sees("Runner bean");
  await page.open("/settings/door");
  await page.until(
    async () => /Our till[\s\S]*last used[\s\S]*Shop/.test(await page.words("main")),
    "it says when it was used",
  );
  expect(await page.words("main")).not.toContain(key);
  await page.press("Withdraw the key of Our till");
  await page.press("Withdraw");
  await page.sees("withdrawn");
  expect((await send("contacts", [someone])).status).toBe(401);
});
