/** Words as outlines, so that they look the same wherever they are drawn, whatever fonts there are. Run confined. */
import { create, type Font } from "fontkit";
import { decompress } from "wawoff2";
import type { Outline } from "~/core/pictures";
import { Refusal } from "../refusal";

const opened = new Map<string, Promise<Font>>();

/** A font at a weight, read once for the process. Fonts that do not vary are as they are. */
function fontAt(name: string, file: Uint8Array, weight: number): Promise<Font> {
  const key = `${name} ${weight}`;
  let font = opened.get(key);
  if (!font) {
    font = decompress(file).then((data) => {
      const read = create(Buffer.from(data));
      if (!("layout" in read)) throw new Refusal("A collection of fonts cannot be written with.");
      const axis = read.variationAxes.wght;
      if (!axis) return read;
      return read.getVariation({ wght: Math.min(axis.max, Math.max(axis.min, weight)) });
    });
    font.catch(() => opened.delete(key));
    opened.set(key, font);
  }
  return font;
}

/**
 * The outlines of words.
 * @param files of one family, WOFF 2, by name: a sign is taken from the first that has it
 * @throws Refusal when a font cannot be read
 */
export async function outlineWords(
  files: readonly { name: string; data: Uint8Array }[],
  weight: number,
  text: string,
): Promise<Outline> {
  const fonts: Font[] = [];
  for (const { name, data } of files) fonts.push(await fontAt(name, data, weight));
  const [main] = fonts;
  const missing = new Set<string>();
  const fontOf = (sign: string) => fonts.find((font) => font.hasGlyphForCodePoint(sign.codePointAt(0) ?? 0));
  const lines = text.split("\n").map((line) => {
    let path = "";
    let x = 0;
    for (const [font, run] of runs(line, fontOf, main, missing)) {
      const laid = font.layout(run);
      for (const [index, glyph] of laid.glyphs.entries()) {
        const at = laid.positions[index];
        path += drawn(
          glyph.path.commands,
          font.unitsPerEm,
          x + at.xOffset / font.unitsPerEm,
          at.yOffset / font.unitsPerEm,
        );
        x += at.xAdvance / font.unitsPerEm;
      }
    }
    return { path, width: x };
  });
  return {
    lines,
    ascent: main.ascent / main.unitsPerEm,
    descent: -main.descent / main.unitsPerEm,
    missing: [...missing],
  };
}

/** A line in runs of one font each; signs that no font has are left out. */
function runs(
  line: string,
  fontOf: (sign: string) => Font | undefined,
  main: Font,
  missing: Set<string>,
): [Font, string][] {
  const all: [Font, string][] = [];
  for (const sign of line) {
    const found = /\s/.test(sign) ? main : fontOf(sign);
    if (!found) {
      missing.add(sign);
      continue;
    }
    const last = all.at(-1);
    if (last?.[0] === found) last[1] += sign;
    else all.push([found, sign]);
  }
  return all;
}

const LETTERS: Record<string, string> = {
  moveTo: "M",
  lineTo: "L",
  quadraticCurveTo: "Q",
  bezierCurveTo: "C",
  closePath: "Z",
};

/** The path of a glyph in ems, its y turned downwards. */
function drawn(
  commands: readonly { command: string; args: number[] }[],
  unit: number,
  x: number,
  y: number,
): string {
  const four = (value: number) => Math.round(value * 10_000) / 10_000;
  return commands
    .map(({ command, args }) => {
      const points = args.map((value, index) => four(index % 2 === 0 ? value / unit + x : -value / unit - y));
      return `${LETTERS[command]}${points.join(" ")}`;
    })
    .join("");
}
