/** Settings of sending, and what comes back of a letter: seen, and what can be done about it. */
import { afterAll, afterEach, beforeAll, expect, test } from "vitest";
import { keepFailure, openBrowser, type Page } from "./browser";
import { addContact, campaignNamed, eventually, sendNow, sendToLetter } from "./campaigns";
import { download, mailboxOf } from "./postroom";
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

test("what cannot be delivered, is called spam or answered comes back, is told with its reason, and undone where it may be", async () => {
  for (const name of ["gone", "cross", "fan"])
    await addContact(program, `${name}@box.example`, name, "Calder");
  await page.open("/postroom");
  await page.press("How mailboxes behave…");
  for (const [name, manner, said] of [
    ["gone", "Taken, and sent back: no such mailbox", "sends it back: “550 5.1.1 No such mailbox”"],
    ["cross", "Taken, and called spam", "calls it spam"],
    ["fan", "Taken, and answered", "answers “Thank you for the letter.”"],
  ]) {
    await page.fill("Whose mailbox", `${name}@box.example`);
    await page.choose("What it does", manner);
    await page.press("Teach it");
    await page.sees(said);
  }
  const readers = await sendToLetter(page, program, await campaignNamed(program, "Winter workshops"));
  await eventually("all arrive", async () => (await mailboxOf(program, "")).length === readers);

  // A press on a link leads on, and is told with the contact; so is an opening.
  const [listed] = await mailboxOf(program, "fan@box.example");
  const { html } = await download(program, listed);
  const reads = { redirect: "manual", headers: { "user-agent": "Mozilla/5.0 (X11; Linux x86_64)" } } as const;
  const [, href] = /href="([^"]+\/c\/[\w-]+)"/.exec(html || "")!;
  const led = await fetch(href, reads);
  expect(led.status).toBe(302);
  const to = led.headers.get("location")!;
  expect(to).toMatch(/^https:\/\/[a-z.]*tansyrow\.example/);
  await fetch(/src="([^"]+\/o\/[\w-]+\.gif)"/.exec(html || "")![1], reads);
  await page.open("/audience?q=fan@box.example");
  await page.press("fan Calder");
  await page.find("[aria-label=History]");
  await eventually("both are told", async () => {
    await page.reload();
    const said = await page.words("[aria-label=History]");
    return said.includes(`Went to ${to}`) && said.includes("Opened");
  });

  await page.open("/settings/returned");
  await eventually("all three came back", async () => {
    await page.reload();
    return (await page.words("main")).includes("3 messages");
  });
  await page.sees("550 5.1.1 No such mailbox");
  await page.sees("The address is not written to any more.");
  await page.sees("They are not written to any more, for ever.");
  await page.choose("Which of it", "Answers");
  await page.sees("1 message");
  await page.sees("fan Calder");
  await page.choose("Which of it", "All");
  await page.fill("Search what came back", "gone@box");
  await page.sees("1 message");
  const { source } = await page.run<{ source: string }>(
    `const [link] = [...document.querySelectorAll("a")].filter((one) => one.textContent === "As it came");
     return { source: link.href };`,
  );
  expect(await (await fetch(source)).text()).toMatch(/^Status: 5\.1\.1\r$/m);

  await page.press("gone Calder");
  await page.sees("The address takes no mail.");
  await page.sees("550 5.1.1 No such mailbox");
  await page.fill("How you know that it takes mail again", "They wrote from it");
  await page.press("Write to it again");
  await page.sees("May be written to again");
  await page.sees("They wrote from it");
  await page.until(
    async () => !(await page.words("main")).includes("Bounced: gets no email"),
    "the contact is still bounced",
  );
  await page.open("/settings/returned?sort=complaints");
  await page.press("cross Calder");
  await page.sees("They called a letter spam.");
  await page.sees("That is for ever");
});

test("a relay is tried before it is kept, and the keys of a domain are exchanged", async () => {
  await page.open("/settings/sending");
  await page.fill("Address of the relay", "smtp://127.0.0.1:9");
  await page.press("Try it");
  await page.sees("cannot be reached");
  await page.fill("Name", "me");
  await page.press("Save the relay");
  await page.sees("Write the password for “me”");
  await page.fill("Password", "a password of mine");
  await page.press("Save the relay");
  await page.sees("Mail leaves by smtp://127.0.0.1:9.");
  await page.reload();
  await page.sees("It is kept, sealed, and never shown again.");
  expect(await page.run<string>("return document.documentElement.outerHTML")).not.toContain(
    "a password of mine",
  );
  await page.fill("Address of the relay", "");
  await page.press("Go back to the postroom");
  await page.sees("nothing leaves this machine");

  await page.press("Exchange the keys of tansyrow.example");
  await page.sees("Waits: publish it, then let it sign");
  const waiting = () =>
    page.run<string[]>(
      `return [...document.querySelectorAll("section[aria-label^='Key ']")]
         .filter((one) => one.innerText.includes("Waits")).map((one) => one.ariaLabel.slice(4))`,
    );
  // There was no RSA key: that signs at once; the other waits until it takes over.
  const [first] = await waiting();
  await page.press(`Sign with it (${first})`);
  await page.sees("A key that signs no more");
  await page.press("Exchange the keys of tansyrow.example");
  await page.until(async () => (await waiting()).length === 2, "two keys do not wait");
  for (const key of await waiting()) await page.press(`Throw away ${key}`);
  await page.until(async () => (await waiting()).length === 0, "a key still waits");

  await page.fill("Domain for it", "not a domain");
  await page.press("Save the domain");
  await page.sees("is no domain");
});

