/** The composer tried hard: menus at the cursor, focus, tables, pictures, devices, what is scheduled, leaving. */
import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import sharp from "sharp";
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { type Block, blocksOf, type Email } from "~/core/email";
import { By, Key, keepFailure, openBrowser, type Page } from "./browser";
import { campaignNamed, designOf, readersOf, saveDesign, submit } from "./campaigns";
import { FEW, type Program, startProgram } from "./program";

let program: Program;
let page: Page;
let folder: string;
let id: string;

beforeAll(async () => {
  program = await startProgram({ contacts: FEW });
  page = await openBrowser(program.address);
  folder = await mkdtemp(path.join(tmpdir(), "septima-pictures-"));
  for (const [name, background] of [
    ["red", "#B03030"],
    ["blue", "#3030B0"],
  ])
    await writeFile(
      path.join(folder, `${name}.png`),
      await sharp({ create: { width: 320, height: 160, channels: 3, background } })
        .png()
        .toBuffer(),
    );
});
afterAll(async () => {
  await page?.driver.quit();
  await program?.stop();
  await rm(folder, { recursive: true, force: true });
});
afterEach(({ task }) => keepFailure(page, task));

const saved = (campaign = id) => designOf(program, campaign);
const blocks = async () => blocksOf(await saved());
const selected = () =>
  page.run<string>(
    "return document.querySelector('nav[aria-label^=\"Path\"] [aria-current=true]').innerText",
  );
const focused = () =>
  page.run<string>(
    "let e = document.activeElement; while (e?.shadowRoot?.activeElement) e = e.shadowRoot.activeElement; return e === document.body ? 'the page' : (e.getAttribute('aria-label') ?? e.className ?? e.tagName)",
  );
const inEditor = () => page.inEditor();
const menu = () => page.words("[role=listbox]");

/** A letter of its own, open in the composer. */
async function letter(name: string, layout = "letter"): Promise<void> {
  await page.open("/campaigns");
  await page.press("New campaign");
  await page.fill("Name", name);
  await page.run(`document.querySelector('input[name=layout][value=${layout}]').click()`);
  await page.press("Start composing");
  await page.sees("Reading as");
  id = await campaignNamed(program, name);
}

const write = (words: string) => page.write(words);

async function savedNow(fits: (email: Email) => boolean, what: string): Promise<void> {
  await page.until(async () => {
    await page.chord(Key.CONTROL, "s");
    return fits(await saved());
  }, what);
}
const says = (words: string) => (email: Email) => JSON.stringify(email).includes(words);

describe("at the cursor", () => {
  beforeAll(() => letter("At the cursor"));

  test("@ offers reader data only at a word’s start, with values and how many lack them; Escape leaves the @", async () => {
    await write("Begin with what matters");
    await page.keys(Key.END, " ines@mail.example");
    expect(await menu()).toBe("");
    await page.keys(" @");
    await page.sees("First name", "[role=listbox]");
    await page.sees("lack it", "[role=listbox]");
    await page.keys("growing");
    await page.until(async () => (await menu()).trim().split("\n").length <= 6, "the menu is not searched");
    await page.keys(Key.ESCAPE);
    await page.until(async () => (await menu()) === "", "the menu stayed");
    expect(await inEditor()).toBe(true);
    await page.keys(" stays");
    await savedNow(says("ines@mail.example @growing stays"), "the @ and what follows were lost");
  });

  test("Enter takes it; on the tag, its fallback is edited beside it and the focus goes back to the words", async () => {
    await page.typeTag(" ", "First name");
    expect(await inEditor()).toBe(true);
    await page.run(
      "document.querySelector('[data-testid=canvas]').shadowRoot.querySelector('.ProseMirror .reader-value').click()",
    );
    await page.fill("For readers without it", "gardener");
    await page.keys(Key.ESCAPE);
    await page.until(inEditor, "the focus did not go back to the words");
    await savedNow(says('"fallback":"gardener"'), "the fallback is not in the design");
    const before = (await blocks()).length;
    await page.keys(Key.BACK_SPACE);
    expect((await blocks()).length).toBe(before);
  });

  test("raised and lowered letters, and an address without a scheme, come out as they should", async () => {
    await page.keys(Key.END, " m2");
    await page.driver.actions().keyDown(Key.SHIFT).sendKeys(Key.ARROW_LEFT).keyUp(Key.SHIFT).perform();
    await page.press("Superscript");
    await page.driver.actions().keyDown(Key.SHIFT).sendKeys(Key.ARROW_LEFT).keyUp(Key.SHIFT).perform();
    await page.press("Link");
    await page.fill("Leads to", "tansyrow.example/area");
    await page.keys(Key.ENTER);
    await savedNow(says("https://tansyrow.example/area"), "the address was not completed");
    const html = await (await fetch(`${program.address}/campaigns/${id}/export/html`)).text();
    expect(html).toMatch(/<sup style="[^"]*">/);
    await page.keys(Key.ESCAPE);
    await page.clickAt(await page.onCanvas("Read more"));
    await page.fill("Leads to", "shop.tansyrow.example");
    await page.keys(Key.TAB);
    await savedNow(says("https://shop.tansyrow.example"), "the button’s address was not completed");
  });
});

