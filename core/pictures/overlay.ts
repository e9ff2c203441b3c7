/** What steps draw on a picture, as SVG: the browser shows it, and the server draws the very same. */
import type { Size } from "./geometry";
import type { Shape, StepOf } from "./steps";

/** The outlines of words in one font, in ems with y downwards and each line's base at 0. */
export interface Outline {
  lines: { path: string; width: number }[];
  ascent: number;
  descent: number;
  /** Signs that none of the font's files has. */
  missing: string[];
}

const LEADING = 1.15;
const round = (value: number) => Math.round(value * 100) / 100;

/** A rectangle with round corners, as a path. */
function rounded(x: number, y: number, { width, height }: Size, corner: number): string {
  const r = round(Math.min(corner, width / 2, height / 2));
  if (r <= 0) return `M${x} ${y}h${width}v${height}h${-width}z`;
  const arc = (dx: number, dy: number) => `a${r} ${r} 0 0 1 ${dx} ${dy}`;
  return `M${x + r} ${y}h${round(width - 2 * r)}${arc(r, r)}v${round(height - 2 * r)}${arc(-r, r)}h${round(2 * r - width)}${arc(-r, -r)}v${round(2 * r - height)}${arc(r, -r)}z`;
}

/** The edge of what a crop to a shape keeps. */
export function shapePath(shape: Shape, size: Size): string {
  const { width, height } = size;
  const [x, y] = [round(width / 2), round(height / 2)];
  switch (shape) {
    case "rectangle":
      return rounded(0, 0, size, 0);
    case "round":
      return `M0 ${y}a${x} ${y} 0 0 1 ${width} 0a${x} ${y} 0 0 1 ${-width} 0z`;
    case "arch": {
      const rise = round(Math.min(x, height));
      return `M0 ${height}V${rise}A${x} ${rise} 0 0 1 ${width} ${rise}V${height}z`;
    }
    case "leaf": {
      const bow = round(Math.min(width, height) * 0.62);
      return `M0 0H${round(width - bow)}A${bow} ${bow} 0 0 1 ${width} ${bow}V${height}H${bow}A${bow} ${bow} 0 0 1 0 ${round(height - bow)}z`;
    }
  }
}

/** The edge of what a frame keeps, on a picture that has its mat already. */
export const framePath = (step: StepOf<"frame">, size: Size): string =>
  rounded(0, 0, size, step.corner * size.width);

/** The lines of a frame, on a picture that has its mat already; empty when it has none. */
function frameSvg(step: StepOf<"frame">, size: Size): string {
  const line = step.line * size.width;
  if ((step.style !== "line" && step.style !== "inset") || line <= 0) return "";
  const off = line / 2 + (step.style === "inset" ? 0.025 * size.width : 0);
  const inner = { width: round(size.width - 2 * off), height: round(size.height - 2 * off) };
  const corner = step.corner === 0 ? 0 : Math.max(0, step.corner * size.width - off);
  if (inner.width <= 0 || inner.height <= 0) return "";
  return `<path d="${rounded(round(off), round(off), inner, corner)}" fill="none" stroke="${step.color}" stroke-width="${round(line)}"/>`;
}

/** Where words stand on a picture, in px: the box around all of their lines. */
export function wordsBox(
  step: StepOf<"words">,
  outline: Outline,
  size: Size,
): Size & { left: number; top: number } {
  const em = step.size * size.width;
  const width = Math.max(0, ...outline.lines.map((line) => line.width)) * em;
  const height = (outline.ascent + outline.descent + (outline.lines.length - 1) * LEADING) * em;
  const before = { left: 0, center: 0.5, right: 1 }[step.align];
  return {
    left: round(step.x * size.width - before * width),
    top: round(step.y * size.height - height / 2),
    width: round(width),
    height: round(height),
  };
}

