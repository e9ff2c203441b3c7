/** Starting points: templates, themes of one's own, in the running program. */
import { afterAll, afterEach, beforeAll, beforeEach, expect, test } from "vitest";
import { By, Key, keepFailure, openBrowser, type Page } from "./browser";
import { campaignNamed, designOf, startFrom } from "./campaigns";
import { FEW, type Program, startProgram } from "./program";

let program: Program;
let page: Page;
beforeAll(async () => {
  program = await startProgram({ contacts: FEW });
});
afterAll(() => program?.stop());
beforeEach(async () => {
  page = await openBrowser(program.address);
});
afterEach(async ({ task }) => {
  await keepFailure(page, task);
  await page.driver.quit();
});

/** Writes a heading on the canvas anew, from the words it has. */
async function rewrite(words: string, next: string): Promise<void> {
  const at = await page.onCanvas(words);
  await page.clickAt(at);
  await page.driver.actions().doubleClick().perform();
  await page.until(
    () =>
      page.run<boolean>(
        "return document.querySelector('[data-testid=canvas]').shadowRoot.querySelector('.ProseMirror') !== null",
      ),
    "the words are not being written",
  );
  await page.chord(Key.CONTROL, "a");
  await page.keys(next);
  await page.until(async () => (await page.canvasWords()).includes(next), `“${next}” is not on the canvas`);
  await page.saved();
}

test("a campaign from a template: found by words, looked at in another theme, started in it", async () => {
  await page.open("/templates");
  await page.sees("29 of 29");
  await page.fill("Search templates", "garlic");
  await page.sees("1 of 29");
  await page.press("One question");
  await page.press("Favourite One question");
  // The picture is the letter itself, as a reader gets it.
  const pictureWords = async () => {
    const frame = await page.find("iframe[title='On a phone']");
    await page.driver.switchTo().frame(frame);
    try {
      return [
        await page.words(),
        await page.run<string>("return getComputedStyle(document.body).backgroundColor"),
      ];
    } finally {
      await page.driver.switchTo().defaultContent();
    }
  };
  await page.until(
    async () => (await pictureWords())[0].includes("How did the garlic do?"),
    "no true picture",
  );
  const [, before] = await pictureWords();
  await page.press("Market day");
  await page.until(async () => (await pictureWords())[1] !== before, "the picture did not take the theme");
  expect((await pictureWords())[0]).toContain("How did the garlic do?");
  await page.find("[aria-label='On a desktop'][data-drawn*='theme=market']");
  await page.press("Start from it");
  await page.fill("Name of the campaign", "Garlic, asked");
  await page.press("Start composing");
  await page.sees("Reading as");
  expect(await page.canvasWords()).toContain("How did the garlic do?");
  const id = await campaignNamed(program, "Garlic, asked");
  expect((await designOf(program, id)).theme).toBe("market");
  await page.open("/templates?shelf=favourite");
  await page.sees("1 of 29");
  await page.sees("used once");
});

