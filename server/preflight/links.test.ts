/** Links tried at a real server: what answers, what does not, what leads on, what lets only some look. */
import http from "node:http";
import type { AddressInfo } from "node:net";
import { afterAll, beforeAll, expect, test } from "vitest";
import { blocksOf, mapEmail } from "~/core/email";
import { campaign } from "../campaigns/campaigns";
import type { Septima } from "../septima";
import { addReaders, openWorld, readyLetter, saveDesign } from "../test-world";
import { tryAddress, tryLinks } from "./links";

let septima: Septima;
let close: () => Promise<void>;
let server: http.Server;
let base: string;
const asked: string[] = [];

beforeAll(async () => {
  const world = await openWorld();
  server = http.createServer((request, response) => {
    asked.push(`${request.method} ${request.url}`);
    const path = request.url ?? "";
    const [, status] = /^\/status\/(\d+)/.exec(path) ?? [];
    if (path === "/on") response.writeHead(302, { location: "/here" }).end();
    else if (path === "/round") response.writeHead(301, { location: "/round" }).end();
    else if (path === "/no-head" && request.method === "HEAD") response.writeHead(405).end();
    else if (path === "/large") {
      response.writeHead(request.method === "HEAD" ? 501 : 200);
      response.end(request.method === "HEAD" ? "" : Buffer.alloc(900_000));
    } else response.writeHead(status ? Number(status) : 200).end("Here");
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  septima = {
    ...world.septima,
    config: { ...world.septima.config, standins: { ...world.septima.config.standins, site: base } },
  };
  close = world.close;
});
afterAll(async () => {
  server?.close();
  await close();
});

test.each([
  ["/here", "fine", ""],
  ["/on", "fine", ""],
  ["/no-head", "fine", ""],
  ["/large", "fine", ""],
  ["/status/404", "dead", "answers 404: there is nothing there"],
  ["/status/410", "dead", "answers 410: there is nothing there"],
  ["/status/503", "dead", "answers 503: a fault on its side"],
  ["/status/403", "unsure", "answers 403: it lets only some look"],
  ["/status/429", "unsure", "answers 429"],
  ["/round", "dead", "more than 5 times"],
])("%s is %s", async (path, verdict, why) => {
  const tried = await tryAddress(septima, base + path);
  expect(tried.verdict).toBe(verdict);
  expect(tried.why).toContain(why);
});

test("a name that nobody knows, and an address of one’s own network, are told; one’s own pages are not asked", async () => {
  expect(await tryAddress(septima, "https://nobody-has-this.example/")).toMatchObject({ verdict: "dead" });
  expect(await tryAddress(septima, "http://127.0.0.2:9/")).toMatchObject({
    verdict: "dead",
    why: expect.stringContaining("private network"),
  });
  expect(await tryAddress(septima, `${septima.config.readers}/x`)).toEqual({ verdict: "fine", why: "" });
});

test("the links of a campaign are tried a few at a time, each address once", async () => {
  await addReaders(septima, "garden", 1);
  const id = await readyLetter(septima, "garden", () => [{ type: "text", text: "Sow" }]);
  const { email } = await campaign(septima, id);
  const [text] = blocksOf(email).filter(({ type }) => type === "text");
  const hrefs = [...Array.from({ length: 10 }, (_, at) => `${base}/link/${at}`), `${base}/link/0`];
  const content = {
    type: "doc",
    content: [
      {
        type: "paragraph",
        content: hrefs.map((href, at) => ({
          type: "text",
          text: `Link ${at} `,
          marks: [{ type: "link", attrs: { href } }],
        })),
      },
    ],
  };
  const changed = mapEmail(email, (node) => {
    if (node.id === text.id) return { ...node, content } as typeof node;
    return "type" in node && node.type === "button" ? { ...node, href: `${base}/status/404` } : node;
  });
  await saveDesign(septima, id, changed);
  asked.length = 0;
  const first = await tryLinks(septima, id, 0);
  expect(first).toMatchObject({ of: 11, next: 8 });
  const second = await tryLinks(septima, id, 8);
  expect(second.next).toBeNull();
  const all = [...first.tried, ...second.tried];
  expect(all).toHaveLength(11);
  expect(all.filter(({ verdict }) => verdict !== "fine").map(({ href }) => href)).toEqual([
    `${base}/status/404`,
  ]);
  expect(asked.filter((one) => one.endsWith("/link/0"))).toHaveLength(1);
});
