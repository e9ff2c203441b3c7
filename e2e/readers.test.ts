/** Readers on a name and in a process of their own: what is in their letters works there, and nothing else is there. */
import type { ChildProcess } from "node:child_process";
import { mkdtemp, rm } from "node:fs/promises";
import http from "node:http";
import { tmpdir } from "node:os";
import path from "node:path";
import { simpleParser } from "mailparser";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { ROUTE_PATHS } from "~/app/route-paths";
import { openServer } from "~/server/db/postgres";
import { serverPrograms, startServer } from "~/server/db/test-server";
import { bookDispatch } from "~/server/dispatch/bookings";
import { runDispatch } from "~/server/dispatch/run";
import { openNews } from "~/server/news";
import type { Septima } from "~/server/septima";
import { addReaders, beSomebody, openWorld, readyLetter } from "~/server/test-world";
import { openBrowser, type Page } from "./browser";
import { startPart } from "./program";

const READERS = "https://letters.tansyrow.test";
const ORIGIN = "https://desk.tansyrow.test";

let server: Awaited<ReturnType<typeof startServer>>;
let septima: Septima;
let close: () => Promise<void>;
let folder: string;
let page: Page;
const children: ChildProcess[] = [];

async function start(part: "serve" | "readers"): Promise<string> {
  const { address, child } = await startPart(part, {
    SEPTIMA_DATA: folder,
    SEPTIMA_ORIGIN: ORIGIN,
    SEPTIMA_READERS: READERS,
    DATABASE_URL: server.url,
  });
  children.push(child);
  return address;
}

/** Asks a process by a name of our choice. */
function ask(
  address: string,
  where: string,
  name: string,
  headers: Record<string, string> = {},
): Promise<{ status: number; body: string; headers: http.IncomingHttpHeaders }> {
  return new Promise((resolve, reject) => {
    http
      .get(address + where, { headers: { host: name, ...headers } }, (response) => {
        let body = "";
        response.on("data", (chunk) => {
          body += chunk;
        });
        response.on("end", () =>
          resolve({ status: response.statusCode ?? 0, body, headers: response.headers }),
        );
      })
      .on("error", reject);
  });
}

describe.skipIf(serverPrograms() === null)("on a name of their own", () => {
  let desk: string;
  let door: string;
  /** The addresses in a reader's letter, as the process for readers has them. */
  let links: string[];
  const there = (part: string) => links.find((it) => it.includes(`/${part}/`))!;

  beforeAll(async () => {
    folder = await mkdtemp(path.join(tmpdir(), "septima-readers-"));
    server = await startServer();
    desk = await start("serve");
    door = await start("readers");
    const world = await openWorld();
    const db = openServer(server.url);
    const config = { ...world.septima.config, origin: ORIGIN, readers: READERS };
    septima = { ...world.septima, db, config, cache: new Map(), news: await openNews(db) };
    close = async () => {
      await db.close();
      await world.close();
    };
    await beSomebody(septima);
    await addReaders(septima, "all", 3, () => ({ language: "fr" }));
    const id = await readyLetter(septima, "all", () => [{ type: "text", text: "Readers" }]);
    await runDispatch(septima, await bookDispatch(septima, id, { confirmed: 3, when: null }));
    const { messages } = await septima.mailboxes!.search({ text: "", offset: 0, limit: 1 });
    const source = (await septima.mailboxes!.source(messages[0].id))!;
    expect(source.toString()).not.toContain(ORIGIN);
    const { html } = await simpleParser(source);
    const found = [...String(html).matchAll(/(?:href|src)="([^"]+)"/g)].map(([, address]) => address);
    links = found.flatMap((it) => (it.startsWith(READERS) ? [it.replace(READERS, door)] : []));
    page = await openBrowser(door);
  });
  afterAll(async () => {
    await page?.driver.quit();
    for (const child of children) {
      const gone = new Promise((resolve) => child.once("exit", resolve));
      child.kill("SIGKILL");
      await gone;
    }
    await close?.();
    await server?.stop();
    await rm(folder, { recursive: true, force: true });
  });

  test("a letter names that name alone, and its links, pictures and pages work there", async () => {
    const led = await fetch(there("c"), { redirect: "manual", headers: { "user-agent": "Mozilla/5.0" } });
    expect(led.status).toBe(302);
    expect((await fetch(there("o"))).headers.get("content-type")).toBe("image/gif");
    expect((await fetch(`${door}/drawings/frost-solid.png`)).headers.get("content-type")).toBe("image/png");
    await expect
      .poll(async () => (await septima.db.query("select 1 from events where kind in (2, 3)")).length, {
        timeout: 20_000,
      })
      .toBe(2);
    await page.driver.get(there("unsubscribe"));
    await page.press("Se désabonner");
    await page.sees("Vous êtes désabonné(e)");
    const left = await septima.db.query("select 1 from contacts where status = 'unsubscribed'");
    expect(left).toHaveLength(1);
  });

  test("nothing of the interface is there: neither in that process nor by that name", async () => {
    const host = new URL(READERS).host;
    for (const route of [...ROUTE_PATHS, "/", "/assets/x.js", "/campaigns.data", "/__manifest"]) {
      const where = route.replaceAll(/:\w+\??/g, "x");
      for (const [address, name] of [
        [door, host],
        [door, new URL(door).host],
        [desk, host],
      ]) {
        const { status, body } = await ask(address, where, name, { "accept-language": "de" });
        expect(status, `${where} by ${name}`).toBe(404);
        expect(body).toContain("Unter dieser Adresse ist nichts.");
        expect(body).not.toContain("<script");
      }
    }
    expect((await ask(door, "/campaigns", new URL(ORIGIN).host)).status).toBe(421);
    expect((await ask(desk, "/campaigns", new URL(ORIGIN).host)).status).toBe(200);
    expect((await ask(desk, "/unsubscribe/preview", host)).status).toBe(200);
    expect((await ask(door, "/healthz", host)).status).toBe(200);
  });
});
