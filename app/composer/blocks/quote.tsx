import type { QuoteBlock } from "~/core/blocks";
import { ColorLine, useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { useTheme } from "../theme";
import { useGround } from "./ground";
import { WordsLines } from "./words";

export function QuoteControls({ block }: { block: QuoteBlock }) {
  const ground = useGround(block.id);
  const set = useSet(block.id);
  const theme = useTheme();
  return (
    <Part title="Quote">
      <p className="text-ink-soft">Click the words or the name below them to edit either where it stands.</p>
      <WordsLines
        block={block}
        size={Math.round(theme.text.size * 1.2)}
        color={theme.light.text}
        against={ground}
      />
      <ColorLine label="Bar" value={block.bar} theme={theme.light.accent} onChange={(bar) => set({ bar })} />
    </Part>
  );
}