test("a template from a campaign, changed, its change offered to two drafts and taken by one", async () => {
  const origin = await startFrom(page, program, "A plain letter", "Origin");
  await page.press("More");
  await page.press("Keep as a template…");
  await page.fill("Name", "House letter");
  await page.fill("What it is like", "as we write");
  await page.choose("To", "Thank");
  await page.press("Keep the template");
  await page.sees("is a template now");
  await page.press("Show it");
  await page.sees("30 of 30");
  const first = await startFrom(page, program, "House letter", "First draft");
  const second = await startFrom(page, program, "House letter", "Second draft");
  await rewrite("The first frost came", "My own heading");
  // The template itself is composed as a campaign is, and not sent.
  await page.open("/templates");
  await page.press("House letter");
  await page.press("Edit the template");
  await page.sees("Reading as");
  expect(await page.words("header")).not.toContain("Readers");
  await rewrite("The first frost came", "Frost, corrected");
  await rewrite("Petra, head gardener", "Petra and all of us");
  // The bar knows of it by itself.
  await page.sees("Offer its changes to 3 campaigns", "header");
  await page.open("/templates");
  await page.press("House letter");
  await page.sees("3 unsent campaigns made from it lack its changes");
  await page.driver.findElement(By.partialLinkText("unsent campaigns made from it")).click();
  const section = async (name: string) => page.find(`section[aria-label="${name}"]`);
  await section("Second draft");
  expect(await page.words('section[aria-label="Second draft"]')).toContain("it stays as it is");
  expect(await page.words('section[aria-label="First draft"]')).not.toContain("it stays as it is");
  // Words that stay are not struck out, and each is shown as it is and as it would be.
  expect(await page.words('section[aria-label="First draft"] del')).not.toContain("Petra");
  await page.find('section[aria-label="Second draft"] [aria-label$="as it is"][data-drawn]');
  await page.find(
    'section[aria-label="Second draft"] [aria-label$="with what is chosen"][data-drawn*="take="]',
  );
  const press = async (name: string, label: string) => {
    const button = await (await section(name)).findElement(By.xpath(`.//button[contains(., "${label}")]`));
    await button.click();
    await page.until(
      async () => (await page.driver.findElements(By.css(`section[aria-label="${name}"]`))).length === 0,
      `${name} is still offered`,
    );
  };
  await press("Second draft", "Take 1 change");
  await press("First draft", "Leave it as it is");
  const words = async (id: string) => JSON.stringify(await designOf(program, id));
  expect(await words(second)).toContain("My own heading");
  expect(await words(second)).toContain("Petra and all of us");
  expect(await words(first)).not.toContain("Petra and all of us");
  expect(await words(origin)).not.toContain("Petra and all of us");
  await page.sees("Origin");
  await press("Origin", "Take 2 changes");
  expect(await words(origin)).toContain("Frost, corrected");
  await page.sees("Nothing to take over");
});

test("a template is deleted and comes back, is kept as a file and brought in again", async () => {
  await page.open("/templates");
  await page.press("Card");
  await page.press("Change a copy");
  await page.sees("Reading as");
  await page.open("/templates?q=(ours");
  await page.press("Card (ours)");
  await page.press("Delete the template");
  await page.sees("No template matches");
  await page.press("Undo");
  await page.sees("Card (ours)");
  const file = await page.run<string>(
    "return fetch(document.querySelector('a[aria-label=\"Keep it as a file\"]').href).then(r => r.text())",
  );
  expect(JSON.parse(file)).toMatchObject({ name: "Card (ours)", purpose: "invite" });
  const bring = async (text: string) =>
    page.run(
      `const field = document.querySelector('input[type=file]');
       const held = new DataTransfer();
       held.items.add(new File([arguments[0]], "card.json", { type: "application/json" }));
       field.files = held.files;
       field.dispatchEvent(new Event("change", { bubbles: true }));`,
      text,
    );
  await bring("{}");
  await page.sees("“card.json” cannot be brought in");
  await bring(file.replace('"Card (ours)"', '"Card, brought in"'));
  await page.sees("The template was brought in");
  await page.open("/templates?q=brought");
  await page.sees("Card, brought in");
  // Put away it is offered no more, until it is brought back.
  await page.press("Mark Card, brought in");
  await page.press("Archive");
  await page.sees("No template matches");
  await page.choose("Which", "Archived");
  await page.press("Mark Card, brought in");
  await page.press("Bring back");
  await page.sees("What you archive will be here");
  await page.choose("Which", "All");
  await page.sees("Card, brought in");
});

