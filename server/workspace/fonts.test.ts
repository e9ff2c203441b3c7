import { readFileSync } from "node:fs";
import { createServer, type Server } from "node:http";
import { createRequire } from "node:module";
import type { AddressInfo } from "node:net";
import { afterAll, beforeAll, expect, test } from "vitest";
import { brandFont, THEMES } from "~/core/email";
import { sampleEmail } from "~/core/render/sample";
import { framed } from "../campaigns/frames";
import { messageFor } from "../campaigns/rendering";
import type { Septima } from "../septima";
import { openWorld } from "../test-world";
import { addFont, addFontFrom, fontFile } from "./fonts";
import { brandOf, setBrand } from "./settings";
import { saveTheme } from "./themes";

const woff2 = readFileSync(
  createRequire(import.meta.url).resolve(
    "@fontsource-variable/hanken-grotesk/files/hanken-grotesk-latin-wght-normal.woff2",
  ),
);

let septima: Septima;
let close: () => Promise<void>;
let press: Server;
let at: string;
beforeAll(async () => {
  const world = await openWorld();
  press = createServer((request, response) => {
    if (request.url === "/type/house.woff2") response.end(woff2);
    else if (request.url === "/page") response.end("<!doctype html><p>Not a font</p>");
    else response.writeHead(404).end();
  });
  await new Promise<void>((resolve) => press.listen(0, "127.0.0.1", resolve));
  at = `http://127.0.0.1:${(press.address() as AddressInfo).port}`;
  septima = { ...world.septima, config: { ...world.septima.config, standins: { press: at } } };
  close = world.close;
});
afterAll(async () => {
  press.close();
  await close();
});

const reader = { id: 1, email: "a@mail.example", fields: {}, lists: [] };

test("a font by address: shown here from a copy, taken by messages from where it is", async () => {
  const font = await addFontFrom(septima, `${at}/type/house.woff2`);
  expect(font).toMatchObject({ family: "Hanken Grotesk", weights: [100, 900], kind: "sans-serif" });
  expect(await fontFile(septima, `${font.file}.woff2`)).toEqual(woff2);
  const before = await brandOf(septima);
  await setBrand(septima, { ...before, fonts: [{ ...font, kind: "serif" }] });
  const [plain] = THEMES;
  const { stack } = brandFont({ ...font, kind: "serif" });
  expect(stack).toBe("'Hanken Grotesk', Georgia, 'Times New Roman', serif");
  const theme = await saveTheme(
    septima,
    { ...plain, name: "House", fonts: { ...plain.fonts, heading: stack } },
    null,
  );
  const email = { ...sampleEmail(2), theme: theme.id };
  const { html } = await messageFor(septima, email, reader);
  expect(html).toContain(`@font-face{font-family:"Hanken Grotesk";src:url(${at}/type/house.woff2)`);
  expect(html).toContain('mso-font-alt:"Georgia"');
  // A frame that shows it may fetch it, and nothing else from there.
  const { policy } = framed(septima, email, [], html);
  expect(/font-src ([^;]*)/.exec(policy)?.[1].split(" ")).toContain(`${at}/type/house.woff2`);
  // Without it in the brand, the theme goes on with the rest of its stack.
  await setBrand(septima, before);
  const without = await messageFor(septima, email, reader);
  expect(without.html).not.toContain("house.woff2");
  expect(without.html).toContain("Georgia");
});

test("the same file again is kept once", async () => {
  const one = await addFont(septima, woff2, { name: "a.woff2" });
  expect(await addFont(septima, woff2, { name: "b.woff2" })).toEqual(one);
  const [{ count }] = await septima.db.query<{ count: number }>("select count(*)::int as count from fonts");
  expect(count).toBe(1);
});

test.each([
  ["a page", () => addFontFrom(septima, `${at}/page`), /is not a WOFF2 font/],
  ["nothing there", () => addFontFrom(septima, `${at}/gone.woff2`), /404/],
  ["no address", () => addFontFrom(septima, "house.woff2"), /is not an address/],
  ["a private network", () => addFontFrom(septima, "http://127.0.0.1:9/x.woff2"), /private network/],
  ["too large", () => addFont(septima, new Uint8Array(700_000), { name: "big.woff2" }), /700 KB.*600 KB/],
  ["empty", () => addFont(septima, new Uint8Array(), { name: "none.woff2" }), /is not a WOFF2 font/],
])("%s is refused in words", async (_what, work, words) => {
  await expect(work()).rejects.toThrow(words);
});

test("a file that nobody keeps is not there", async () => {
  await expect(fontFile(septima, "own-0000000000000000.woff2")).rejects.toThrow("no font");
  await expect(fontFile(septima, "../settings")).rejects.toThrow("no font");
});
