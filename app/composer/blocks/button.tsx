import type { ButtonBlock } from "~/core/blocks";
import { resolveTheme } from "~/core/email";
import { ColorLine, NumberLine, useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { useComposer } from "../store";
import { AlignLine } from "./align";
import { HrefLine } from "./href";

export function ButtonControls({ block }: { block: ButtonBlock }) {
  const set = useSet(block.id);
  const theme = resolveTheme(useComposer((state) => state.email.theme));
  const face = block.face ?? theme.light.accent;
  return (
    <>
      <Part title="Button">
        <HrefLine href={block.href} onChange={(href) => set({ href }, "Changing the link")} />
        <AlignLine value={block.align} onChange={(align) => set({ align })} />
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={block.full ?? false}
            onChange={(event) => set({ full: event.target.checked || undefined })}
          />{" "}
          Over the full width
        </label>
      </Part>
      <Part title="Look">
        <ColorLine
          label="Face"
          value={block.face}
          theme={theme.light.accent}
          onChange={(next) => set({ face: next })}
        />
        <ColorLine
          label="Words"
          value={block.color}
          theme={theme.light.onAccent}
          against={face}
          onChange={(color) => set({ color })}
        />
        <NumberLine
          label="Corners"
          unit="px"
          value={block.radius}
          theme={theme.button.radius}
          max={60}
          onChange={(radius) => set({ radius })}
        />
      </Part>
    </>
  );
}
