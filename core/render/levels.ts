import { blockType } from "../blocks";
import { blocksOf, type Email } from "../email";
import type { Level } from "../markup";

/**
 * The level of each block's heading as mail programs and screen readers are told: one more than that of the heading it
 * stands under, so that none is skipped, whatever the looks that were chosen. The first is a 1. A level that the designer chose stands,
 * and those after it are counted from there.
 */
export function headingLevels(email: Email): ReadonlyMap<string, Level> {
  const levels = new Map<string, Level>();
  const above: number[] = [];
  for (const block of blocksOf(email)) {
    const type = blockType(block.type);
    const look = type?.heading?.(block);
    if (!look) continue;
    const chosen = type?.outline?.(block);
    if (chosen) above.length = Math.min(above.length, chosen - 1);
    else while (above.length > 0 && above[above.length - 1] >= look) above.pop();
    do above.push(look);
    while (chosen && above.length < chosen);
    levels.set(block.id, Math.min(above.length, 6) as Level);
  }
  return levels;
}
