/**
 * Every control of every block type, used as a person does: it changes the design, shows no error, the message follows,
 * and undo takes it back. That each declared property has a control of its kind follows from the declarations; what the
 * panel has besides is found by its kind, so that a new one is walked by itself.
 */
import { afterAll, afterEach, beforeAll, describe, expect, test } from "vitest";
import { BLOCK_TYPES, type BlockTypeName } from "~/core/blocks";
import { type Block, blocksOf, type Email, type Kind, same } from "~/core/email";
import { counts, type Holder, NODE_PROPERTIES, type Properties, type Property } from "~/core/properties";
import { By, Key, keepFailure, openBrowser, type Page } from "./browser";
import { addSource, campaignNamed, designOf, saveDesign } from "./campaigns";
import { FEW, type Program, startProgram } from "./program";

let program: Program;
let page: Page;
let id: string;
/** Every block type there is. */
let book: Email;
/** What is walked now. */
let design: Email;

beforeAll(async () => {
  program = await startProgram({ contacts: FEW });
  page = await openBrowser(program.address, { width: 1280, height: 1000 });
  // A second source, so that there is one to choose, with other articles than the first.
  await addSource(program, "standin://publisher/journal/care.rss");
  id = await campaignNamed(program, "Pattern book");
  book = await saved();
});
afterAll(async () => {
  await page?.driver.quit();
  await program?.stop();
});
afterEach(({ task }) => keepFailure(page, task));

const saved = () => designOf(program, id);
const message = async (): Promise<string> => {
  const parts = await Promise.all(
    ["html", "txt"].map(async (format) =>
      (await fetch(`${program.address}/campaigns/${id}/export/${format}`)).text(),
    ),
  );
  return parts.join("\n");
};

// Saving and undo are no control that is walked, and are pressed hundreds of times: by a script, which is sooner than a hand.
const saveNow = () =>
  page.run(
    "document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 's', ctrlKey: true, bubbles: true, cancelable: true }))",
  );
const undo = () => page.run("document.querySelector('button[aria-label^=Undo]').click()");

/** Until the design that is saved fits; saving at once instead of a moment later. */
async function until(fits: (email: Email) => boolean, what: string): Promise<void> {
  const end = Date.now() + 20_000;
  for (;;) {
    await saveNow();
    if (fits(await saved())) return;
    if (Date.now() > end) throw new Error(what);
  }
}

/** Opens a design of the book's blocks of some types alone: whatever is done to it shows sooner than in the whole book. */
async function openWith(types: readonly string[]): Promise<void> {
  const full = <T>(parts: T[], inner: (part: T) => unknown[]) =>
    parts.filter((part) => inner(part).length > 0);
  const sections = book.sections.map((section) => ({
    ...section,
    rows: full(
      section.rows.map((row) => ({
        ...row,
        columns: row.columns.map((column) => ({
          ...column,
          blocks: column.blocks.filter(({ type }) => types.includes(type)),
        })),
      })),
      ({ columns }) => columns.flatMap(({ blocks }) => blocks),
    ),
  }));
  await saveDesign(program, id, { ...book, sections: full(sections, ({ rows }) => rows) });
  await page.open(`/campaigns/${id}/compose`);
  await page.sees("Reading as");
  design = await saved();
  await page.press("Outline");
}

/** What can be changed in the panel, by its kind. */
interface Control {
  /** The declared property it is of; null of what the panel has besides. */
  property: string | null;
  kind: string;
  part: string;
  name: string;
  nth: number;
}

