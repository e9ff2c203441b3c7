import type { TextBlock } from "~/core/blocks";
import { Switch } from "../../ui/switch";
import { NumberLine, useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { useTheme } from "../theme";
import { AlignLine } from "./align";
import { useGround } from "./ground";
import { WordsLines } from "./words";

export function TextControls({ block }: { block: TextBlock }) {
  const ground = useGround(block.id);
  const set = useSet(block.id);
  const { text, light } = useTheme();
  return (
    <Part title="Text">
      <AlignLine
        value={block.align}
        onChange={(align) => set({ align: align === "left" ? undefined : align })}
      />
      <WordsLines block={block} size={text.size} color={light.text} against={ground} />
      <NumberLine
        label="Paragraphs"
        unit="px apart"
        value={block.gap}
        theme={text.gap}
        max={80}
        onChange={(gap) => set({ gap })}
      />
      <Switch checked={block.twoColumns ?? false} onChange={(on) => set({ twoColumns: on || undefined })}>
        In two columns
      </Switch>
    </Part>
  );
}
