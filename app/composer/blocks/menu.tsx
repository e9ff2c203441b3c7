import type { MenuBlock } from "~/core/blocks";
import { Input } from "../../ui/form";
import { ColorLine, NumberLine, useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { newId } from "../store";
import { useTheme } from "../theme";
import { AlignLine } from "./align";
import { useGround } from "./ground";
import { HrefInput, HrefProblem } from "./href";
import { ItemList } from "./items";

export function MenuControls({ block }: { block: MenuBlock }) {
  const ground = useGround(block.id);
  const set = useSet(block.id);
  const theme = useTheme();
  return (
    <>
      <Part title="Menu">
        <ItemList
          items={block.items}
          noun="link"
          most={12}
          fresh={() => ({ id: newId(), label: "New link", href: "" })}
          onChange={(items, label) => set({ items }, label)}
        >
          {(item, index, change) => (
            <>
              <Input
                aria-label={`Words of link ${index + 1}`}
                value={item.label}
                onChange={(event) => event.target.value !== "" && change({ label: event.target.value })}
              />
              <HrefInput
                aria-label={`Address of link ${index + 1}`}
                value={item.href}
                onChange={(href) => change({ href: href })}
              />
              <HrefProblem href={item.href} />
            </>
          )}
        </ItemList>
      </Part>
      <Part title="Look">
        <AlignLine value={block.align} onChange={(align) => set({ align })} />
        <NumberLine
          label="Size"
          unit="px"
          value={block.size}
          min={10}
          max={24}
          onChange={(size) => set({ size })}
        />
        <ColorLine
          label="Colour"
          value={block.color}
          theme={theme.light.link}
          against={ground}
          onChange={(color) => set({ color })}
        />
      </Part>
    </>
  );
}
