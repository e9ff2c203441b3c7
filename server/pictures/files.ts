/** Where pictures lie, and their octets. */
import { randomBytes } from "node:crypto";
import { access, mkdir, readdir, readFile, rm, stat } from "node:fs/promises";
import path from "node:path";
import {
  isVariantWidth,
  type Outline,
  type PictureStep,
  PictureStepsSchema,
  type StepOf,
} from "~/core/pictures";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { fontFiles } from "../workspace/fonts";
import type { Format, Original } from "./develop";
import type { Kind } from "./kinds";

/** What the file of a picture, or an original, is called where files are kept. */
export const nameOf = (file: string, of: "shown" | "original" = "shown"): string =>
  of === "original" ? `pictures/originals/${file}` : `pictures/${file}`;

/** The path of one of them. @throws Refusal (404) when it is not there */
async function pathOf({ files }: Septima, name: string): Promise<string> {
  const file = await files.at(name);
  if (file === null) throw new Refusal("This picture does not exist any more.", 404);
  return file;
}

/** A folder of this machine's, made when it is not there: for what can be made again, and what is on its way in. */
async function folderOf(septima: Septima, name: "variants" | "coming"): Promise<string> {
  const folder = path.join(septima.config.data, "pictures", name);
  await mkdir(folder, { recursive: true });
  return folder;
}

/** Where pictures are kept that can be made again. */
export const variantsFolder = (septima: Septima): Promise<string> => folderOf(septima, "variants");

/** The path of a picture as it is shown. @throws Refusal (404) when it is not there */
export const shownPath = (septima: Septima, file: string): Promise<string> => pathOf(septima, nameOf(file));

/** A place for a file that is on its way in. */
export async function placeToCome(septima: Septima): Promise<string> {
  return path.join(await folderOf(septima, "coming"), randomBytes(8).toString("hex"));
}

/** What came half and was left so is thrown away after a day, since nobody waits for it any more. */
const LEFT_OVER = 24 * 3_600_000;

/** Throws away what is left of pictures that did not come to their end when a process ended. */
export async function clearComing(septima: Septima): Promise<void> {
  const folder = await folderOf(septima, "coming");
  for (const name of await readdir(folder)) {
    const file = path.join(folder, name);
    const { mtimeMs } = await stat(file).catch(() => ({ mtimeMs: Number.POSITIVE_INFINITY }));
    if (septima.now() - mtimeMs > LEFT_OVER) await rm(file, { force: true });
  }
}

interface FileRow {
  file: string;
  type: string;
  steps: unknown;
  first: string;
  original: string | null;
  kind: Kind;
  width: number;
  height: number;
  frames: number;
}

const KIND_OF: Record<string, Kind> = {
  "image/jpeg": "jpeg",
  "image/png": "png",
  "image/gif": "gif",
  "image/webp": "webp",
};

/** So many files' facts are kept in memory: they never change, and readers ask for the same ones. */
const REMEMBERED = 2000;

async function fileRow(septima: Septima, file: string): Promise<FileRow & { made: Original }> {
  const known = septima.cache.get("picture files") as Map<string, FileRow & { made: Original }> | undefined;
  const found = known?.get(file);
  if (found) return found;
  const row = await readFileRow(septima, file);
  const kept = known && known.size < REMEMBERED ? known : new Map<string, FileRow & { made: Original }>();
  septima.cache.set("picture files", kept.set(file, row));
  return row;
}

async function readFileRow(septima: Septima, file: string): Promise<FileRow & { made: Original }> {
  const [row] = await septima.db.query<FileRow>(
    `select f.file, f.type, f.steps, p.id as first, o.file as original, o.kind,
       coalesce(o.width, p.width) as width, coalesce(o.height, p.height) as height, coalesce(o.frames, 1) as frames
     from picture_files f join pictures p on p.id = f.picture left join originals o on o.digest = p.original
     where f.file = $1`,
    [file],
  );
  if (!row) throw new Refusal("This picture does not exist any more.", 404);
  const { width, height, frames } = row;
  // A picture from before originals were kept is its own.
  const made = row.original
    ? {
        path: await pathOf(septima, nameOf(row.original, "original")),
        kind: row.kind,
        width,
        height,
        frames,
      }
    : {
        path: await pathOf(septima, nameOf(row.first)),
        kind: KIND_OF[row.type] ?? "png",
        width,
        height,
        frames,
      };
  return { ...row, made };
}