test("a theme is made from ours, changed, saved, and offered to another email that uses it", async () => {
  await startFrom(page, program, "Thank you", "Themed");
  await page.press("Change this theme");
  await page.fill("Name of the theme", "House");
  const paper = await page.named("Paper");
  await paper.sendKeys(Key.chord(Key.CONTROL, "a"), "#FFF3C4", Key.ENTER);
  const canvasHas = (colour: string) =>
    page.run<boolean>(
      `return document.querySelector('[data-testid=canvas]').shadowRoot.innerHTML.toLowerCase().includes(arguments[0].toLowerCase())`,
      colour,
    );
  await page.until(() => canvasHas("#FFF3C4"), "the email does not show the change");
  await page.chord(Key.CONTROL, "z");
  await page.until(async () => !(await canvasHas("#FFF3C4")), "the change was not taken back");
  await page.press("Make the change to the theme again");
  await page.until(() => canvasHas("#FFF3C4"), "the change was not made again");
  // A pair that cannot be read is said where it is.
  const soft = await page.named("Soft words");
  await soft.sendKeys(Key.chord(Key.CONTROL, "a"), "#E8DDB0", Key.ENTER);
  await page.sees("wanted 4.5");
  await (await page.named("Soft words")).sendKeys(Key.chord(Key.CONTROL, "a"), "#5C5230", Key.ENTER);
  await page.until(
    async () => !(await page.words("[data-testid=panel]")).includes("wanted"),
    "still said to be poor",
  );
  await page.press("Save the theme");
  await page.sees("“House” is kept");
  await page.saved();
  const other = await startFrom(page, program, "It has been a while", "Themed too");
  await page.press("House");
  await page.saved();
  const was = (await designOf(program, other)).theme;
  await page.open(`/campaigns/${await campaignNamed(program, "Themed")}/compose`);
  await page.sees("Reading as");
  await page.press("Change this theme");
  await page.sees("Change the theme");
  await (await page.named("Paper")).sendKeys(Key.chord(Key.CONTROL, "a"), "#E6F4EA", Key.ENTER);
  await page.until(() => canvasHas("#E6F4EA"), "the email does not show the change");
  await page.press("Save the theme");
  await page.sees("1 unsent email uses “House” as it was");
  await page.press("Update 1");
  await page.sees("1 email now has “House” as it is");
  const now = (await designOf(program, other)).theme;
  expect(now).not.toBe(was);
  expect(now.split("@")[0]).toBe(was.split("@")[0]);
  // Deleted and brought back.
  await page.press("Change this theme");
  await page.press("Delete the theme");
  await page.until(
    async () => !(await page.words("[role=radiogroup]")).includes("House"),
    "it is still offered",
  );
  await page.press("Undo");
  await page.until(
    async () => (await page.words("[role=radiogroup]")).includes("House"),
    "it did not come back",
  );
});

test("a clipping is kept and linked, dragged into another email, changed in one place, and cut loose", async () => {
  const one = await startFrom(page, program, "A plain letter", "Clipped one");
  await page.clickAt(await page.onCanvas("Petra, head gardener"));
  await page.press("Keep as a clipping");
  await page.fill("Name of the clipping", "Signed by Petra");
  await page.press("Keep");
  await page.sees("is among your clippings");
  await page.saved();
  const two = await startFrom(page, program, "Thank you", "Clipped two");
  await (await page.named("Clippings", "[role=tab]")).click();
  const card = await page.find('[data-thing="Signed by Petra"]');
  const target = await page.onCanvas("Forty-one of you");
  await page.drag(await page.centre(card), target, async () => {
    await page.find("[data-testid=landing]");
  });
  await page.until(
    async () => (await page.canvasWords()).includes("Petra, head gardener"),
    "it did not land",
  );
  await page.saved();
  // Its words are not changed by the way.
  await page.clickAt(await page.onCanvas("Petra, head gardener"));
  await page.driver.actions().doubleClick().perform();
  await page.sees("This is part of a linked clipping");
  await page.sees("also in “Clipped one”");
  await page.press("Change it everywhere");
  await page.sees("You are changing the clipping");
  await rewrite("Petra, head gardener", "Petra, and the cat");
  await page.press("Save for every place (2)");
  await page.sees("is changed here and in 1 other email");
  await page.saved();
  const words = async (id: string) => JSON.stringify(await designOf(program, id));
  expect(await words(one)).toContain("Petra, and the cat");
  expect(await words(two)).toContain("Petra, and the cat");
  await page.sees("linked in 2 emails");
  // Cut loose it is this email’s own.
  await page.clickAt(await page.onCanvas("Petra, and the cat"));
  await page.press("Cut it loose");
  await page.sees("Keep as a clipping");
  await rewrite("Petra, and the cat", "Petra alone");
  expect(await words(one)).toContain("Petra, and the cat");
  // One that comes with the program, found by words in it, by keys.
  await page.fill("Find a clipping", "neighbour");
  await (await page.find('[data-thing="What a reader said"]')).sendKeys(Key.ENTER);
  await page.until(
    async () => (await page.canvasWords()).includes("carrots before my neighbour"),
    "it did not come",
  );
  await page.fill("Find a clipping", "nowhere at all");
  await page.sees("None of them.");
});