/** Finds the controls of the panel; what only helps (advice, the assistant, who gets it) has tests of its own. */
const FIND = `
  const panel = document.querySelector('[data-testid=panel]');
  const kinds = [
    ['number', '[role=spinbutton]'], ['switch', '[role=switch]'], ['toggle', 'button.toggle[aria-pressed]'],
    ['choice', '[role=radiogroup], [role=group]:has(> [role=radio])'], ['list', '[data-choose][role=combobox]'],
    ['colour', 'button[aria-label^="Choose "][aria-haspopup=dialog]'], ['drawing', 'button[data-glyph]'],
    ['day', 'input[placeholder^="e.g. 3 Dec"]'], ['time', 'input[placeholder="e.g. 18:00"]'],
    ['colour digits', 'input[data-hex]'], ['words', 'textarea, input[inputmode=url], input:not([type]):not([role]):not([placeholder^="e.g."]):not([data-hex])'],
    ['item', 'button[aria-label^="Move "], button[data-remove], button[data-add]'],
  ];
  const out = [];
  for (const section of panel.querySelectorAll('section')) {
    const part = section.querySelector('h2')?.firstChild?.textContent?.trim() ?? '';
    if (/^(Writing|Who gets it|All “|Picture in a cell)/.test(part)) continue;
    for (const [kind, css] of kinds)
      for (const element of section.querySelectorAll(css)) {
        if (element.disabled || element.getAttribute('aria-disabled') === 'true' || element.getClientRects().length === 0) continue;
        const label = element.id && document.querySelector('label[for="' + CSS.escape(element.id) + '"]');
        const name = element.getAttribute('aria-label') || label?.innerText || element.innerText || '';
        out.push({ property: element.closest('[data-property]')?.dataset.property ?? null, kind, part, name: name.trim().split('\\n')[0], element });
      }
  }
  const counts = {};
  for (const it of out) { const key = it.kind + it.part + it.name; it.nth = counts[key] = (counts[key] ?? -1) + 1; }
`;

const controls = () => page.run<Control[]>(`${FIND} return out.map(({ element, ...it }) => it)`);

/** Which kinds of controls set a kind of property; null of what is written where it stands, or by nobody. */
const SET_BY: Record<Property["kind"], readonly string[] | null> = {
  number: ["number", "switch"],
  space: ["number"],
  choice: ["choice", "list", "toggle"],
  align: ["choice"],
  border: ["choice"],
  switch: ["switch"],
  colour: ["colour"],
  text: ["words"],
  address: ["words"],
  picture: ["words", "list", "switch"],
  drawing: ["drawing"],
  day: ["day"],
  moment: ["day", "time"],
  zone: ["list"],
  key: ["list"],
  list: ["item"],
  line: null,
  prose: null,
  each: null,
  held: null,
};

/** The declared properties that have no control of their kind in the panel; of lists, in their first item. */
function without(node: Holder, properties: Properties, all: readonly Control[]): string[] {
  return Object.entries(properties).flatMap(([key, property]) => {
    const kinds = SET_BY[property.kind];
    if (!kinds || !counts(property, node, node.off as string[] | undefined)) return [];
    const own = all.filter((control) => control.property === key);
    const lacking = own.some(({ kind }) => kinds.includes(kind)) ? [] : [`${key} (${property.kind})`];
    const [first] = property.kind === "list" ? (node[key] as Holder[]) : [];
    if (property.kind !== "list" || !first || Object.values(property.item).some(isPicture)) return lacking;
    const named = Object.entries(property.item).filter(
      ([, inner]) => SET_BY[inner.kind] && inner.part === undefined && counts(inner, first),
    );
    const fields = named
      .filter(([, inner]) => !own.some(({ name }) => name.startsWith(`${inner.label}, ${property.noun} 1`)))
      .map(([inner]) => `${key}/${inner}`);
    return [...lacking, ...fields];
  });
}
const isPicture = ({ kind }: Property) => kind === "picture";

/**
 * All controls of the first type; of the others, what every block has alike (its place, its difference on phones) is
 * tried once for each kind.
 */
function shared(all: readonly Control[], type: BlockTypeName): Control[] {
  return all.filter((control, at) => {
    if (type === TYPES[0] || !/^(Place|On phones)$/.test(control.part)) return true;
    return all.findIndex((other) => other.part === control.part && other.kind === control.kind) === at;
  });
}

const reach = (control: Control) =>
  page.driver.executeScript<import("selenium-webdriver").WebElement | null>(
    `${FIND} const want = arguments[0];
     const found = out.find(it => it.kind === want.kind && it.part === want.part && it.name === want.name && it.nth === want.nth);
     found?.element.scrollIntoView({ block: 'center' });
     return found?.element ?? null;`,
    control,
  );

