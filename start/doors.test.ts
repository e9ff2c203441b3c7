import { once } from "node:events";
import { readFile } from "node:fs/promises";
import http from "node:http";
import type { AddressInfo } from "node:net";
import express from "express";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { ROUTE_PATHS } from "~/app/route-paths";
import {
  guardedHeaders,
  limitedBodies,
  onlyKnownHosts,
  onlyOwnPages,
  plainPaths,
  REVIEWERS,
  Starting,
} from "./doors";
import { READERS } from "./readers";

const ORIGIN = "https://letters.tansyrow.example";
let server: http.Server;
let port: number;
const starting = new Starting();

beforeAll(async () => {
  const app = express();
  app.use(guardedHeaders, onlyKnownHosts(ORIGIN), plainPaths, starting.door, onlyOwnPages(ORIGIN));
  app.use(limitedBodies);
  app.use(async (request, response) => {
    let octets = 0;
    try {
      for await (const chunk of request) octets += chunk.length;
      response.json({ host: request.headers.host, scheme: request.protocol, at: request.path, octets });
    } catch {
      // Cut off: the refusal has gone out already.
    }
  });
  server = http.createServer(app);
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  port = (server.address() as AddressInfo).port;
});
afterAll(() => void server.close());

/** A request with headers that `fetch` would not let us set. */
function ask(
  path: string,
  headers: Record<string, string> = {},
  method = "GET",
): Promise<{ status: number; body: string; headers: http.IncomingHttpHeaders }> {
  return new Promise((resolve, reject) => {
    const request = http.request({ host: "127.0.0.1", port, path, method, headers }, (response) => {
      let body = "";
      response.on("data", (chunk) => {
        body += chunk;
      });
      response.on("end", () =>
        resolve({ status: response.statusCode ?? 0, body, headers: response.headers }),
      );
    });
    request.on("error", reject);
    request.end();
  });
}

test("while the program starts every address says so, and when to come again", async () => {
  for (const path of ["/", "/healthz", "/campaigns", "/unsubscribe/x"]) {
    const answer = await ask(path);
    expect(answer.status).toBe(503);
    expect(Number(answer.headers["retry-after"])).toBeGreaterThan(0);
  }
  starting.done();
  expect((await ask("/")).status).toBe(200);
});

describe("names", () => {
  test.each(["letters.tansyrow.example", "LETTERS.tansyrow.example:443", "localhost", "127.0.0.1", "[::1]"])(
    "%s is served",
    async (host) => expect((await ask("/campaigns", { host })).status).toBe(200),
  );
  test.each([
    "rebound.example",
    "rebound.example:7077",
    "letters.tansyrow.example.rebound.example",
    "127.0.0.1.rebound.example",
    "127.0.0.1@rebound.example",
    "a b",
  ])("“%s” is not", async (host) => {
    const answer = await ask("/campaigns", { host });
    expect([400, 421]).toContain(answer.status);
    expect(answer.body).not.toContain("/campaigns");
  });
});

describe("pages", () => {
  const foreign = { origin: "https://elsewhere.example", "sec-fetch-site": "cross-site" };
  test("of the origin may send, also through a proxy that speaks plainly with us", async () => {
    const answer = await ask("/campaigns", { origin: ORIGIN, host: "127.0.0.1" }, "POST");
    // The framework compares the two: they have to agree.
    expect(answer).toMatchObject({ status: 200 });
    expect(JSON.parse(answer.body)).toMatchObject({ host: "letters.tansyrow.example", scheme: "https" });
  });
  test("opened under a loopback name may send to that name", async () => {
    const host = `localhost:${port}`;
    expect((await ask("/campaigns", { host, origin: `http://${host}` }, "POST")).status).toBe(200);
    expect((await ask("/campaigns", { host, origin: "http://localhost:1" }, "POST")).status).toBe(403);
    expect((await ask("/campaigns", { host, origin: `https://${host}` }, "POST")).status).toBe(403);
  });
  test.each(["POST", "PUT", "DELETE", "GET"])("from elsewhere may not %s", async (method) => {
    for (const path of ["/campaigns", "/readers/search", "/pictures", "/assist", "/campaigns/a/save.data"])
      expect((await ask(path, foreign, method)).status, path).toBe(403);
    expect((await ask("/pictures/x.png", { origin: "null" }, "POST")).status).toBe(403);
  });
  test("from elsewhere may neither load what is ours as a script nor show it in a frame, but lead to it", async () => {
    const site = { "sec-fetch-site": "cross-site" };
    expect((await ask("/readers/search?q=a", { ...site, "sec-fetch-mode": "no-cors" })).status).toBe(403);
    expect((await ask("/campaigns", { ...site, "sec-fetch-mode": "navigate" })).status).toBe(200);
    expect((await ask("/campaigns", { ...site, "sec-fetch-mode": "navigate" }, "POST")).status).toBe(403);
    expect((await ask("/campaigns")).headers).toMatchObject({
      "x-frame-options": "DENY",
      "x-content-type-options": "nosniff",
      "referrer-policy": "same-origin",
    });
  });
  test("what is no browser says no origin, and may", async () => {
    expect((await ask("/campaigns", {}, "POST")).status).toBe(200);
  });
});