describe("keys and focus", () => {
  beforeAll(() => letter("Keys and focus", "news"));

  test("the email’s own links and buttons are no tab stops", async () => {
    await page.clickAt(await page.onCanvas("The news in a line"));
    await page.keys(Key.TAB);
    const inside = await page.run<boolean>(
      "return document.activeElement === document.querySelector('[data-testid=canvas]') && !!document.querySelector('[data-testid=canvas]').shadowRoot.activeElement",
    );
    expect(inside).toBe(false);
  });

  test("after a dialog and a menu the focus is where it was, never on the page, and Backspace takes no block", async () => {
    await page.clickAt(await page.onCanvas("First story"));
    const count = (await blocks()).length;
    await page.keys("?");
    await page.find("[role=dialog]");
    await page.keys(Key.ESCAPE);
    await page.until(async () => (await page.words("[role=dialog]")) === "", "the dialog stayed");
    expect(await focused()).toContain("The email");
    await page.press("More");
    await page.keys(Key.ESCAPE);
    await page.until(
      async () => (await focused()) === "More",
      "the focus did not go back to the menu’s button",
    );
    await page.keys(Key.BACK_SPACE);
    await page.press("Everything as it came");
    await page.until(async () => (await focused()) !== "the page", "the focus fell to the page");
    await page.keys(Key.BACK_SPACE);
    await page.chord(Key.CONTROL, "s");
    await page.saved();
    expect((await blocks()).length).toBe(count);
    await page.chord(Key.CONTROL, "z");
    await savedNow(says("First story"), "the heading was not taken back");
  });

  test("Delete on a block one is on takes it, and undo brings it back selected", async () => {
    await page.clickAt(await page.onCanvas("Second story"));
    await page.keys(Key.DELETE);
    await savedNow((email) => !says("Second story")(email), "it was not deleted");
    await page.chord(Key.CONTROL, "z");
    await savedNow(says("Second story"), "it did not come back");
    expect(
      await page.run<string>("return document.querySelector('[data-testid=panel]').innerText"),
    ).toContain("Heading");
    expect(await selected()).toBe("Heading");
  });

  test("Shift and a press select the range", async () => {
    await page.clickAt(await page.onCanvas("The news in a line"));
    const to = await page.onCanvas("Second story");
    await page.driver.actions().keyDown(Key.SHIFT).move(to).click().keyUp(Key.SHIFT).perform();
    await page.sees("6 blocks");
    await page.clickAt(to);
    await page.until(
      async () => (await selected()) === "Heading",
      "a press on one of several keeps them all",
    );
  });

  test("a press on the shelf adds after the selection and says where", async () => {
    await page.clickAt(await page.onCanvas("First story"));
    await page.press("Quote");
    await page.until(
      async () => (await page.canvasWords()).includes("What somebody said"),
      "it was not added",
    );
    await savedNow((email) => {
      const types = blocksOf(email).map(({ type }) => type);
      return types.indexOf("quote") === types.indexOf("heading", types.indexOf("heading") + 1) + 1;
    }, "it does not stand after the selection");
    expect(
      await page.run<string>("return document.querySelector('[aria-live=polite].sr-only').innerText"),
    ).toContain("after “");
  });

  test("Escape in the text part’s words closes only the words", async () => {
    await page.press("More");
    await page.press("Text part");
    await page.press("Write it yourself");
    const own = await page.find(".own-words [role=textbox]");
    await own.click();
    await page.keys("By hand", Key.ESCAPE);
    await page.find("[data-testid=text-part]");
    await page.press("Close");
    await page.until(async () => (await focused()) !== "the page", "the focus fell to the page");
  });
});

