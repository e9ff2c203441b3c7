import fc from "fast-check";
import { describe, expect, test } from "vitest";
import {
  doesNothing,
  draftAlts,
  focusOf,
  isVariantWidth,
  lightMap,
  newStep,
  type Outline,
  type PictureStep,
  PictureStepsSchema,
  pictureFileOf,
  preview,
  type StepKind,
  stepWords,
  TONES,
  thinned,
  toneMap,
  variantAddress,
} from ".";

const KINDS: StepKind[] = [
  "crop",
  "rotate",
  "flip",
  "resize",
  "light",
  "tone",
  "words",
  "pen",
  "frame",
  "focus",
  "lighter",
];
const step = <K extends StepKind>(kind: K, values: object = {}) =>
  ({ ...newStep(kind, kind), ...values }) as PictureStep;

describe("steps", () => {
  test("of every kind begin sound, are named, and are kept as they are", () => {
    const all = KINDS.map((kind) => step(kind));
    expect(PictureStepsSchema.parse(JSON.parse(JSON.stringify(all)))).toEqual(all);
    for (const one of all) expect(stepWords(one)).toMatch(/\p{Lu}|“|stroke/u);
  });

  test("that change nothing say so", () => {
    for (const kind of ["crop", "light", "pen"] as const) expect(doesNothing(step(kind))).toBe(true);
    expect(doesNothing(step("words", { text: "  " }))).toBe(true);
    expect(doesNothing(step("light", { warmth: 3 }))).toBe(false);
    expect(doesNothing(step("crop", { shape: "round" }))).toBe(false);
  });

  test("say what they do in a few words", () => {
    expect(stepWords(step("light", { warmth: 12 }))).toBe("Warmth +12");
    expect(stepWords(step("light", { warmth: -4, sharpness: 3 }))).toBe("Warmth −4 and 1 more");
    expect(stepWords(step("words", { text: "Frost by\n Thursday" }))).toBe("“Frost by Thursday”");
    expect(stepWords(step("frame", { corner: 0.02 }))).toBe("Corners 12 px");
    expect(stepWords(step("crop", { width: 0.5, height: 0.5 }))).toBe("Crop, 25 % kept");
  });
});

describe("light and tones", () => {
  const apply = (map: ReturnType<typeof lightMap>, color: number[]) =>
    [0, 1, 2].map((row) =>
      color.reduce((sum, value, column) => sum + map.linear[row * 3 + column] * value, map.offset[row]),
    );
  const zero = { brightness: 0, contrast: 0, saturation: 0, warmth: 0 };
  const color = fc.tuple(fc.nat(255), fc.nat(255), fc.nat(255));

  test("at nothing leave every colour", () => {
    fc.assert(
      fc.property(color, fc.constantFrom(...(Object.keys(TONES) as (keyof typeof TONES)[])), (one, tone) => {
        for (const map of [lightMap(zero), toneMap(tone, 0)])
          for (const [at, value] of apply(map, one).entries()) expect(value).toBeCloseTo(one[at], 6);
      }),
    );
  });

  test("without saturation are grey, in the same light", () => {
    fc.assert(
      fc.property(color, ([r, g, b]) => {
        const [one, two, three] = apply(lightMap({ ...zero, saturation: -100 }), [r, g, b]);
        expect(one).toBeCloseTo(0.2126 * r + 0.7152 * g + 0.0722 * b, 6);
        expect([two, three]).toEqual([expect.closeTo(one, 6), expect.closeTo(one, 6)]);
      }),
    );
  });

  test("go the way they say", () => {
    const [r, , b] = apply(lightMap({ ...zero, warmth: 100 }), [100, 100, 100]);
    expect(r).toBeGreaterThan(b);
    expect(apply(lightMap({ ...zero, brightness: -50 }), [100, 100, 100])[0]).toBeLessThan(100);
    expect(apply(lightMap({ ...zero, contrast: 50 }), [200, 128, 20])).toEqual([
      expect.closeTo(236, 0),
      expect.closeTo(128, 0),
      expect.closeTo(-34, 0),
    ]);
  });
});

test("the focus point stays on what it was set on, through crops, turns and mats", () => {
  const size = { width: 400, height: 200 };
  const at = (x: number, y: number, ...after: PictureStep[]) =>
    focusOf(size, [step("focus", { x, y }), ...after]);
  expect(at(0.75, 0.5, step("crop", { x: 0.5, width: 0.5 }))).toEqual({ x: 0.5, y: 0.5 });
  expect(at(0.1, 0.2, step("flip", { across: "horizontal" }))).toEqual({ x: 0.9, y: 0.2 });
  expect(at(0.1, 0.2, step("rotate", { turns: 1 }))).toEqual({ x: 0.8, y: expect.closeTo(0.1, 9) });
  const turn = step("rotate", { turns: 1 });
  const round = at(0.1, 0.2, turn, turn, turn, turn);
  expect([round.x, round.y]).toEqual([expect.closeTo(0.1, 6), expect.closeTo(0.2, 6)]);
  expect(at(0.1, 0.1, step("crop", { x: 0.5, width: 0.5 })).x).toBe(0);
  expect(focusOf(size, [])).toEqual({ x: 0.5, y: 0.5 });
});

