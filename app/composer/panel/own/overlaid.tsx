import type { OverlaidBlock } from "~/core/blocks";
import { PlaceGrid } from "../../controls/place-grid";
import { useSet } from "../lines";

/** Where the box of words stands on the picture. */
export function WordsPlace({ block }: { block: OverlaidBlock }) {
  const set = useSet<OverlaidBlock>(block.id);
  const { at: before = "left", wide = 100 } = block;
  return (
    <PlaceGrid
      at={before}
      valign={block.valign}
      onChange={({ at, valign }) =>
        // A box as wide as the picture has no side to stand at.
        set({ at, valign, ...(wide === 100 && at !== before && { wide: 60 }) })
      }
    />
  );
}
