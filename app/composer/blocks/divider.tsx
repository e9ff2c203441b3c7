import type { DividerBlock } from "~/core/blocks";
import { Choice, Line } from "../../ui/form";
import { ColorLine, NumberLine, useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { useTheme } from "../theme";

export function DividerControls({ block }: { block: DividerBlock }) {
  const set = useSet(block.id);
  const theme = useTheme();
  return (
    <Part title="Divider">
      <Line label="Style">
        {() => (
          <Choice
            label="Style"
            value={block.style}
            onChange={(style) => set({ style })}
            options={[
              { value: "solid", label: "Solid" },
              { value: "dashed", label: "Dashed" },
              { value: "dotted", label: "Dotted" },
            ]}
          />
        )}
      </Line>
      <NumberLine
        label="Thickness"
        unit="px"
        value={block.thickness}
        min={1}
        max={20}
        onChange={(thickness) => set({ thickness })}
      />
      <NumberLine
        label="Width"
        unit="%"
        value={block.width}
        min={5}
        max={100}
        onChange={(width) => set({ width })}
      />
      <ColorLine
        label="Colour"
        value={block.color}
        theme={theme.light.line}
        onChange={(color) => set({ color })}
      />
    </Part>
  );
}
