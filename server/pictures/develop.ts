/**
 * Makes of an original and its steps the picture that is shown. Run confined: it is given files and writes files, so
 * that no picture passes between two processes.
 */
import { open, readFile, rename, rm, stat } from "node:fs/promises";
import sharp, { type Sharp } from "sharp";
import {
  type ColourMap,
  cropBox,
  drawnOver,
  framePath,
  GREATEST_KEPT,
  keptSize,
  lightMap,
  matWidth,
  type Outline,
  type PictureStep,
  type Size,
  type StepOf,
  shapePath,
  sharpenKernel,
  sizeAfter,
  straightened,
  svgOf,
  toneMap,
  turned,
} from "~/core/pictures";
import { Refusal } from "../refusal";
import { KINDS_WORDS, type Kind, kindOf } from "./kinds";

// Each process is one of several, and works on one picture at a time.
sharp.concurrency(1);
sharp.cache(false);

/** An original as it is kept. */
export interface Original extends Size {
  path: string;
  kind: Kind;
  frames: number;
}

/** What an email shows. */
export type Format = "jpeg" | "png" | "gif";
const ENDINGS = { jpeg: ".jpg", png: ".png", gif: ".gif" } as const;

/** A picture that was written to a file. */
export interface Developed extends Size {
  /** The ending of its name, which is added to the stem that was asked for. */
  ending: string;
  type: `image/${Format}`;
  bytes: number;
  /** Whether it hides all that is behind it. */
  solid: boolean;
}

const GREATEST = {
  /** Of a still picture, in px. */
  still: 50_000_000,
  /** Of all frames of an animation together, in px. */
  animation: 50_000_000,
  frames: 1000,
};
/** How wide vector drawings are made, in px: there is no more to them. */
const DRAWN = 2800;

const inputOptions = { limitInputPixels: GREATEST.animation, failOn: "warning" as const };

/** The original for the image library: a drawing from memory, so that it can name no files beside it. */
export async function opened(original: Original, animated: boolean): Promise<Sharp> {
  if (original.kind !== "svg") return sharp(original.path, { ...inputOptions, animated });
  const data = await readFile(original.path);
  const { width = 1 } = await sharp(data, inputOptions).metadata();
  return sharp(data, {
    ...inputOptions,
    density: Math.min(9600, Math.max(1, (72 * original.width) / width)),
  });
}

/**
 * Looks at a file that came in.
 * @param name for what is said about it
 * @returns what it is, upright, and what is to be said of it
 * @throws Refusal that says what is wrong with it and what to do
 */
export async function inspectPicture(path: string, name: string): Promise<Original & { notes: string[] }> {
  const head = Buffer.alloc(4096);
  const file = await open(path);
  const { bytesRead } = await file.read(head, 0, head.length, 0);
  await file.close();
  if (bytesRead === 0) throw new Refusal(`“${name}” is empty: it has no bytes at all.`);
  const found = kindOf(head.subarray(0, bytesRead));
  if ("other" in found) {
    if (found.other === "HEIC")
      throw new Refusal(
        `“${name}” is a HEIC picture, a phone’s own kind, which mail programs and browsers do not show. Save it as JPEG, or set the phone to take JPEG, and add that.`,
      );
    throw new Refusal(
      found.other
        ? `“${name}” is ${found.other}. Pictures may be ${KINDS_WORDS}.`
        : `“${name}” is not a picture that can be read. Use ${KINDS_WORDS}.`,
    );
  }
  const { kind } = found;
  const notes: string[] = [];
  const input = kind === "svg" ? await drawing(path, notes) : path;
  const damaged = new Refusal(`“${name}” is damaged and cannot be read to its end.`);
  const facts = await sharp(input, { ...inputOptions, limitInputPixels: false, animated: kind !== "svg" })
    .metadata()
    .catch(() => {
      throw damaged;
    });
  const frames = facts.pages ?? 1;
  // Upright: orientations from 5 on lie on their side (Exif 2.32, 4.6.4).
  const lying = (facts.orientation ?? 1) >= 5;
  let [width, height] = [facts.width, facts.pageHeight ?? facts.height];
  if (lying) [width, height] = [height, width];
  const most = frames > 1 ? GREATEST.animation : GREATEST.still;
  if (kind === "svg") {
    const scale = Math.min(DRAWN / width, 8000 / height);
    [width, height] = [Math.max(1, Math.round(width * scale)), Math.max(1, Math.round(height * scale))];
  } else if (frames > GREATEST.frames || width * height * frames > most) {
    throw new Refusal(
      frames > 1
        ? `“${name}” has ${frames} frames of ${width} × ${height} pixels. Take a shorter part of it, or make it smaller: ${most / 1_000_000} megapixels in all are the most.`
        : `“${name}” has ${width} × ${height} pixels. Make it smaller than ${most / 1_000_000} megapixels first.`,
    );
  }
  return { path, kind, width, height, frames, notes };
}