test("campaigns are found by words of the body and by label, put away and brought back; find-anything finds them, too", async () => {
  await page.open("/campaigns");
  await page.press("More for Winter workshops");
  await page.press("Name and labels");
  await page.fill("Labels", "Cold, indoors");
  await page.press("Keep");
  await page.until(
    async () => (await page.driver.findElements(By.css("[role=dialog]"))).length === 0,
    "it stays open",
  );
  await page.sees("indoors");
  await page.choose("Label", "indoors");
  await page.sees("Winter workshops", "main");
  await page.until(async () => !(await page.words("main")).includes("Pattern book"), "others are shown, too");
  await page.open("/campaigns?q=pruning+grafting");
  await page.sees("Winter workshops", "main");
  expect(await page.words("main")).not.toContain("Late bulbs");
  await page.press("More for Winter workshops");
  await page.press("Archive");
  await page.sees("No campaign matches");
  await page.choose("State", "Archived");
  await page.sees("Winter workshops", "article");
  await page.press("More for Winter workshops");
  await page.press("Bring back");
  await page.open("/campaigns");
  await page.sees("Winter workshops", "main");
  // Its picture is the email itself.
  const id = await campaignNamed(program, "Winter workshops");
  await page.find(`article [data-drawn^='/campaigns/${id}/picture']`);
  await page.chord(Key.CONTROL, "k");
  await page.find("[cmdk-input]:focus");
  await page.keys("pruning, grafting");
  await page.until(
    async () => (await page.words("[cmdk-item][data-selected=true]")).includes("Winter workshops"),
    "it was not found",
  );
  await page.keys(Key.ENTER);
  await page.sees("Reading as");
  expect(await page.canvasWords()).toContain("Warm hands");
});

test("a cell of a table holds a picture above its words, which can still be written", async () => {
  const id = await campaignNamed(program, "Pattern book");
  await page.open(`/campaigns/${id}/compose`);
  await page.sees("Reading as");
  await page.clickAt(await page.onCanvas("Stonecross"));
  await page.sees("Picture in a cell");
  await page.choose("Row", "2, Alderwick");
  await page.choose("Column", "1, Branch");
  const part = await page.driver.findElement(By.xpath("//section[h2[contains(., 'Picture in a cell')]]"));
  await part.findElement(By.xpath(".//button[contains(., 'Choose a picture')]")).click();
  await page.click("[role=dialog] [role=option]:has(img)");
  const cell = () =>
    page.run<string>(
      `const root = document.querySelector('[data-testid=canvas]').shadowRoot;
       const td = [...root.querySelectorAll('td:has(> div[data-edit])')].find(e => e.innerText.includes('Alderwick'));
       return td && td.querySelector('img') ? td.innerText.trim() : '';`,
    );
  await page.until(async () => (await cell()) === "Alderwick", "the picture is not in the cell");
  await page.saved();
  const html = await (await fetch(`${program.address}/campaigns/${id}/picture`)).text();
  expect(html).toMatch(/<td[^>]*><table[^>]*>(?:(?!<\/td>).)*<img src="[^"]+\/pictures\/[^"]+"/);
  await page.press("Take the picture out");
  await page.until(async () => (await cell()) === "", "the picture stays");
});
