/**
 * Shows designs as every class of mail program does: `npm run inboxes [design.json …] [--out folder]`. Without a design
 * it takes the demo's letters, its pattern book, and two designs full of colours of their own. Writes one page and, with
 * Chromium, one picture of each, and names every pair of words and ground that cannot be read.
 */
import { mkdir, readFile, writeFile } from "node:fs/promises";
import path from "node:path";
import type chrome from "selenium-webdriver/chrome.js";
import { parseEmail } from "~/core/blocks";
import type { Email } from "~/core/email";
import { asSeen, INBOXES, inboxesPage, pairsOf, wanted } from "~/core/inboxes";
import { personalise, previewAddresses, readerOf } from "~/core/personal";
import { colourful, DUSK, PALE } from "~/core/render/colourful";
import { openBrowser } from "~/e2e/browser";
import { campaign, campaigns } from "~/server/campaigns/campaigns";
import { boundEmail } from "~/server/campaigns/rendering";
import { pictureFile } from "~/server/pictures/files";
import type { Septima } from "~/server/septima";
import { everybody, openWorld, withStandins } from "~/server/test-world";
import { clockFile, glyphFile, playFile } from "~/server/workspace/drawn";
import { seedDemo } from "~/start/demo/seed";

const args = process.argv.slice(2);
const at = args.indexOf("--out");
const out = path.resolve(at >= 0 ? args.splice(at, 2)[1] : "inboxes");

/** The longest side of a picture in px. */
const GREATEST = 8000;

/** Puts the pictures themselves in the place of their addresses, so that the page stands by itself. */
async function withPictures(septima: Septima, html: string): Promise<string> {
  const pattern = /https:\/\/septima\.example\/(pictures|glyphs|clock)\/([\w.-]+)(\/play)?/g;
  const found = new Map<string, string>();
  for (const [address, folder, file, play] of html.matchAll(pattern)) {
    if (found.has(address)) continue;
    const data = await (folder === "glyphs"
      ? glyphFile(file)
      : folder === "clock"
        ? clockFile(file, septima.now())
        : (play ? playFile(septima, file) : pictureFile(septima, file)).then((picture) => picture.data)
    ).catch(() => null);
    if (data) found.set(address, `data:image/png;base64,${data.toString("base64")}`);
  }
  return html.replace(pattern, (address) => found.get(address) ?? address);
}

const world = await openWorld();
const { septima, close } = await withStandins(world.septima);
try {
  await seedDemo(septima, 200, () => undefined);
  const designs: [string, Email][] = [];
  for (const file of args)
    designs.push([path.basename(file, ".json"), parseEmail(JSON.parse(await readFile(file, "utf8")))]);
  if (args.length === 0) {
    for (const { id, name } of await campaigns(septima))
      designs.push([name, (await campaign(septima, id)).email]);
    designs.push(["Own colours, pale", colourful(PALE)], ["Own colours, dusk", colourful(DUSK)]);
  }
  const [contact] = await everybody(septima);
  await mkdir(out, { recursive: true });
  let poor = 0;
  for (const [name, email] of designs) {
    const bound = await boundEmail(septima, email);
    const message = personalise(
      bound,
      readerOf(contact, email.language, previewAddresses(septima.config.readers)),
    );
    const file = name.toLowerCase().replace(/[^a-z0-9]+/g, "-");
    const page = inboxesPage(name, { ...message, html: await withPictures(septima, message.html) });
    await writeFile(path.join(out, `${file}.html`), page);
    for (const inbox of INBOXES) {
      for (const pair of pairsOf(asSeen(message.html, inbox.name))) {
        if (pair.ratio >= wanted(pair)) continue;
        poor++;
        process.stdout.write(
          `${name}, ${inbox.label}: ${pair.ratio.toFixed(2)} for ${pair.kind} “${pair.words}” ${pair.color} on ${pair.ground}\n`,
        );
      }
    }
    const browser = await openBrowser(`file://${out}`);
    try {
      await browser.open(`/${file}.html`);
      const [width, height] = await browser.run<[number, number]>(
        "return [document.documentElement.scrollWidth, document.documentElement.scrollHeight]",
      );
      const scale = Math.min(1, GREATEST / Math.max(width, height));
      const { data } = (await (browser.driver as chrome.Driver).sendAndGetDevToolsCommand(
        "Page.captureScreenshot",
        {
          captureBeyondViewport: true,
          clip: { x: 0, y: 0, width, height, scale },
        },
      )) as unknown as { data: string };
      await writeFile(path.join(out, `${file}.png`), Buffer.from(data, "base64"));
    } finally {
      await browser.driver.quit();
    }
    process.stdout.write(`${file}.html and ${file}.png\n`);
  }
  process.stdout.write(`${poor} pairs that cannot be read, in ${out}\n`);
  process.exitCode = poor > 0 ? 1 : 0;
} finally {
  close();
  await world.close();
}
