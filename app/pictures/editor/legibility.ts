import { contrast } from "~/core/color";
import {
  type Outline,
  type PictureStep,
  preview,
  type Size,
  type StepOf,
  svgOf,
  wordsBox,
} from "~/core/pictures";

/** How wide a picture is drawn to look at what is behind words, in px. */
const LOOKED_AT = 240;

/** A picture of a drawing, as pixels. */
async function drawn(size: Size, svg: string): Promise<ImageData | null> {
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svgOf(size, svg))}`;
  await image.decode();
  const canvas = document.createElement("canvas");
  canvas.width = LOOKED_AT;
  canvas.height = Math.max(1, Math.round((LOOKED_AT * size.height) / size.width));
  const context = canvas.getContext("2d", { willReadFrequently: true });
  if (!context) return null;
  context.drawImage(image, 0, 0, canvas.width, canvas.height);
  return context.getImageData(0, 0, canvas.width, canvas.height);
}

const hex = (values: readonly number[]) =>
  `#${values.map((value) => Math.round(value).toString(16).padStart(2, "0")).join("")}`;

/**
 * How well words can be read on a picture: the contrast (WCAG 2.2, 1.4.3) that nine tenths of what is behind them reach.
 * @param picture its address as `data:`, since a drawing that is looked at can fetch nothing
 */
export async function legibility(
  picture: { href: string } & Size,
  steps: readonly PictureStep[],
  step: StepOf<"words">,
  outlines: Readonly<Record<string, Outline>>,
): Promise<number | null> {
  const outline = outlines[step.id];
  if (!outline) return null;
  if (step.behind === "strip") return contrast(step.color, step.strip);
  const before = steps.slice(
    0,
    steps.findIndex(({ id }) => id === step.id),
  );
  const { size, svg } = preview(picture, before, outlines);
  const pixels = await drawn(size, svg);
  if (!pixels) return null;
  const box = wordsBox(step, outline, size);
  const scale = pixels.width / size.width;
  const from = { x: Math.max(0, Math.floor(box.left * scale)), y: Math.max(0, Math.floor(box.top * scale)) };
  const to = {
    x: Math.min(pixels.width, Math.ceil((box.left + box.width) * scale)),
    y: Math.min(pixels.height, Math.ceil((box.top + box.height) * scale)),
  };
  const found: number[] = [];
  // A shadow darkens what is around the words by about half.
  const shade = step.behind === "shadow" ? 0.55 : 1;
  for (let y = from.y; y < to.y; y++)
    for (let x = from.x; x < to.x; x++) {
      const at = (y * pixels.width + x) * 4;
      const clear = 1 - pixels.data[at + 3] / 255;
      const behind = [0, 1, 2].map(
        (channel) => (pixels.data[at + channel] * (1 - clear) + 255 * clear) * shade,
      );
      found.push(contrast(step.color, hex(behind)));
    }
  found.sort((one, other) => one - other);
  return found.length === 0 ? null : found[Math.floor(found.length / 10)];
}
