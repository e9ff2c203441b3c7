/** A review from beginning to end: asked for, looked over by a link in another browser, answered in the composer, approved. */
import { afterAll, afterEach, beforeAll, expect, test } from "vitest";
import { By, keepFailure, openBrowser, type Page } from "./browser";
import { campaignNamed, copyOf, eventually } from "./campaigns";
import { download, mailboxOf } from "./postroom";
import { FEW, type Program, startProgram } from "./program";

let program: Program;
/** The designer’s browser, and that of who was asked. */
let page: Page;
let guest: Page;
let id: string;
let link: string;

beforeAll(async () => {
  program = await startProgram({ contacts: FEW });
  [page, guest] = await Promise.all([
    openBrowser(program.address),
    openBrowser(program.address, { width: 1200, height: 900 }),
  ]);
  id = await copyOf(program, await campaignNamed(program, "What to sow now"));
});
afterAll(async () => {
  await page?.driver.quit();
  await guest?.driver.quit();
  await program?.stop();
});
afterEach(({ task }) => keepFailure(page, task));

/** Works in the frame that shows the email, in which no script runs: by the pointer and from outside. */
const inFrame = <T>(script: string, ...values: unknown[]) =>
  guest.run<T>(
    `const frame = document.querySelector("main iframe"); const inside = frame.contentDocument;
     const at = (box) => { const outer = frame.getBoundingClientRect(); const scale = outer.width / frame.offsetWidth;
       return { x: outer.x + box.x * scale, y: outer.y + box.y * scale, width: box.width * scale, height: box.height * scale }; };
     ${script}`,
    ...values,
  );

interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}
const TEXT = `const walk = inside.createTreeWalker(inside.body, NodeFilter.SHOW_TEXT); let text;
  while ((text = walk.nextNode()) && !text.data.includes(arguments[0]));`;
/** Where words are drawn in the frame, once they are in view and stay. */
async function wordsAt(words: string): Promise<Box> {
  await guest.until(
    () => inFrame(`${TEXT} text?.parentElement.scrollIntoView({ block: "center" }); return !!text;`, words),
    `“${words}” is not in the email`,
  );
  let last = "";
  let found: Box | null = null;
  await guest.until(async () => {
    found = await inFrame<Box>(
      `${TEXT} const range = inside.createRange(); const from = text.data.indexOf(arguments[0]);
       range.setStart(text, from); range.setEnd(text, from + arguments[0].length);
       return at(range.getBoundingClientRect());`,
      words,
    );
    const now = JSON.stringify(found);
    const still = now === last;
    last = now;
    return still;
  }, `“${words}” does not stay where it is`);
  return found!;
}

test("whoever is asked is sent a link of their own; a name alone has a link to pass on", async () => {
  await page.open(`/campaigns/${id}/review`);
  await page.fill("Who looks it over", "ida@");
  await page.press("Ask for a review");
  await page.sees("“ida@” is not an address");
  await page.fill("Who looks it over", "Ida Renner <ida@nursery.example>, Board");
  await page.fill("Note", "Please look at the beans.");
  await page.press("Ask for a review");
  await page.sees("Asked: Ida Renner, Board.");
  await page.find("li[aria-label=Board]");
  expect(await page.words("li[aria-label='Ida Renner']")).toContain("Has not opened it yet");
  const [listed] = await eventually("the mail comes", async () => {
    const all = await mailboxOf(program, "ida@nursery.example");
    return all.length === 1 && all;
  });
  const mail = await download(program, listed);
  expect(mail.text).toContain("Please look at the beans.");
  [, link] = /href="([^"]+\/review\/[\w.-]+)"/.exec(mail.html || "")!;
  await page.open("/campaigns");
  await page.sees("waits for Ida Renner and Board");
});

test("by the link any edition is seen on any device, and nothing else of the program", async () => {
  await guest.driver.get(link);
  await guest.sees("for Ida Renner to look over");
  await guest.sees("Please look at the beans.");
  expect(await guest.driver.findElements(By.css("nav a"))).toHaveLength(0);
  const shown = () => inFrame<string>("return inside.body.innerText");
  await guest.until(async () => (await shown()).includes("Hold your beans"), "the email is not shown");
  const first = await shown();
  await guest.choose("Edition", "3 of");
  await guest.until(async () => (await shown()) !== first, "it is the same edition");
  await guest.press("Phone");
  await guest.until(
    async () => (await inFrame<number>("return frame.offsetWidth")) === 360,
    "it is no phone",
  );
  // As a phone shows it, down to its end.
  await guest.until(
    () =>
      inFrame<boolean>(
        "return frame.offsetHeight === Math.ceil(inside.documentElement.getBoundingClientRect().height) && frame.offsetHeight > 1000",
      ),
    "the frame does not show all of it",
  );
  await guest.choose("Shown as", "Text only");
  await guest.until(() => inFrame<boolean>("return !!inside.querySelector('body > pre')"), "it is no text");
  await guest.choose("Shown as", "As it is sent");
  await guest.choose("Edition", "1 of");
  await guest.press("Desktop");
});

