import type { OverlaidBlock } from "~/core/blocks";
import { ColorLine, NumberLine, useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { useTheme } from "../theme";
import { AlignLine } from "./align";
import { CornersLine } from "./face";
import { PicturePart } from "./picture";
import { PlaceGrid } from "./place-grid";
import { WordsLines } from "./words";

export function OverlaidControls({ block }: { block: OverlaidBlock }) {
  const set = useSet(block.id);
  const theme = useTheme();
  return (
    <>
      <PicturePart block={block} title="Picture behind" decorates={false} asked={false}>
        <NumberLine
          label="Height"
          unit="px"
          value={block.height}
          min={60}
          max={900}
          onChange={(height) => set({ height })}
        />
      </PicturePart>
      <Part title="Words">
        <PlaceGrid
          at={block.at ?? "left"}
          valign={block.valign}
          onChange={({ at, valign }) =>
            // A box as wide as the picture has no side to stand at.
            set({
              at,
              valign,
              ...((block.wide ?? 100) === 100 && at !== (block.at ?? "left") && { wide: 60 }),
            })
          }
        />
        <NumberLine
          label="Their box"
          unit="% wide"
          value={block.wide ?? 100}
          min={20}
          max={100}
          onChange={(wide) => set({ wide })}
        />
        <AlignLine value={block.align} onChange={(align) => set({ align })} />
        <WordsLines
          block={block}
          size={Math.round(theme.text.size * 1.25)}
          color="#FFFFFF"
          against={{ light: block.veil, dark: block.veil }}
          greatest={60}
        />
      </Part>
      <Part title="Veil behind the words">
        <ColorLine
          label="Colour"
          value={block.veil}
          theme={block.veil}
          onChange={(veil) => veil !== undefined && set({ veil })}
        />
        <NumberLine
          label="Density"
          unit="%"
          value={block.density}
          max={100}
          onChange={(density) => set({ density })}
        />
        <CornersLine block={block} />
        <p className="text-xs text-ink-soft">
          Where no pictures are shown, the words stand on the colour of the veil.
        </p>
      </Part>
    </>
  );
}
