import { mkdtemp, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import fc from "fast-check";
import sharp, { type Sharp } from "sharp";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import {
  keptSize,
  lightMap,
  newStep,
  type PictureStep,
  sharpenKernel,
  sizeAfter,
  stepWords,
  toneMap,
} from "~/core/pictures";
import { fontFiles } from "../workspace/fonts";
import { developPicture, inspectPicture, type Original } from "./develop";
import { scene } from "./fixtures";
import { outlineWords } from "./outline";

let folder: string;
let original: Original;
beforeAll(async () => {
  folder = await mkdtemp(path.join(tmpdir(), "septima-develop-"));
  const file = path.join(folder, "original");
  await writeFile(file, await scene(640, 400).png().toBuffer());
  original = await inspectPicture(file, "scene.png");
});
afterAll(() => rm(folder, { recursive: true, force: true }));

let count = 0;
async function developed(steps: PictureStep[], from = original) {
  const stem = path.join(folder, `made-${count++}`);
  const made = await developPicture(from, steps, {}, stem, { format: "png" });
  const { data, info } = await sharp(`${stem}${made.ending}`)
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { made, data, info };
}

/** The mean and the greatest difference of two pictures of one size, of steps from 0 to 255. */
function off(one: Buffer, other: Buffer): { mean: number } {
  expect(one.length).toBe(other.length);
  let sum = 0;
  for (let at = 0; at < one.length; at++) sum += Math.abs(one[at] - other[at]);
  return { mean: sum / one.length };
}

const step = <K extends PictureStep["kind"]>(kind: K, values: object) =>
  ({ ...newStep(kind, `s${count++}`), ...values }) as PictureStep;

/** What the image library makes of a step, written down for itself. */
async function byHand(image: Sharp, one: PictureStep): Promise<Sharp> {
  const { data, info } = await image.ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  const { width, height } = info;
  const it = sharp(data, { raw: { width, height, channels: 4 } });
  switch (one.kind) {
    case "crop":
      return it.extract({
        left: Math.round(one.x * width),
        top: Math.round(one.y * height),
        width: Math.round(one.width * width),
        height: Math.round(one.height * height),
      });
    case "flip":
      return one.across === "horizontal" ? it.flop() : it.flip();
    case "rotate":
      return it.rotate(one.turns * 90);
    case "light": {
      const { linear: m, offset } = lightMap(one);
      const lit = await it
        .recomb([
          [m[0], m[1], m[2]],
          [m[3], m[4], m[5]],
          [m[6], m[7], m[8]],
        ])
        .linear([1, 1, 1, 1], [...offset, 0])
        .png()
        .toBuffer();
      return one.sharpness === 0
        ? sharp(lit)
        : sharp(lit).convolve({ width: 3, height: 3, kernel: sharpenKernel(one.sharpness) });
    }
    case "tone": {
      const { linear: m, offset } = toneMap(one.tone, one.strength);
      return it
        .recomb([
          [m[0], m[1], m[2]],
          [m[3], m[4], m[5]],
          [m[6], m[7], m[8]],
        ])
        .linear([1, 1, 1, 1], [...offset, 0]);
    }
    default:
      throw new Error(one.kind);
  }
}

const percent = fc.integer({ min: -100, max: 100 });
const part = fc.record({ at: fc.integer({ min: 0, max: 40 }), size: fc.integer({ min: 30, max: 60 }) });
const steps: fc.Arbitrary<PictureStep> = fc.oneof(
  fc
    .tuple(part, part)
    .map(([x, y]) =>
      step("crop", { x: x.at / 100, width: x.size / 100, y: y.at / 100, height: y.size / 100 }),
    ),
  fc.constantFrom("horizontal", "vertical").map((across) => step("flip", { across })),
  fc.integer({ min: 0, max: 3 }).map((turns) => step("rotate", { turns })),
  fc
    .record({
      brightness: percent,
      contrast: percent,
      saturation: percent,
      warmth: percent,
      sharpness: fc.nat(100),
    })
    .map((values) => step("light", values)),
  fc
    .record({ tone: fc.constantFrom("lateSun", "overcast", "clay", "print", "slate"), strength: fc.nat(100) })
    .map((values) => step("tone", values)),
);

test("steps make of a picture what the image library makes of the same steps", async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(steps, { minLength: 1, maxLength: 5 }), async (all) => {
      const { data, info } = await developed(all);
      let image = sharp(original.path);
      for (const one of all) image = await byHand(image, one);
      const { data: flat, info: facts } = await image.png().toBuffer({ resolveWithObject: true });
      expect([info.width, info.height]).toEqual([facts.width, facts.height]);
      // Both as they are kept: in a palette.
      const kept = await sharp(flat).png({ palette: true, quality: 90, effort: 7 }).toBuffer();
      const { mean } = off(data, await sharp(kept).ensureAlpha().raw().toBuffer());
      expect(mean, all.map(stepWords).join(", ")).toBeLessThan(0.6);
    }),
    { numRuns: 40 },
  );
}, 180_000);

