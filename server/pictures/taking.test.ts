import { readdir, readFile, utimes, writeFile } from "node:fs/promises";
import path from "node:path";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { openWorld } from "../test-world";
import { clearComing, originalFile, pictureFile } from "./files";
import { animation, bomb, HEIC, scene } from "./fixtures";
import { findPictures, PictureQuerySchema } from "./library";
import { addPicture, addPictureStream, type TakenPicture } from "./taking";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.close());

const take = (name: string, data: Uint8Array) => addPicture(world.septima, name, data);
const refusal = async (name: string, data: Uint8Array) =>
  take(name, data).then(
    () => "taken",
    (error: Error) => error.message,
  );
const fileOf = (picture: TakenPicture) => path.basename(picture.path);
const shown = async (picture: TakenPicture, width?: number) =>
  (await pictureFile(world.septima, fileOf(picture), width)).data;

describe("a picture that is taken in", () => {
  test("of 40 megapixels is made as large as emails need it, upright, and its original is kept", async () => {
    const data = await scene(8000, 5000).withMetadata({ orientation: 6 }).jpeg().toBuffer();
    const picture = await take("field.jpg", data);
    expect([picture.width, picture.height]).toEqual([1400, 2240]);
    const facts = await sharp(await shown(picture)).metadata();
    expect([facts.width, facts.height, facts.format]).toEqual([1400, 2240, "jpeg"]);
    expect([facts.exif, facts.icc, facts.orientation]).toEqual([undefined, undefined, undefined]);
    const original = await originalFile(world.septima, picture.id);
    expect(original.data.equals(data)).toBe(true);
  }, 180_000);

  test("with more pixels than can be held is refused at once, whatever it weighs", async () => {
    // The process that reads it is there already.
    await refusal("first.png", bomb(40_001, 40_000));
    const data = bomb(40_000, 40_000);
    expect(data.length).toBeLessThan(20_000);
    const started = performance.now();
    expect(await refusal("small.png", data)).toContain("40000 × 40000 pixels");
    expect(performance.now() - started).toBeLessThan(10_000);
  });

  test("with fewer pixels than it says is refused as damaged", async () => {
    expect(await refusal("lies.png", bomb(6000, 6000))).toContain("“lies.png” is damaged");
  }, 180_000);

  test("cut off in the middle is refused as damaged, and nothing is left of it", async () => {
    const whole = await scene(900, 700).png().toBuffer();
    expect(await refusal("half.png", whole.subarray(0, whole.length / 2))).toContain("“half.png” is damaged");
    const jpeg = await scene(900, 700).jpeg().toBuffer();
    expect(await refusal("half.jpg", jpeg.subarray(0, jpeg.length / 2))).toContain("“half.jpg” is damaged");
    const folder = path.join(world.folder, "pictures");
    expect(await readdir(path.join(folder, "coming"))).toEqual([]);
    expect((await readdir(folder)).filter((name) => name.endsWith(".part"))).toEqual([]);
  });

  test("drawn in SVG is made a still picture; scripts do not run and files elsewhere are not fetched", async () => {
    const svg = `<?xml version="1.0"?><!-- a bed --><svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="40" height="20" onload="alert(1)"><script>fetch("https://tracker.example/")</script><rect width="40" height="20" fill="#0a0"/><image xlink:href="file:///etc/hostname" width="20" height="20"/><image href="https://tracker.example/x.png" width="9" height="9"/></svg>`;
    const picture = await take("bed.svg", Buffer.from(svg));
    expect([picture.type, picture.width, picture.height]).toEqual(["image/png", 1400, 700]);
    expect(picture.notes.join(" ")).toMatch(/scripts were left out.*files elsewhere/);
    const { channels } = await sharp(await shown(picture)).stats();
    expect(channels.slice(0, 3).map(({ min, max }) => [min, max])).toEqual([
      [0, 0],
      [170, 170],
      [0, 0],
    ]);
  });

  test("drawn in SVG with entities that multiply is refused, and the next is taken", async () => {
    const levels = Array.from(
      { length: 12 },
      (_, at) => `<!ENTITY e${at + 1} "${`&e${at};`.repeat(20)}">`,
    ).join("");
    const svg = `<?xml version="1.0"?><!DOCTYPE svg [<!ENTITY e0 "ha">${levels}]><svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><text>&e12;</text></svg>`;
    expect(await refusal("laugh.svg", Buffer.from(svg))).not.toBe("taken");
    expect(await refusal("plain.png", await scene(40, 40).png().toBuffer())).toBe("taken");
  }, 180_000);

  test("with 300 frames goes on moving, smaller too", async () => {
    const picture = await take("seasons.gif", await animation(160, 90, 300));
    for (const [width, data] of [
      [160, await shown(picture)],
      [80, await shown(picture, 80)],
    ] as const) {
      const facts = await sharp(data, { animated: true }).metadata();
      expect([facts.format, facts.pages, facts.width, facts.loop]).toEqual(["gif", 300, width, 3]);
      expect(facts.delay?.every((one) => one === 70)).toBe(true);
    }
  }, 180_000);

  test("that moves and is a WebP becomes a GIF that moves, which mail programs take", async () => {
    const webp = await sharp(await animation(60, 40, 5), { animated: true })
      .webp()
      .toBuffer();
    const picture = await take("seasons.webp", webp);
    expect(picture.type).toBe("image/gif");
    expect((await sharp(await shown(picture), { animated: true }).metadata()).pages).toBe(5);
  });

  test("in the four colours of print is shown in those of screens", async () => {
    const data = await scene(300, 200).toColourspace("cmyk").jpeg().toBuffer();
    expect((await sharp(data).metadata()).space).toBe("cmyk");
    const kept = await shown(await take("print.jpg", data));
    expect((await sharp(kept).metadata()).space).toBe("srgb");
    const [there, here] = await Promise.all([
      sharp(data).toColourspace("srgb").raw().toBuffer(),
      sharp(kept).raw().toBuffer(),
    ]);
    const off = there.reduce((sum, value, at) => sum + Math.abs(value - here[at]), 0) / there.length;
    expect(off).toBeLessThan(4);
  });

  test("whose name has a wrong ending is taken for what it is, and says so", async () => {
    const picture = await take("carrots.png", await scene(120, 80).jpeg().toBuffer());
    expect([picture.name, picture.type]).toEqual(["carrots.jpg", "image/jpeg"]);
    expect(picture.notes.join()).toContain("It is JPEG");
  });

  test.each([
    ["empty.png", new Uint8Array(0), "is empty"],
    ["words.png", Buffer.from("not a picture at all, only words"), "not a picture"],
    ["leaflet.jpg", Buffer.from("%PDF-1.7 and so on and on"), "is a PDF"],
    ["phone.heic", HEIC, "Save it as JPEG"],
    ["film.gif", Buffer.from("\0\0\0\x18ftypmp42\0\0\0\0mp42isom", "latin1"), "a film"],
    ["page.svg", Buffer.from("<!doctype html><html><body><svg></svg></body></html>"), "a web page"],
  ])("that is none is refused with what it is: %s", async (name, data, words) => {
    expect(await refusal(name, data)).toContain(words);
  });

  test.each(["png", "webp", "avif", "jpeg"] as const)("as %s shows the same", async (format) => {
    const data = await scene(333, 200).toFormat(format, { quality: 95 }).toBuffer();
    const here = await sharp(await shown(await take(`scene.${format}`, data)))
      .removeAlpha()
      .raw()
      .toBuffer();
    const there = await scene(333, 200).raw().toBuffer();
    const off = there.reduce((sum, value, at) => sum + Math.abs(value - here[at]), 0) / there.length;
    expect(off).toBeLessThan(4);
  });
});