describe("tables", () => {
  beforeAll(() => letter("Tables", "empty"));

  const cell = (words: string) =>
    page.run<{ x: number; y: number } | null>(
      `const root = document.querySelector('[data-testid=canvas]').shadowRoot;
       const e = [...root.querySelectorAll('td[data-edit], th[data-edit]')].find(it => it.innerText.trim() === arguments[0]);
       const r = e?.getBoundingClientRect();
       return r ? { x: r.x + r.width / 2, y: r.y + r.height / 2 } : null;`,
      words,
    );
  const tableNow = async () =>
    (await blocks()).find(({ type }) => type === "table") as Block & { rows: unknown[]; columns: unknown[] };

  test("cells are written in, Tab goes on and grows a row at the end; rows and columns come and go", async () => {
    await page.press("Table");
    await page.until(async () => (await cell("There")) !== null, "there is no table");
    await page.clickAt((await cell("There"))!);
    await page.clickAt((await cell("There"))!);
    await page.until(inEditor, "the cell cannot be written in");
    await page.keys(Key.END, " and here");
    await savedNow(says("There and here"), "the cell was not written");
    await page.keys(Key.TAB);
    await page.until(inEditor, "Tab left the table");
    await page.keys("Third", Key.TAB, "Wednesday");
    await savedNow(says("Wednesday"), "the new row was not written");
    expect((await tableNow()).rows).toHaveLength(4);
    await page.press("Column to the right");
    await page.until(inEditor, "the new column cannot be written in");
    await page.keys("New");
    await savedNow(says('"New"'), "the new column was not written");
    expect((await tableNow()).columns).toHaveLength(4);
    await page.press("Remove this column");
    await savedNow((email) => !says('"New"')(email), "the column did not go");
    await page.press("Remove this row");
    await savedNow((email) => !says("Wednesday")(email), "the row did not go");
    const html = await (await fetch(`${program.address}/campaigns/${id}/export/html`)).text();
    expect(html).toContain("There and here");
    for (let undone = 0; undone < 12; undone++) await page.chord(Key.CONTROL, "z");
    await savedNow((email) => !says("There and here")(email), "undo did not take it back");
  });
});

describe("our own controls", () => {
  beforeAll(() => letter("Controls", "empty"));

  const value = (name: string) =>
    page.run<string>(
      "const e = document.querySelector('[data-testid=panel] [aria-label=\"' + arguments[0] + '\"]'); return (e.value ?? e.innerText).trim()",
      name,
    );

  test("a long list is searched, chosen from by keys, and left as it was by Escape", async () => {
    await page.press("Countdown");
    await page.until(async () => (await page.words("[data-testid=panel]")).includes("Clock of"), "no panel");
    const before = await value("Clock of");
    await page.press("Clock of");
    await page.keys("lisbon");
    await page.until(async () => (await menu()).trim() === "Europe/Lisbon", "it is not searched");
    await page.keys(Key.ESCAPE);
    expect(await value("Clock of")).toBe(before);
    expect(await focused()).toBe("Clock of");
    await page.keys(Key.ARROW_DOWN, "azores", Key.ENTER);
    await savedNow(says('"zone":"Atlantic/Azores"'), "the zone was not chosen by keys");
  });

  test("a day is typed as one likes or picked by keys, a time goes by quarters, and both are written plainly", async () => {
    await page.fill("Ends", "3.12.2030");
    await page.keys(Key.TAB);
    await savedNow(says('"until":"2030-12-03T10:00"'), "the day was not read");
    expect(await value("Ends")).toBe("Tue 3 Dec 2030");
    await page.press("Pick: Ends");
    await page.keys(Key.ARROW_RIGHT, Key.ARROW_DOWN, Key.ENTER);
    await savedNow(says('"until":"2030-12-11T10:00"'), "the day was not picked");
    await page.press("Ends, time");
    await page.keys(Key.ARROW_UP);
    await savedNow(says('"until":"2030-12-11T10:15"'), "the time did not move");
    await page.fill("Ends, time", "6 pm");
    await savedNow(says('"until":"2030-12-11T18:00"'), "the time was not read");
    await page.fill("Ends", "the day after");
    await page.sees("Not a day yet");
    await page.keys(Key.TAB);
    await savedNow(says('"until":"2030-12-11T18:00"'), "what is no day took the day away");
  });

  test("a number is typed and stepped within its bounds", async () => {
    await page.press("Space");
    await page.fill("Height", "999");
    await page.keys(Key.TAB);
    await savedNow(says('"height":200'), "it was not brought within its bounds");
    await page.press("Height");
    await page.driver.actions().keyDown(Key.SHIFT).sendKeys(Key.ARROW_DOWN).keyUp(Key.SHIFT).perform();
    await savedNow(says('"height":190'), "Shift does not step by ten");
  });
});

