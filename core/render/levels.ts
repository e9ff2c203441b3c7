import { blockType } from "../blocks";
import { blocksOf, type Email } from "../email";
import type { Level } from "../markup";

/**
 * The level of each block's heading as mail programs and screen readers are told: one more than that of the heading it
 * stands under, so that none is skipped, whatever the looks that were chosen. The first is a 1.
 */
export function headingLevels(email: Email): ReadonlyMap<string, Level> {
  const levels = new Map<string, Level>();
  const above: number[] = [];
  for (const block of blocksOf(email)) {
    const look = blockType(block.type)?.heading?.(block);
    if (!look) continue;
    while (above.length > 0 && above[above.length - 1] >= look) above.pop();
    above.push(look);
    levels.set(block.id, above.length as Level);
  }
  return levels;
}