/** Uses a control of a kind, each in the way a hand does. */
async function use(control: Control): Promise<void> {
  const element = await reach(control);
  if (!element) throw new Error("it cannot be reached any more");
  const type = (text: string) => element.sendKeys(text);
  switch (control.kind) {
    case "number": {
      const [now, max] = await Promise.all(
        ["aria-valuenow", "aria-valuemax"].map((name) => element.getAttribute(name)),
      );
      // Words have to become fewer than there are before anybody sees it.
      if (/^(Excerpt|Text) to$/.test(control.name))
        for (let ten = 0; ten < 10; ten++) await type(Key.chord(Key.SHIFT, Key.ARROW_DOWN));
      else await type(Number(now) >= Number(max) ? Key.ARROW_DOWN : Key.ARROW_UP);
      return;
    }
    case "choice": {
      const items = await element.findElements(By.css("[role=radio]:not([aria-checked=true])"));
      // A heading of the first level is that by its place already.
      await (control.name === "Read as" ? items[items.length - 1] : items[0]).click();
      return;
    }
    case "list": {
      await element.click();
      const other = await page.find(
        "[role=listbox] [role=option]:not([aria-checked=true]):not([aria-disabled=true])",
      );
      await other.click();
      return;
    }
    case "colour": {
      await element.click();
      const swatches = "[role=dialog][aria-label] button[aria-pressed=false][aria-label*='#']";
      await page.click(swatches);
      await page.keys(Key.ESCAPE);
      return;
    }
    case "colour digits":
      await element.click();
      await page.chord(Key.CONTROL, "a");
      await page.keys("#12AB34", Key.ENTER);
      return;
    case "drawing":
      await element.click();
      await page.click("[role=dialog] button[aria-pressed=false]");
      return;
    case "day":
      await element.click();
      await page.keys("9 May 2031", Key.ENTER);
      return;
    case "time":
      await type(Key.ARROW_UP);
      return;
    case "words":
      await element.click();
      await page.chord(Key.CONTROL, Key.END);
      // One sign: two would be two things to undo where the machine is slow.
      await page.keys("x");
      return;
    default:
      await element.click();
  }
}

/** What is written where words stand: one sign, which is nowhere else. */
const SIGN = "ǂ";

/**
 * What does not show in a look at the message: how one works, what stands where a code is missing, and a day that is
 * still to be chosen; a badge that holds of nothing; and of a list what is said where there are too few, sold out, or in this email and the last ones.
 */
const SILENT =
  /^(Name|Without one|Add a closed day|At least|Add a way|Add a badge|Only what is new.*|Words instead|Also what is sold out|Nothing (that stands|from the last|they bought).*)$/;

/** What does not show because the item that the walk has says no such thing. */
const UNSAID: Readonly<Record<string, RegExp>> = {
  items:
    /^(Add a fact|At most|Badge|Date|Place|Facts|Into the calendar|Take over what changes .*|Number, badge 1)$/,
  picks: /^(At most|Badge|Place|Facts|Into the calendar|Text is shortened to)$/,
};

const blockOf = (type: string) => blocksOf(design).find((block) => block.type === type) as Block;

async function select(block: { id: string }): Promise<void> {
  await page.keys(Key.ESCAPE);
  const line = await page.find(`[data-outline="${block.id}"] button`);
  await page.run("arguments[0].scrollIntoView({ block: 'center' }); arguments[0].click()", line);
  await page.until(
    () => page.run<boolean>("return document.querySelector('[data-testid=panel] h2') !== null"),
    "the panel shows nothing",
  );
}

const errors = async () =>
  (await page.driver.manage().logs().get("browser"))
    .filter(({ level, message: said }) => level.name === "SEVERE" && !/favicon|net::ERR/.test(said))
    .map(({ message: said }) => said);

const TYPES = Object.keys(BLOCK_TYPES) as BlockTypeName[];

