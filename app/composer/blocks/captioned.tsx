import type { CaptionedBlock } from "~/core/blocks";
import { NumberLine, useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { AlignLine } from "./align";
import { PicturePart } from "./picture";

export function CaptionedControls({ block }: { block: CaptionedBlock }) {
  const set = useSet(block.id);
  return (
    <>
      <PicturePart block={block} />
      <Part title="Look">
        <AlignLine value={block.align} onChange={(align) => set({ align })} />
        <NumberLine
          label="Corners"
          unit="px"
          value={block.radius}
          theme={0}
          max={100}
          onChange={(radius) => set({ radius })}
        />
      </Part>
    </>
  );
}
