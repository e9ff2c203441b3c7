/** What words become while one writes, cells, what outlives a reload, what is asked and found around an email. */
import { afterAll, afterEach, beforeAll, describe, expect, test } from "vitest";
import type { HoursBlock, TableBlock } from "~/core/blocks";
import { type Block, blocksOf, inlineText } from "~/core/email";
import { Key, keepFailure, openBrowser, type Page } from "./browser";
import { campaignNamed, designOf } from "./campaigns";
import { FEW, type Program, startProgram } from "./program";

let program: Program;
let page: Page;
let id: string;

beforeAll(async () => {
  program = await startProgram({ contacts: FEW });
  page = await openBrowser(program.address);
});
afterAll(async () => {
  await page?.driver.quit();
  await program?.stop();
});
afterEach(({ task }) => keepFailure(page, task));

async function letter(name: string): Promise<void> {
  await page.open("/campaigns");
  await page.press("New campaign");
  await page.fill("Name", name);
  await page.run("document.querySelector('input[name=layout][value=letter]').click()");
  await page.press("Start composing");
  await page.sees("Reading as");
  id = await campaignNamed(program, name);
}
const inEditor = () => page.inEditor();
/** Waits until it is words of this row that are written in; of any row without an id. */
const inRow = (id = "") =>
  page.until(
    () =>
      page.run<boolean>(
        `const root = document.querySelector('[data-testid=canvas]').shadowRoot;
         return root.activeElement?.closest('[data-edit^="rows/' + arguments[0] + '"]') != null;`,
        id,
      ),
    "the row is not written in",
  );
const write = (words: string) => page.write(words);
/** Puts the cursor into a cell. */
async function writeCell(words: string): Promise<void> {
  await page.clickAt(await page.onCanvas(words));
  const at = await page.run<{ x: number; y: number }>(
    `const cell = [...document.querySelector('[data-testid=canvas]').shadowRoot.querySelectorAll('[data-edit-kind=cell]')].find(it => it.innerText.trim() === arguments[0]);
     const r = cell.getBoundingClientRect(); return { x: r.x + r.width / 2, y: r.y + r.height / 2 };`,
    words,
  );
  await page.clickAt(at);
  await page.until(inEditor, `the cell “${words}” cannot be written in`);
}
const blocks = async (): Promise<readonly Block[]> => {
  await page.saved();
  return blocksOf(await designOf(program, id));
};
async function savedBlocks(
  fits: (blocks: readonly Block[]) => boolean,
  what: string,
): Promise<readonly Block[]> {
  let last: readonly Block[] = [];
  await page.until(async () => {
    await page.chord(Key.CONTROL, "s");
    last = await blocks();
    return fits(last);
  }, what);
  return last;
}
const types = (all: readonly Block[]) => all.map(({ type }) => type);
const paste = (text: string) =>
  page.run(
    `const data = new DataTransfer(); data.setData('text/plain', arguments[0]);
     document.querySelector('[data-testid=canvas]').shadowRoot.activeElement.dispatchEvent(
       new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true, composed: true }));`,
    text,
  );
const cells = (all: readonly Block[]) => {
  const table = all.find(({ type }) => type === "table") as TableBlock | undefined;
  return table?.rows.map((row) => table.columns.map((column) => inlineText(row.cells[column.id] ?? [])));
};

