/** Emails made into files by a real browser, where there is one. */
import { mkdtemp, writeFile } from "node:fs/promises";
import http from "node:http";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import path from "node:path";
import sharp from "sharp";
import { afterAll, beforeAll, expect, test } from "vitest";
import { createBlock } from "~/core/blocks";
import { type Block, mapEmail } from "~/core/email";
import { campaign, setReaders } from "../campaigns/campaigns";
import type { Septima } from "../septima";
import { addList, addReaders, everybody, openWorld, readyLetter, saveDesign } from "../test-world";
import { chromium, withBrowser } from "./browser";
import { contactSheet, rendered } from "./rendered";

let septima: Septima;
let close: () => Promise<void>;
const installed = await chromium();

beforeAll(async () => {
  ({ septima, close } = await openWorld());
  await addReaders(septima, "all", 3, (at) => ({ first_name: ["Ines", "Odell", "Wren"][at] }));
});
afterAll(() => close());

const letter = () => readyLetter(septima, "all", () => [{ type: "text", text: "Beans" }]);
/** A letter with some of its blocks. */
async function letterWith(...blocks: Block[]): Promise<string> {
  const id = await letter();
  const { email } = await campaign(septima, id);
  const { id: first } = email.sections[0].rows[0].columns[0];
  await saveDesign(
    septima,
    id,
    mapEmail(email, (node) => (node.id === first && "blocks" in node ? { ...node, blocks } : node)),
  );
  return id;
}

test("Chromium is found on the path, or where the environment says; where there is none it is said what to do", async () => {
  const folder = await mkdtemp(path.join(tmpdir(), "septima-chromium-"));
  expect(await chromium({ PATH: folder })).toBeNull();
  await writeFile(path.join(folder, "chromium"), "", { mode: 0o755 });
  expect(await chromium({ PATH: `/nowhere:${folder}` })).toBe(path.join(folder, "chromium"));
  expect(await chromium({ PATH: folder, SEPTIMA_CHROMIUM: "/nowhere" })).toBeNull();
  const { SEPTIMA_CHROMIUM: before } = process.env;
  process.env.SEPTIMA_CHROMIUM = "/nowhere/chromium";
  try {
    await expect(withBrowser(septima, async () => 1)).rejects.toMatchObject({
      status: 503,
      message: expect.stringContaining("Install it there"),
    });
  } finally {
    if (before === undefined) delete process.env.SEPTIMA_CHROMIUM;
    else process.env.SEPTIMA_CHROMIUM = before;
  }
});

test.runIf(installed)(
  "a view is a picture as wide as asked and as high as the email, in the colours of its class",
  async () => {
    const id = await letter();
    const [{ id: reader }] = await everybody(septima);
    const look = async (view: Partial<Parameters<typeof rendered>[3]>) => {
      const { data, type, name } = await rendered(septima, id, "png", { reader, width: 720, ...view });
      expect([type, name]).toEqual(["image/png", "Test.png"]);
      const picture = sharp(Buffer.from(data as Uint8Array));
      const { width, height } = await picture.metadata();
      const [red, green, blue] = await picture.raw().toBuffer();
      return { width, height, ground: (red + green + blue) / 3 };
    };
    const wide = await look({});
    expect(wide.width).toBe(720);
    expect(wide.height).toBeGreaterThan(300);
    const narrow = await look({ width: 320 });
    expect(narrow.width).toBe(320);
    expect(narrow.height).toBeGreaterThan(wide.height!);
    const dark = await look({ inbox: "full" });
    expect(dark.ground).toBeLessThan(wide.ground - 60);
    expect((await look({ width: 99_999 })).width).toBe(1200);
  },
);

test.runIf(installed)(
  "a PDF has one page as high as the email, a sheet one picture for each edition",
  async () => {
    const cool = {
      ...createBlock("text", "cool"),
      show: { kind: "field", field: "first_name", op: "is", value: "Ines" },
    };
    const id = await letterWith(cool as Block, createBlock("text", "all"));
    const pages = (data: unknown) =>
      Buffer.from(data as Uint8Array)
        .toString("latin1")
        .match(/\/Type\s*\/Page\b/g)?.length;
    const pdf = await rendered(septima, id, "pdf", { reader: null, width: 600 });
    expect(
      Buffer.from(pdf.data as Uint8Array)
        .subarray(0, 5)
        .toString(),
    ).toBe("%PDF-");
    expect(pages(pdf.data)).toBe(1);
    const sheet = await contactSheet(septima, id);
    expect(sheet.name).toBe("Test editions.pdf");
    const words = Buffer.from(sheet.data as Uint8Array).toString("latin1");
    expect(words.match(/\/Subtype\s*\/Image/g)).toHaveLength(2);
  },
);

test.runIf(installed)(
  "nothing runs in it, and nothing is fetched from where strangers must not",
  async () => {
    const asked: string[] = [];
    const server = http.createServer((request, response) => {
      asked.push(request.url ?? "");
      response.end();
    });
    await new Promise<void>((done) => server.listen(0, "127.0.0.1", done));
    const { port } = server.address() as AddressInfo;
    const title = await withBrowser(septima, async (open) => {
      const page = await open();
      await page.setContent(
        `<title>As it was</title><img src="http://127.0.0.1:${port}/picture.png"><script>document.title = "Changed"; fetch("http://127.0.0.1:${port}/script")</script>`,
        { waitUntil: "load" },
      );
      return page.title();
    });
    server.close();
    expect(title).toBe("As it was");
    expect(asked).toEqual([]);
  },
);

test("nobody’s editions make no sheet", async () => {
  const id = await letter();
  await addList(septima, "nobody", "Nobody");
  await setReaders(septima, id, { include: [{ kind: "list", id: "nobody" }], exclude: [] });
  await expect(contactSheet(septima, id)).rejects.toThrow("choose who gets it under Readers");
});