/** What is said of a drawing that does not keep to itself. */
async function drawing(path: string, notes: string[]): Promise<Buffer> {
  const data = await readFile(path);
  const text = data.toString("utf8");
  if (/<script\b|\son\w+\s*=|javascript:/i.test(text))
    notes.push("Its scripts were left out: it is kept as a still picture.");
  if (
    /(?:href|src)\s*=\s*["'](?!#|data:)[^"']+["']|url\(\s*["']?(?!#|data:|["']?#)/i.test(
      text.replace(/<a\b[^>]*>/gi, ""),
    )
  )
    notes.push("It names files elsewhere; what they would show is missing.");
  return data;
}

/** Pixels as they lie: red, green, blue and alpha, each one octet. */
interface Pixels extends Size {
  data: Buffer;
}

const of = ({ data, width, height }: Pixels) => sharp(data, { raw: { width, height, channels: 4 } });

async function pixels(image: Sharp): Promise<Pixels> {
  const { data, info } = await image
    .toColourspace("srgb")
    .ensureAlpha()
    .raw({ depth: "uchar" })
    .toBuffer({ resolveWithObject: true });
  return { data, width: info.width, height: info.height };
}

const coloured = (image: Pixels, { linear, offset }: ColourMap) =>
  pixels(
    of(image)
      .recomb([linear.slice(0, 3), linear.slice(3, 6), linear.slice(6, 9)] as never)
      .linear([1, 1, 1, 1], [...offset, 0]),
  );

/** What lies outside of a path becomes see-through. */
const masked = (image: Pixels, path: string) =>
  pixels(
    of(image).composite([{ input: Buffer.from(svgOf(image, `<path d="${path}"/>`)), blend: "dest-in" }]),
  );

const over = (image: Pixels, svg: string): Promise<Pixels> | Pixels =>
  svg === "" ? image : pixels(of(image).composite([{ input: Buffer.from(svgOf(image, svg)) }]));

/** One step on pixels. */
async function stepped(image: Pixels, step: PictureStep, outlines: Outlines): Promise<Pixels> {
  switch (step.kind) {
    case "crop":
      return shaped(await pixels(of(image).extract(cropBox(step, image))), step);
    case "rotate": {
      const upright = step.turns === 0 ? image : await pixels(of(image).rotate(step.turns * 90));
      if (step.angle === 0) return upright;
      const kept = straightened(turned(image, step.turns), step.angle);
      const whole = await pixels(
        of(upright).rotate(step.angle, { background: { r: 0, g: 0, b: 0, alpha: 0 } }),
      );
      return pixels(
        of(whole).extract({
          left: Math.max(0, Math.round((whole.width - kept.width) / 2)),
          top: Math.max(0, Math.round((whole.height - kept.height) / 2)),
          width: Math.min(kept.width, whole.width),
          height: Math.min(kept.height, whole.height),
        }),
      );
    }
    case "flip":
      return pixels(step.across === "horizontal" ? of(image).flop() : of(image).flip());
    case "light": {
      const lit = await coloured(image, lightMap(step));
      if (step.sharpness === 0) return lit;
      return pixels(
        of(lit).convolve({ width: 3, height: 3, kernel: sharpenKernel(step.sharpness), scale: 1 }),
      );
    }
    case "tone":
      return coloured(image, toneMap(step.tone, step.strength));
    case "words":
    case "pen":
      return over(image, drawnOver(step, image, outlines[step.id]));
    case "frame": {
      const mat = matWidth(step, image);
      const background = step.color;
      const placed =
        mat === 0
          ? image
          : await pixels(
              of(image)
                .flatten({ background })
                .extend({ top: mat, bottom: mat, left: mat, right: mat, background }),
            );
      const lined = await over(placed, drawnOver(step, placed, undefined));
      if (step.corner === 0) return lined;
      const cut = await masked(lined, framePath(step, lined));
      return step.behind ? pixels(of(cut).flatten({ background: step.behind })) : cut;
    }
    default:
      return image;
  }
}

const shaped = (image: Pixels, step: StepOf<"crop">) =>
  step.shape === "rectangle" ? image : masked(image, shapePath(step.shape, image));

type Outlines = Readonly<Record<string, Outline>>;

/** Steps that change what a pixel is; the others say how the picture is kept. */
const changing = (steps: readonly PictureStep[]) =>
  steps.filter(({ kind }) => kind !== "focus" && kind !== "lighter" && kind !== "resize");

/**
 * Works out a picture and writes it.
 *
 * @param outlines of the words on it, by the ids of their steps
 * @param stem the path of the file to write, without an ending
 * @param as how wide it may be at most, and its format; without, as emails need it most
 * @throws Refusal when it cannot be read to its end; nothing is written then
 */
export async function developPicture(
  original: Original,
  steps: readonly PictureStep[],
  outlines: Outlines,
  stem: string,
  as: { width?: number; format?: Format } = {},
): Promise<Developed> {
  const lighter = steps.findLast((step): step is StepOf<"lighter"> => step.kind === "lighter");
  const part = `${stem}.${process.pid}.part`;
  try {
    const made = await (original.frames > 1 ? animation : still)(original, steps, outlines, as.width);
    const wished =
      lighter && lighter.format !== "keep" && made.natural !== "gif" ? lighter.format : undefined;
    const format =
      as.format ?? wished ?? (typeof made.natural === "string" ? made.natural : await made.natural());
    const info = await encoded(made.image, format, lighter?.quality).toFile(part);
    const solid = format === "jpeg" || (await sharp(part).stats()).isOpaque;
    const { size } = await stat(part);
    const ending = ENDINGS[format];
    await rename(part, `${stem}${ending}`);
    return {
      ending,
      type: `image/${format}`,
      width: info.width,
      height: info.pageHeight ?? info.height,
      bytes: size,
      solid,
    };
  } catch (error) {
    await rm(part, { force: true });
    if (error instanceof Refusal) throw error;
    throw new Refusal(`The picture is damaged and cannot be read to its end (${(error as Error).message}).`);
  }
}

interface Made {
  image: Sharp;
  /** The format that suits it, found out when it is needed. */
  natural: Format | (() => Promise<Format>);
}

/** A still picture: cut and made small first, so that no more of it is held than is shown. */
async function still(
  original: Original,
  steps: readonly PictureStep[],
  outlines: Outlines,
  most?: number,
): Promise<Made> {
  const kept = keptSize(original, steps, most);
  const scale = kept.width / steps.reduce(sizeAfter, original as Size).width;
  const [first, ...rest] = changing(steps);
  let image = (await opened(original, false)).autoOrient();
  let size: Size = original;
  if (first?.kind === "crop") {
    image = image.extract(cropBox(first, original));
    size = sizeAfter(original, first);
  }
  const px = (length: number) => Math.max(1, Math.round(length * scale));
  image = image.resize(px(size.width), px(size.height), { fit: "fill" }).toColourspace("srgb");
  if (!first || (first.kind === "crop" && first.shape === "rectangle" && rest.length === 0)) {
    const opaque = original.kind === "jpeg";
    return { image, natural: opaque ? "jpeg" : () => suiting(image.clone()) };
  }
  let done = await pixels(image);
  if (first.kind === "crop") done = await shaped(done, first);
  for (const step of first.kind === "crop" ? rest : [first, ...rest])
    done = await stepped(done, step, outlines);
  return { image: of(done), natural: () => suiting(of(done), original.kind) };
}

/** How wide an animation may be whose frames are changed: all of them are held at once. */
const CHANGED = 700;

/** A picture that moves: each of its frames in turn. */
async function animation(
  original: Original,
  steps: readonly PictureStep[],
  outlines: Outlines,
  most?: number,
): Promise<Made> {
  const todo = changing(steps);
  const kept = keptSize(
    original,
    steps,
    Math.min(most ?? GREATEST_KEPT.width, todo.length > 0 ? CHANGED : Infinity),
  );
  const scale = kept.width / steps.reduce(sizeAfter, original as Size).width;
  const [width, height] = [original.width, original.height].map((length) =>
    Math.max(1, Math.round(length * scale)),
  );
  const all = await opened(original, true);
  const { delay = [], loop = 0 } = await all.metadata();
  const image = all.resize(width, height, { fit: "fill" });
  if (todo.length === 0) return { image, natural: "gif" };
  const { data } = await image
    .toColourspace("srgb")
    .ensureAlpha()
    .raw({ depth: "uchar" })
    .toBuffer({ resolveWithObject: true });
  const octets = width * height * 4;
  const frames: Pixels[] = [];
  for (let from = 0; from < data.length; from += octets) {
    let frame: Pixels = { data: data.subarray(from, from + octets), width, height };
    for (const step of todo) frame = await stepped(frame, step, outlines);
    frames.push(frame);
  }
  const joined = Buffer.concat(frames.map((frame) => frame.data));
  const [one] = frames;
  const tall = sharp(joined, {
    raw: { width: one.width, height: one.height * frames.length, channels: 4, pageHeight: one.height },
    limitInputPixels: GREATEST.animation,
  });
  return { image: tall.gif({ delay, loop }), natural: "gif" };
}

/** At most so many px are looked at to find out what suits a picture. */
const SAMPLE = 400;

/**
 * The format that shows a picture well in the fewest bytes, of those that all mail programs take: PNG where it can be
 * seen through, else whichever is smaller. What came as a photograph stays one.
 */
async function suiting(image: Sharp, kind?: Kind): Promise<Format> {
  const small = await pixels(image.resize(SAMPLE, SAMPLE, { fit: "inside", withoutEnlargement: true }));
  for (let at = 3; at < small.data.length; at += 4) if (small.data[at] < 250) return "png";
  if (kind === "jpeg") return "jpeg";
  const [jpeg, png] = await Promise.all([
    encoded(of(small), "jpeg").toBuffer(),
    encoded(of(small), "png").toBuffer(),
  ]);
  // A drawing keeps its edges in PNG: that is worth a little.
  return jpeg.length < png.length * 0.8 ? "jpeg" : "png";
}

/** @param quality from 20 to 95; without, what cannot be told from the original at twice the shown size */
export function encoded(image: Sharp, format: Format, quality?: number): Sharp {
  const colours = quality === undefined ? 256 : Math.max(8, Math.round((256 * quality) / 100));
  switch (format) {
    case "jpeg":
      return image.flatten({ background: "#ffffff" }).jpeg({ quality: quality ?? 80, mozjpeg: true });
    case "png":
      return image.png({ palette: true, quality: quality ?? 90, colours, effort: 7 });
    case "gif":
      return image.gif({
        colours,
        ...(quality !== undefined && { interFrameMaxError: Math.round((100 - quality) / 4) }),
      });
  }
}
