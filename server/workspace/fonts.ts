import { readFile } from "node:fs/promises";
import { createRequire } from "node:module";
import { WEB_FONTS } from "~/core/email";
import { Refusal } from "../septima";

/**
 * The file of a font that ships with the program (WOFF 2), by its name under `/fonts/`.
 * @throws Refusal (404) when no such font ships
 */
export async function fontFile(name: string): Promise<Buffer> {
  const font = WEB_FONTS.find(({ file }) => `${file}.woff2` === name);
  if (!font) throw new Refusal("No font of this name ships with Septima.", 404);
  const packages = createRequire(import.meta.url);
  return readFile(
    packages.resolve(`@fontsource-variable/${font.file}/files/${font.file}-latin-wght-normal.woff2`),
  );
}
