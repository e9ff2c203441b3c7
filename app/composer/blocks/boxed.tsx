import type { BoxedBlock } from "~/core/blocks";
import { ColorLine, NumberLine, useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { useTheme } from "../theme";
import { AlignLine } from "./align";
import { useBoxGround } from "./ground";
import { WordsLines } from "./words";

export function BoxedControls({ block }: { block: BoxedBlock }) {
  const set = useSet(block.id);
  const theme = useTheme();
  const ground = useBoxGround(block.face);
  return (
    <>
      <Part title="Boxed text">
        <AlignLine
          value={block.align}
          onChange={(align) => set({ align: align === "left" ? undefined : align })}
        />
        <WordsLines block={block} size={theme.text.size} color={theme.light.text} against={ground} />
      </Part>
      <Part title="Box">
        <ColorLine
          label="Face"
          value={block.face}
          theme={theme.light.table}
          onChange={(next) => set({ face: next })}
        />
        <ColorLine
          label="Edge"
          value={block.edge}
          theme={theme.light.line}
          onChange={(edge) => set({ edge })}
        />
        <NumberLine
          label="Edge width"
          unit="px"
          value={block.edgeWidth}
          max={10}
          onChange={(edgeWidth) => set({ edgeWidth })}
        />
        <NumberLine
          label="Corners"
          unit="px"
          value={block.radius}
          theme={theme.shape.box}
          max={60}
          onChange={(radius) => set({ radius })}
        />
        <NumberLine
          label="Inside"
          unit="px"
          value={block.inside}
          max={80}
          onChange={(inside) => set({ inside })}
        />
      </Part>
    </>
  );
}
