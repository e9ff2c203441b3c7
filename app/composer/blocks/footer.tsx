import type { FooterBlock } from "~/core/blocks";
import { richText } from "~/core/email";
import { Choose } from "../../ui/choose";
import { Input, Line } from "../../ui/form";
import { useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { useComposer } from "../store";
import { AlignLine } from "./align";

const NONE: { name: string; text: string }[] = [];

export function FooterControls({ block }: { block: FooterBlock }) {
  const set = useSet(block.id);
  const footers = useComposer((state) => state.facts.brand.footers) ?? NONE;
  return (
    <Part title="Footer">
      <p className="text-ink-soft">
        The unsubscribe link and the postal address are always there. The address stands under Brand.
      </p>
      {footers.length > 0 && (
        <Line label="Words">
          {(id) => (
            <Choose
              id={id}
              value=""
              placeholder="From the brand…"
              options={footers.map(({ name }, index) => ({ value: String(index), label: name }))}
              onChange={(index) =>
                set({ content: richText(...footers[Number(index)].text.split("\n")) }, "The brand’s footer")
              }
            />
          )}
        </Line>
      )}
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
