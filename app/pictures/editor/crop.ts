/** A crop that is drawn by its edges and corners. All in shares of the picture. */

export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Which edges move: west and north begin it, east and south end it. `all` moves the whole. */
export type Handle = "n" | "s" | "w" | "e" | "nw" | "ne" | "sw" | "se" | "all";

/** The least that is kept, of each side. */
const LEAST = 0.02;

const within = (value: number, least: number, most: number) => Math.min(most, Math.max(least, value));

/**
 * A crop after a handle was moved.
 * @param ratio of width to height, both in shares; null when it is free
 */
export function cropMoved(box: Box, handle: Handle, dx: number, dy: number, ratio: number | null): Box {
  if (handle === "all")
    return { ...box, x: within(box.x + dx, 0, 1 - box.width), y: within(box.y + dy, 0, 1 - box.height) };
  let [left, top, right, bottom] = [box.x, box.y, box.x + box.width, box.y + box.height];
  if (handle.includes("w")) left = within(left + dx, 0, right - LEAST);
  if (handle.includes("e")) right = within(right + dx, left + LEAST, 1);
  if (handle.includes("n")) top = within(top + dy, 0, bottom - LEAST);
  if (handle.includes("s")) bottom = within(bottom + dy, top + LEAST, 1);
  if (ratio === null) return { x: left, y: top, width: right - left, height: bottom - top };
  // The side that was moved decides; the other follows, as far as there is room.
  const fromWest = handle.includes("w");
  const fromNorth = handle.includes("n");
  const roomX = fromWest ? right : 1 - left;
  const roomY = fromNorth ? bottom : 1 - top;
  const wished = handle === "n" || handle === "s" ? (bottom - top) * ratio : right - left;
  const width = within(wished, LEAST, Math.min(roomX, roomY * ratio));
  const height = width / ratio;
  return { x: fromWest ? right - width : left, y: fromNorth ? bottom - height : top, width, height };
}

/** The largest crop of a ratio around a point. */
export function cropAround(point: { x: number; y: number }, ratio: number | null): Box {
  if (ratio === null) return { x: 0, y: 0, width: 1, height: 1 };
  const width = Math.min(1, ratio);
  const height = Math.min(1, 1 / ratio);
  return {
    x: within(point.x - width / 2, 0, 1 - width),
    y: within(point.y - height / 2, 0, 1 - height),
    width,
    height,
  };
}