describe("among words", () => {
  test("a mark and a space begin a heading, a block asked for is written in at once", async () => {
    await letter("Becoming");
    await write("Begin with what matters");
    await page.chord(Key.CONTROL, "a");
    await page.keys("First words.", Key.ENTER, "## ", "A new heading");
    await savedBlocks((all) => types(all).join() === "heading,text,heading,button,footer", "no heading came");
    await page.keys(Key.ESCAPE);
    await write("First words.");
    await page.keys(Key.END, " /quote");
    await page.sees("Quote", "[role=listbox]");
    await page.keys(Key.ENTER);
    await page.until(inEditor, "the quote is not written in");
    await page.keys("Said here.");
    await page.until(
      async () => (await page.canvasWords()).includes("Said here."),
      "the words did not land in the quote",
    );
    await page.keys(Key.ESCAPE);
  });

  test("Markdown and cells of a spreadsheet become what they are, and one undo takes them back", async () => {
    await write("First words.");
    await page.keys(Key.END);
    await paste("### Prices\n\nAll with **tax**.\n\n| What | Cost |\n|---|---|\n| Peas | 2 |");
    const made = await savedBlocks((all) => types(all).includes("table"), "no table came");
    expect(types(made).slice(1, 5)).toEqual(["text", "heading", "text", "table"]);
    await page.chord(Key.CONTROL, "z");
    await savedBlocks((all) => !types(all).includes("table"), "the undo left some of it");
    await write("First words.");
    await page.keys(Key.END);
    await paste("What\tCost\nPeas\t2\nBeans\t3");
    const sheet = await savedBlocks((all) => types(all).includes("table"), "no table came of the sheet");
    expect(cells(sheet)).toEqual([
      ["What", "Cost"],
      ["Peas", "2"],
      ["Beans", "3"],
    ]);
  });

  test("Tab selects a cell’s words, arrows leave it, Enter is a new line, and an undone row is gone", async () => {
    await writeCell("Peas");
    await page.keys(Key.TAB, "4");
    await savedBlocks((all) => cells(all)?.[1]?.[1] === "4", "Tab did not select the words of the cell");
    await page.keys(Key.ARROW_DOWN);
    await page.chord(Key.CONTROL, "a");
    await page.keys("5");
    await page.until(async () => {
      await page.keys(Key.ARROW_LEFT);
      return page.run<boolean>(
        "return document.querySelector('[data-testid=canvas]').shadowRoot.activeElement?.innerText.trim() === 'Beans'",
      );
    }, "the arrow does not lead to the cell on the left");
    await page.chord(Key.CONTROL, "a");
    await page.keys("Runner", Key.ENTER, "beans");
    await savedBlocks(
      (all) => cells(all)?.[2]?.join("|") === "Runner beans|5",
      "the arrows did not lead to the cells",
    );
    await page.keys(Key.TAB, Key.TAB);
    await savedBlocks((all) => cells(all)?.length === 4, "Tab in the last cell added no row");
    await page.chord(Key.CONTROL, "z");
    await savedBlocks((all) => cells(all)?.length === 3, "the row was not taken back");
    const shown = await page.run<number>(
      "return document.querySelector('[data-testid=canvas]').shadowRoot.querySelectorAll('table[role=table] tr').length",
    );
    expect(shown).toBe(3);
  });

  test("Tab at the end of a list adds to it, and goes on from what nobody has written in", async () => {
    const hours = (all: readonly Block[]) =>
      all.find(({ type }) => type === "hours") as unknown as HoursBlock | undefined;
    await page.keys(Key.ESCAPE);
    await write("First words.");
    await page.keys(Key.END, " /opening");
    await page.sees("Opening hours", "[role=listbox]");
    await page.keys(Key.ENTER);
    // Until then the words before it are written in, and a Tab would be theirs.
    await inRow();
    // The key after a Tab may come before the next frame, and is for the next words.
    const taken = await page.run<boolean>(
      `const root = document.querySelector('[data-testid=canvas]').shadowRoot;
       const before = root.activeElement;
       before.dispatchEvent(new KeyboardEvent("keydown", { key: "Tab", keyCode: 9, bubbles: true, cancelable: true, composed: true }));
       return root.activeElement !== before && root.activeElement?.getAttribute("role") === "textbox";`,
    );
    expect(taken).toBe(true);
    await page.keys(Key.TAB, Key.TAB, Key.TAB, Key.TAB, "shut");
    await savedBlocks(
      (all) => inlineText(hours(all)?.rows[2]?.hours ?? []) === "shut",
      "Tab does not lead to the last hours",
    );
    await page.keys(Key.TAB);
    const more = await savedBlocks((all) => hours(all)?.rows.length === 4, "Tab at the end added no row");
    await inRow(hours(more)?.rows[3].id);
    await page.keys(Key.TAB, Key.TAB, "Ring twice.");
    const after = await savedBlocks(
      (all) => JSON.stringify(hours(all)?.note).includes("Ring twice."),
      "Tab does not go on to the note",
    );
    expect(hours(after)?.rows).toHaveLength(4);
  });

  test("a button’s words offer no link", async () => {
    await page.keys(Key.ESCAPE);
    await write("Read more");
    await page.find("[role=toolbar][aria-label='Format the words'] [aria-label=Bold]");
    expect(
      await page.driver.findElements({ css: "[aria-label='Format the words'] [aria-label=Link]" }),
    ).toEqual([]);
    await page.keys(Key.ESCAPE);
  });
});

