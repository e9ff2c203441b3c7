import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import { afterAll, beforeAll, beforeEach, expect, test, vi } from "vitest";
import type { Contact, Rule } from "~/core/audience";
import { readerWho } from "./reader-who";
import type { ComposerState } from "./store";

const contact = (id: number, zone: string): Contact => ({
  id,
  email: `c${id}@a.example`,
  fields: { zone },
  lists: [],
});
const inZone = (zone: string): Rule => ({ kind: "field", field: "zone", op: "is", value: zone });
const state = {
  editions: [{ sample: contact(1, "cool") }, { sample: contact(2, "mild") }],
  facts: { campaign: "c 1", audience: { today: "2031-03-01", segments: new Map(), zone: "UTC" } },
} as unknown as Pick<ComposerState, "editions" | "facts">;

const asked: string[] = [];
const server = createServer(async (request, response) => {
  let body = "";
  for await (const part of request) body += part;
  asked.push(`${request.method} ${request.url} ${body}`);
  const found = body.includes("warm") ? contact(3, "warm") : null;
  response.setHeader("content-type", "application/json");
  response.end(JSON.stringify({ result: body.includes("broken") ? null : { sample: found } }));
});
const real = globalThis.fetch;
beforeAll(() => new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve)));
beforeEach(() => {
  const { port } = server.address() as AddressInfo;
  // In a browser an address without a host is of the page's.
  vi.stubGlobal("fetch", (path: string, init: RequestInit) => real(`http://127.0.0.1:${port}${path}`, init));
});
afterAll(() => void server.close());

test("somebody of an edition who meets the rule stands for all who do; nobody is asked for", async () => {
  expect(await readerWho(state, inZone("mild"))).toEqual(contact(2, "mild"));
  expect(asked).toEqual([]);
});

test("of those who are in no edition's sample the server knows one, among the campaign's readers", async () => {
  expect(await readerWho(state, inZone("warm"))).toEqual(contact(3, "warm"));
  expect(asked).toEqual([`POST /readers/count?campaign=c+1 ${JSON.stringify(inZone("warm"))}`]);
  expect(await readerWho(state, inZone("arctic"))).toBeNull();
  expect(await readerWho(state, inZone("broken"))).toBeNull();
});

test("a rule that cannot be answered, and a server that is away, find nobody", async () => {
  expect(await readerWho(state, { kind: "segment", segment: "gone", in: true })).toBeNull();
  await new Promise<void>((resolve) => {
    server.close(() => resolve());
    server.closeAllConnections();
  });
  expect(await readerWho(state, inZone("warm"))).toBeNull();
});