test("readers of the postroom are let live, and what they do is told", async () => {
  await addContact(program, "picky@box.example", "picky", "Calder");
  const undelivered = async () => {
    await page.open("/settings/returned?sort=failed");
    return Number(/([\d,]+) messages?/.exec(await page.words("main"))?.[1] ?? 0);
  };
  const before = await undelivered();
  await page.open("/postroom");
  await page.press("How mailboxes behave (3)…");
  await page.fill("Whose mailbox", "picky@box.example");
  await page.choose("What it does", "Refused after the message");
  await page.press("Teach it");
  await page.sees("Not wanted here");
  await page.open("/postroom");
  await page.press("Readers…");
  await page.choose("How fast time goes", "A day in a second");
  await page.fill("Chance", "11");
  await page.press("Let them live");
  await page.find("[aria-label='What they did']");
  const sowing = await campaignNamed(program, "What to sow now");
  await sendNow(program, sowing);
  await page.open("/postroom");
  await page.press("Readers live…");
  const did = () =>
    page.run<Record<string, number>>(
      `return Object.fromEntries([...document.querySelectorAll("[aria-label='What they did'] dt")].map((one) =>
         [one.innerText, Number(one.nextElementSibling.innerText.replaceAll(",", ""))]));`,
    );
  await page.until(async () => {
    const { Opened: opened, "Still to come": coming } = await did();
    return opened > 20 && coming === 0;
  }, "they do not come to their end");
  const { Opened: opened, Left: left, "Sent back": back } = await did();
  expect(opened).toBeGreaterThan(left);
  expect(back).toBeGreaterThan(0);
  await page.press("Let them be");
  await page.until(async () => (await page.words("[role=dialog]")).includes("Let them live"), "they live on");
  // One more is of a mailbox that sends everything back.
  await expect.poll(undelivered, { timeout: 20_000 }).toBe(before + back + 1);
});

test("readers who were refused are found among the recipients, and sent it again, all or one", async () => {
  await page.open(`/campaigns/${await campaignNamed(program, "What to sow now")}/send`);
  await page.choose("Which recipients", "Refused (1)");
  await page.sees("554 5.7.1 Not wanted here");
  await page.press("Send again");
  // Refused once more: both are told.
  await page.until(
    async () => (await page.words("[aria-label=Recipients]")).split("Not wanted here").length >= 3,
    "it was not tried again",
  );
  await page.open("/postroom");
  await page.press("How mailboxes behave (4)…");
  await page.press("Let all take what comes");
  await page.sees("All of them take what comes.");
  await page.open(`/campaigns/${await campaignNamed(program, "What to sow now")}/send`);
  await page.press("Send to the 1 refused reader again");
  await page.fill("Search recipients", "picky");
  // Of them alone: until the search has its answer, everybody is listed.
  await page.until(async () => {
    const listed = await page.words("[aria-label=Recipients] .card");
    return listed.split("@").length === 2 && /handed over/i.test(listed);
  }, "it was not handed over");
  // While the server cannot be reached the list says so, and asks again until it can be.
  await page.run(
    `const real = window.fetch;
     window.backAgain = () => { window.fetch = real; };
     // Of the list alone: what the page asks for as the sending ends has its answer.
     window.listAnswers = (answer) => { window.fetch = (asked, how) => /recipients/.test(asked.url ?? asked) ? answer() : real(asked, how); };
     window.listAnswers(() => Promise.reject(new TypeError("away")))`,
  );
  await page.fill("Search recipients", "nobody is called so");
  await page.sees("Septima cannot be reached");
  // One that starts has no answer yet, either.
  await page.run(
    "window.listAnswers(async () => new Response('Septima is starting. Try again in a moment.', { status: 503 }))",
  );
  await page.sees("Septima is starting");
  await page.run("window.backAgain()");
  await page.until(async () => {
    const listed = await page.words("[aria-label=Recipients]");
    return !listed.includes("is starting") && !listed.includes("picky@box.example");
  }, "it was not asked again");
  await eventually("it has come", async () => (await mailboxOf(program, "picky@box.example")).length === 1);
});