describe("colours", () => {
  beforeAll(() => letter("Colours", "news"));

  test("one’s own says how it reads and what becomes of it in dark, and so it is on the canvas and in the message", async () => {
    await page.clickAt(await page.onCanvas("The news in a line"));
    await page.press("Choose colour");
    await page.sees("In dark the theme’s own colour");
    await page.press("Colour, six digits");
    await page.chord(Key.CONTROL, "a");
    await page.keys("#7A1F1F", Key.ENTER);
    await page.sees("In dark #", "[data-testid=in-dark]");
    const [dark] = /#[0-9A-F]{6}/.exec(await page.words("[data-testid=in-dark]")) ?? [""];
    await page.keys(Key.ESCAPE);
    await page.press("Dark");
    const shown = () =>
      page.run<string>(
        `const e = [...document.querySelector('[data-testid=canvas]').shadowRoot.querySelectorAll('h1, h2')].find(e => e.innerText.includes('The news'));
         return '#' + getComputedStyle(e).color.match(/\\d+/g).map(n => Number(n).toString(16).padStart(2, '0')).join('').toUpperCase()`,
      );
    await page.until(async () => (await shown()) === dark, "the canvas shows another colour in dark");
    await page.press("Dark");
    await page.until(async () => (await shown()) === "#7A1F1F", "the canvas shows another colour in light");
    await savedNow((email) => blocksOf(email).some(({ color }) => color === "#7A1F1F"), "it was not saved");
    const html = await (await fetch(`${program.address}/campaigns/${id}/export/html`)).text();
    expect(html).toContain(`{color:${dark}!important}`);
  });
});

describe("phone width", () => {
  beforeAll(() => letter("Phone width", "news"));

  test("columns come below each other, equally wide and at one place, at once, and go back", async () => {
    const boxes = () =>
      page.run<{ x: number; y: number; width: number }[]>(
        `const columns = [...document.querySelector('[data-testid=canvas]').shadowRoot.querySelectorAll('[data-kind=column]')];
         return ['First story', 'Second story'].map(words => {
           const { x, y, width } = columns.filter(e => e.innerText.includes(words)).at(-1).getBoundingClientRect();
           return { x: Math.round(x), y: Math.round(y), width: Math.round(width) };
         })`,
      );
    await page.onCanvas("First story");
    const [first, second] = await boxes();
    expect(second.y).toBe(first.y);
    expect(second.x).toBeGreaterThan(first.x + first.width);
    await page.press("Phone width");
    await page.until(async () => {
      const [above, below] = await boxes();
      return (
        above.x === below.x && above.width === below.width && above.width > 280 && below.y > above.y + 40
      );
    }, "the columns do not stand below each other");
    await page.press("Desktop width");
    await page.until(async () => {
      const [left, right] = await boxes();
      return left.y === right.y && left.width === first.width;
    }, "the columns do not stand beside each other again");
  });
});

