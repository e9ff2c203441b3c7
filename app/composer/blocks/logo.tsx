import type { LogoBlock } from "~/core/blocks";
import { NumberLine, useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { useComposer } from "../store";
import { AlignLine } from "./align";
import { HrefLine } from "./href";

export function LogoControls({ block }: { block: LogoBlock }) {
  const set = useSet(block.id);
  const brand = useComposer((state) => state.facts.brand);
  return (
    <Part title="Logo">
      {brand.logo ? (
        <NumberLine
          label="Width"
          unit="px"
          value={block.width}
          min={20}
          max={600}
          onChange={(width) => width !== undefined && set({ width })}
        />
      ) : (
        <p className="text-ink-soft">
          There is no logo yet, so the name stands in. Add the logo under Brand, and it appears here.
        </p>
      )}
      <AlignLine value={block.align} onChange={(align) => set({ align })} />
      <HrefLine
        href={block.href ?? ""}
        empty={brand.website}
        onChange={(href) => set({ href: href || undefined }, "Changing the link")}
      />
    </Part>
  );
}