test("comments are pinned to a block, to marked words and to the subject; changes are asked for", async () => {
  const { x, y, width, height } = await wordsAt("See what to sow");
  await guest.clickAt({ x: x + width / 2, y: y + height / 2 });
  await guest.find("textarea");
  await guest.fill("Your comment", "Make this one larger.");
  await guest.press("Comment");
  await guest.find("[aria-label='Pin 1: 1 comment']");
  const words = await wordsAt("touch freezing");
  await guest.driver
    .actions()
    .move({ x: Math.round(words.x + 1), y: Math.round(words.y + words.height / 2) })
    .press()
    .move({ x: Math.round(words.x + words.width / 2), y: Math.round(words.y + words.height / 2) })
    .move({ x: Math.round(words.x + words.width), y: Math.round(words.y + words.height / 2) })
    .release()
    .perform();
  await guest.find("blockquote");
  expect(await guest.words("section[aria-label=Comments] blockquote")).toContain("touch freezing");
  await guest.fill("Your comment", "Colder than that.");
  await guest.press("Comment");
  await guest.sees("2 open comments");
  await guest.press("Comment on the subject");
  await guest.fill("Your comment", "Shorter?");
  await guest.press("Comment");
  await guest.sees("3 open comments");
  // The words that were spoken of are marked where they stand, without changing the email.
  expect(
    await inFrame<string[]>(
      "return [...frame.contentWindow.CSS.highlights.get('said')].map((range) => range.toString())",
    ),
  ).toEqual(["touch freezing"]);
  // Whose the link is, is who says it, whatever is sent along.
  const posted = await fetch(`${link}/talks`, {
    method: "POST",
    headers: { "content-type": "application/json", origin: program.address },
    body: JSON.stringify({
      intent: "answer",
      name: "Petra",
      words: "Or not.",
      talk: await guest.run("return document.querySelector('[data-talk]').dataset.talk"),
    }),
  });
  expect(posted.status).toBe(200);
  const { talks } = (await (await fetch(`${link}/talks`)).json()) as {
    talks: { said: { author: string; words: string }[] }[];
  };
  expect(talks.flatMap(({ said }) => said).find(({ words: its }) => its === "Or not.")?.author).toBe(
    "Ida Renner",
  );
  await guest.press("Ask for changes");
  await guest.sees("Say what is to change");
  await guest.fill("What you make of it", "The two I marked.");
  await guest.press("Ask for changes");
  await guest.sees("You asked for changes");
});

test("in the composer they stand beside their blocks, are answered and resolved, and travel with them", async () => {
  await page.open("/campaigns");
  await page.sees("Ida Renner wants changes · 3 open comments · waits for Board");
  await page.open(`/campaigns/${id}/compose`);
  await page.find("[data-testid=comment-mark]");
  // To another place it goes with its block.
  const markOf = async (of: string) => (await page.named(of)).getRect();
  const before = await markOf("1 comment on Button");
  await page.press("1 comment on Button");
  await page.sees("Make this one larger.", "[data-testid=panel]");
  await page.press("Move up");
  await page.until(async () => (await markOf("1 comment on Button")).y < before.y, "the mark stayed");
  await page.saved();
  await page.press("Answer Ida Renner");
  await page.fill("Your name", "Petra");
  await page.fill("Your answer", "Further up instead?");
  await page.press("Answer");
  await page.sees("Further up instead?", "[data-testid=panel]");
  await page.press("Resolve what Ida Renner said");
  await page.until(
    async () => !(await page.words("[data-testid=panel]")).includes("Make this one larger."),
    "it is not resolved",
  );
});

test("the reviewer is told what has changed since, and approves; the list says so; a link taken back shows nothing", async () => {
  await guest.driver.navigate().refresh();
  await guest.sees("It has changed since.");
  await guest.sees("Moved", "[aria-label='Changed since you looked last']");
  await guest.press("Show 1 resolved");
  await guest.sees("Resolved by Petra");
  await guest.sees("Further up instead?");
  await guest.press("Approve it");
  await guest.sees("You approved it");
  await page.open("/campaigns");
  await page.sees("2 open comments · waits for Board · approved by Ida Renner");
  await page.open(`/campaigns/${id}/review`);
  await page.sees("Approved it as it is");
  await page.press("Take the link of Ida Renner back");
  await page.sees("The link was taken back");
  const gone = await fetch(link, { headers: { accept: "text/html" } });
  expect(gone.status).toBe(404);
  expect(await gone.text()).toContain("This review was taken back.");
  for (const part of ["talks", "look", "lines"])
    expect((await fetch(`${link}/${part}`)).status, part).toBe(404);
});