describe("pictures", () => {
  const data = new Map<string, string>();
  beforeAll(async () => {
    for (const name of ["red", "blue"])
      data.set(
        name,
        `data:image/png;base64,${(
          await sharp(path.join(folder, `${name}.png`))
            .png()
            .toBuffer()
        ).toString("base64")}`,
      );
    await letter("Pictures", "news");
  });

  /** Files dropped on, or pasted into, the page as the browser hands them over. */
  const hand = (how: "drop" | "paste", names: string[], at?: { x: number; y: number }) =>
    page.driver.executeAsyncScript(
      `const [how, names, at, done] = arguments;
       const octets = (data) => Uint8Array.from(atob(data.split(',')[1]), (sign) => sign.charCodeAt(0));
       Promise.resolve(names.map(([name, data]) => new File([octets(data)], name, { type: 'image/png' }))).then(files => {
         const data = new DataTransfer();
         for (const file of files) data.items.add(file);
         if (how === 'paste') document.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
         else {
           let target = document.elementFromPoint(at.x, at.y);
           while (target?.shadowRoot) target = target.shadowRoot.elementFromPoint(at.x, at.y) ?? target;
           target.dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, composed: true, cancelable: true, clientX: at.x, clientY: at.y }));
         }
         done();
       });`,
      how,
      files(names),
      at ?? null,
    );
  const files = (names: string[]) => names.map((name) => [`${name}.png`, data.get(name)]);

  test("a press on an empty picture chooses one, from a file too", async () => {
    await page.clickAt(await page.onCanvas("Choose a picture"));
    await page.find("[role=dialog]");
    await (await page.driver.findElement(By.css("input[type=file]"))).sendKeys(path.join(folder, "red.png"));
    await savedNow(
      (email) => blocksOf(email).some((block) => block.type === "image" && block.src !== ""),
      "no picture came",
    );
    expect(await page.words("[role=dialog]")).toBe("");
  });

  test("one dropped on a picture takes its place; several pasted become an image set after the selection", async () => {
    const before = (await blocks()).find(({ type }) => type === "image") as Block;
    const at = await page.run<{ x: number; y: number }>(
      "const r = document.querySelector('[data-testid=canvas]').shadowRoot.querySelector('[data-kind=block] img').getBoundingClientRect(); return { x: r.x + r.width / 2, y: r.y + r.height / 2 }",
    );
    await hand("drop", ["blue"], at);
    await savedNow(
      (email) =>
        blocksOf(email).some(
          (block) => block.id === before.id && block.src !== before.src && block.src !== "",
        ),
      "it was not dropped in",
    );
    await page.clickAt(await page.onCanvas("The news in a line"));
    await hand("paste", ["red", "blue"]);
    await savedNow(
      (email) =>
        blocksOf(email).some(
          (block) => block.type === "imageSet" && (block.pictures as unknown[]).length === 2,
        ),
      "no image set came",
    );
  });
});

describe("readers", () => {
  test("a mark stands where this reader does not get something, and a press shows one who does; the reader stays", async () => {
    id = await campaignNamed(program, "What to sow now");
    await page.open(`/campaigns/${id}/compose`);
    await page.sees("Reading as");
    await page.onCanvas("Hold your beans");
    const before = await page.words("[aria-label=Reader] button");
    await page.click("[data-testid=hidden-mark]");
    await page.until(
      async () => (await page.words("[aria-label=Reader] button")) !== before,
      "the reader did not change",
    );
    const name = (await page.words("[aria-label=Reader] button")).trim().split("\n")[0].split("  ")[0];
    const first = name.split(" ")[0];
    await page.press("Preview");
    await page.sees(first, "main");
    await page.press("Proof");
    await page.sees(first, "main");
    await page.press("Send");
    await page.find(`iframe[title*="${first}"]`);
    await page.press("Compose");
    await page.until(
      async () => (await page.words("[aria-label=Reader] button")).includes(first),
      "the reader was forgotten",
    );
  });

  test("a rule is written in the panel, and the email and the count follow at once", async () => {
    await page.clickAt(await page.onCanvas("See what to sow"));
    await page.press("Add a rule");
    await page.choose("What is looked at", "Growing zone");
    await page.choose("Value", "Warm");
    await page.until(
      async () => /Who gets it\s*[\d,]+ of [\d,]+ readers/.test(await page.words("[data-testid=panel]")),
      "it is not counted",
    );
    await page.sees("does not get it", "[data-testid=panel]");
    await page.until(
      async () => !(await page.canvasWords()).includes("See what to sow"),
      "the email did not follow",
    );
    await page.press("Show who does");
    await page.onCanvas("See what to sow");
    await page.press("Done");
    await page.press("Show to everyone");
    await page.saved();
  });
});

