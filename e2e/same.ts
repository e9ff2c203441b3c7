import sharp from "sharp";
import { expect } from "vitest";
import { Key, type Page } from "./browser";
import { download, mailboxOf } from "./postroom";
import type { Program } from "./program";

const flat = (text: string) =>
  text
    .replace(/[\u200b-\u200d\ufeff]/g, "")
    .replace(/\s+/g, " ")
    .trim();

/** From the first table of the email to its end: what the designer composed. */
function composed(html: string): string {
  const start = html.indexOf("<table", html.indexOf('aria-roledescription="email"'));
  return html.slice(start, html.lastIndexOf("</div></body>"));
}

/**
 * Checks that a campaign, open in the composer, reads the same on the canvas, in the preview, in the file taken out
 * and in a proof that went through the postroom: as HTML, as words, and as a picture within a small tolerance.
 */
export async function expectSameEverywhere(page: Page, program: Program, id: string): Promise<void> {
  for (let up = 0; up < 5; up++) await page.keys(Key.ESCAPE);
  await page.saved();
  const onCanvas = await page.canvasWords();
  const canvas = await pictureOfCanvas(page);
  const link = await (await page.named("Preview", "a")).getAttribute("href");
  const reader = new URL(String(link)).searchParams.get("reader");
  const file = async (format: string) =>
    (await fetch(`${program.address}/campaigns/${id}/export/${format}?reader=${reader}`)).text();
  const html = await file("html");

  await page.open(`/campaigns/${id}/preview?reader=${reader}`);
  await page.find("iframe");
  const shown = await page.run<string>("return document.querySelector('iframe').srcdoc");
  expect(composed(shown)).toBe(composed(html));

  await page.open(`/campaigns/${id}/proof?reader=${reader}`);
  const address = `proof-${id}@same.example`;
  await page.fill("To", address);
  await page.press("Send the proof");
  await page.until(
    async () => (await mailboxOf(program, address)).length > 0,
    "the proof did not arrive",
    30_000,
  );
  const [letter] = await mailboxOf(program, address);
  const mail = await download(program, letter);
  expect(composed(String(mail.html))).toContain(composed(html));
  expect(flat(mail.text ?? "")).toContain(flat(await file("txt")));

  // The message by itself, as a mail program would show it.
  await page.open("/healthz");
  await page.run("document.open(); document.write(arguments[0]); document.close();", html);
  const inMessage = await page.run<string>("return document.querySelector('[role=article]').innerText");
  expectAlike(flat(inMessage), flat(onCanvas));
  const message = await pictureOfMessage(page, canvas);
  const difference = await differenceOf(canvas.png, message);
  expect(
    difference,
    `canvas and message differ in ${(difference * 100).toFixed(2)} % of their area`,
  ).toBeLessThan(0.01);
  await page.driver.manage().window().setRect({ width: 1280, height: 800 });
}

const settled = (page: Page, root: string) =>
  page.until(
    () =>
      page.run<boolean>(
        `return [...${root}.querySelectorAll('img')].every(i => i.complete && i.naturalWidth > 0)`,
      ),
    "pictures did not load",
  );

async function pictureOfCanvas(page: Page): Promise<{ png: Buffer; width: number; height: number }> {
  const root = "document.querySelector('[data-testid=canvas]').shadowRoot";
  await settled(page, root);
  const height = await page.run<number>("return document.querySelector('[data-testid=canvas]').offsetHeight");
  await page.driver
    .manage()
    .window()
    .setRect({ width: 1280, height: height + 500 });
  const box = await page.run<{ x: number; y: number; width: number; height: number }>(
    `document.querySelector('[data-testid=table]').scrollTop = 0;
     const r = document.querySelector('[data-testid=canvas]').getBoundingClientRect();
     return {x: Math.round(r.x), y: Math.round(r.y), width: Math.round(r.width), height: Math.round(r.height)};`,
  );
  const shot = Buffer.from(await page.driver.takeScreenshot(), "base64");
  const png = await sharp(shot)
    .extract({ left: box.x, top: box.y, width: box.width, height: box.height })
    .png()
    .toBuffer();
  return { png, width: box.width, height: box.height };
}

async function pictureOfMessage(
  page: Page,
  { width, height }: { width: number; height: number },
): Promise<Buffer> {
  await settled(page, "document");
  const room = await page.run<number>("return document.documentElement.clientWidth");
  const shot = Buffer.from(await page.driver.takeScreenshot(), "base64");
  return sharp(shot)
    .extract({ left: Math.round((room - width) / 2), top: 0, width, height })
    .png()
    .toBuffer();
}

/** The share of points whose colour differs clearly. */
async function differenceOf(first: Buffer, second: Buffer): Promise<number> {
  const raw = (png: Buffer) => sharp(png).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  const [a, b] = [await raw(first), await raw(second)];
  expect([b.info.width, b.info.height]).toEqual([a.info.width, a.info.height]);
  let different = 0;
  for (let at = 0; at < a.data.length; at += 3) {
    const distance =
      Math.abs(a.data[at] - b.data[at]) +
      Math.abs(a.data[at + 1] - b.data[at + 1]) +
      Math.abs(a.data[at + 2] - b.data[at + 2]);
    if (distance > 96) different++;
  }
  return different / (a.data.length / 3);
}

/** Long texts are the same; if not, the place where they part is shown. */
function expectAlike(first: string, second: string): void {
  let at = 0;
  while (at < first.length && first[at] === second[at]) at++;
  expect(first.slice(Math.max(0, at - 60), at + 60)).toBe(second.slice(Math.max(0, at - 60), at + 60));
}
