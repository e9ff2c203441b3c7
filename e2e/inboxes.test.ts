/** The classes of mail programs in a real browser: it reckons contrast as we do, and nothing is wider than the window. */
import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { pathToFileURL } from "node:url";
import { afterAll, afterEach, beforeAll, expect, test } from "vitest";
import { BLOCK_TYPES, type BlockTypeName, wordsOf } from "~/core/blocks";
import { type Block, type Email, type Inline, withValueAt } from "~/core/email";
import { asSeen, type InboxName, pairsOf } from "~/core/inboxes";
import { bind, personalise, previewAddresses, readerOf } from "~/core/personal";
import { compile } from "~/core/render";
import { colourful, DUSK, PALE } from "~/core/render/colourful";
import { SAMPLE_OPTIONS, sampleContact, sampleWorld } from "~/core/render/sample";
import { keepFailure, openBrowser, type Page } from "./browser";

let folder: string;
let page: Page;
beforeAll(async () => {
  folder = await mkdtemp(path.join(tmpdir(), "septima-inboxes-"));
  page = await openBrowser(pathToFileURL(folder).href, { width: 800, height: 800 });
});
afterAll(async () => {
  await page?.driver.quit();
  await rm(folder, { recursive: true, force: true });
});
afterEach(({ task }) => keepFailure(page, task));

const world = sampleWorld("2026-11-23");
const reader = readerOf(sampleContact(1, {}), "en", previewAddresses("https://s.example"));
const messageOf = (email: Email) => personalise(bind(compile(email, SAMPLE_OPTIONS), world), reader).html;

let pages = 0;
async function show(html: string): Promise<void> {
  const file = `${pages++}.html`;
  // Pictures lead nowhere here; the page must not wait for them.
  await writeFile(path.join(folder, file), html.replace(/ src="https?:[^"]*"/g, ' src="data:,"'));
  await page.open(`/${file}`);
}

/** Every pair of words and ground as the browser has it, in reading order. */
const PAIRS = `
  const numbers = (color) => color.match(/[\\d.]+/g).map(Number);
  const light = ([r, g, b]) => [r, g, b].map((c) => c / 255).map((c) => c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4)
    .reduce((sum, c, at) => sum + c * [0.2126, 0.7152, 0.0722][at], 0);
  const ground = (element) => {
    if (!element) return [255, 255, 255];
    const [r, g, b, a = 1] = numbers(getComputedStyle(element).backgroundColor);
    const below = a < 1 ? ground(element.parentElement) : [0, 0, 0];
    return [r, g, b].map((c, at) => c * a + below[at] * (1 - a));
  };
  const out = [];
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    const words = node.data.replace(/[\\s\\u00a0\\u200d]+/g, " ").trim();
    const element = node.parentElement;
    if (words === "" || !element.checkVisibility({ opacityProperty: true }) || element.closest("script, style")) continue;
    const [one, other] = [light(numbers(getComputedStyle(element).color)), light(ground(element))].sort((x, y) => y - x);
    out.push([words.slice(0, 80), (one + 0.05) / (other + 0.05)]);
  }
  return out;`;

test.each<[string, InboxName, Email]>([
  ["pale", "light", colourful(PALE)],
  ["pale", "dark", colourful(PALE)],
  ["pale", "partial", colourful(PALE)],
  ["pale", "full", colourful(PALE)],
  ["dusk", "light", colourful(DUSK)],
  ["dusk", "dark", colourful(DUSK)],
  ["dusk", "partial", colourful(DUSK)],
  ["dusk", "full", colourful(DUSK)],
])("own colours, %s, %s: what we reckon is what the browser has", async (_name, inbox, email) => {
  const seen = asSeen(messageOf(email), inbox);
  await show(seen);
  const browser = await page.run<[string, number][]>(PAIRS);
  const ours = pairsOf(seen).filter(({ kind }) => kind === "words");
  expect(browser.map(([words]) => words)).toEqual(ours.map(({ words }) => words.slice(0, 80)));
  for (const [at, [words, ratio]] of browser.entries())
    expect(Math.abs(ratio - ours[at].ratio), words).toBeLessThan(0.1);
});

const LONG = "W".repeat(100);
const ADDRESS = `https://tansyrow.example/${"a".repeat(105)}`;

/** A block with a word of a hundred letters and a long address in each of its places. */
function overlong(block: Block): Block {
  const words: Inline[] = [
    { type: "text", text: `${LONG} ` },
    { type: "text", text: ADDRESS, marks: [{ type: "link", attrs: { href: ADDRESS } }] },
  ];
  let next = block;
  for (const { path: place, kind } of wordsOf(block)) {
    const content =
      kind === "line" ? words : { type: "doc", content: [{ type: "paragraph", content: words }] };
    next = withValueAt(next, place, content) as Block;
  }
  return next;
}

test.each(["light", "stripped", "picturesOff"] as const)(
  "at 320 px nothing is wider than the window, whatever stands there (%s)",
  async (inbox) => {
    const session = page.driver as unknown as {
      sendDevToolsCommand(name: string, values: object): Promise<void>;
    };
    await session.sendDevToolsCommand("Emulation.setDeviceMetricsOverride", {
      width: 320,
      height: 800,
      deviceScaleFactor: 1,
      mobile: true,
    });
    try {
      const email = colourful(PALE, { own: false });
      const [{ rows }] = email.sections;
      const all = rows[0].columns[0].blocks;
      const over: string[] = [];
      for (const type of Object.keys(BLOCK_TYPES) as BlockTypeName[]) {
        const blocks = all.filter((block) => block.type === type).map(overlong);
        const half = (id: string, width: number) => ({
          id,
          width,
          blocks: blocks.map((block) => ({ ...block, id: `${id}${block.id}` })),
        });
        const alone: Email = {
          ...email,
          sections: [
            {
              id: "s",
              rows: [
                { id: "r", columns: [half("a", 100)] },
                { id: "t", columns: [half("b", 50), half("c", 50)] },
              ],
            },
          ],
        };
        await show(asSeen(messageOf(alone), inbox));
        const width = await page.run<number>("return document.documentElement.scrollWidth");
        if (width > 320) over.push(`${type}: ${width} px`);
      }
      expect(over).toEqual([]);
    } finally {
      await session.sendDevToolsCommand("Emulation.clearDeviceMetricsOverride", {});
    }
  },
);
