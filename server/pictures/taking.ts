/** Taking pictures in: each is kept as it came, and once, however often it comes. */
import { createHash } from "node:crypto";
import { createWriteStream } from "node:fs";
import { rename, rm, stat, writeFile } from "node:fs/promises";
import path from "node:path";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import type { PictureStep } from "~/core/pictures";
import { fetchFor } from "../fetching";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import type { Developed, Original } from "./develop";
import { nameOf, outlinesOf, placeToCome } from "./files";
import { type Picture, picture } from "./library";

/** The most that an original may have, in octets. */
export const GREATEST_PICTURE = 40_000_000;

/** A picture that was taken in. */
export interface TakenPicture extends Picture {
  /** Whether it was here already. */
  known: boolean;
  /** What is to be said of it. */
  notes: string[];
}

/**
 * Takes a picture in. The original is kept; what is shown is upright, at most 1,400 px wide (twice the widest email),
 * without hidden data, and in the format that shows it best of those all mail programs take.
 * @throws Refusal when it is too large or no picture
 */
export async function addPicture(
  septima: Septima,
  name: string,
  data: Uint8Array,
  alt = "",
): Promise<TakenPicture> {
  const place = await placeToCome(septima);
  await writeFile(place, data);
  return take(septima, place, { name, alt, digest: createHash("sha256").update(data).digest("hex") });
}

/** The same for one that comes bit by bit, of which no more than a bit is held. */
export async function addPictureStream(
  septima: Septima,
  name: string,
  body: ReadableStream<Uint8Array>,
  folder = "",
): Promise<TakenPicture> {
  const place = await placeToCome(septima);
  const hash = createHash("sha256");
  let bytes = 0;
  async function* counted(chunks: AsyncIterable<Uint8Array>) {
    for await (const chunk of chunks) {
      bytes += chunk.byteLength;
      if (bytes > GREATEST_PICTURE) throw tooLarge(name, bytes);
      hash.update(chunk);
      yield chunk;
    }
  }
  try {
    await pipeline(Readable.fromWeb(body as never), counted, createWriteStream(place));
  } catch (error) {
    await rm(place, { force: true });
    if (error instanceof Refusal) throw error;
    throw new Refusal(`“${name}” did not come to its end. Try again.`);
  }
  return take(septima, place, { name, alt: "", folder, digest: hash.digest("hex") });
}

/** Takes over a picture from an address. @throws Refusal when it cannot be fetched, or is none */
export async function addPictureFrom(septima: Septima, address: string): Promise<TakenPicture> {
  const data = await fetchFor(septima, address, { ms: 30_000, bytes: GREATEST_PICTURE });
  let name = address;
  try {
    const { pathname, hostname } = new URL(address);
    name = decodeURIComponent(path.posix.basename(pathname)) || hostname;
  } catch {
    // What could be fetched has an address; one that is oddly encoded is its own name.
  }
  return addPicture(septima, name.slice(0, 200), data);
}

const tooLarge = (name: string, bytes: number) =>
  new Refusal(
    `“${name}” has ${bytes > GREATEST_PICTURE * 2 ? "far " : ""}more than ${GREATEST_PICTURE / 1_000_000} MB. Make it smaller first.`,
  );

interface Coming {
  name: string;
  alt: string;
  digest: string;
  folder?: string;
}

const taking = new Map<string, Promise<unknown>>();

/** Takes in a file that has come, which is gone afterwards; the same one twice is taken one after the other. */
async function take(septima: Septima, place: string, coming: Coming): Promise<TakenPicture> {
  const before = taking.get(coming.digest);
  const mine = (before ?? Promise.resolve())
    .catch(() => undefined)
    .then(() => takeNow(septima, place, coming))
    .finally(() => rm(place, { force: true }));
  taking.set(coming.digest, mine);
  try {
    return await mine;
  } finally {
    if (taking.get(coming.digest) === mine) taking.delete(coming.digest);
  }
}

