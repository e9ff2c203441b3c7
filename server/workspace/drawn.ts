import { toBuffer } from "bwip-js/node";
import sharp from "sharp";
import { CLOCK } from "~/core/blocks";
import { DRAWINGS, drawing } from "~/core/drawings";
import { GLYPH_NAMES, type GlyphName, glyphSvg } from "~/core/markup";
import { pictureFile } from "../pictures/files";
import { Refusal } from "../refusal";
import type { Septima } from "../septima";

/**
 * A line drawing as a PNG, large enough for twice its greatest size.
 * @param file `<name>-<RRGGBB>.png`, with `-<RRGGBB>` of an outline before the end where it has one
 * @throws Refusal (404) when there is no such drawing
 */
export async function glyphFile(file: string): Promise<Buffer> {
  const [, name, color, outline] = /^([a-z]+)-([0-9a-f]{6})(?:-([0-9a-f]{6}))?\.png$/i.exec(file) ?? [];
  if (!GLYPH_NAMES.includes(name as GlyphName)) throw new Refusal("There is no such drawing.", 404);
  return sharp(Buffer.from(glyphSvg(name as GlyphName, `#${color}`, 128, outline && `#${outline}`)))
    .png({ palette: true })
    .toBuffer();
}

const drawn = new Map<string, Promise<Buffer>>();

/**
 * A drawing of ours as a PNG, made once for the process.
 * @param file `<name>-solid.png`
 * @throws Refusal (404) when there is no such drawing
 */
export function drawingFile(file: string): Promise<Buffer> {
  const found = drawing(file.replace(/-solid\.png$/, ""));
  if (!found || !file.endsWith("-solid.png")) throw new Refusal("There is no such drawing.", 404);
  const made = drawn.get(file) ?? sharp(Buffer.from(found.svg)).png({ palette: true }).toBuffer();
  drawn.set(file, made);
  return made;
}

/** Draws all of them, one after the other, so that whoever opens the templates first does not wait for it. */
export async function drawAhead(): Promise<void> {
  for (const name of DRAWINGS) await drawingFile(`${name}-solid.png`);
}

/** Seven strokes of a digit, by name: top, upper left, upper right, middle, lower left, lower right, bottom. */
const STROKES: Record<string, string> = {
  t: "M6 4H22",
  l: "M4 6V20",
  r: "M24 6V20",
  m: "M6 22H22",
  L: "M4 24V38",
  R: "M24 24V38",
  b: "M6 40H22",
};
const DIGITS = ["tlrLRb", "rR", "trmLb", "trmRb", "lrmR", "tlmRb", "tlmLRb", "trR", "tlrmLRb", "tlrmRb"];

/**
 * How long it is until a moment, as a PNG: days, hours and minutes. Digits are drawn as strokes, so no font is needed.
 * @param file `<seconds since 1970>-<RRGGBB of the digits>-<RRGGBB behind them>.png`
 * @throws Refusal (404) when the name is wrong
 */
export async function clockFile(file: string, now: number): Promise<Buffer> {
  const [, seconds, ink, face] = /^(\d{1,11})-([0-9a-f]{6})-([0-9a-f]{6})\.png$/i.exec(file) ?? [];
  if (seconds === undefined) throw new Refusal("There is no such clock.", 404);
  const left = Math.max(0, Math.floor(Number(seconds) - now / 1000));
  const days = Math.min(999, Math.floor(left / 86_400));
  const parts = [
    { value: days, unit: "M2 0v12M2 0h3a6 6 0 010 12H2" },
    { value: Math.floor((left % 86_400) / 3600), unit: "M2 0v12M10 0v12M2 6h8" },
    { value: Math.floor((left % 3600) / 60), unit: "M2 12V0l4 6 4-6v12" },
  ];
  const { width, height } = CLOCK;
  const boxes = parts.map(({ value, unit }, index) => {
    const digits = String(value).padStart(2, "0");
    const scale = digits.length > 2 ? 0.72 : 0.95;
    const wide = digits.length * 32 * scale;
    const drawn = [...digits]
      .map((digit, at) => {
        const path = [...DIGITS[Number(digit)]].map((stroke) => STROKES[stroke]).join("");
        return `<path transform="translate(${at * 32 * scale} 0) scale(${scale})" d="${path}"/>`;
      })
      .join("");
    const x = index * 100 + 2;
    return `<rect x="${x}" y="0" width="96" height="${height}" rx="8" fill="#${face}" stroke="none"/><g stroke-width="4.5" transform="translate(${x + 48 - wide / 2 + 2} 12)">${drawn}</g><g stroke-width="2" transform="translate(${x + 42} 64)"><path d="${unit}"/></g>`;
  });
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width * 2}" height="${height * 2}" viewBox="0 0 ${width} ${height}" fill="none" stroke="#${ink}" stroke-linecap="round" stroke-linejoin="round">${boxes.join("")}</svg>`;
  return sharp(Buffer.from(svg)).png({ palette: true }).toBuffer();
}

/**
 * A picture with a play mark drawn on its middle.
 * @throws Refusal (404) when there is no such picture
 */
export async function playFile(septima: Septima, id: string): Promise<{ type: string; data: Buffer }> {
  const { type, data } = await pictureFile(septima, id);
  const { width = 600, height = 338 } = await sharp(data).metadata();
  const size = Math.round(Math.min(width, height) * 0.3);
  const mark = `<svg xmlns="http://www.w3.org/2000/svg" width="${size}" height="${size}" viewBox="0 0 100 100"><circle cx="50" cy="50" r="46" fill="#1E1B24" fill-opacity=".72" stroke="#fff" stroke-width="5"/><path d="M40 29L72 50 40 71z" fill="#fff"/></svg>`;
  const drawn = sharp(data).composite([{ input: Buffer.from(mark), gravity: "centre" }]);
  return type === "image/jpeg"
    ? { type, data: await drawn.jpeg({ quality: 82, mozjpeg: true }).toBuffer() }
    : { type: "image/png", data: await drawn.png({ palette: true, quality: 90 }).toBuffer() };
}

/** What tills read: two-dimensional (ISO/IEC 18004), or bars (Code 128, ISO/IEC 15417). */
const TILL = {
  qr: { bcid: "qrcode", scale: 8, paddingwidth: 4, paddingheight: 4 },
  bars: { bcid: "code128", scale: 3, height: 18, paddingwidth: 10, paddingheight: 4 },
} as const;

/**
 * A code as a till reads it, black on white with the room around it that readers need, as a PNG.
 * @param file `<code>.png`: up to 80 signs; bars have those of ASCII
 * @throws Refusal (404) when it is no such code
 */
export async function tillFile(kind: string, file: string): Promise<Buffer> {
  const [, text] = /^(\P{Cc}{1,80})\.png$/u.exec(file) ?? [];
  const known = Object.hasOwn(TILL, kind) && (kind === "qr" || /^[ -~]*$/.test(text ?? ""));
  if (text === undefined || !known) throw new Refusal("There is no such code.", 404);
  return toBuffer({ ...TILL[kind as keyof typeof TILL], text, backgroundcolor: "FFFFFF" });
}
