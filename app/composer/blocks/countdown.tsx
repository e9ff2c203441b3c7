import type { CountdownBlock } from "~/core/blocks";
import { useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { AlignLine } from "./align";
import { FaceLines } from "./face";
import { TimeLine, ZoneLine } from "./when";

export function CountdownControls({ block }: { block: CountdownBlock }) {
  const set = useSet(block.id);
  return (
    <>
      <Part title="Countdown">
        <TimeLine label="Ends" value={block.until} onChange={(until) => set({ until }, "Choosing the end")} />
        <ZoneLine value={block.zone} onChange={(zone) => set({ zone }, "Choosing the zone")} />
        <p className="text-xs text-ink-soft">
          The clock is drawn when the email is opened. Programs that keep pictures show the time they kept, so
          the date stands below it.
        </p>
      </Part>
      <Part title="Look">
        <AlignLine value={block.align} onChange={(align) => set({ align })} />
        <FaceLines block={block} words="Digits" corners={false} />
      </Part>
    </>
  );
}
