import { createHash } from "node:crypto";
import { mkdir, readFile, writeFile } from "node:fs/promises";
import path from "node:path";
import sharp from "sharp";
import { Refusal, type Septima } from "../septima";

/** A picture of the workspace. `path` is where browsers and messages fetch it. */
export interface Picture {
  id: string;
  name: string;
  path: string;
  type: string;
  width: number;
  height: number;
  bytes: number;
  alt: string;
}

const GREATEST = { bytes: 20_000_000, pixels: 40_000_000, width: 1400 };
const KINDS: Record<string, string> = {
  png: "image/png",
  jpeg: "image/jpeg",
  gif: "image/gif",
  webp: "image/webp",
};

const folder = (septima: Septima) => path.join(septima.config.data, "pictures");

/** The pictures, newest first. */
export async function pictures(septima: Septima): Promise<Picture[]> {
  const rows = await septima.db.query<Omit<Picture, "path">>(
    "select id, name, type, width, height, bytes, alt from pictures where deleted_at is null order by created_at desc, name",
  );
  return rows.map((row) => ({ ...row, path: `/pictures/${row.id}` }));
}

/**
 * Takes a picture in: turned upright, at most 1,400 px wide (twice the widest email), stripped of hidden data. PNG,
 * JPEG and GIF stay what they are, everything else becomes PNG. The same picture again is the one that is there.
 * @throws Refusal when it is too large or no picture
 */
export async function addPicture(
  septima: Septima,
  name: string,
  data: Uint8Array,
  alt = "",
): Promise<Picture> {
  if (data.byteLength > GREATEST.bytes) {
    throw new Refusal(
      `“${name}” has ${Math.round(data.byteLength / 1_000_000)} MB. Pictures may have up to ${GREATEST.bytes / 1_000_000} MB.`,
    );
  }
  const digest = createHash("sha256").update(data).digest("hex");
  const [known] = await septima.db.query<Omit<Picture, "path">>(
    "select id, name, type, width, height, bytes, alt from pictures where digest = $1 and deleted_at is null limit 1",
    [digest],
  );
  if (known) return { ...known, path: `/pictures/${known.id}` };
  const image = sharp(data, { limitInputPixels: false, animated: true });
  const facts = await image.metadata().catch(() => {
    throw new Refusal(`“${name}” is not a picture that can be read. Use PNG, JPEG, GIF or WebP.`);
  });
  if ((facts.width ?? 0) * (facts.height ?? 0) > GREATEST.pixels) {
    throw new Refusal(
      `“${name}” has ${facts.width} × ${facts.height} pixels. Make it smaller than ${GREATEST.pixels / 1_000_000} megapixels first.`,
    );
  }
  let stored = image.rotate().resize({ width: GREATEST.width, withoutEnlargement: true });
  const kind = facts.format === "jpeg" || facts.format === "gif" ? facts.format : "png";
  stored =
    kind === "jpeg"
      ? stored.jpeg({ quality: 82, mozjpeg: true })
      : kind === "gif"
        ? stored.gif()
        : stored.png({ palette: true, quality: 90 });
  const { data: bytes, info } = await stored.toBuffer({ resolveWithObject: true }).catch(() => {
    throw new Refusal(`“${name}” is damaged and cannot be read to its end.`);
  });
  // Whether it can be seen through stands in its name, where messages are written: they give solid ones a ground.
  const solid = kind !== "jpeg" && (await sharp(bytes).stats()).isOpaque ? "-solid" : "";
  const id = `${septima.newId()}${solid}.${kind === "jpeg" ? "jpg" : kind}`;
  await mkdir(folder(septima), { recursive: true });
  await writeFile(path.join(folder(septima), id), bytes);
  const picture = {
    id,
    name,
    type: KINDS[kind],
    width: info.width,
    height: info.pageHeight ?? info.height,
    bytes: bytes.length,
    alt,
  };
  await septima.db.query(
    "insert into pictures (id, name, type, width, height, bytes, alt, created_at, digest) values ($1, $2, $3, $4, $5, $6, $7, $8, $9)",
    [
      id,
      name,
      picture.type,
      picture.width,
      picture.height,
      picture.bytes,
      alt,
      new Date(septima.now()),
      digest,
    ],
  );
  return { ...picture, path: `/pictures/${id}` };
}

/**
 * A picture's octets, for browsers and mail programs.
 * @throws Refusal when there is none
 */
export async function pictureFile(septima: Septima, id: string): Promise<{ type: string; data: Buffer }> {
  const [row] = await septima.db.query<{ type: string }>("select type from pictures where id = $1", [id]);
  if (!row) throw new Refusal("This picture does not exist any more.", 404);
  return { type: row.type, data: await readFile(path.join(folder(septima), path.basename(id))) };
}