test("the size is what it was reckoned to be, whatever the steps and however wide it is asked for", async () => {
  const any = fc.oneof(
    steps,
    fc
      .record({ turns: fc.nat(3), angle: fc.integer({ min: -45, max: 45 }) })
      .map((values) => step("rotate", values)),
    fc
      .record({
        style: fc.constantFrom("mat", "line"),
        line: fc.constant(0.04),
        corner: fc.constantFrom(0, 0.1),
      })
      .map((values) => step("frame", values)),
    fc.integer({ min: 40, max: 900 }).map((width) => step("resize", { width })),
  );
  await fc.assert(
    fc.asyncProperty(
      fc.array(any, { maxLength: 5 }),
      fc.integer({ min: 80, max: 1400 }),
      async (all, width) => {
        const stem = path.join(folder, `made-${count++}`);
        const made = await developPicture(original, all, {}, stem, { format: "png", width });
        const kept = keptSize(original, all, width);
        // Each step rounds by itself at the size that is worked in.
        expect(Math.abs(made.width - kept.width)).toBeLessThanOrEqual(all.length + 1);
        expect(Math.abs(made.height - kept.height)).toBeLessThanOrEqual(all.length + 1);
        expect(made.width).toBeLessThanOrEqual(width + all.length + 1);
      },
    ),
    { numRuns: 40 },
  );
}, 180_000);

describe("a step", () => {
  test("cuts round and leaves the rest see-through", async () => {
    const { data, info } = await developed([step("crop", { shape: "round" })]);
    const alpha = (x: number, y: number) => data[(y * info.width + x) * 4 + 3];
    expect([
      alpha(0, 0),
      alpha(info.width - 1, info.height - 1),
      alpha(info.width / 2, info.height / 2),
    ]).toEqual([0, 0, 255]);
  });

  test("puts a mat around it and a colour into its corners", async () => {
    const frame = step("frame", {
      style: "mat",
      line: 0.05,
      color: "#FF0000",
      corner: 0.2,
      behind: "#0000FF",
    });
    const { data, info } = await developed([frame]);
    expect([info.width, info.height]).toEqual([704, 464]);
    const color = (x: number, y: number) => [
      ...data.subarray((y * info.width + x) * 4, (y * info.width + x) * 4 + 3),
    ];
    expect(color(0, 0)).toEqual([0, 0, 255]);
    expect(color(352, 5)).toEqual([255, 0, 0]);
  });

  test("draws with the pen where the pen went", async () => {
    const pen = step("pen", {
      strokes: [{ color: "#FF00FF", width: 0.02, points: [0.1, 0.5, 0.5, 0.5, 0.9, 0.5] }],
    });
    const { data, info } = await developed([pen]);
    const color = (x: number, y: number) => [
      ...data.subarray((y * info.width + x) * 4, (y * info.width + x) * 4 + 3),
    ];
    for (const x of [0.12, 0.5, 0.88]) expect(color(Math.round(x * 640), 200)).toEqual([255, 0, 255]);
    expect(color(320, 230)).not.toEqual([255, 0, 255]);
  });

  test("writes words with a font that ships, as wide as they were reckoned, and names signs it has not", async () => {
    const files = await fontFiles({ db: { query: async () => [] }, cache: new Map() } as never, "Fraunces");
    const light = await outlineWords(files, 300, "Frost by\nThursday");
    const bold = await outlineWords(files, 900, "Frost by\nThursday");
    expect(light.lines).toHaveLength(2);
    expect(bold.lines[0].width).toBeGreaterThan(light.lines[0].width);
    expect((await outlineWords(files, 400, "žluťoučký Ωй漢")).missing).toEqual(["Ω", "й", "漢"]);
    const words = step("words", {
      text: "Frost by\nThursday",
      color: "#FF0000",
      behind: "nothing",
      size: 0.2,
    });
    const stem = path.join(folder, "words");
    await developPicture(original, [words], { [words.id]: bold }, stem, { format: "png" });
    const { data, info } = await sharp(`${stem}.png`)
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    let [left, right] = [info.width, 0];
    for (let at = 0; at < info.width * info.height; at++) {
      const [r, g, b] = data.subarray(at * 3, at * 3 + 3);
      if (r < 240 || g > 20 || b > 20) continue;
      left = Math.min(left, at % info.width);
      right = Math.max(right, at % info.width);
    }
    const wide = Math.max(...bold.lines.map((line) => line.width)) * 0.2 * 640;
    expect(Math.abs(right - left - wide)).toBeLessThan(0.2 * 640 * 0.2);
    expect(Math.abs((left + right) / 2 - 320)).toBeLessThan(12);
  });

  test("makes it lighter, and the original stays", async () => {
    const file = path.join(folder, "photo");
    await writeFile(file, await scene(1400, 900).jpeg({ quality: 98 }).toBuffer());
    const photo = await inspectPicture(file, "photo.jpg");
    const bytes = [];
    for (const all of [
      [],
      [step("lighter", { quality: 60 })],
      [step("lighter", { quality: 30 })],
    ] as PictureStep[][])
      bytes.push((await developPicture(photo, all, {}, path.join(folder, `light-${bytes.length}`))).bytes);
    expect(bytes[1]).toBeLessThan(bytes[0]);
    expect(bytes[2]).toBeLessThan(bytes[1]);
    expect((await readFile(file)).length).toBeGreaterThan(bytes[0]);
  });

  test("turned further is cut to what is still filled", async () => {
    for (const angle of [-30, -3, 7, 45]) {
      const { data, info } = await developed([step("rotate", { turns: 0, angle })]);
      let clear = 0;
      for (let at = 3; at < data.length; at += 4) if (data[at] < 128) clear++;
      expect(clear / (info.width * info.height), String(angle)).toBeLessThan(0.002);
      expect(sizeAfter(original, step("rotate", { turns: 0, angle })).width).toBe(info.width);
    }
  });
});
