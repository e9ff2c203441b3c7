import type { Place } from "~/core/compose";

/** A landing place with the line that shows it, in px of the canvas's own coordinates. */
export interface LandingLine {
  place: Place;
  x: number;
  y: number;
  width: number;
}

/** Between two places at nearly the same height, the one inside a column is meant. */
const ROW_RELUCTANCE = 7;

/** The place nearest to a point: there always is one while there are places. */
export function nearestLanding(lines: readonly LandingLine[], x: number, y: number): LandingLine | null {
  let best: LandingLine | null = null;
  let least = Number.POSITIVE_INFINITY;
  for (const line of lines) {
    const dx = Math.max(line.x - x, 0, x - line.x - line.width);
    const dy = Math.abs(line.y - y);
    const distance = Math.hypot(dx, dy) + (line.place.wants === "block" ? 0 : ROW_RELUCTANCE);
    if (distance < least) {
      least = distance;
      best = line;
    }
  }
  return best;
}

interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/**
 * Works out the lines of places from the boxes of drawn nodes.
 * @param childrenOf ids of a parent's children in order (`null`: the sections)
 * @param boxOf the box of a node, or null when it is not drawn
 */
export function landingLines(
  places: readonly Place[],
  childrenOf: (parent: string | null) => readonly string[],
  boxOf: (id: string | null) => Box | null,
): LandingLine[] {
  return places.flatMap((place): LandingLine[] => {
    const parent = boxOf(place.parent);
    if (!parent) return [];
    const children = childrenOf(place.parent);
    const before = children
      .slice(0, place.index)
      .map(boxOf)
      .filter((box) => box !== null)
      .at(-1);
    const after = children
      .slice(place.index)
      .map(boxOf)
      .find((box) => box !== null);
    const y =
      before && after
        ? (before.bottom + after.top) / 2
        : before
          ? before.bottom
          : after
            ? after.top
            : (parent.top + parent.bottom) / 2;
    return [{ place, x: parent.left, y, width: parent.right - parent.left }];
  });
}
