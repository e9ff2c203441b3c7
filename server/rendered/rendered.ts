/** Emails as files to look at: a picture or a PDF of one view, and all editions on the pages of one. */
import type { Page } from "puppeteer-core";
import { contactName } from "~/core/audience";
import { asSeen, INBOXES, type InboxName } from "~/core/inboxes";
import { escapeHtml } from "~/core/program";
import { contactById } from "../audience/contacts";
import { campaign } from "../campaigns/campaigns";
import { editionsView } from "../campaigns/editions";
import { type ExportFile, fileName } from "../campaigns/export";
import { lookFor, NOBODY } from "../campaigns/rendering";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { withBrowser } from "./browser";

/** One view of a campaign. */
export interface View {
  /** Nobody’s data where it is null. */
  reader: number | null;
  /** As it is sent when missing. */
  inbox?: InboxName;
  /** Of the window, in px. */
  width: number;
}

/** The narrowest and the widest window, in px; and the highest picture, beyond which it is cut. */
const WIDTH = { least: 240, most: 1200 };
const HIGHEST = 16_000;

const isDark = (inbox: InboxName | undefined) => INBOXES.some(({ name, dark }) => name === inbox && dark);

/** Puts an email into a page, as wide as its window; gives how high it is. */
async function show(page: Page, html: string, width: number, dark: boolean): Promise<number> {
  await page.setViewport({ width, height: 800 });
  await page.emulateMediaFeatures([{ name: "prefers-color-scheme", value: dark ? "dark" : "light" }]);
  await page.setContent(html, { waitUntil: "load" });
  const height = await page.evaluate("document.documentElement.getBoundingClientRect().height");
  return Math.min(HIGHEST, Math.max(1, Math.ceil(Number(height))));
}

/**
 * A view as a picture, or as one page of a PDF that is as high as the email.
 * @throws Refusal when the campaign or the reader is gone, or Chromium is not there (503)
 */
export async function rendered(
  septima: Septima,
  campaignId: string,
  form: "png" | "pdf",
  { reader, inbox, width: asked }: View,
): Promise<ExportFile> {
  const { name, email } = await campaign(septima, campaignId);
  const contact = reader === null ? NOBODY : await contactById(septima, reader);
  const { look } = await lookFor(septima, email, contact, { campaign: campaignId });
  const html = inbox ? asSeen(look.html, inbox) : look.html;
  const width = Math.round(Math.min(WIDTH.most, Math.max(WIDTH.least, asked)));
  return withBrowser(septima, async (open) => {
    const page = await open();
    const height = await show(page, html, width, isDark(inbox));
    if (form === "png") {
      const clip = { x: 0, y: 0, width, height };
      const data = await page.screenshot({ type: "png", clip, captureBeyondViewport: true });
      return { name: `${fileName(name)}.png`, type: "image/png", data };
    }
    // What is printed is what is seen on a screen.
    await page.emulateMediaType("screen");
    const data = await page.pdf({ width, height: height + 1, printBackground: true, pageRanges: "1" });
    return { name: `${fileName(name)}.pdf`, type: "application/pdf", data };
  });
}

/** So many editions are pictured at most, the largest first; each so wide, and so much of it, in px. */
export const MOST_PICTURED = 120;
const PICTURE = { width: 640, most: 1500 };

/**
 * All editions as one PDF: a picture of each, by its number, with how many get it and why.
 * @throws Refusal when nobody gets it, or Chromium is not there (503)
 */
export async function contactSheet(septima: Septima, campaignId: string): Promise<ExportFile> {
  const { name, email } = await campaign(septima, campaignId);
  const { editions, readers } = await editionsView(septima, campaignId);
  if (editions.length === 0)
    throw new Refusal("There are no editions yet: choose who gets it under Readers.");
  const some = editions.slice(0, MOST_PICTURED);
  return withBrowser(septima, async (open) => {
    const page = await open();
    const cards: string[] = [];
    for (const [at, { count, traits, sample, subject }] of some.entries()) {
      septima.stopping.throwIfAborted();
      const contact = await contactById(septima, sample.id);
      const { look } = await lookFor(septima, email, contact, { campaign: campaignId });
      const height = Math.min(PICTURE.most, await show(page, look.html, PICTURE.width, false));
      const shot = await page.screenshot({
        type: "jpeg",
        quality: 80,
        encoding: "base64",
        clip: { x: 0, y: 0, width: PICTURE.width, height },
        captureBeyondViewport: true,
      });
      const many = count === 1 ? "1 reader" : `${count.toLocaleString("en")} readers`;
      cards.push(
        `<figure><figcaption><b>${at + 1}</b> ${many}<br>${escapeHtml(traits.join(", ") || "What everybody gets")}<br><i>${escapeHtml(subject)}</i><br>as ${escapeHtml(contactName(contact))}</figcaption><img src="data:image/jpeg;base64,${shot}"></figure>`,
      );
    }
    const left = editions.length - some.length;
    const about = `${editions.length.toLocaleString("en")} editions for ${readers.toLocaleString("en")} readers${left > 0 ? `; the ${some.length} that most get are shown` : ""}. Of long ones it is the upper part.`;
    await page.setContent(sheet(name, about, cards), { waitUntil: "load" });
    const data = await page.pdf({
      format: "A4",
      landscape: true,
      printBackground: true,
      margin: { top: "12mm", bottom: "12mm", left: "12mm", right: "12mm" },
    });
    return { name: `${fileName(name)} editions.pdf`, type: "application/pdf", data };
  });
}

const sheet = (name: string, about: string, cards: readonly string[]) => `<!doctype html>
<meta charset="utf-8"><title>${escapeHtml(name)}</title>
<style>body{font:11px/1.4 sans-serif;color:#1e1b24;margin:0}h1{font-size:18px;margin:0}p{margin:0 0 12px;color:#5b5664}
main{display:grid;grid-template-columns:repeat(4,1fr);gap:14px}figure{margin:0;break-inside:avoid}
figcaption{margin-bottom:6px;height:80px;overflow:hidden}figcaption b{font-size:14px}
img{display:block;width:100%;max-height:145mm;object-fit:cover;object-position:top;border:1px solid #d9d7de}</style>
<h1>${escapeHtml(name)}</h1><p>${about}</p><main>${cards.join("")}</main>`;
