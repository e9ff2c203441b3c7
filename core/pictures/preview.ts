import { type ColourMap, lightMap, sharpenKernel, toneMap } from "./colour";
import { cropBox, matWidth, type Size, sizeAfter, straightened, turned } from "./geometry";
import { drawnOver, framePath, type Outline, shapePath } from "./overlay";
import type { PictureStep } from "./steps";

const matrix = ({ linear, offset }: ColourMap) =>
  [0, 1, 2]
    .map((row) => `${linear.slice(row * 3, row * 3 + 3).join(" ")} 0 ${offset[row] / 255}`)
    .concat("0 0 0 1 0")
    .join(" ");

/** Content through a filter that covers all of it. */
const filtered = (id: string, primitives: string, content: string) =>
  `<filter id="${id}" x="0" y="0" width="1" height="1" color-interpolation-filters="sRGB">${primitives}</filter><g filter="url(#${id})">${content}</g>`;

const clipped = (id: string, path: string, content: string) =>
  `<clipPath id="${id}"><path d="${path}"/></clipPath><g clip-path="url(#${id})">${content}</g>`;

/**
 * What steps make of a picture, as the content of an SVG of the size that comes with it, for the browser to draw.
 *
 * @param picture its address and size; the address is written as it is, so it must be one of ours
 * @param outlines of the words, by the ids of their steps; words without are not drawn
 * @param prefix keeps the ids of two previews on one page apart
 */
export function preview(
  picture: { href: string } & Size,
  steps: readonly PictureStep[],
  outlines: Readonly<Record<string, Outline>>,
  prefix = "p",
): { size: Size; svg: string } {
  let size: Size = { width: picture.width, height: picture.height };
  let svg = `<image href="${picture.href}" width="${size.width}" height="${size.height}" preserveAspectRatio="none"/>`;
  for (const [index, step] of steps.entries()) {
    const id = `${prefix}${index}`;
    const after = sizeAfter(size, step);
    svg = drawn(step, svg, size, after, id, outlines[step.id]);
    size = after;
  }
  return { size, svg };
}

function drawn(
  step: PictureStep,
  svg: string,
  before: Size,
  after: Size,
  id: string,
  outline: Outline | undefined,
): string {
  switch (step.kind) {
    case "crop": {
      const { left, top, width, height } = cropBox(step, before);
      const cut = `<svg width="${width}" height="${height}" viewBox="${left} ${top} ${width} ${height}" overflow="hidden">${svg}</svg>`;
      return step.shape === "rectangle" ? cut : clipped(id, shapePath(step.shape, after), cut);
    }
    case "rotate": {
      const upright = turned(before, step.turns);
      const kept = straightened(upright, step.angle);
      const middle = `translate(${kept.width / 2} ${kept.height / 2}) rotate(${step.turns * 90 + step.angle}) translate(${-before.width / 2} ${-before.height / 2})`;
      return `<svg width="${kept.width}" height="${kept.height}" overflow="hidden"><g transform="${middle}">${svg}</g></svg>`;
    }
    case "flip": {
      const flip =
        step.across === "horizontal"
          ? `translate(${before.width} 0) scale(-1 1)`
          : `translate(0 ${before.height}) scale(1 -1)`;
      return `<g transform="${flip}">${svg}</g>`;
    }
    case "light": {
      const colours = `<feColorMatrix type="matrix" values="${matrix(lightMap(step))}"/>`;
      const kernel = sharpenKernel(step.sharpness).join(" ");
      const sharper = `<feConvolveMatrix order="3" kernelMatrix="${kernel}" divisor="1" edgeMode="duplicate" preserveAlpha="true"/>`;
      return filtered(id, colours + (step.sharpness > 0 ? sharper : ""), svg);
    }
    case "tone":
      return filtered(
        id,
        `<feColorMatrix type="matrix" values="${matrix(toneMap(step.tone, step.strength))}"/>`,
        svg,
      );
    case "words":
    case "pen":
      return svg + drawnOver(step, before, outline);
    case "frame": {
      const mat = matWidth(step, before);
      const box = `width="${after.width}" height="${after.height}"`;
      const placed =
        mat > 0
          ? `<rect ${box} fill="${step.color}"/><g transform="translate(${mat} ${mat})">${svg}</g>`
          : svg;
      const lined = placed + drawnOver(step, after, undefined);
      if (step.corner === 0) return lined;
      const ground = step.behind ? `<rect ${box} fill="${step.behind}"/>` : "";
      return ground + clipped(id, framePath(step, after), lined);
    }
    default:
      return svg;
  }
}
