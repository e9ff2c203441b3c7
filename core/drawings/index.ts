/**
 * Neutral pictures of a nursery's world, drawn by us: vegetables, flowers, tools and weather as flat vector shapes.
 *
 * `drawing` gives one as SVG by its name; `DRAWINGS` names them all.
 */
import { SCENES } from "./scenes";
import { THINGS } from "./things";

const scenes = { ...SCENES, ...THINGS };

export const DRAWINGS: readonly string[] = Object.keys(scenes);

/** A drawing as SVG with its size in px, or null when there is none of that name. */
export function drawing(name: string): { svg: string; width: number; height: number } | null {
  const scene = Object.hasOwn(scenes, name) ? scenes[name] : undefined;
  if (!scene) return null;
  const { width, height } = scene;
  return {
    width,
    height,
    svg: `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}">${scene.draw(width, height)}</svg>`,
  };
}