test("what the browser shows is sound and holds nothing but what steps may draw", () => {
  const outline: Outline = { lines: [{ path: "M0 0L1 1Z", width: 1 }], ascent: 1, descent: 0.2, missing: [] };
  const all = KINDS.map((kind) =>
    step(kind, { ...(kind === "words" && { text: "<script>&" }), ...(kind === "rotate" && { turns: 1 }) }),
  );
  const { svg, size } = preview({ href: "/x", width: 800, height: 500 }, all, { words: outline });
  expect(size).toEqual({ width: 500, height: 800 });
  expect(svg).not.toContain("script");
  const open = [...svg.matchAll(/<(\w+)[^>]*?(\/?)>|<\/(\w+)>/g)].reduce(
    (names: string[], [, name, closed, end]) => {
      if (end) expect(names.pop()).toBe(end);
      else if (closed !== "/") names.push(name);
      return names;
    },
    [],
  );
  expect(open).toEqual([]);
});

test("a stroke keeps its form with fewer points", () => {
  const points = Array.from({ length: 200 }, (_, at) => [at / 200, 0.5 + 0.2 * Math.sin(at / 15)]).flat();
  const kept = thinned(points);
  expect(kept.length).toBeLessThan(points.length / 2);
  expect(kept.slice(0, 2)).toEqual(points.slice(0, 2));
  expect(kept.slice(-2)).toEqual(points.slice(-2));
  expect(thinned([0, 0, 0.5, 0, 1, 0])).toEqual([0, 0, 1, 0]);
});

describe("a variant", () => {
  test("is twice as wide as it is shown, and the picture itself where that is no wider", () => {
    expect(variantAddress("/pictures/ab-solid.png", 300, 1400)).toBe("/pictures/ab-solid.png/600");
    expect(variantAddress("/pictures/ab.jpg", 301, 1400)).toBe("/pictures/ab.jpg/640");
    expect(variantAddress("/pictures/ab.jpg", 700, 1400)).toBe("/pictures/ab.jpg");
    expect(variantAddress("/pictures/ab.jpg", 10, 64)).toBe("/pictures/ab.jpg");
    for (const other of ["https://a.example/pictures/x.png", "/drawings/x.png", "/pictures/a/b.png", ""])
      expect(variantAddress(other, 100, 1000)).toBe(other);
    expect(variantAddress("/pictures/ab.jpg", 100, undefined)).toBe("/pictures/ab.jpg");
  });

  test("that may be asked for is one that is asked for", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 900 }), fc.integer({ min: 1, max: 1400 }), (shown, natural) => {
        const width = variantAddress("/pictures/a.jpg", shown, natural).split("/")[3];
        if (width !== undefined) {
          expect(isVariantWidth(Number(width))).toBe(true);
          expect(Number(width)).toBeGreaterThanOrEqual(Math.min(natural, shown * 2));
        }
      }),
    );
    expect(pictureFileOf("/pictures/ab.jpg")).toBe("ab.jpg");
  });
});

describe("a draft of the alternative text", () => {
  test.each([
    ["carrots-in_a_row.png", "Carrots in a row"],
    ["WinterGarden_final_v2 (1).jpeg", "Winter garden"],
    ["spring-rows-1200x800@2x.png", "Spring rows"],
    ["Frühbeet im März.jpg", "Frühbeet im märz"],
    ["C:\\photos\\Seed tray.png", "Seed tray"],
  ])("is read off a name that somebody gave: %s", (name, draft) => {
    expect(draftAlts(name, [])).toEqual([draft]);
  });

  test.each([
    "IMG_2041.JPG",
    "DSC00012.jpg",
    "PXL_20260403_101112.jpg",
    "Screenshot 2026-04-03 at 10.11.12.png",
    "image (3).png",
    "untitled.png",
    "3f2a9c1d4e5b6a7f8c9d.png",
    "photo-2.webp",
    "20260403.jpg",
    "",
  ])("is none where a camera or a program gave it: %s", (name) => {
    expect(draftAlts(name, [])).toEqual([]);
  });

  test("is offered from what stands beside it, each once, and short enough to be read out", () => {
    const long = `A bed ${"of very many vegetables ".repeat(20)}`;
    const drafts = draftAlts("IMG_1.jpg", ["Leeks", "leeks", long, "More"]);
    expect(drafts[0]).toBe("Leeks");
    expect(drafts).toHaveLength(3);
    for (const draft of drafts) expect(draft.length).toBeLessThanOrEqual(125);
  });
});
