/** What comes from outside and is no reader and no designer: foreign pages, endless bodies, a second process. */
import http from "node:http";
import type { AddressInfo } from "node:net";
import { afterAll, beforeAll, expect, test } from "vitest";
import { openBrowser, type Page } from "./browser";
import { campaignNamed } from "./campaigns";
import { FEW, type Program, startProgram } from "./program";

let program: Program;
let page: Page;
let foreign: http.Server;
let port: string;

beforeAll(async () => {
  program = await startProgram({ contacts: FEW });
  ({ port } = new URL(program.address));
  foreign = http.createServer((_request, response) =>
    response.writeHead(200, { "content-type": "text/html" }).end("<title>Elsewhere</title><p>Elsewhere</p>"),
  );
  await new Promise<void>((resolve) => foreign.listen(0, "127.0.0.1", resolve));
  // The names lead to this machine, as those of somebody who rebinds them would.
  page = await openBrowser(program.address, undefined, [
    "--host-resolver-rules=MAP rebound.test 127.0.0.1, MAP elsewhere.test 127.0.0.1",
  ]);
});
afterAll(async () => {
  await page?.driver.quit();
  foreign?.close();
  await program?.stop();
});

test("under a foreign host name a browser is shown nothing, and reads nothing", async () => {
  await page.driver.get(`http://rebound.test:${port}/audience`);
  const shown = await page.run<string>("return document.documentElement.innerText");
  expect(shown).toContain("SEPTIMA_ORIGIN");
  expect(shown).not.toMatch(/@|Audience/);
  // From there, as a script of the page would: same origin to the browser, whatever it is to us.
  const read = await page.run<[number, string][]>(
    `return Promise.all(["/audience", "/audience.data", "/postroom/list", "/readers/search?q=a", "/healthz"].map(
       async (path) => { const r = await fetch(path); return [r.status, await r.text()]; }))`,
  );
  for (const [status, text] of read) {
    expect(status).toBeGreaterThanOrEqual(400);
    expect(text).not.toContain("@mail.example");
  }
  // Under its own name the same browser sees it all.
  await page.open("/audience");
  await page.sees("@mail.example");
});

test("a page of another origin can neither read nor change anything", async () => {
  const id = await campaignNamed(program, "What to sow now");
  await page.driver.get(`http://elsewhere.test:${(foreign.address() as AddressInfo).port}/`);
  await page.sees("Elsewhere");
  const outcomes = await page.run<string[]>(
    `const [to, id] = arguments;
     const form = (fields) => new URLSearchParams(fields);
     return Promise.all([
       fetch(to + "/audience.data").then((r) => r.text(), () => "kept away"),
       fetch(to + "/campaigns.data", { method: "POST", body: form({ intent: "start", name: "From elsewhere", layout: "letter" }) }).then((r) => r.text(), () => "kept away"),
       fetch(to + "/campaigns.data", { method: "POST", mode: "no-cors", body: form({ intent: "start", name: "From elsewhere", layout: "letter" }) }).then((r) => r.type, () => "kept away"),
       fetch(to + "/campaigns/" + id + "/send", { method: "POST", mode: "no-cors", body: form({ intent: "book", confirmed: "54", when: "now", date: "", time: "", zone: "UTC" }) }).then((r) => r.type, () => "kept away"),
     ])`,
    program.address,
    id,
  );
  expect(outcomes).toEqual(["kept away", "kept away", "opaque", "opaque"]);
  // A form that the page sends by itself, in a window of its own.
  await page.run(
    `const form = document.createElement("form");
     form.method = "post"; form.action = arguments[0] + "/campaigns";
     for (const [name, value] of Object.entries({ intent: "start", name: "From elsewhere", layout: "letter" })) {
       const field = document.createElement("input"); field.name = name; field.value = value; form.append(field);
     }
     document.body.append(form); form.submit();`,
    program.address,
  );
  await page.sees("another origin");
  const campaigns = await (await fetch(`${program.address}/campaigns`)).text();
  expect(campaigns).not.toContain("From elsewhere");
  const { total } = (await (await fetch(`${program.address}/postroom/list`)).json()) as { total: number };
  expect(total).toBe(0);
});

/** A body that does not end, in pieces of 256 KB. */
class Endless {
  readonly piece = Buffer.from("a=b&".repeat(65_536));
  sent = 0;
  status: number | null = null;
  private readonly request: http.ClientRequest;

  constructor(path: string) {
    this.request = http.request(program.address + path, {
      method: "POST",
      headers: { "content-type": "application/x-www-form-urlencoded", origin: program.address },
    });
    this.request.on("response", (response) => {
      this.status = response.statusCode ?? null;
      response.resume();
    });
    this.request.on("error", () => undefined);
  }

  get cutOff(): boolean {
    return this.request.destroyed || this.status !== null;
  }

  /** Settles when the piece has been taken, or will not be. */
  send(): Promise<void> {
    this.sent += this.piece.length;
    return new Promise((resolve) => {
      this.request.once("close", resolve);
      this.request.write(this.piece, () => resolve());
    });
  }
}

/** The status that `/healthz` answers with, over a connection of its own. */
function health(): Promise<number | undefined> {
  return new Promise((resolve, reject) => {
    const options = { agent: false, signal: AbortSignal.timeout(60_000) };
    http
      .get(`${program.address}/healthz`, options, (response) => {
        response.resume();
        resolve(response.statusCode);
      })
      .on("error", reject);
  });
}

test("a body that never ends is cut off, and others are answered meanwhile", async () => {
  const id = await campaignNamed(program, "What to sow now");
  const bodies = ["/campaigns.data", `/campaigns/${id}/save`, "/intake", "/unsubscribe/nobody"].map(
    (path) => new Endless(path),
  );
  const middle = (times: number[]) => times.sort((a, b) => a - b)[times.length >> 1];
  const answered = async () => {
    const start = performance.now();
    expect(await health()).toBe(200);
    return performance.now() - start;
  };
  const quiet: number[] = [];
  while (quiet.length < 9) quiet.push(await answered());
  const took: number[] = [];
  while (bodies.some((body) => !body.cutOff)) {
    await Promise.all(bodies.filter((body) => !body.cutOff).map((body) => body.send()));
    took.push(await answered());
    // The most that is taken, and what was under way.
    for (const { sent } of bodies) expect(sent).toBeLessThan(60_000_000);
  }
  for (const { status } of bodies) expect([413, null]).toContain(status);
  // The middle ones: a busy machine holds up single ones, and all of them when nothing is sent, too.
  expect(middle(took)).toBeLessThan(500 + 10 * middle(quiet));
});

test("a second process on the same data folder is refused with the reason", async () => {
  await expect(startProgram({ data: program.data })).rejects.toThrow(/already|in use|another/i);
  expect((await fetch(`${program.address}/healthz`)).status).toBe(200);
});
