import type { IconsBlock } from "~/core/blocks";
import { inlineText } from "~/core/email";
import { GlyphChoice } from "../../ui/glyph-choice";
import { ColorLine, NumberLine, useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { newId } from "../store";
import { useTheme } from "../theme";
import { useGround } from "./ground";
import { ItemList } from "./items";
import { WordsLines } from "./words";

export function IconsControls({ block }: { block: IconsBlock }) {
  const ground = useGround(block.id);
  const set = useSet(block.id);
  const theme = useTheme();
  return (
    <>
      <Part title="Icon list">
        <ItemList
          items={block.items}
          noun="item"
          most={20}
          fresh={() => ({
            id: newId(),
            glyph: block.items.at(-1)?.glyph ?? ("check" as const),
            content: [{ type: "text" as const, text: "One more" }],
          })}
          onChange={(items, label) => set({ items }, label)}
        >
          {(item, index, change) => (
            <div className="flex items-center gap-2">
              <GlyphChoice
                label={`Drawing of item ${index + 1}`}
                value={item.glyph}
                onChange={(glyph) => change({ glyph })}
              />
              <span className="truncate text-ink-soft">{inlineText(item.content)}</span>
            </div>
          )}
        </ItemList>
        <p className="text-xs text-ink-soft">Click the words in the email to edit them.</p>
      </Part>
      <Part title="Look">
        <NumberLine
          label="Icon size"
          unit="px"
          value={block.iconSize}
          min={14}
          max={64}
          onChange={(iconSize) => set({ iconSize })}
        />
        <ColorLine
          label="Icons"
          value={block.iconColor}
          theme={theme.light.accent}
          onChange={(iconColor) => set({ iconColor })}
        />
        <NumberLine label="Gap" unit="px" value={block.gap} max={60} onChange={(gap) => set({ gap })} />
        <WordsLines block={block} size={theme.text.size} color={theme.light.text} against={ground} />
      </Part>
    </>
  );
}
