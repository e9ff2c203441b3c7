import { createHash } from "node:crypto";
import { readFile } from "node:fs/promises";
import { createRequire } from "node:module";
import { type BrandFont, BrandFontSchema, WEB_FONTS } from "~/core/email";
import { fetchFor } from "../fetching";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";
import { brandOf } from "./settings";
import { readWoff2 } from "./woff2";

/** A font in every letter is fetched by every reader: larger ones cost more than they give. */
const GREATEST = 600_000;

/**
 * The file of a font (WOFF 2), by its name under `/fonts/`: one that ships, or one of the brand's.
 * @throws Refusal (404) when there is none
 */
export async function fontFile(septima: Septima, name: string): Promise<Buffer> {
  const font = WEB_FONTS.find(({ file }) => `${file}.woff2` === name);
  if (font) return shipped(font.file, "latin");
  const [own] = await septima.db.query<{ data: Uint8Array }>("select data from fonts where file = $1", [
    name.replace(/\.woff2$/, ""),
  ]);
  if (!own) throw new Refusal("There is no font of this name.", 404);
  return Buffer.from(own.data);
}

function shipped(file: string, signs: "latin" | "latin-ext"): Promise<Buffer> {
  const packages = createRequire(import.meta.url);
  return readFile(packages.resolve(`@fontsource-variable/${file}/files/${file}-${signs}-wght-normal.woff2`));
}

/** The family that stands in for one that is not there any more. */
const INSTEAD = "hanken-grotesk";

/**
 * The files of a family, to write on pictures with: of the brand's, one that ships, or the program's own type. Each has
 * a name that never stands for other octets.
 */
export async function fontFiles(septima: Septima, family: string): Promise<{ name: string; data: Buffer }[]> {
  const own = (await brandOf(septima)).fonts?.find((font) => font.family === family);
  const second = { name: `${INSTEAD}-latin`, data: await shipped(INSTEAD, "latin") };
  if (own) return [{ name: own.file, data: await fontFile(septima, `${own.file}.woff2`) }, second];
  const file = WEB_FONTS.find((font) => font.family === family)?.file ?? INSTEAD;
  return [
    { name: `${file}-latin`, data: await shipped(file, "latin") },
    { name: `${file}-latin-ext`, data: await shipped(file, "latin-ext") },
  ];
}

/**
 * Keeps the file of a font; the brand takes it up when it is saved. The same file again is the one that is there.
 * @param from what it is called in messages, and where they are to take it from when not from here
 * @throws Refusal when it is no WOFF 2 file, or too large
 */
export async function addFont(
  septima: Septima,
  data: Uint8Array,
  from: { name: string; address?: string },
): Promise<BrandFont> {
  if (data.byteLength > GREATEST)
    throw new Refusal(
      `“${from.name}” has ${Math.round(data.byteLength / 1000)} KB. A font for letters may have up to ${GREATEST / 1000} KB: leave out the signs that are not used.`,
    );
  const facts = readWoff2(Buffer.from(data));
  if (!facts)
    throw new Refusal(
      `“${from.name}” is not a WOFF2 font, or it is damaged. Mail programs take this kind only.`,
    );
  const family = facts.family
    .replace(/[^\w -]/g, "")
    .replace(/ (Variable|VF)$/i, "")
    .trim()
    .slice(0, 60);
  if (family === "")
    throw new Refusal(`“${from.name}” has a name that styles cannot write. Give it one in Latin letters.`);
  const file = `own-${createHash("sha256").update(data).digest("hex").slice(0, 16)}`;
  await septima.db.query(
    "insert into fonts (file, data, created_at) values ($1, $2, $3) on conflict (file) do nothing",
    [file, data, new Date(septima.now())],
  );
  return BrandFontSchema.parse({
    family,
    file,
    ...(from.address && { address: from.address }),
    weights: facts.weights,
    kind: /mono|code|typewriter/i.test(family)
      ? "monospace"
      : /serif|roman/i.test(family.replace(/sans.?serif/i, ""))
        ? "serif"
        : "sans-serif",
  });
}

/**
 * Fetches a font once, to show it here and to see what it is; messages go on taking it from its address.
 * @throws Refusal when it cannot be fetched, or is none
 */
export async function addFontFrom(septima: Septima, address: string): Promise<BrandFont> {
  return addFont(septima, await fetchFor(septima, address), { name: address, address });
}
