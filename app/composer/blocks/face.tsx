import { ColorLine, NumberLine, useSet } from "../panel/lines";
import { useTheme } from "../theme";
import { useFaceGround } from "./ground";

/** The coloured face of a button-like block and what is written on it; with its corners where it has some. */
export function FaceLines({
  block,
  words = "Words",
  corners = true,
}: {
  block: { id: string; face?: string; color?: string; radius?: number };
  /** What stands on the face. */
  words?: string;
  corners?: boolean;
}) {
  const set = useSet(block.id);
  const ground = useFaceGround(block.id, block.face);
  const { light, button } = useTheme();
  return (
    <>
      <ColorLine label="Face" value={block.face} theme={light.accent} onChange={(face) => set({ face })} />
      <ColorLine
        label={words}
        value={block.color}
        theme={light.onAccent}
        against={ground}
        onChange={(color) => set({ color })}
      />
      {corners && <CornersLine block={block} theme={button.radius} most={60} />}
    </>
  );
}

/** How round the corners are. */
export function CornersLine({
  block,
  theme = 0,
  most = 100,
}: {
  block: { id: string; radius?: number };
  theme?: number;
  most?: number;
}) {
  const set = useSet(block.id);
  return (
    <NumberLine
      label="Corners"
      unit="px"
      value={block.radius}
      theme={theme}
      max={most}
      onChange={(radius) => set({ radius })}
    />
  );
}
