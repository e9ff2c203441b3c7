import type { FooterBlock } from "~/core/blocks";
import { richText } from "~/core/email";
import { Choose } from "../../../ui/choose";
import { Line } from "../../../ui/form";
import { useComposer } from "../../state/store";
import { useSet } from "../lines";

const NONE: { name: string; text: string }[] = [];

/** The footers that the brand keeps, to be taken over. */
export function BrandFooters({ block }: { block: FooterBlock }) {
  const set = useSet<FooterBlock>(block.id);
  const footers = useComposer((state) => state.facts.brand.footers) ?? NONE;
  if (footers.length === 0) return null;
  return (
    <Line label="Words">
      <Choose
        value=""
        placeholder="From the brand…"
        options={footers.map(({ name }, index) => ({ value: String(index), label: name }))}
        onChange={(index) =>
          set({ content: richText(...footers[Number(index)].text.split("\n")) }, "The brand’s footer")
        }
      />
    </Line>
  );
}
