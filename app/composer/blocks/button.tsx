import type { ButtonBlock } from "~/core/blocks";
import { Switch } from "../../ui/switch";
import { BorderLines, NumberLine, useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { useTheme } from "../theme";
import { AlignLine } from "./align";
import { FaceLines } from "./face";
import { HrefLine } from "./href";

export function ButtonControls({ block }: { block: ButtonBlock }) {
  const set = useSet(block.id);
  const { button, light } = useTheme();
  return (
    <>
      <Part title="Button">
        <HrefLine href={block.href} onChange={(href) => set({ href }, "Changing the link")} />
        <AlignLine value={block.align} onChange={(align) => set({ align })} />
        <Switch checked={block.full ?? false} onChange={(on) => set({ full: on || undefined })}>
          Over the full width
        </Switch>
        {!block.full && (
          <Switch checked={block.width !== undefined} onChange={(on) => set({ width: on ? 240 : undefined })}>
            A width of its own
          </Switch>
        )}
        {!block.full && block.width !== undefined && (
          <NumberLine
            label="Width"
            unit="px"
            value={block.width}
            min={40}
            max={640}
            onChange={(width) => set({ width })}
          />
        )}
      </Part>
      <Part title="Look">
        <FaceLines block={block} />
        <NumberLine
          label="Words"
          unit="px"
          value={block.size}
          theme={button.size}
          min={10}
          max={40}
          onChange={(size) => set({ size })}
        />
        <NumberLine
          label="Beside"
          unit="px"
          value={block.padX}
          theme={button.padX}
          max={80}
          onChange={(padX) => set({ padX })}
        />
        <NumberLine
          label="Above"
          unit="px"
          value={block.padY}
          theme={button.padY}
          max={40}
          onChange={(padY) => set({ padY })}
        />
        <BorderLines value={block.border} color={light.accent} onChange={(border) => set({ border })} />
      </Part>
    </>
  );
}
