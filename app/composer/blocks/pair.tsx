import type { PairBlock } from "~/core/blocks";
import { ColorLine, NumberLine, useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { useTheme } from "../theme";
import { useFaceGround } from "./ground";
import { HrefLine } from "./href";

export function PairControls({ block }: { block: PairBlock }) {
  const set = useSet(block.id);
  const theme = useTheme();
  const first = useFaceGround(block.id, block.face);
  const second = useFaceGround(block.id, block.secondFace);
  const { accent, onAccent } = theme.light;
  return (
    <>
      <Part title="First button">
        <HrefLine href={block.href} onChange={(href) => set({ href }, "Changing the link")} />
        <ColorLine label="Face" value={block.face} theme={accent} onChange={(face) => set({ face })} />
        <ColorLine
          label="Words"
          value={block.color}
          theme={onAccent}
          against={first}
          onChange={(color) => set({ color })}
        />
      </Part>
      <Part title="Second button">
        <HrefLine
          href={block.secondHref}
          onChange={(secondHref) => set({ secondHref }, "Changing the link")}
        />
        <ColorLine
          label="Face"
          value={block.secondFace}
          theme={accent}
          onChange={(secondFace) => set({ secondFace })}
        />
        <ColorLine
          label="Words"
          value={block.secondColor}
          theme={onAccent}
          against={second}
          onChange={(secondColor) => set({ secondColor })}
        />
      </Part>
      <Part title="Look">
        <NumberLine
          label="Corners"
          unit="px"
          value={block.radius}
          theme={theme.button.radius}
          max={60}
          onChange={(radius) => set({ radius })}
        />
      </Part>
    </>
  );
}
