import type { HeadingBlock } from "~/core/blocks";
import { resolveTheme } from "~/core/email";
import { Choice, Line } from "../../ui/form";
import { useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { useComposer } from "../store";
import { AlignLine } from "./align";
import { useGround } from "./ground";
import { WordsLines } from "./words";

export function HeadingControls({ block }: { block: HeadingBlock }) {
  const ground = useGround(block.id);
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
      <WordsLines
        block={block}
        size={theme.headings[`h${block.level}`].size}
        color={theme.light.heading}
        against={ground}
        greatest={80}
      />
    </Part>
  );
}
