import type { MenuBlock } from "~/core/blocks";
import { resolveTheme } from "~/core/email";
import { Input } from "../../ui/form";
import { ColorLine, NumberLine, useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { useComposer } from "../store";
import { AlignLine } from "./align";
import { HrefProblem } from "./href";
import { ItemList } from "./items";

export function MenuControls({ block }: { block: MenuBlock }) {
  const set = useSet(block.id);
  const theme = resolveTheme(useComposer((state) => state.email.theme));
  return (
    <>
      <Part title="Menu">
        <ItemList
          items={block.items}
          noun="link"
          most={12}
          fresh={() => ({ label: "New link", href: "" })}
          onChange={(items, label) => set({ items }, label)}
        >
          {(item, index, change) => (
            <>
              <Input
                aria-label={`Words of link ${index + 1}`}
                value={item.label}
                onChange={(event) => event.target.value !== "" && change({ label: event.target.value })}
              />
              <Input
                aria-label={`Address of link ${index + 1}`}
                placeholder="https://"
                value={item.href}
                onChange={(event) => change({ href: event.target.value })}
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
          against={block.background ?? theme.light.paper}
          onChange={(color) => set({ color })}
        />
      </Part>
    </>
  );
}
