import type { Ground } from "~/core/markup";
import { ColorLine, NumberLine, useSet } from "../panel/lines";

/** Size and colour of a block's words, with whether they can be read. */
export function WordsLines({
  block,
  size,
  color,
  against,
  greatest = 40,
}: {
  block: { id: string; size?: number; color?: string };
  /** What the theme says. */
  size: number;
  color: string;
  /** What the words stand on. */
  against: Ground;
  greatest?: number;
}) {
  const set = useSet(block.id);
  return (
    <>
      <NumberLine
        label="Size"
        unit="px"
        value={block.size}
        theme={size}
        min={10}
        max={greatest}
        onChange={(next) => set({ size: next })}
      />
      <ColorLine
        label="Colour"
        value={block.color}
        theme={color}
        against={against}
        onChange={(next) => set({ color: next })}
      />
    </>
  );
}