test("the same picture taken in many times at once is there once", async () => {
  const data = await scene(310, 210).png().toBuffer();
  const all = await Promise.all(["a.png", "b.png", "c.png", "d.png"].map((name) => take(name, data)));
  expect(new Set(all.map(({ id }) => id)).size).toBe(1);
  expect(all.filter(({ known }) => !known)).toHaveLength(1);
  const folder = path.join(world.folder, "pictures/originals");
  const kept = await Promise.all((await readdir(folder)).map((name) => readFile(path.join(folder, name))));
  expect(kept.filter((one) => one.equals(data))).toHaveLength(1);
});

test("fifty at once come in, and what never ends is cut off", async () => {
  const before = (await findPictures(world.septima, PictureQuerySchema.parse({}))).total;
  const files = await Promise.all(
    Array.from({ length: 50 }, (_, at) =>
      scene(200 + at, 150)
        .jpeg()
        .toBuffer(),
    ),
  );
  await Promise.all(
    files.map((data, at) =>
      addPictureStream(world.septima, `${at}.jpg`, new Blob([new Uint8Array(data)]).stream()),
    ),
  );
  expect((await findPictures(world.septima, PictureQuerySchema.parse({}))).total).toBe(before + 50);
  const endless = new ReadableStream<Uint8Array>({ pull: (to) => to.enqueue(new Uint8Array(1_000_000)) });
  await expect(addPictureStream(world.septima, "endless.jpg", endless)).rejects.toThrow("more than 40 MB");
}, 180_000);

test("a variant is as wide as it is asked for, made once, and no other width is made", async () => {
  const picture = await take("wide.jpg", await scene(1600, 400).jpeg().toBuffer());
  const all = await Promise.all(Array.from({ length: 6 }, () => shown(picture, 600)));
  for (const data of all) expect((await sharp(data).metadata()).width).toBe(600);
  for (const width of [601, 40, 20_000, -40, Number.NaN])
    await expect(pictureFile(world.septima, fileOf(picture), width)).rejects.toThrow(
      "not kept in this width",
    );
});

test("what was left half when a process ended goes after a day, and what is on its way stays", async () => {
  const folder = path.join(world.folder, "pictures/coming");
  await writeFile(path.join(folder, "old"), "half");
  await writeFile(path.join(folder, "new"), "half");
  const yesterday = new Date(Date.now() - 25 * 3_600_000);
  await utimes(path.join(folder, "old"), yesterday, yesterday);
  await clearComing(world.septima);
  expect(await readdir(folder)).toEqual(["new"]);
});