/** How wide an original is shown to be worked on, in px. */
const WORKED_ON = 1200;

async function currentFile(septima: Septima, id: string): Promise<{ name: string; file: string }> {
  const [row] = await septima.db.query<{ name: string; file: string }>(
    "select name, file from pictures where id = $1",
    [id],
  );
  if (!row) throw new Refusal("This picture does not exist any more.", 404);
  return row;
}

/** The original of a picture as it came. @throws Refusal (404) when there is none */
export async function originalFile(septima: Septima, id: string): Promise<{ name: string; data: Buffer }> {
  const { name, file } = await currentFile(septima, id);
  return { name, data: await readFile((await originalOf(septima, file)).path) };
}

/** The original of a picture, upright and no larger than is needed to work on it. @throws Refusal (404) when there is none */
export async function workingFile(septima: Septima, id: string): Promise<{ type: string; data: Buffer }> {
  const { file } = await currentFile(septima, id);
  const made = await originalOf(septima, file);
  const stem = path.join(await folderOf(septima, "variants"), `${path.basename(made.path)}-worked-on`);
  const one = { ...made, frames: 1 };
  const { ending, type } = await septima.pictureWork.run("develop", one, [], {}, stem, {
    width: WORKED_ON,
    format: made.kind === "jpeg" ? "jpeg" : "png",
  });
  return { type, data: await readFile(`${stem}${ending}`) };
}

/** What a file was made from. @throws Refusal (404) when there is none */
export async function originalOf(septima: Septima, file: string): Promise<Original> {
  return (await fileRow(septima, file)).made;
}

/**
 * A picture's octets, for browsers and mail programs.
 * @param width at most so many px wide; made when it is first asked for
 * @throws Refusal when there is none, or not in this width
 */
export async function pictureFile(
  septima: Septima,
  file: string,
  width?: number,
): Promise<{ type: string; data: Buffer }> {
  const row = await fileRow(septima, file);
  if (width === undefined)
    return { type: row.type, data: await readFile(await pathOf(septima, nameOf(row.file))) };
  if (!isVariantWidth(width)) throw new Refusal("Pictures are not kept in this width.", 404);
  return { type: row.type, data: await readFile(await variant(septima, row, width)) };
}

const making = new Map<string, Promise<unknown>>();

/** The path of a variant, which is made once however many ask for it at the same time. */
async function variant(septima: Septima, row: FileRow & { made: Original }, width: number): Promise<string> {
  const ending = path.extname(row.file);
  const stem = path.join(await folderOf(septima, "variants"), `${path.basename(row.file, ending)}-${width}`);
  const file = `${stem}${ending}`;
  const there = await access(file).then(
    () => true,
    () => false,
  );
  if (there) return file;
  let made = making.get(file);
  if (!made) {
    const steps = PictureStepsSchema.parse(row.steps);
    const format = row.type.replace("image/", "") as Format;
    made = outlinesOf(septima, steps)
      .then((outlines) =>
        septima.pictureWork.run("develop", row.made, steps, outlines, stem, { width, format }),
      )
      .finally(() => making.delete(file));
    making.set(file, made);
  }
  await made;
  return file;
}

const outlines = new Map<string, Promise<Outline>>();
/** So many outlines of words are kept; while one writes, each key makes others. */
const KEPT = 200;

/** The outlines of the words among steps, by the ids of the steps. */
export async function outlinesOf(
  septima: Septima,
  steps: readonly PictureStep[],
): Promise<Record<string, Outline>> {
  const words = steps.filter(
    (step): step is StepOf<"words"> => step.kind === "words" && step.text.trim() !== "",
  );
  const found = await Promise.all(words.map((step) => outlineOf(septima, step)));
  return Object.fromEntries(words.map((step, index) => [step.id, found[index]]));
}

/** The outlines of some words. @throws Refusal when the font cannot be read */
export async function outlineOf(
  septima: Septima,
  { font, weight, text }: Pick<StepOf<"words">, "font" | "weight" | "text">,
): Promise<Outline> {
  const files = await fontFiles(septima, font);
  const key = JSON.stringify([files.map(({ name }) => name), weight, text]);
  let outline = outlines.get(key);
  if (!outline) {
    outline = septima.pictureWork.run("outline", files, weight, text);
    outline.catch(() => outlines.delete(key));
    if (outlines.size >= KEPT) outlines.clear();
    outlines.set(key, outline);
  }
  return outline;
}