describe("around the email", () => {
  test("a section comes after the selected one, never below the footer; keys lead to the panel and back", async () => {
    await page.press("Section");
    await page.until(async () => (await designOf(program, id)).sections.length === 3, "no section came");
    const { sections } = await designOf(program, id);
    expect(
      sections.at(-1)?.rows.flatMap(({ columns }) => columns.flatMap((one) => types(one.blocks))),
    ).toContain("footer");
    const inside = (css: string) => page.run<boolean>(`return !!document.activeElement.closest('${css}')`);
    await page.keys(Key.F6);
    await page.until(() => inside("[data-testid=panel]"), "the key does not lead to the panel");
    await page.keys(Key.F6);
    await page.until(() => inside("[data-testid=canvas]"), "the key does not lead back");
  });

  test("what can be undone outlives a look at the preview, and a reload", async () => {
    await page.saved();
    await page.press("Preview");
    await page.sees("Tablet", "main");
    await page.press("Compose");
    await page.sees("Reading as");
    await page.press("Undo adding");
    await page.until(
      async () => (await designOf(program, id)).sections.length === 2,
      "the section was not taken back",
    );
    await page.saved();
    await page.reload();
    await page.sees("Reading as");
    await page.press("Redo adding");
    await page.until(
      async () => (await designOf(program, id)).sections.length === 3,
      "the section did not come again",
    );
  });

  test("what one does is found: the preheader, a theme, the proof", async () => {
    const find = async (words: string, label: string) => {
      await page.chord(Key.CONTROL, "k");
      await page.until(
        () => page.run<boolean>("return document.activeElement?.matches('[cmdk-input]')"),
        "nothing can be sought",
      );
      await page.keys(words);
      await page.until(
        async () => (await page.words("[cmdk-item][aria-selected=true]")).startsWith(label),
        `“${words}” does not find “${label}”`,
      );
      await page.keys(Key.ENTER);
    };
    await find("preheader", "Write the preheader");
    await page.until(
      () => page.run<boolean>("return document.activeElement?.getAttribute('aria-label') === 'Preheader'"),
      "the cursor is not in the preheader",
    );
    await find("theme: lilac", "Theme: Lilac");
    await page.until(async () => (await designOf(program, id)).theme === "lilac", "the theme was not taken");
    await find("proof", "Send a proof");
    await page.sees("Stands above the email, in the proof only");
  });

  test("a form asks before it is left with something unsaved", async () => {
    await page.open("/brand");
    await page.fill("Website", "https://other.example");
    await page.press("Sources");
    await page.sees("Leave without saving?");
    await page.press("Stay");
    expect(await page.run<string>("return location.pathname")).toBe("/brand");
    await page.press("Sources");
    await page.press("Leave and lose it");
    await page.until(
      async () => (await page.run<string>("return location.pathname")) === "/sources",
      "it was not left",
    );
  });

  test("campaigns are marked and labelled together; a search puts the very name first", async () => {
    await letter("Frost");
    await letter("Late frost, again");
    await page.open("/campaigns");
    await page.press("Mark Frost");
    await page.press("Mark Late frost, again");
    await page.sees("2 campaigns marked");
    await page.press("Label…");
    await page.fill("Labels", "cold");
    await page.press("Give labels");
    await page.sees("2 campaigns changed");
    await page.press("Mark none");
    await page.fill("Search campaigns", "frost");
    await page.until(
      async () => (await page.words("article")).startsWith("Frost"),
      "the very name does not come first",
    );
    await page.fill("Search campaigns", "cold");
    await page.sees("Labelled “cold”");
  });
});