/** Words as their outlines. */
function wordsSvg(step: StepOf<"words">, outline: Outline, size: Size): string {
  const em = step.size * size.width;
  const box = wordsBox(step, outline, size);
  const lines = outline.lines
    .map(({ path, width }, index) => {
      const before = { left: 0, center: 0.5, right: 1 }[step.align];
      const x = round(box.left + before * (box.width - width * em));
      const y = round(box.top + (outline.ascent + index * LEADING) * em);
      return `<path transform="translate(${x} ${y}) scale(${round(em * 1000) / 1000})" d="${path}"/>`;
    })
    .join("");
  const drawn = `<g fill="${step.color}">${lines}</g>`;
  if (step.behind === "strip") {
    const [wide, high] = [em * 0.35, em * 0.16];
    const strip = { width: round(box.width + 2 * wide), height: round(box.height + 2 * high) };
    return `<path d="${rounded(round(box.left - wide), round(box.top - high), strip, em * 0.12)}" fill="${step.strip}"/>${drawn}`;
  }
  if (step.behind === "shadow") {
    const spread = round(em * 0.09);
    const area = `x="${round(box.left - em)}" y="${round(box.top - em)}" width="${round(box.width + 2 * em)}" height="${round(box.height + 2 * em)}"`;
    return `<filter id="s${step.id}" filterUnits="userSpaceOnUse" ${area}><feGaussianBlur stdDeviation="${spread}"/></filter><g filter="url(#s${step.id})" opacity=".75" fill="#000" stroke="#000" stroke-width=".06">${lines}</g>${drawn}`;
  }
  return drawn;
}

/** What was drawn with the pen: a line through the points, bent at each of them. */
function penSvg(step: StepOf<"pen">, size: Size): string {
  return step.strokes
    .map(({ color, width, points }) => {
      const at = (index: number) =>
        `${round(points[index] * size.width)} ${round(points[index + 1] * size.height)}`;
      const middle = (index: number) =>
        `${round(((points[index] + points[index + 2]) / 2) * size.width)} ${round(((points[index + 1] + points[index + 3]) / 2) * size.height)}`;
      let path = `M${at(0)}`;
      for (let index = 2; index + 3 < points.length; index += 2) path += `Q${at(index)} ${middle(index)}`;
      path += points.length > 2 ? `L${at(points.length - 2)}` : "l0.01 0";
      return `<path d="${path}" fill="none" stroke="${color}" stroke-width="${round(Math.max(1, width * size.width))}" stroke-linecap="round" stroke-linejoin="round"/>`;
    })
    .join("");
}

/** Leaves out points of a stroke that hardly change it (Douglas and Peucker, 1973). `points` are x and y by turns. */
export function thinned(points: readonly number[], tolerance = 0.0012): number[] {
  const count = points.length / 2;
  const keep = new Uint8Array(count);
  keep[0] = keep[count - 1] = 1;
  const spans: [number, number][] = [[0, count - 1]];
  for (let span = spans.pop(); span; span = spans.pop()) {
    const [from, to] = span;
    const [ax, ay] = [points[from * 2], points[from * 2 + 1]];
    const [bx, by] = [points[to * 2] - ax, points[to * 2 + 1] - ay];
    const length = Math.hypot(bx, by);
    let [far, where] = [tolerance, -1];
    for (let index = from + 1; index < to; index++) {
      const [px, py] = [points[index * 2] - ax, points[index * 2 + 1] - ay];
      const away = length === 0 ? Math.hypot(px, py) : Math.abs(px * by - py * bx) / length;
      if (away > far) [far, where] = [away, index];
    }
    if (where < 0) continue;
    keep[where] = 1;
    spans.push([from, where], [where, to]);
  }
  const kept: number[] = [];
  for (let index = 0; index < count; index++)
    if (keep[index]) kept.push(points[index * 2], points[index * 2 + 1]);
  return kept;
}

/** A whole drawing of a size. */
export const svgOf = (size: Size, content: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="${size.width}" height="${size.height}" viewBox="0 0 ${size.width} ${size.height}">${content}</svg>`;

/** What a step draws over a picture that has its size already; empty when it draws nothing. */
export function drawnOver(
  step: StepOf<"words" | "pen" | "frame">,
  size: Size,
  outline: Outline | undefined,
): string {
  if (step.kind === "words") return outline ? wordsSvg(step, outline, size) : "";
  return step.kind === "pen" ? penSvg(step, size) : frameSvg(step, size);
}
