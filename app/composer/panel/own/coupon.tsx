import type { CouponBlock } from "~/core/blocks";
import { Line } from "../../../ui/form";
import { DayField } from "../../../ui/when-field";
import { useComposer } from "../../state/store";
import { useSet } from "../lines";

/** The last day, that of the batch where the coupon has none of its own. */
export function CouponLastDay({ block }: { block: CouponBlock }) {
  const set = useSet<CouponBlock>(block.id);
  const codes = useComposer((state) => state.facts.tags.codes);
  const ends = codes?.find(({ key }) => key === block.batch)?.ends;
  return (
    <Line label="Last day">
      <DayField
        label="Last day"
        value={block.until ?? ends ?? ""}
        onChange={(until) => set({ until: until || undefined }, "Changing the last day")}
      />
    </Line>
  );
}
