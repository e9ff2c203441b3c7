import type { HeadingBlock } from "~/core/blocks";
import { resolveTheme } from "~/core/email";
import { Choice, Line } from "../../ui/form";
import { ColorLine, NumberLine, useSet } from "../panel/look";
import { Part } from "../panel/part";
import { useComposer } from "../store";
import { AlignLine } from "./align";

export function HeadingControls({ block }: { block: HeadingBlock }) {
  const set = useSet(block.id);
  const theme = resolveTheme(useComposer((state) => state.email.theme));
  return (
    <Part title="Heading">
      <Line label="Level">
        {() => (
          <Choice
            label="Level"
            value={String(block.level)}
            onChange={(level) => set({ level: Number(level) })}
            options={[
              { value: "1", label: "1" },
              { value: "2", label: "2" },
              { value: "3", label: "3" },
            ]}
          />
        )}
      </Line>
      <AlignLine
        value={block.align}
        onChange={(align) => set({ align: align === "left" ? undefined : align })}
      />
      <NumberLine
        label="Size"
        unit="px"
        value={block.size}
        theme={theme.headings[`h${block.level}`].size}
        min={10}
        max={80}
        onChange={(size) => set({ size })}
      />
      <ColorLine
        label="Colour"
        value={block.color}
        theme={theme.light.heading}
        against={block.background ?? theme.light.paper}
        onChange={(color) => set({ color })}
      />
    </Part>
  );
}
