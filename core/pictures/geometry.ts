import type { PictureStep, StepOf } from "./steps";

/** In px. */
export interface Size {
  width: number;
  height: number;
}

const least = (value: number) => Math.max(1, Math.round(value));

/** The px that a crop keeps of a picture of a size, within it. */
export function cropBox(step: StepOf<"crop">, size: Size): Size & { left: number; top: number } {
  const width = Math.min(size.width, least(step.width * size.width));
  const height = Math.min(size.height, least(step.height * size.height));
  return {
    left: Math.min(size.width - width, Math.round(step.x * size.width)),
    top: Math.min(size.height - height, Math.round(step.y * size.height)),
    width,
    height,
  };
}

/** How wide a mat around a picture is, in px. */
export const matWidth = (step: StepOf<"frame">, size: Size) =>
  step.style === "mat" ? Math.round(step.line * size.width) : 0;

/** The size after its quarter turns, before what is turned beyond them is cut. */
export const turned = ({ width, height }: Size, turns: number): Size =>
  turns % 2 === 1 ? { width: height, height: width } : { width, height };

/** The largest part of the same relation of sides that a picture still fills when it is turned by so many degrees. */
export function straightened({ width, height }: Size, angle: number): Size {
  const radians = (Math.abs(angle) * Math.PI) / 180;
  const [sin, cos] = [Math.sin(radians), Math.cos(radians)];
  const part = Math.min(width / (width * cos + height * sin), height / (width * sin + height * cos));
  return { width: least(width * part), height: least(height * part) };
}

/** The size a picture has after a step; `resize` counts at the end only. */
export function sizeAfter(size: Size, step: PictureStep): Size {
  switch (step.kind) {
    case "crop": {
      const { width, height } = cropBox(step, size);
      return { width, height };
    }
    case "rotate":
      return straightened(turned(size, step.turns), step.angle);
    case "frame": {
      const mat = matWidth(step, size);
      return { width: size.width + 2 * mat, height: size.height + 2 * mat };
    }
    default:
      return size;
  }
}

/** No picture of an email is kept wider, and none longer: twice the widest email. */
export const GREATEST_KEPT: Size = { width: 1400, height: 8000 };

/** The size a picture is kept in: as large as its steps leave it, within what `resize` and emails ask for. */
export function keptSize(
  original: Size,
  steps: readonly PictureStep[],
  most: number = GREATEST_KEPT.width,
): Size {
  const whole = steps.reduce(sizeAfter, original);
  const cap = steps.reduce((cap, step) => (step.kind === "resize" ? step.width : cap), GREATEST_KEPT.width);
  const part = Math.min(1, Math.min(cap, most) / whole.width, GREATEST_KEPT.height / whole.height);
  return { width: least(whole.width * part), height: least(whole.height * part) };
}

/** Where a point of a picture, in shares, is after a step. */
function pointAfter(
  point: { x: number; y: number },
  size: Size,
  step: PictureStep,
): { x: number; y: number } {
  const { x, y } = point;
  switch (step.kind) {
    case "crop":
      return within({ x: (x - step.x) / step.width, y: (y - step.y) / step.height });
    case "flip":
      return step.across === "horizontal" ? { x: 1 - x, y } : { x, y: 1 - y };
    case "rotate": {
      const quarters = [
        { x, y },
        { x: 1 - y, y: x },
        { x: 1 - x, y: 1 - y },
        { x: y, y: 1 - x },
      ];
      const at = quarters[step.turns];
      const before = turned(size, step.turns);
      const after = straightened(before, step.angle);
      const radians = (step.angle * Math.PI) / 180;
      const [dx, dy] = [(at.x - 0.5) * before.width, (at.y - 0.5) * before.height];
      return within({
        x: 0.5 + (dx * Math.cos(radians) - dy * Math.sin(radians)) / after.width,
        y: 0.5 + (dx * Math.sin(radians) + dy * Math.cos(radians)) / after.height,
      });
    }
    case "frame": {
      const mat = matWidth(step, size);
      return {
        x: (x * size.width + mat) / (size.width + 2 * mat),
        y: (y * size.height + mat) / (size.height + 2 * mat),
      };
    }
    default:
      return point;
  }
}

const within = ({ x, y }: { x: number; y: number }) => ({
  x: Math.min(1, Math.max(0, x)),
  y: Math.min(1, Math.max(0, y)),
});

/** The focus point of what the steps make of a picture, in shares; its middle where none was set. */
export function focusOf(original: Size, steps: readonly PictureStep[]): { x: number; y: number } {
  let point = { x: 0.5, y: 0.5 };
  let size = original;
  for (const step of steps) {
    point = step.kind === "focus" ? { x: step.x, y: step.y } : pointAfter(point, size, step);
    size = sizeAfter(size, step);
  }
  return point;
}
