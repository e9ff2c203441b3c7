import type { TextBlock } from "~/core/blocks";
import { resolveTheme } from "~/core/email";
import { ColorLine, NumberLine, useSet } from "../panel/look";
import { Part } from "../panel/part";
import { useComposer } from "../store";
import { AlignLine } from "./align";

export function TextControls({ block }: { block: TextBlock }) {
  const set = useSet(block.id);
  const theme = resolveTheme(useComposer((state) => state.email.theme));
  return (
    <Part title="Text">
      <AlignLine
        value={block.align}
        onChange={(align) => set({ align: align === "left" ? undefined : align })}
      />
      <NumberLine
        label="Size"
        unit="px"
        value={block.size}
        theme={theme.text.size}
        min={10}
        max={40}
        onChange={(size) => set({ size })}
      />
      <ColorLine
        label="Colour"
        value={block.color}
        theme={theme.light.text}
        against={block.background ?? theme.light.paper}
        onChange={(color) => set({ color })}
      />
    </Part>
  );
}
