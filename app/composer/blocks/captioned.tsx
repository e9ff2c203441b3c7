import type { CaptionedBlock } from "~/core/blocks";
import { useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { AlignLine } from "./align";
import { CornersLine } from "./face";
import { PicturePart } from "./picture";

export function CaptionedControls({ block }: { block: CaptionedBlock }) {
  const set = useSet(block.id);
  return (
    <>
      <PicturePart block={block} />
      <Part title="Look">
        <AlignLine value={block.align} onChange={(align) => set({ align })} />
        <CornersLine block={block} />
      </Part>
    </>
  );
}
