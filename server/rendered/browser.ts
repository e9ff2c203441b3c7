/** A browser on this machine, by which an email is made into a picture or into pages. */
import { constants } from "node:fs";
import { access } from "node:fs/promises";
import path from "node:path";
import { type Browser, launch, type Page } from "puppeteer-core";
import { fetchFor } from "../fetching";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";

/** What Chromium is called where it is installed. */
const NAMES = ["chromium", "chromium-browser"];
/** So long one page may take, in milliseconds. */
const PATIENCE = 30_000;

const there = (file: string) =>
  access(file, constants.X_OK).then(
    () => true,
    () => false,
  );

/** Where Chromium is: as the environment says (`SEPTIMA_CHROMIUM`), or on the path; null where it is not. */
export async function chromium(env: NodeJS.ProcessEnv = process.env): Promise<string | null> {
  if (env.SEPTIMA_CHROMIUM !== undefined)
    return (await there(env.SEPTIMA_CHROMIUM)) ? env.SEPTIMA_CHROMIUM : null;
  for (const folder of (env.PATH ?? "").split(path.delimiter).filter((one) => one !== ""))
    for (const name of NAMES) if (await there(path.join(folder, name))) return path.join(folder, name);
  return null;
}

/** What is opened in it: one at a time in this process, as each takes a few hundred megabytes. */
let last: Promise<unknown> = Promise.resolve();

/**
 * Does some work with pages of a browser of its own, which is gone afterwards. In them nothing runs, and what they fetch from
 * elsewhere is fetched as everything of strangers is: from public addresses, within limits.
 * @throws Refusal (503) where Chromium is not installed, or does not start
 */
export async function withBrowser<T>(
  septima: Septima,
  work: (open: () => Promise<Page>) => Promise<T>,
): Promise<T> {
  const turn = last.then(
    () => alone(septima, work),
    () => alone(septima, work),
  );
  last = turn.catch(() => undefined);
  return turn;
}

async function alone<T>(septima: Septima, work: (open: () => Promise<Page>) => Promise<T>): Promise<T> {
  const executablePath = await chromium();
  if (!executablePath)
    throw new Refusal(
      "Pictures and PDFs are made by Chromium, which is not installed where Septima runs. Install it there, or say where it is by SEPTIMA_CHROMIUM.",
      503,
    );
  let browser: Browser;
  try {
    browser = await launch({
      executablePath,
      pipe: true,
      timeout: PATIENCE,
      args: [
        "--disable-gpu",
        "--hide-scrollbars",
        "--disable-dev-shm-usage",
        "--font-render-hinting=none",
        // Its own walls need rights that root has given up in most containers; nothing runs in the pages.
        ...(process.getuid?.() === 0 ? ["--no-sandbox"] : []),
      ],
    });
  } catch (error) {
    throw new Refusal(
      `Chromium did not start: ${error instanceof Error ? error.message : String(error)}`,
      503,
    );
  }
  const stop = () => void browser.close().catch(() => undefined);
  septima.stopping.addEventListener("abort", stop);
  try {
    return await work(() => guarded(septima, browser));
  } finally {
    septima.stopping.removeEventListener("abort", stop);
    await browser.close().catch(() => undefined);
  }
}

async function guarded(septima: Septima, browser: Browser): Promise<Page> {
  const page = await browser.newPage();
  page.setDefaultTimeout(PATIENCE);
  await page.setJavaScriptEnabled(false);
  await page.setRequestInterception(true);
  const own = new Set([septima.config.origin, septima.config.readers].map((one) => new URL(one).origin));
  page.on("request", (request) => {
    const address = request.url();
    const ours = URL.canParse(address) && own.has(new URL(address).origin);
    if (!/^https?:/.test(address) || ours) {
      void request.continue().catch(() => undefined);
      return;
    }
    fetchFor(septima, address)
      .then((body) => request.respond({ body: Buffer.from(body) }))
      .catch(() => request.abort())
      .catch(() => undefined);
  });
  return page;
}
