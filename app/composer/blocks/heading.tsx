import type { HeadingBlock } from "~/core/blocks";
import { headingLevels } from "~/core/render";
import { Choice, Line } from "../../ui/form";
import { useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { useComposer } from "../store";
import { useTheme } from "../theme";
import { AlignLine } from "./align";
import { useGround } from "./ground";
import { WordsLines } from "./words";

export function HeadingControls({ block }: { block: HeadingBlock }) {
  const ground = useGround(block.id);
  const set = useSet(block.id);
  const told = useComposer((state) =>
    (headingLevels(state.email).get(block.id) ?? []).map(({ level }) => level).join(" or "),
  );
  const theme = useTheme();
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
      <Line label="Read as">
        {() => (
          <Choice
            label="Read as"
            value={String(block.outline ?? "place")}
            onChange={(outline) => set({ outline: outline === "place" ? undefined : Number(outline) })}
            options={[
              { value: "place", label: "By place" },
              { value: "1", label: "1" },
              { value: "2", label: "2" },
              { value: "3", label: "3" },
              { value: "4", label: "4" },
            ]}
          />
        )}
      </Line>
      <p className="text-xs text-ink-soft">
        The level is the look. Screen readers are told level {told}
        {told.includes("or") && ", by what a reader gets above it"}.
      </p>
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
