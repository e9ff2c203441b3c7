/** The writing assistant in the running program: ours, and one behind an address in Settings. */
import { afterAll, afterEach, beforeAll, beforeEach, expect, test } from "vitest";
import { blocksOf, inlineText } from "~/core/email";
import { MANNERS, openRude } from "~/server/assistant/rude";
import { By, Key, keepFailure, openBrowser, type Page } from "./browser";
import { campaignNamed, chooseStart, designOf, startBlank } from "./campaigns";
import { FEW, type Program, startProgram } from "./program";

let rude: Awaited<ReturnType<typeof openRude>>;
let program: Program;
let page: Page;
beforeAll(async () => {
  rude = await openRude();
  program = await startProgram({ contacts: FEW, env: { SEPTIMA_STANDINS: `own=${rude.origin}` } });
});
afterAll(async () => {
  await program?.stop();
  rude.close();
});
beforeEach(async () => {
  page = await openBrowser(program.address);
});
afterEach(async ({ task }) => {
  await keepFailure(page, task);
  await page.driver.quit();
});

const BRIEF = [
  "Open days in May, for people who came last year",
  "- workshops on both mornings",
  "- plants at half price",
  "The tea room is open until six.",
  "A picture of the glasshouse",
  "Book a place: https://tansyrow.example/open",
].join("\n");

async function beginBrief(name: string, brief: string): Promise<void> {
  await chooseStart(page, "From a brief", name);
  await page.fill("What should it say, and to whom?", brief);
}
const answers = () => page.words("[aria-label=Answers]");
/** The card of the answer that holds these words. */
const card = (words: string) =>
  page.driver.findElement(
    By.xpath(`//*[@aria-label='Answers']//li//li[contains(., ${JSON.stringify(words)})]`),
  );
const inCard = async (words: string, button: string) =>
  (await (await card(words)).findElement(By.xpath(`.//button[normalize-space(.)='${button}']`))).click();

test("a brief becomes a first draft of blocks, which greets by name and can be changed like any other", async () => {
  await beginBrief("Open days", BRIEF);
  await page.sees("Simulated assistant");
  await page.press("Write a first draft");
  await page.sees("Reading as");
  await page.until(async () => (await page.canvasWords()).includes("Workshops on both mornings"), "no draft");
  const id = await campaignNamed(program, "Open days");
  const design = await designOf(program, id);
  expect(blocksOf(design).map(({ type }) => type)).toEqual([
    "heading",
    "text",
    "text",
    "text",
    "image",
    "button",
    "footer",
  ]);
  const message = await (await fetch(`${program.address}/campaigns/${id}/picture`)).text();
  expect(message).not.toContain("first_name");
  await page.clickAt(await page.onCanvas("The tea room"));
  await page.keys(Key.ENTER, Key.chord(Key.CONTROL, Key.END), " Dogs too.", Key.ESCAPE);
  await page.saved();
  expect(JSON.stringify(await designOf(program, id))).toContain("until six. Dogs too.");
});

test("asked about this email: a subject, a shorter opening and an idea are accepted, refused and undone", async () => {
  const id = await startBlank(page, program, "A sample", "Asked about");
  await page.press("Ask");
  await page.press("Subjects");
  await page.until(async () => (await answers()).includes("Your guide to"), "no subjects");
  const subject = async () => inlineText((await designOf(program, id)).envelope.subject);
  const before = await subject();
  await inCard("Your guide to", "Accept");
  await page.until(async () => (await answers()).includes("This stands there now"), "it is not said");
  await page.saved();
  expect(await subject()).toMatch(/^Your guide to/);
  await page.press("Undo taking an answer");
  await page.until(async () => !(await answers()).includes("This stands there now"), "it is said still");
  await page.saved();
  expect(await subject()).toBe(before);
  await inCard("Begin here", "Refuse");
  await page.until(async () => !(await answers()).includes("Begin here"), "the refused one is there still");

  const long = "Three things happened this month";
  await page.press("A shorter opening");
  await page.until(async () => (await answers()).includes(long), "no opening");
  // A difference: what goes is struck out.
  const struck = await (await card(long)).findElements(By.css("del"));
  expect((await Promise.all(struck.map((one) => one.getText()))).join(" ")).toContain("Here they are");
  await inCard(long, "Accept");
  await page.until(
    async () => !(await page.canvasWords()).includes("Here they are"),
    "it is as long as before",
  );
  expect(await page.canvasWords()).toContain(long);

  await page.fill("Question about this email", "What are your ideas?");
  await page.keys(Key.ENTER);
  await page.until(async () => (await answers()).includes("A question you asked us"), "no ideas");
  await inCard("A question you asked us", "Accept");
  await page.until(
    async () => (await page.canvasWords()).includes("A question you asked us"),
    "it is not there",
  );
  await page.saved();
  const blocks = blocksOf(await designOf(program, id));
  expect(
    blocks.some(
      ({ type, content }) => type === "heading" && JSON.stringify(content).includes("A question you"),
    ),
  ).toBe(true);
});

