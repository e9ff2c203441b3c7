/** Themes: tried by pointing, chosen by a press, and with them the fonts that ship with the program. */
import { afterAll, afterEach, beforeAll, expect, test } from "vitest";
import { Key, keepFailure, openBrowser, type Page } from "./browser";
import { campaignNamed, designOf } from "./campaigns";
import { FEW, type Program, startProgram } from "./program";

let program: Program;
let page: Page;
let id: string;

beforeAll(async () => {
  program = await startProgram({ contacts: FEW });
  page = await openBrowser(program.address);
  id = await campaignNamed(program, "What to sow now");
});
afterAll(async () => {
  await page?.driver.quit();
  await program?.stop();
});
afterEach(({ task }) => keepFailure(page, task));

const saved = () => designOf(program, id);

/** The words on the canvas, whatever the theme writes in capitals. */
const words = async () => (await page.canvasWords()).toLowerCase();

/** How the first large heading on the canvas is set, and how wide the email stands. */
const look = () =>
  page.run<{ font: string; size: string; fetched: boolean }>(
    `const heading = [...document.querySelector('[data-testid=canvas]').shadowRoot.querySelectorAll('h1, h2')].find(e => e.innerText.includes('Hold your'));
     const { fontFamily, fontSize } = getComputedStyle(heading);
     const [family] = fontFamily.split(",");
     return { font: family.replaceAll('"', ""), size: fontSize, fetched: document.fonts.check("16px " + family) };`,
  );

const point = async (theme: string) =>
  page.driver
    .actions()
    .move({ origin: await page.named(theme, "[role=radio]") })
    .perform();

test("pointing at a theme shows the email in it, and leaving shows it as it was", async () => {
  await page.open(`/campaigns/${id}/compose`);
  await page.sees("Point at one to see the email in it");
  const said = await words();
  const before = await look();
  expect(before.font).toBe("Georgia");
  const design = await saved();

  await point("Greenhouse");
  await page.sees("As it would look in Greenhouse");
  await page.until(async () => (await look()).font === "Fraunces", "the canvas does not show the theme");
  // The font is the program’s own, fetched from it.
  await page.until(async () => (await look()).fetched, "the font did not come");
  expect((await look()).size).toBe("48px");
  expect(await words()).toBe(said);

  await page.driver.actions().move({ x: 600, y: 500 }).perform();
  await page.until(async () => (await look()).font === "Georgia", "the canvas did not go back");
  expect(await look()).toEqual(before);
  expect(await saved()).toEqual(design);
});

test("by keys: arrows go from theme to theme, Escape ends trying, Enter chooses; undo brings the one before", async () => {
  const before = await words();
  await page.run("arguments[0].focus()", await page.named("Kitchen garden", "[role=radio]"));
  await page.keys(Key.ARROW_DOWN);
  await page.sees("As it would look in First frost");
  await page.until(async () => (await look()).font === "Newsreader", "the canvas does not show the theme");
  await page.keys(Key.ESCAPE);
  await page.until(async () => (await look()).font === "Georgia", "Escape did not end it");
  await page.keys(Key.ARROW_RIGHT, Key.ENTER);
  await page.until(async () => (await look()).font === "Bricolage Grotesque", "it was not chosen");
  await page.saved();
  const { theme, ...rest } = await saved();
  expect(theme).toBe("market");
  expect(await words()).toBe(before);
  const message = async () => (await fetch(`${program.address}/campaigns/${id}/export/html`)).text();
  expect(await message()).toContain('font-family:"Bricolage Grotesque"');

  await page.chord(Key.CONTROL, "z");
  await page.until(async () => (await look()).font === "Georgia", "undo did not bring it back");
  await page.saved();
  await page.until(async () => (await saved()).theme === "garden", "the one before is not saved");
  const { theme: back, ...same } = await saved();
  expect(back).toBe("garden");
  expect(same).toEqual(rest);
});

test("looks of their own are listed, and give way to the theme’s at a press; undo brings them back", async () => {
  await page.clickAt(await page.onCanvas("Hold your beans"));
  await page.run("arguments[0].focus()", await page.named("Size", "[role=spinbutton]"));
  await page.keys(Key.ARROW_UP);
  await page.until(async () => (await look()).size === "45px", "the heading has no size of its own");
  const panel = async () => {
    await page.run("document.querySelector('nav[aria-label^=\"Path\"] button').click()");
    return page.words("[data-testid=panel]");
  };
  await page.until(
    async () => /Size\s*45 px\s*1 place, a hair from the theme’s 44 px/.test(await panel()),
    "it is not listed",
  );
  await page.saved();
  const design = await saved();
  const before = await words();
  // One by itself; then all that is left.
  await page.press("The theme’s for Size 45 px");
  await page.until(async () => !(await panel()).includes("45 px"), "it is still listed");
  expect(await panel()).toContain("One-offs");
  await page.chord(Key.CONTROL, "z");
  await page.until(async () => (await look()).size === "45px", "undo did not bring it back");
  await panel();
  await page.press("Use the theme’s");
  await page.until(
    async () => (await look()).size === "44px" && !(await panel()).includes("One-offs"),
    "it is still there",
  );
  expect(await words()).toBe(before);
  await page.chord(Key.CONTROL, "z");
  // Undo selects what came back.
  await page.until(async () => (await panel()).includes("45 px"), "it did not come back");
  await page.saved();
  await page.until(
    async () => JSON.stringify(await saved()) === JSON.stringify(design),
    "undo lost something",
  );
});

