import type { TextBlock } from "~/core/blocks";
import { resolveTheme } from "~/core/email";
import { useSet } from "../panel/look";
import { Part } from "../panel/part";
import { useComposer } from "../store";
import { AlignLine } from "./align";
import { WordsLines } from "./words";

export function TextControls({ block }: { block: TextBlock }) {
  const set = useSet(block.id);
  const { text, light } = resolveTheme(useComposer((state) => state.email.theme));
  return (
    <Part title="Text">
      <AlignLine
        value={block.align}
        onChange={(align) => set({ align: align === "left" ? undefined : align })}
      />
      <WordsLines
        block={block}
        size={text.size}
        color={light.text}
        against={block.background ?? light.paper}
      />
    </Part>
  );
}