test("in a letter in text only, an idea is added to its words", async () => {
  const id = await startBlank(page, program, "Text only", "Asked in text");
  await (await page.driver.findElement(By.xpath("//button[normalize-space(.)='Ask']"))).click();
  await page.press("Ideas for more");
  await page.until(async () => (await answers()).includes("In the next letter"), "no ideas");
  await inCard("In the next letter", "Accept");
  await page.saved();
  const blocks = blocksOf(await designOf(program, id));
  expect(blocks.map(({ type }) => type)).toEqual(["text", "footer"]);
  expect(JSON.stringify(blocks[0].content)).toContain("In the next letter");
});

test("another assistant by its address: tried, slow, called off, wrong; words stay until they are accepted", async () => {
  await page.open("/settings");
  await page.fill("Address", "http://127.0.0.1:1/v1");
  await page.press("Save");
  await page.sees("private network");
  await page.sees("does not work yet");
  await page.fill("Address", rude.address);
  await page.fill("Key", "open sesame");
  await page.press("Save");
  await page.sees("“Margot” answers");
  expect(rude.noted.at(-1)?.key).toBe("Bearer open sesame");
  expect(await (await fetch(`${program.address}/settings`)).text()).not.toContain("sesame");

  // It does not write this time: the brief is kept, and nothing was started.
  rude.manner("/draft", MANNERS.json({ problem: "I am at lunch." }, 503));
  await beginBrief("Never begun", "Frost is near");
  await page.press("Write a first draft");
  await page.sees("I am at lunch");
  expect(
    await page.run<string>("return [...document.querySelectorAll('[role=dialog] textarea')][0].value"),
  ).toBe("Frost is near");
  rude.manner("/draft", MANNERS.silent);
  await page.press("Write a first draft");
  await page.sees("Writing a first draft…");
  await page.press("Cancel");
  rude.manner(
    "/draft",
    MANNERS.json({ subject: "Frost", parts: [{ kind: "heading", text: "Frost" }, { kind: "dance" }] }),
  );
  await page.press("Write a first draft");
  await page.sees("a part of the kind “dance”");
  await page.until(async () => (await page.canvasWords()).includes("Frost"), "no draft");
  expect(
    (await (await fetch(`${program.address}/campaigns`)).text()).match(/Never begun/g)?.length,
  ).toBeGreaterThan(0);

  rude.manner("/ask", MANNERS.silent);
  await page.press("Ask");
  await page.sees("Margot answers");
  await page.press("Subjects");
  await page.sees("Writing…");
  await page.press("Cancel");
  await page.until(async () => (await answers()).trim() === "", "it is waited for still");
  rude.manner("/ask", MANNERS.page);
  await page.press("Subjects");
  await page.sees("not with JSON");
  rude.manner("/ask", (response, noted) => {
    const [heading] = noted.body.letter.places;
    MANNERS.dripping(
      {
        answers: [
          { text: "Cover what is **tender**, {first_name|friend}", for: heading.id },
          { text: "Old", for: "gone" },
        ],
      },
      20,
    )(response, noted);
  });
  await page.press("Subjects");
  await page.until(async () => (await answers()).includes("Cover what is tender"), "no answer");
  expect(await answers()).toContain("for words that are not in this email");
  expect(await page.canvasWords()).not.toContain("tender");
  await inCard("Cover what is tender", "Accept");
  await page.until(async () => (await page.canvasWords()).includes("tender"), "it was not put in");

  // Words that are rewritten by it lose no reader data.
  rude.manner("/rewrite", MANNERS.json({ text: "Nothing of yours" }));
  await page.clickAt(await page.onCanvas("tender"));
  await page.press("Shorten");
  await page.sees("Nothing of yours");
  expect(await page.words("[aria-label=Suggestion]")).toContain("reader data");
  await page.open("/settings");
  await page.fill("Address", " ");
  await page.press("Save");
  await page.sees("“Simulated assistant” answers, simulated");
});
