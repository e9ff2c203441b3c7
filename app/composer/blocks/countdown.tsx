import type { CountdownBlock } from "~/core/blocks";
import { resolveTheme } from "~/core/email";
import { ColorLine, useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { useComposer } from "../store";
import { AlignLine } from "./align";
import { TimeLine, ZoneLine } from "./when";

export function CountdownControls({ block }: { block: CountdownBlock }) {
  const set = useSet(block.id);
  const theme = resolveTheme(useComposer((state) => state.email.theme));
  const face = block.face ?? theme.light.accent;
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
        <ColorLine
          label="Face"
          value={block.face}
          theme={theme.light.accent}
          onChange={(next) => set({ face: next })}
        />
        <ColorLine
          label="Digits"
          value={block.color}
          theme={theme.light.onAccent}
          against={face}
          onChange={(color) => set({ color })}
        />
      </Part>
    </>
  );
}
