import type { Padding } from "../email";

/** So much is left for what stands in a place, however much space around it was asked for, in px. */
const LEAST = 40;

/**
 * The space within a place and the width that is left between its sides, in px: the sides give way where there is
 * little room, and the width is never below one.
 * @param edges how much its borders take of the width
 */
export function within(padding: Padding, full: number, edges = 0): { padding: Padding; width: number } {
  const room = full - edges;
  const sides = padding.left + padding.right;
  const given = Math.max(0, Math.min(sides, room - LEAST));
  const fitted =
    given === sides
      ? padding
      : {
          ...padding,
          left: Math.floor((padding.left / sides) * given),
          right: Math.floor((padding.right / sides) * given),
        };
  return { padding: fitted, width: Math.max(1, room - fitted.left - fitted.right) };
}
