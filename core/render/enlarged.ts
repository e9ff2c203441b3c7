import { picturesOf } from "../blocks";
import { type Block, blocksOf, type Email } from "../email";
import { within } from "../markup";
import { compileBlock, everySurroundings } from "./canvas";
import type { CompileOptions } from "./compile";

/** A picture that is shown larger than it is, in px. */
export interface Enlarged {
  block: string;
  src: string;
  alt: string;
  own: number;
  shown: number;
}

/** The pictures of a design that have fewer px across than they are shown at on a desktop: they look blurred. */
export function enlargedPictures(email: Email, options: CompileOptions, only?: string): Enlarged[] {
  const surroundings = everySurroundings(email, options);
  return blocksOf(email).flatMap((block) => {
    const around = surroundings.get(block.id);
    if (!around || (only !== undefined && block.id !== only)) return [];
    const pictures = picturesOf(block).flatMap(({ picture }) => {
      const { src, alt, natural } = picture as { src: string; alt?: string; natural?: { width: number } };
      return natural && src !== "" ? [{ src, alt: alt ?? "", own: natural.width }] : [];
    });
    if (pictures.length === 0) return [];
    const shown = shownWidths(block, email, options, around);
    return pictures.flatMap((one) => {
      const widest = Math.max(
        0,
        ...shown.filter(({ src }) => src.includes(one.src)).map(({ width }) => width),
      );
      return widest > one.own ? [{ ...one, block: block.id, shown: widest }] : [];
    });
  });
}

/** How wide the pictures of a block are shown, by their addresses as they are fetched. */
function shownWidths(
  block: Block,
  email: Email,
  options: CompileOptions,
  around: Parameters<typeof compileBlock>[1],
): { src: string; width: number }[] {
  const { html } = compileBlock(block, around, email, options);
  const markup = html.map((it) => (it.op === "static" ? it.text : "")).join("");
  const images = [...markup.matchAll(/<img src="([^"]+)"[^>]* width="(\d+)"/g)];
  // A picture behind words is as wide as its cell.
  const behind = [...markup.matchAll(/ background="([^"]+)"/g)];
  const sides = block.padding ?? { top: 0, right: 0, bottom: 0, left: 0 };
  return [
    ...images.map(([, src, width]) => ({ src, width: Number(width) })),
    ...behind.map(([, src]) => ({ src, width: within(sides, around.width).width })),
  ];
}
