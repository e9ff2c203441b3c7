import type { ImageSetBlock } from "~/core/blocks";
import { Choice, Line } from "../../../ui/form";
import { useSet } from "../lines";

/** All pictures in one line, or in several. */
export function GridOrStrip({ block: { id, across, pictures } }: { block: ImageSetBlock }) {
  const set = useSet<ImageSetBlock>(id);
  return (
    <Line label="As a">
      <Choice
        label="Grid or strip"
        value={across >= pictures.length ? "strip" : "grid"}
        onChange={(shape) =>
          set({ across: shape === "strip" ? Math.max(1, Math.min(6, pictures.length)) : 2 })
        }
        options={[
          { value: "grid", label: "Grid" },
          { value: "strip", label: "Strip" },
        ]}
      />
    </Line>
  );
}
