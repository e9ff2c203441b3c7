import type { FooterBlock } from "~/core/blocks";
import { Input, Line } from "../../ui/form";
import { useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { AlignLine } from "./align";

export function FooterControls({ block }: { block: FooterBlock }) {
  const set = useSet(block.id);
  return (
    <Part title="Footer">
      <p className="text-ink-soft">
        The unsubscribe link and the postal address are always there. The address stands under Brand.
      </p>
      <Line label="Link words">
        {(id) => (
          <Input
            id={id}
            value={block.unsubscribeWords}
            onChange={(event) =>
              event.target.value.trim() !== "" && set({ unsubscribeWords: event.target.value })
            }
          />
        )}
      </Line>
      <AlignLine value={block.align} onChange={(align) => set({ align })} />
    </Part>
  );
}
