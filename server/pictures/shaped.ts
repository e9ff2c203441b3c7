/** Pictures of items, cut to a shape around what matters in them: made when they are first asked for, and kept. */
import { createHash } from "node:crypto";
import { access, mkdtemp, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { CUT_RATIOS, type CutRatio, isVariantWidth, pictureFileOf } from "~/core/pictures";
import { fetchFor } from "../fetching";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { shownPath, variantsFolder } from "./files";
import { picturesAround } from "./library";

/** For one picture of a source. */
const LIMITS = { ms: 8000, bytes: 20_000_000 };
const ENDINGS = { ".jpg": "image/jpeg", ".png": "image/png" } as const;

const making = new Map<string, Promise<unknown>>();

/** What could not be had or cut, by its stem, until when it is not tried again: every opening of a letter asks for it. */
const failed = new Map<string, number>();
const AGAIN = 5 * 60_000;
/** So many of them are remembered. */
const MOST_FAILED = 5000;

/**
 * A picture cut to a shape: of an item of a source, or of the library, which is cut around its focus.
 * @param source `library` with a file of it for `id`
 * @returns its octets; where the picture cannot be had or cut, where it is at its source
 * @throws Refusal (404) when there is no such item, or not in this shape or width
 */
export async function shapedFile(
  septima: Septima,
  ratio: string,
  width: number,
  source: string,
  id: string,
): Promise<{ type: string; data: Buffer } | { to: string }> {
  if (!Object.hasOwn(CUT_RATIOS, ratio) || !isVariantWidth(width))
    throw new Refusal("Pictures are not cut to this shape or width.", 404);
  if (source === "library" && pictureFileOf(`/pictures/${id}`) === null)
    throw new Refusal("There is no such picture.", 404);
  const picture = source === "library" ? `/pictures/${id}` : await pictureOf(septima, source, id);
  const key = createHash("sha256")
    .update(JSON.stringify([ratio, width, picture]))
    .digest("hex")
    .slice(0, 40);
  const stem = path.join(await variantsFolder(septima), `shaped-${key}`);
  const kept = await keptAt(stem);
  if (kept) return kept;
  if ((failed.get(stem) ?? 0) > septima.now()) return { to: picture };
  const made =
    making.get(stem) ??
    cut(septima, picture, stem, ratio as CutRatio, width).finally(() => making.delete(stem));
  making.set(stem, made);
  try {
    await made;
  } catch (error) {
    if (!(error instanceof Refusal) || source === "library") throw error;
    if (failed.size >= MOST_FAILED) failed.clear();
    failed.set(stem, septima.now() + AGAIN);
    return { to: picture };
  }
  return (await keptAt(stem)) ?? { to: picture };
}

async function keptAt(stem: string): Promise<{ type: string; data: Buffer } | null> {
  for (const [ending, type] of Object.entries(ENDINGS)) {
    const there = await access(stem + ending).then(
      () => true,
      () => false,
    );
    if (there) return { type, data: await readFile(stem + ending) };
  }
  return null;
}

/** Where the picture of an item is, one that is gone since among them: letters that show it are still read. */
async function pictureOf(septima: Septima, source: string, id: string): Promise<string> {
  const [row] = await septima.db.query<{ picture: string | null }>(
    "select item ->> 'picture' as picture from items where source = $1 and id = $2",
    [source, id],
  );
  if (!row?.picture) throw new Refusal("There is no such item, or it has no picture.", 404);
  return row.picture;
}

async function cut(
  septima: Septima,
  picture: string,
  stem: string,
  ratio: CutRatio,
  width: number,
): Promise<void> {
  const shape = async (place: string, focus: { x: number; y: number } | null) => {
    const { notes: _, ...original } = await septima.pictureWork.run("inspect", place, picture);
    await septima.pictureWork.run("shape", original, stem, ratio, width, focus);
  };
  const file = pictureFileOf(picture);
  if (file !== null) {
    const [known] = await picturesAround(septima, [file]);
    return shape(await shownPath(septima, file), known?.focus ?? null);
  }
  const folder = await mkdtemp(path.join(tmpdir(), "septima-shaped-"));
  try {
    const place = path.join(folder, "picture");
    await writeFile(place, await fetchFor(septima, picture, LIMITS));
    await shape(place, null);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
