import type { SpacerBlock } from "~/core/blocks";
import { NumberLine, useSet } from "../panel/lines";
import { Part } from "../panel/part";

export function SpacerControls({ block }: { block: SpacerBlock }) {
  const set = useSet(block.id);
  return (
    <Part title="Space">
      <NumberLine
        label="Height"
        unit="px"
        value={block.height}
        min={1}
        max={200}
        onChange={(height) => set({ height })}
      />
    </Part>
  );
}