/** Uses each control of what is selected, and finds what did not do as it should. */
async function walk(node: { id: string }, all: readonly Control[]): Promise<string[]> {
  const original = await message();
  const failures: string[] = [];
  for (const control of all) {
    const name = `${control.kind} “${control.name}” of ${control.part}`;
    try {
      await use(control);
      await until((email) => !same(email, design), "the design did not change");
      const silent =
        SILENT.test(control.name) || UNSAID[(node as { type?: string }).type ?? ""]?.test(control.name);
      if (!silent && (await message()) === original) failures.push(`${name}: the message did not follow`);
      await undo();
      await until((email) => same(email, design), "undo did not take it back");
    } catch (error) {
      failures.push(`${name}: ${(error as Error).message.split("\n")[0]}`);
      // Whatever was left is taken back, so that the next control begins from the same design.
      await page.keys(Key.ESCAPE, Key.ESCAPE);
      for (let turn = 0; turn < 4 && !same(await saved(), design); turn++) {
        await undo().catch(() => undefined);
        await saveNow();
      }
      await select(node);
    }
  }
  return failures;
}

describe("what blocks stand in", () => {
  beforeAll(() => openWith(TYPES));

  const nodes = (): [Kind, { id: string }][] => {
    const section = design.sections[0];
    const row = section.rows[1];
    return [
      ["section", section],
      ["row", row],
      ["column", row.columns[0]],
    ];
  };

  test("every control of a section, a row and a column changes the design and the message, and undo takes it back", async () => {
    for (const [kind, node] of nodes()) {
      await select(node);
      await errors();
      const all = await controls();
      expect(without(node, NODE_PROPERTIES[kind], all), kind).toEqual([]);
      expect(await walk(node, all), kind).toEqual([]);
      expect(await errors(), kind).toEqual([]);
    }
  });
});

describe.each(TYPES)("%s", (type) => {
  // Headings are what a list of contents lists.
  beforeAll(() => openWith([type, "heading", "footer"]));

  test("every control in the panel changes the design and the message, and undo takes it back", async () => {
    const block = blockOf(type);
    await select(block);
    await errors();
    const found = await controls();
    // What is under no title has no control of its own, or is set beside another.
    const titled = Object.fromEntries(
      Object.entries(BLOCK_TYPES[type].properties as Properties).filter(
        ([, { under }]) => under !== undefined,
      ),
    );
    const { hideOn, ...common } = NODE_PROPERTIES.block;
    const declared = { ...titled, ...common, ...(!BLOCK_TYPES[type].fixed && { hideOn }) };
    expect(without(block, declared, found)).toEqual([]);
    const all = shared(found, type);
    expect(await walk(block, all)).toEqual([]);
    expect(await errors()).toEqual([]);
  });

  test("its words are written where they stand", async () => {
    const block = blockOf(type);
    await select(block);
    const places = await page.run<string[]>(
      `const root = document.querySelector('[data-testid=canvas]').shadowRoot;
       const block = root.querySelector('[data-node="' + arguments[0] + '"]');
       return [...block.querySelectorAll('[data-edit]')].map(e => e.dataset.edit);`,
      block.id,
    );
    for (const place of places.slice(0, 5)) {
      const at = await page.run<{ x: number; y: number }>(
        `const root = document.querySelector('[data-testid=canvas]').shadowRoot;
         const e = root.querySelector('[data-node="' + arguments[0] + '"] [data-edit="' + CSS.escape(arguments[1]) + '"]');
         e.scrollIntoView({ block: 'center' });
         const r = e.getBoundingClientRect();
         return { x: r.x + Math.min(12, r.width / 2), y: r.y + Math.min(10, r.height / 2) };`,
        block.id,
        place,
      );
      await page.clickAt(at);
      await page.clickAt(at);
      await page.until(
        () =>
          page.run<boolean>(
            `const root = document.querySelector('[data-testid=canvas]').shadowRoot;
             const e = root.querySelector('[data-edit="' + CSS.escape(arguments[0]) + '"] .ProseMirror');
             return e !== null && root.activeElement === e;`,
            place,
          ),
        `${place} cannot be written in`,
      );
      await page.keys(Key.END, SIGN);
      await until(
        (email) => JSON.stringify(email).includes(SIGN),
        `what was written at ${place} is not in the design`,
      );
      expect(await message(), place).toContain(SIGN);
      await page.keys(Key.ESCAPE);
      await undo();
      await until((email) => same(email, design), `undo did not take back what was written at ${place}`);
    }
    expect(await errors()).toEqual([]);
  });
});