describe("devices", () => {
  const size = async (width: number, height: number) => {
    await page.driver.manage().window().setRect({ width, height });
    await page.until(
      async () => (await page.run<number>("return innerWidth")) === width,
      "the window has another size",
    );
  };
  beforeEach(async () => {
    id = await campaignNamed(program, "What to sow now");
  });
  afterAll(() => size(1280, 800));

  test("words that name the sender follow when the sender is renamed", async () => {
    await letter("Named by its sender");
    const design = await saved();
    const heading = blocksOf(design).find(({ type }) => type === "heading");
    const tag = { type: "mergeTag", attrs: { field: "sender.name", fallback: "", format: "asIs" } };
    Object.assign(heading ?? {}, { content: [{ type: "text", text: "Yours, " }, tag] });
    await saveDesign(program, id, design);
    await page.open(`/campaigns/${id}/compose`);
    const says = (words: string) =>
      page.until(
        async () => (await page.canvasWords()).includes(words),
        `the canvas does not say “${words}”`,
      );
    await says("Yours, Tansy Row");
    await page.press("Sender and recipient in detail");
    await (await page.named("Sender’s name")).click();
    await page.keys(Key.END, " and friends");
    await says("Yours, Tansy Row and friends");
  });

  test("from 1600 px on the phone stands beside the desktop, both live and both to be written in", async () => {
    await size(1800, 900);
    await page.open(`/campaigns/${id}/compose`);
    await page.sees("Reading as");
    await page.press("Desktop and phone side by side");
    await page.find("[data-testid=canvas-beside]");
    const at = () =>
      page.run<{ x: number; y: number }>(
        `const e = [...document.querySelector('[data-testid=canvas-beside]').shadowRoot.querySelectorAll('[data-kind=block]')].find(it => it.innerText.includes('Hold your beans'));
         e.scrollIntoView({ block: 'center' }); const r = e.getBoundingClientRect(); return { x: r.x + r.width / 2, y: r.y + r.height / 2 };`,
      );
    await page.clickAt(await at());
    await page.clickAt(await at());
    await page.until(
      () =>
        page.run<boolean>(
          "return !!document.querySelector('[data-testid=canvas-beside]').shadowRoot.activeElement?.classList.contains('ProseMirror')",
        ),
      "it cannot be written in on the phone",
    );
    await page.keys(Key.END, " From the phone.");
    await page.until(
      async () => (await page.canvasWords()).includes("From the phone."),
      "the desktop did not follow",
    );
    await write("Hold your beans");
    await page.keys(Key.END, " From the desk.");
    await page.until(
      () =>
        page.run<boolean>(
          "return document.querySelector('[data-testid=canvas-beside]').shadowRoot.querySelector('.canvas').innerText.includes('From the desk.')",
        ),
      "the phone did not follow",
    );
    await page.saved();
  });

  test("at 1100 px the shelf gives way by itself and comes back by its button; the email is as wide as its theme", async () => {
    await size(1100, 800);
    await page.open(`/campaigns/${id}/compose`);
    await page.sees("Edition");
    await page.press("Unfold the shelf");
    await page.find('[data-thing="Heading"]');
    await page.press("Fold the shelf");
    expect(await page.run<number>("return document.querySelector('[data-canvas-frame]').offsetWidth")).toBe(
      680,
    );
    expect(
      await page.run<number>("return document.documentElement.scrollWidth - innerWidth"),
    ).toBeLessThanOrEqual(0);
  });

  test("at 390 px nothing overflows on any page, and a word can be corrected", async () => {
    await size(500, 844);
    await (
      page.driver as unknown as { sendDevToolsCommand(name: string, values: object): Promise<void> }
    ).sendDevToolsCommand("Emulation.setDeviceMetricsOverride", {
      width: 390,
      height: 844,
      deviceScaleFactor: 1,
      mobile: false,
    });
    const wide: string[] = [];
    for (const where of [
      "/campaigns",
      "/audience",
      "/audience/1",
      "/audience?kind=list&id=letter",
      "/audience/fields",
      "/audience/import",
      "/lookups",
      "/referrals",
      "/join/preview",
      "/sources",
      "/sources?codes=bulb_gift",
      "/brand",
      "/pictures",
      "/templates",
      "/postroom",
      "/settings",
      "/settings/sending",
      "/settings/returned",
      "/settings/door",
      ...["compose", "preview", "all-editions", "readers", "preflight", "proof", "review", "send"].map(
        (step) => `/campaigns/${id}/${step}`,
      ),
    ]) {
      await page.open(where);
      await page.find("main, [data-testid=panel]");
      const over = await page.run<number>("return document.documentElement.scrollWidth - innerWidth");
      if (over > 0) wide.push(`${where} by ${over}`);
    }
    expect(wide).toEqual([]);
    await page.open(`/campaigns/${id}/compose`);
    await write("Hold your beans");
    expect(
      await page.run<number>(
        "const it = document.querySelector('[data-testid=canvas]').closest('.overflow-auto'); return it.scrollWidth - it.clientWidth",
      ),
    ).toBe(0);
    await page.keys(Key.END, " Corrected on the way.");
    await savedNow(says("Corrected on the way."), "it was not corrected");
    await page.press("Change");
    await page.sees("Heading", "[data-testid=panel]");
    await (
      page.driver as unknown as { sendDevToolsCommand(name: string, values: object): Promise<void> }
    ).sendDevToolsCommand("Emulation.clearDeviceMetricsOverride", {});
  });
});

