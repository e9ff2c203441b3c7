import type { LogoBlock } from "~/core/blocks";
import { HrefLine } from "../../controls/href";
import { useComposer } from "../../state/store";
import { NumberLine, useSet } from "../lines";

/** How wide the logo is; the name, which stands in where there is none, has no width. */
export function LogoWidth({ block }: { block: LogoBlock }) {
  const set = useSet<LogoBlock>(block.id);
  const logo = useComposer((state) => state.facts.brand.logo);
  if (!logo)
    return (
      <p className="text-ink-soft">
        There is no logo yet, so the name stands in. Add the logo under Brand, and it appears here.
      </p>
    );
  return (
    <NumberLine
      label="Width"
      unit="px"
      value={block.width}
      min={20}
      max={600}
      onChange={(width) => width !== undefined && set({ width })}
    />
  );
}

/** Where it leads; without an address of its own to the brand's website. */
export function LogoHref({ block }: { block: LogoBlock }) {
  const set = useSet<LogoBlock>(block.id);
  const website = useComposer((state) => state.facts.brand.website);
  return (
    <HrefLine
      href={block.href ?? ""}
      empty={website}
      onChange={(href) => set({ href: href || undefined }, "Changing the link")}
    />
  );
}