test("the fonts are given to all, and nothing else is", async () => {
  for (const font of ["fraunces", "newsreader", "bricolage-grotesque"]) {
    const answer = await fetch(`${program.address}/fonts/${font}.woff2`, {
      headers: {
        origin: "https://webmail.example",
        "sec-fetch-site": "cross-site",
        "sec-fetch-mode": "cors",
      },
    });
    expect(answer.status).toBe(200);
    expect(answer.headers.get("access-control-allow-origin")).toBe("*");
    expect(
      Buffer.from(await answer.arrayBuffer())
        .subarray(0, 4)
        .toString("latin1"),
    ).toBe("wOF2");
  }
  for (const path of ["other.woff2", "..%2f..%2fpackage.json", "fraunces"])
    expect((await fetch(`${program.address}/fonts/${path}`)).status).toBe(404);
});

/** All that stands on the canvas, with the attributes in order. */
const drawn = () =>
  page.run<string>(
    `const lines = [];
     const walk = (node) => {
       if (node.nodeType === 3) return void lines.push(node.nodeValue);
       if (node.nodeType !== 1) return;
       const attributes = [...node.attributes].filter(({ name }) => name !== "srcdoc" && !(node.localName === "iframe" && name === "style"));
       lines.push(node.localName + attributes.map(({ name, value }) => " " + name + "=" + value).sort().join(""));
       for (const child of node.childNodes) walk(child);
     };
     walk(document.querySelector("[data-testid=canvas]").shadowRoot.querySelector(".canvas"));
     return lines.join("\\n");`,
  );

test("whatever themes an email has been through, it stands as if drawn for the first time", async () => {
  const book = await campaignNamed(program, "Pattern book");
  await page.open(`/campaigns/${book}/compose`);
  await page.sees("Point at one to see the email in it");
  const before = await drawn();
  for (const theme of ["Market day", "Greenhouse", "First frost", "Harbour", "Market day"])
    await point(theme);
  await page.press("Market day");
  await page.saved();
  // What is not in view takes the theme in the frames after.
  let after = "";
  await page.until(async () => {
    const now = await drawn();
    const settled = now === after;
    after = now;
    return settled;
  }, "the canvas does not come to rest");
  await page.open(`/campaigns/${book}/compose`);
  await page.sees("Point at one to see the email in it");
  expect(after).toBe(await drawn());
  expect(after).not.toBe(before);
  await page.press("Kitchen garden");
  await page.until(async () => (await drawn()) === before, "it does not stand as at first");
  await page.saved();
});

test("whatever was moved, deleted, doubled and brought back, it stands as if drawn for the first time", async () => {
  const book = await campaignNamed(program, "Pattern book");
  const open = async () => {
    await page.open(`/campaigns/${book}/compose`);
    await page.sees("Point at one to see the email in it");
  };
  await open();
  const first = await drawn();
  await page.run("document.querySelector('[data-testid=canvas]').focus()");
  const down = (times: number) => page.keys(...Array<string>(times).fill(Key.ARROW_DOWN));
  const alt = (key: string) => page.chord(Key.ALT, key);
  let deeds = 0;
  const deed = async (work: () => Promise<void>) => {
    const before = await drawn();
    await work();
    await page.until(async () => (await drawn()) !== before, `deed ${deeds + 1} changed nothing`);
    deeds++;
  };
  await down(3);
  await deed(() => alt(Key.ARROW_DOWN));
  await deed(() => alt(Key.ARROW_DOWN));
  await deed(() => page.chord(Key.CONTROL, "d"));
  // The row and the section around it.
  await page.keys(Key.ESCAPE, Key.ESCAPE, Key.ESCAPE);
  await deed(() => alt(Key.ARROW_DOWN));
  await deed(() => page.chord(Key.CONTROL, "d"));
  await deed(() => page.keys(Key.DELETE));
  await down(4);
  await deed(() => page.keys(Key.DELETE));
  await page.saved();
  const after = await drawn();
  await open();
  expect(after).toBe(await drawn());
  expect(after).not.toBe(first);
  await page.run("document.querySelector('[data-testid=canvas]').focus()");
  // Back goes on over a reload.
  for (const all = deeds; deeds < 2 * all; ) await deed(() => page.chord(Key.CONTROL, "z"));
  expect(await drawn()).toBe(first);
  await page.saved();
});

test("a section that stands on the theme’s colour for buttons follows it into another theme", async () => {
  await page.open(`/campaigns/${id}/compose`);
  await page.sees("Point at one to see the email in it");
  await page.clickAt(await page.onCanvas("Copperhead"));
  await page.run(
    "[...document.querySelectorAll('nav[aria-label^=\"Path\"] button')].find((one) => one.textContent.includes('Three to sow')).click()",
  );
  await page.press("Choose behind");
  await page.press("Buttons");
  await page.sees("Follows the theme: buttons");
  await page.keys(Key.ESCAPE);
  await page.saved();
  const section = async () => (await saved()).sections.find(({ name }) => name === "Three to sow");
  await page.until(async () => (await section())?.contentBackground === "accent", "it is not by its role");
  const ground = () =>
    page.run<string>(
      `const words = [...document.querySelector('[data-testid=canvas]').shadowRoot.querySelectorAll('h1, h2, h3, h4')].find((one) => one.innerText.toLowerCase() === 'leeks');
       return getComputedStyle(words.closest('[data-kind=section]').querySelector('div')).backgroundColor;`,
    );
  const before = await ground();
  await page.run("document.querySelector('nav[aria-label^=\"Path\"] button').click()");
  await page.press("Market day");
  await page.until(async () => (await ground()) !== before, "it did not follow the theme");
  expect((await section())?.contentBackground).toBe("accent");
});
