/** Every route, found from the route table, is given what nobody should give: it answers, and shows nothing of its inside. */
import { afterAll, beforeAll, expect, test } from "vitest";
import { ROUTE_PATHS as PATHS } from "~/app/route-paths";
import { FEW, type Program, startProgram } from "./program";

const REQUESTS = 5000;
const AT_ONCE = 6;

let program: Program;
let ids: string[] = [];
beforeAll(async () => {
  program = await startProgram({ contacts: FEW });
  const page = await (await fetch(`${program.address}/campaigns`)).text();
  ids = [...new Set([...page.matchAll(/campaigns\/([a-z0-9]{8,})/g)].map(([, id]) => id))];
});
afterAll(() => program?.stop());

/** The same numbers in each run (mulberry32): what fails once, fails again. */
let seed = 20_261_129;
function random(): number {
  seed = (seed + 0x6d2b79f5) | 0;
  let t = Math.imul(seed ^ (seed >>> 15), 1 | seed);
  t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
  return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
}
const one = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)];

const nested = (depth: number) => "[".repeat(depth) + "]".repeat(depth);
const ODD_TEXTS = [
  "",
  "a",
  "0",
  "-1",
  "1e309",
  "99999999999999999999",
  "2147483648",
  "NaN",
  "null",
  "undefined",
  "__proto__",
  "constructor",
  "a\0b",
  "\ud800",
  "‮",
  "%",
  "%00",
  "../../etc/passwd",
  "' or 1=1 --",
  "<script>alert(1)</script>",
  "{$first_name}",
  "x".repeat(3000),
  "2026-02-31",
  "0000-00-00",
  "9999-12-31T25:61",
  "🌱".repeat(50),
  "everyone",
  "list",
] as const;
const ODD_VALUES: readonly (() => unknown)[] = [
  () => one(ODD_TEXTS),
  () => one([0, -1, 1.5, 1e308, 2 ** 31, 2 ** 53, -(2 ** 63)]),
  () => one([null, true, false]),
  () => [],
  () => ({}),
  () => [one(ODD_TEXTS), null, {}],
  () => ({
    kind: one(["all", "any", "none", "field", "list", "segment", "did"]),
    of: [{}],
    field: "email",
    op: "is",
  }),
  () => JSON.parse(nested(50)),
];
const KEYS = [
  "intent",
  "id",
  "ids",
  "kind",
  "name",
  "email",
  "revision",
  "save",
  "steps",
  "base",
  "readers",
  "include",
  "exclude",
  "confirmed",
  "when",
  "date",
  "time",
  "zone",
  "to",
  "note",
  "reader",
  "contact",
  "contactId",
  "rule",
  "filter",
  "sort",
  "from",
  "count",
  "query",
  "words",
  "group",
  "field",
  "value",
  "list",
  "do",
  "pick",
  "plan",
  "columns",
  "file",
  "format",
  "theme",
  "family",
  "weights",
  "weight",
  "text",
  "width",
  "address",
  "token",
  "topic",
  "answer",
  "key",
  "cases",
  "removed",
] as const;

/** A body that is nearly one: the names that routes ask for, with what they do not expect. */
function body(): { type: string; body: string } {
  const fields = Object.fromEntries(
    Array.from({ length: 1 + Math.floor(random() * 6) }, () => [one(KEYS), one(ODD_VALUES)()]),
  );
  switch (Math.floor(random() * 5)) {
    case 0:
      return {
        type: "application/x-www-form-urlencoded",
        body: new URLSearchParams(
          Object.entries(fields).map(([key, value]) => [
            key,
            typeof value === "string" ? value : JSON.stringify(value),
          ]),
        ).toString(),
      };
    case 1:
      return {
        type: "application/json",
        body: one(["", "{", "null", "[]", '"\\ud800"', '{"a":"\\u0000"}', nested(5000)]),
      };
    case 2:
      return { type: "application/octet-stream", body: one(ODD_TEXTS) };
    default:
      return { type: "application/json", body: JSON.stringify(fields) };
  }
}

/** An address of a route, with ids that are there and some that are not. */
function address(path: string): string {
  const filled = path
    .replace(/\/:(\w+)\?/g, () =>
      random() < 0.5 ? "" : `/${encodeURIComponent(one(ODD_TEXTS).toWellFormed())}`,
    )
    .replace(/:(\w+)/g, (_, name: string) => {
      if (name === "campaign" && random() < 0.8) return one(ids);
      if (name === "contact" && random() < 0.5) return String(1 + Math.floor(random() * 50));
      return encodeURIComponent(one(ODD_TEXTS).toWellFormed()) || "x";
    });
  const search =
    random() < 0.5 ? "" : `?${new URLSearchParams([[one(KEYS), one(ODD_TEXTS).toWellFormed()]])}`;
  return `${filled}${random() < 0.3 ? ".data" : ""}${search}`;
}

/** A line of a stack, or a path of this machine. */
const INSIDE = /\bat (async )?[\w.<>]+ \(|node_modules\/|\.(ts|js):\d+:\d+/;

test(`${REQUESTS} requests to all routes: no 500, and nothing of the inside`, {
  timeout: 900_000,
}, async () => {
  expect(ids.length).toBeGreaterThan(2);
  expect(PATHS.length).toBeGreaterThan(70);
  const faults: string[] = [];
  let asked = 0;
  const worker = async () => {
    while (asked < REQUESTS && faults.length < 20) {
      // Each route in its turn.
      const path = PATHS[asked++ % PATHS.length];
      const at = address(path);
      const post = random() < 0.5 ? body() : null;
      const sent = post
        ? { method: "POST", headers: { "content-type": post.type }, body: post.body }
        : { method: "GET" };
      const response = await fetch(program.address + at, { ...sent, redirect: "manual" });
      const told = response.headers.get("content-type") === "text/event-stream";
      // What is told as it happens has no end.
      if (told) await response.body?.cancel();
      const said = told ? "" : await response.text();
      const shown = /html|plain|json|script/.test(response.headers.get("content-type") ?? "");
      const error = response.status >= 400;
      if (response.status === 500 || (error && shown && INSIDE.test(said)))
        faults.push(
          `${sent.method} ${at.slice(0, 200)} ${post?.body.slice(0, 200) ?? ""}: ${response.status} ${said.slice(0, 200)}`,
        );
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, worker));
  expect(faults).toEqual([]);
  expect((await fetch(`${program.address}/healthz`)).status).toBe(200);
});
