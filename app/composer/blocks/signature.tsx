import { type SignatureBlock, shows } from "~/core/blocks";
import { NumberLine, useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { CornersLine } from "./face";
import { PicturePart } from "./picture";

export function SignatureControls({ block }: { block: SignatureBlock }) {
  const set = useSet(block.id);
  if (!shows(block, "picture")) return null;
  return (
    <>
      <PicturePart block={block} />
      <Part title="Look">
        <NumberLine
          label="Width"
          unit="px"
          value={block.width}
          min={24}
          max={240}
          onChange={(width) => width !== undefined && set({ width })}
        />
        <CornersLine block={block} />
      </Part>
    </>
  );
}
