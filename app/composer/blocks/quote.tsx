import type { QuoteBlock } from "~/core/blocks";
import { resolveTheme } from "~/core/email";
import { ColorLine, NumberLine, useSet } from "../panel/look";
import { Part } from "../panel/part";
import { useComposer } from "../store";

export function QuoteControls({ block }: { block: QuoteBlock }) {
  const set = useSet(block.id);
  const theme = resolveTheme(useComposer((state) => state.email.theme));
  return (
    <Part title="Quote">
      <p className="text-ink-soft">Click the words or the name below them to edit either where it stands.</p>
      <NumberLine
        label="Size"
        unit="px"
        value={block.size}
        theme={Math.round(theme.text.size * 1.2)}
        min={10}
        max={40}
        onChange={(size) => set({ size })}
      />
      <ColorLine
        label="Words"
        value={block.color}
        theme={theme.light.text}
        against={block.background ?? theme.light.paper}
        onChange={(color) => set({ color })}
      />
      <ColorLine label="Bar" value={block.bar} theme={theme.light.accent} onChange={(bar) => set({ bar })} />
    </Part>
  );
}
