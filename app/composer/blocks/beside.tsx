import type { BesideBlock } from "~/core/blocks";
import { Choice, Line } from "../../ui/form";
import { NumberLine, useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { useTheme } from "../theme";
import { ValignLine } from "./align";
import { useGround } from "./ground";
import { PicturePart } from "./picture";
import { WordsLines } from "./words";

export function BesideControls({ block }: { block: BesideBlock }) {
  const ground = useGround(block.id);
  const set = useSet(block.id);
  const theme = useTheme();
  return (
    <>
      <Part title="Picture beside text">
        <Line label="Picture">
          {() => (
            <Choice
              label="Picture stands"
              value={block.side}
              onChange={(side) => set({ side })}
              options={[
                { value: "left", label: "Left" },
                { value: "right", label: "Right" },
              ]}
            />
          )}
        </Line>
        <NumberLine
          label="Its share"
          unit="%"
          value={block.share}
          min={15}
          max={80}
          onChange={(share) => share !== undefined && set({ share })}
        />
        <ValignLine
          label="Picture and words stand at"
          value={block.valign}
          onChange={(valign) => set({ valign })}
        />
      </Part>
      <PicturePart block={block} />
      <Part title="Words">
        <WordsLines block={block} size={theme.text.size} color={theme.light.text} against={ground} />
      </Part>
    </>
  );
}