describe("bodies", () => {
  test("are taken up to their limit", async () => {
    const answer = await send("/campaigns", [Buffer.alloc(900_000)]);
    expect(answer.status).toBe(200);
    expect(JSON.parse(answer.body).octets).toBe(900_000);
    expect((await send("/library/take", [Buffer.alloc(40_000_000)])).status).toBe(200);
  });
  test("that say they are larger are refused at once", async () => {
    const answer = await send("/campaigns", [Buffer.alloc(10)], { "content-length": "2000000" });
    expect(answer.status).toBe(413);
    expect(answer.body).toContain("1 MB");
  });
  test("that never end are cut off when they have brought too much", async () => {
    let sent = 0;
    function* endless() {
      for (;;) {
        sent += 64_000;
        yield Buffer.alloc(64_000);
      }
    }
    const answer = await send("/campaigns/a/save", endless());
    expect([413, 0]).toContain(answer.status);
    expect(sent).toBeLessThan(40_000_000);
  });

  /** Sends a body in pieces for as long as it is taken; 0 as status when the connection was cut without an answer. */
  function send(
    path: string,
    pieces: Iterable<Buffer>,
    headers: Record<string, string> = {},
  ): Promise<{ status: number; body: string }> {
    return new Promise((resolve) => {
      const request = http.request({ host: "127.0.0.1", port, path, method: "POST", headers });
      let over = false;
      const end = (status: number, body: string) => {
        over = true;
        request.destroy();
        resolve({ status, body });
      };
      request.on("response", (response) => {
        let body = "";
        response.on("data", (chunk) => {
          body += chunk;
        });
        response.on("end", () => end(response.statusCode ?? 0, body));
        response.on("error", () => end(response.statusCode ?? 0, body));
      });
      request.on("error", () => end(0, ""));
      void (async () => {
        for (const piece of pieces) {
          if (over) return;
          if (!request.write(piece))
            await Promise.race([once(request, "drain"), once(request, "close")]).catch(() => 0);
          await new Promise((done) => setImmediate(done));
        }
        request.end();
      })();
    });
  }
});

describe("what a proxy lets through to readers", () => {
  test("leads to nothing of the interface, whatever is added to its routes", () => {
    expect(READERS).toContain("/unsubscribe/");
    expect(ROUTE_PATHS.length).toBeGreaterThan(50);
    expect(ROUTE_PATHS.filter((path) => READERS.some((begin) => path.startsWith(begin)))).toEqual([]);
  });

  test("stands in the README as it is", async () => {
    const text = await readFile("README.md", "utf8");
    const list = /let only what begins so through to readers:\s+(.*)\./.exec(text)?.[1];
    expect(list?.match(/`[^`]+`/g)?.map((it) => it.slice(1, -1))).toEqual(READERS);
  });

  test("leads reviewers to what their link shows, and to nothing else of the interface", async () => {
    const theirs = ROUTE_PATHS.filter((path) => REVIEWERS.some((begin) => path.startsWith(begin)));
    expect(theirs.sort()).toEqual([
      "/review/:token",
      "/review/:token/lines",
      "/review/:token/look",
      "/review/:token/talks",
    ]);
    const list = /let these through to them:\s+(.*)\./.exec(await readFile("README.md", "utf8"))?.[1];
    expect(list?.match(/`[^`]+`/g)?.map((it) => it.slice(1, -1))).toEqual(REVIEWERS);
  });

  test.each([
    "/pictures/",
    "/pictures//",
    "/pictures/../campaigns",
    "/pictures/%2e%2e/campaigns",
    "/pictures/..%2fcampaigns",
    "/pictures/..\\campaigns",
    "//campaigns",
    "/./campaigns",
    "/fonts/",
    "/unsubscribe/",
  ])("leads nowhere by %s", async (path) => {
    expect((await ask(path)).status).toBe(404);
    expect((await ask(path, {}, "POST")).status).toBe(404);
  });

  test.each([
    "/pictures/a-b.png",
    "/pictures/a.png/600",
    "/",
    "/unsubscribe/a.b.c",
    "/campaigns/a/save.data",
  ])("leads on by %s", async (path) => {
    expect((await ask(path)).status).toBe(200);
  });

  test.each([
    "letters.tansyrow.example:99999",
    "letters.tansyrow.example:1:2",
    "letters.tansyrow.example:-1",
  ])("is under no name like %s", async (host) => {
    expect((await ask("/", { host })).status).toBe(421);
  });
});
