import type { ImageSetBlock } from "~/core/blocks";
import { Choice, Line } from "../../ui/form";
import { NumberLine, useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { newId } from "../store";
import { CornersLine } from "./face";
import { ItemList } from "./items";
import { PictureFields } from "./picture";

export function ImageSetControls({ block }: { block: ImageSetBlock }) {
  const set = useSet(block.id);
  return (
    <>
      <Part title="Image set">
        <Line label="As a">
          {() => (
            <Choice
              label="Grid or strip"
              value={block.across >= block.pictures.length ? "strip" : "grid"}
              onChange={(shape) =>
                set({ across: shape === "strip" ? Math.max(1, Math.min(6, block.pictures.length)) : 2 })
              }
              options={[
                { value: "grid", label: "Grid" },
                { value: "strip", label: "Strip" },
              ]}
            />
          )}
        </Line>
        <NumberLine
          label="Side by side"
          unit="pictures"
          value={block.across}
          min={1}
          max={6}
          onChange={(across) => across !== undefined && set({ across })}
        />
        <NumberLine label="Gap" unit="px" value={block.gap} max={60} onChange={(gap) => set({ gap })} />
        <CornersLine block={block} />
        <Line label="On phones">
          {() => (
            <Choice
              label="On phones"
              value={block.onPhones}
              onChange={(onPhones) => set({ onPhones })}
              options={[
                { value: "beside", label: "The same" },
                { value: "stack", label: "Stacked" },
              ]}
            />
          )}
        </Line>
      </Part>
      <Part title="Pictures">
        <ItemList
          items={block.pictures}
          noun="picture"
          most={12}
          fresh={() => ({ id: newId(), src: "", alt: "", decorative: false })}
          onChange={(pictures, label) => set({ pictures }, label)}
        >
          {(picture, _index, change) => <PictureFields picture={picture} onChange={change} />}
        </ItemList>
      </Part>
    </>
  );
}