async function takeNow(septima: Septima, place: string, coming: Coming): Promise<TakenPicture> {
  const { digest, alt, folder = "" } = coming;
  const { size: bytes } = await stat(place);
  if (bytes > GREATEST_PICTURE) throw tooLarge(coming.name, bytes);
  const known = await knownPicture(septima, digest);
  if (known) return { ...known, known: true, notes: [] };
  const { notes, ...original } = await septima.pictureWork.run("inspect", place, coming.name);
  const name = named(coming.name, original.kind, notes);
  const developed = await develop(septima, original, [], name);
  const kept = `${digest}.${original.kind}`;
  await rename(place, await septima.files.place(nameOf(kept, "original")));
  await septima.files.keep(nameOf(kept, "original"));
  const at = new Date(septima.now());
  const { kind, width, height, frames } = original;
  const id = septima.newId();
  const fresh = await septima.db.transaction(async (tx) => {
    await tx.query(
      `insert into originals (digest, file, kind, width, height, frames, bytes, created_at)
       values ($1, $2, $3, $4, $5, $6, $7, $8) on conflict (digest) do nothing`,
      [digest, kept, kind, width, height, frames, bytes, at],
    );
    // Another process may be taking in the same one.
    await tx.query("select 1 from originals where digest = $1 for update", [digest]);
    const [other] = await tx.query(
      "select id from pictures where original = $1 and not copied and deleted_at is null limit 1",
      [digest],
    );
    if (other) return false;
    await tx.query(
      `insert into pictures (id, name, file, type, width, height, bytes, alt, folder, original, digest, created_at)
       values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $10, $11)`,
      [
        id,
        name,
        developed.file,
        developed.type,
        developed.width,
        developed.height,
        developed.bytes,
        alt,
        folder,
        digest,
        at,
      ],
    );
    await tx.query(
      `insert into picture_files (file, picture, type, width, height, bytes, created_at) values ($1, $2, $3, $4, $5, $6, $7)`,
      [developed.file, id, developed.type, developed.width, developed.height, developed.bytes, at],
    );
    return true;
  });
  const now = fresh ? await picture(septima, id) : await knownPicture(septima, digest);
  if (!now) throw new Refusal("The picture was removed while it was taken in. Try again.");
  return { ...now, known: !fresh, notes };
}

async function knownPicture(septima: Septima, digest: string): Promise<Picture | null> {
  const [row] = await septima.db.query<{ id: string }>(
    "select id from pictures where (original = $1 or digest = $1) and not copied and deleted_at is null order by created_at limit 1",
    [digest],
  );
  return row ? picture(septima, row.id) : null;
}

const USUAL_ENDING = {
  jpeg: /jpe?g|jfif/,
  png: /png|apng/,
  gif: /gif/,
  webp: /webp/,
  avif: /avif/,
  svg: /svg/,
};

/** A file's name with the ending that it should have. */
function named(name: string, kind: Original["kind"], notes: string[]): string {
  const short = name.trim().slice(0, 200) || "picture";
  const ending = /\.([a-z0-9]{2,5})$/i.exec(short)?.[1];
  if (!ending || new RegExp(`^(${USUAL_ENDING[kind].source})$`, "i").test(ending)) return short;
  if (!/^(jpe?g|jfif|a?png|gif|webp|avif|svg|heic|tiff?|bmp|pdf|txt|html?)$/i.test(ending)) return short;
  notes.push(`It is ${kind.toUpperCase()}, whatever its name says.`);
  return `${short.slice(0, -ending.length)}${kind === "jpeg" ? "jpg" : kind}`;
}

/**
 * Makes a file of the library from an original and steps.
 * @param width at most so many px wide; without, as wide as emails need it
 * @returns what it is; `file` is its name
 * @throws Refusal when the original is damaged, or takes too much
 */
export async function develop(
  septima: Septima,
  original: Original,
  steps: readonly PictureStep[],
  name: string,
  width?: number,
): Promise<Developed & { file: string }> {
  const id = septima.newId();
  const stem = await septima.files.place(nameOf(id));
  const outlines = await outlinesOf(septima, steps);
  const made = await septima.pictureWork
    .run("develop", original, [...steps], outlines, stem, { width })
    .catch((error) => {
      throw error instanceof Refusal
        ? new Refusal(error.message.replace(/^The picture/, `“${name}”`))
        : error;
    });
  // Whether it can be seen through stands in its name, where messages are written: they give solid ones a ground.
  const file = `${id}${made.solid && made.ending !== ".jpg" ? "-solid" : ""}${made.ending}`;
  if (file !== `${id}${made.ending}`)
    await rename(`${stem}${made.ending}`, await septima.files.place(nameOf(file)));
  await septima.files.keep(nameOf(file));
  return { ...made, file };
}
