import type { ImageBlock } from "~/core/blocks";
import { NumberLine, useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { AlignLine } from "./align";
import { CornersLine } from "./face";
import { PicturePart } from "./picture";

export function ImageControls({ block }: { block: ImageBlock }) {
  const set = useSet(block.id);
  return (
    <>
      <PicturePart block={block} />
      <Part title="Look">
        <NumberLine
          label="Width"
          unit="%"
          value={block.width}
          min={5}
          max={100}
          onChange={(width) => set({ width })}
        />
        <AlignLine value={block.align} onChange={(align) => set({ align })} />
        <CornersLine block={block} />
      </Part>
    </>
  );
}