describe("saving and sending", () => {
  test("leaving waits for what is not saved yet, however slow the server is", async () => {
    await letter("Leaving");
    await page.run(
      "const real = window.fetch; window.fetch = (...all) => String(all[0]).endsWith('/save') ? new Promise(go => setTimeout(go, 1500)).then(() => real(...all)) : real(...all)",
    );
    await write("Begin with what matters");
    await page.keys(Key.END, " Written just before.");
    await page.press("Preview");
    await page.sees("Saving before you go on");
    await page.find("iframe");
    expect(await page.run<string>("return document.querySelector('iframe').srcdoc")).toContain(
      "Written just before.",
    );
  });

  test("with the server away leaving is asked about, and what was written is there on coming back", async () => {
    await page.press("Compose");
    await page.sees("Reading as");
    await page.run(
      "const real = window.fetch; window.fetch = (...all) => String(all[0]).endsWith('/save') ? Promise.reject(new TypeError('away')) : real(...all)",
    );
    await write("Begin with what matters");
    await page.keys(Key.END, " Kept here.");
    await page.press("Preview");
    await page.sees("Not everything is saved");
    await page.press("Leave; they are kept here");
    await page.find("iframe");
    await page.reload();
    await page.press("Compose");
    await page.sees("were brought back");
    await page.saved();
    expect(says("Kept here.")(await saved())).toBe(true);
  });

  test("while a choice of readers is on its way, no number of the one before stands for it", async () => {
    await letter("Counted");
    await page.open(`/campaigns/${id}/readers`);
    await page.run(
      "const real = window.fetch; window.held = new Promise(go => window.letGo = go); window.fetch = (...all) => all[1]?.method === 'POST' || all[0].method === 'POST' ? window.held.then(() => real(...all)) : real(...all)",
    );
    await page.choose("Add readers", "Seed club");
    await page.sees("Counting…");
    expect(await page.words("main aside")).toMatch(/In the chosen groups\s+…/);
    expect(await page.words("main aside")).not.toMatch(/\d/);
    await page.run("window.letGo()");
    await page.sees("Each address once.");
    expect(await page.words("main aside")).toMatch(/\d readers/);
  });

  test("a sheet that cannot be counted says so, and counts again at a press", async () => {
    const sown = await campaignNamed(program, "What to sow now");
    await page.open(`/campaigns/${sown}/readers`);
    await page.sees("Each address once");
    await page.run(`const real = window.fetch; window.away = true;
      window.fetch = (input, init) => window.away && /send\\/sheet/.test(String(input.url ?? input))
        ? Promise.reject(new TypeError("away")) : real(input, init);`);
    await page.run("document.querySelector(`nav a[href$='/send']`).click()");
    await page.sees("Septima cannot be reached");
    await page.run("window.away = false");
    await page.press("Count the readers again");
    await page.sees("Send to ");
  });

  test("what is unfinished stands on the sheet, each with the way to it", async () => {
    await page.open(`/campaigns/${id}/send`);
    await page.sees("There is no subject", "[data-testid=findings]");
    await page.sees("A button leads nowhere", "[data-testid=findings]");
    await page.sees("still says what it came with", "[data-testid=findings]");
    await page.press("Show it");
    await page.sees("Reading as");
    await page.until(async () => (await selected()) === "Button", "the block is not selected");
  });

  test("a scheduled design says so, is not changed, and can be taken back or copied", async () => {
    id = await campaignNamed(program, "What to sow now");
    const readers = await readersOf(program, id);
    const day = new Date(Date.now() + 9 * 86_400_000).toISOString().slice(0, 10);
    await submit(program, `/campaigns/${id}/send`, {
      intent: "book",
      confirmed: String(readers),
      when: "later",
      date: day,
      time: "10:00",
      zone: "UTC",
    });
    await page.open(`/campaigns/${id}/compose`);
    await page.sees("This design is scheduled", "[data-testid=lock]");
    const before = await saved();
    await page.clickAt(await page.onCanvas("Hold your beans"));
    await page.keys(Key.DELETE);
    await page.sees("Take it back to change it");
    await page.clickAt(await page.onCanvas("Hold your beans"));
    await page.keys("x");
    await page.chord(Key.CONTROL, "s");
    expect(await saved()).toEqual(before);
    // Nor is it shown as if it were.
    const subject = await page.named("Subject");
    const said = await subject.getText();
    await page.press("Subject");
    await page.keys("y");
    expect([await subject.getAttribute("contenteditable"), await subject.getText()]).toEqual(["false", said]);
    await page.press("Take back and change");
    await page.press("Take it back");
    await page.until(async () => (await page.words("[data-testid=lock]")) === "", "it was not taken back");
    expect(await subject.getAttribute("contenteditable")).toBe("true");
    await write("Hold your beans");
    await page.keys(Key.END, " After all.");
    await savedNow(says("After all."), "it cannot be changed");
  });

  test("a sent design can only be copied, and the copy is open at once", async () => {
    const other = await campaignNamed(program, "Late bulbs, half price");
    await page.open(`/campaigns/${other}/compose`);
    await page.sees("What readers get stays as it is", "[data-testid=lock]");
    await page.press("Make a copy");
    await page.until(
      async () =>
        (await page.words("[data-testid=lock]")) === "" &&
        !(await page.driver.getCurrentUrl()).includes(other),
      "no copy opened",
    );
    await page.sees("Saved");
  });

  test("what was deleted is in the bin and comes back from there", async () => {
    await page.open("/campaigns");
    await page.press("More for Leaving");
    await page.press("Delete");
    await page.press("Bin 1");
    await page.sees("Leaving", "[data-testid=bin]");
    await page.press("Bring back “Leaving”");
    await page.sees("Leaving", "main");
  });

  test("a segment and a source say what uses them before they go, and come back", async () => {
    await page.open("/sources");
    const name = (await page.words("section[aria-label] h2")).trim().split("\n")[0];
    await page.press(`Remove “${name}”`);
    await page.sees("use", "[data-testid=uses]");
    await page.press("Remove it");
    await page.sees("was removed");
    await page.press("Undo");
    await page.sees(`“${name}” is back`);
  });
});
