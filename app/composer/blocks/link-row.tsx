import type { ShareBlock, SocialBlock } from "~/core/blocks";
import { Choice, Input, Line } from "../../ui/form";
import { GlyphChoice } from "../../ui/glyph-choice";
import { ColorLine, NumberLine, useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { newId, useComposer } from "../store";
import { useTheme } from "../theme";
import { AlignLine } from "./align";
import { useGround } from "./ground";
import { HrefInput, HrefLine, HrefProblem } from "./href";
import { ItemList } from "./items";

export function SocialControls({ block }: { block: SocialBlock }) {
  const set = useSet(block.id);
  const pictures = useComposer((state) => state.pictures);
  return (
    <>
      <Part title="Social links">
        <ItemList
          items={block.items}
          noun="link"
          most={12}
          fresh={() => ({ id: newId(), glyph: "globe" as const, label: "New link", href: "" })}
          onChange={(items, label) => set({ items }, label)}
        >
          {(item, index, change) => (
            <>
              <div className="flex gap-2">
                <GlyphChoice
                  label={`Drawing of link ${index + 1}`}
                  value={item.glyph}
                  onChange={(glyph) => change({ glyph, picture: undefined })}
                  own={{ value: item.picture, pictures, onChange: (picture) => change({ picture }) }}
                />
                <Input
                  aria-label={`Words of link ${index + 1}`}
                  value={item.label}
                  onChange={(event) => event.target.value !== "" && change({ label: event.target.value })}
                />
              </div>
              <HrefInput
                aria-label={`Address of link ${index + 1}`}
                value={item.href}
                onChange={(href) => change({ href: href })}
              />
              <HrefProblem href={item.href} />
            </>
          )}
        </ItemList>
      </Part>
      <RowLook block={block} />
    </>
  );
}

export function ShareControls({ block }: { block: ShareBlock }) {
  const set = useSet(block.id);
  return (
    <>
      <Part title="What is shared">
        <HrefLine href={block.href} onChange={(href) => set({ href }, "Changing what is shared")} />
        <Line label="Words">
          {(id) => (
            <Input
              id={id}
              value={block.words}
              onChange={(event) => set({ words: event.target.value }, "Changing the words")}
            />
          )}
        </Line>
      </Part>
      <Part title="Ways">
        <ItemList
          items={block.ways}
          noun="way"
          most={8}
          fresh={() => ({
            id: newId(),
            by: "page" as const,
            glyph: "chain" as const,
            label: "Share",
            pattern: "",
          })}
          onChange={(ways, label) => set({ ways }, label)}
        >
          {(way, index, change) => (
            <>
              <div className="flex gap-2">
                <GlyphChoice
                  label={`Drawing of way ${index + 1}`}
                  value={way.glyph}
                  onChange={(glyph) => change({ glyph })}
                />
                <Input
                  aria-label={`Words of way ${index + 1}`}
                  value={way.label}
                  onChange={(event) => event.target.value !== "" && change({ label: event.target.value })}
                />
              </div>
              <Choice
                label={`How way ${index + 1} shares`}
                value={way.by}
                onChange={(by) => change({ by })}
                options={[
                  { value: "email", label: "Email" },
                  { value: "page", label: "A page" },
                ]}
              />
              {way.by === "page" && (
                <>
                  <HrefInput
                    aria-label={`Address of way ${index + 1}`}
                    placeholder="https://…?url={address}"
                    value={way.pattern}
                    onChange={(href) => change({ pattern: href })}
                  />
                  <p className="text-xs text-ink-soft">
                    {"{address} and {words} are filled in with what is shared."}
                  </p>
                </>
              )}
            </>
          )}
        </ItemList>
      </Part>
      <RowLook block={block} />
    </>
  );
}

function RowLook({ block }: { block: SocialBlock | ShareBlock }) {
  const ground = useGround(block.id);
  const set = useSet(block.id);
  const theme = useTheme();
  return (
    <Part title="Look">
      <Line label="Shown as">
        {() => (
          <Choice
            label="Shown as"
            value={block.display}
            onChange={(display) => set({ display })}
            options={[
              { value: "drawings", label: "Icons" },
              { value: "words", label: "Words" },
              { value: "both", label: "Both" },
            ]}
          />
        )}
      </Line>
      <AlignLine value={block.align} onChange={(align) => set({ align })} />
      <NumberLine
        label="Icon size"
        unit="px"
        value={block.size}
        min={16}
        max={64}
        onChange={(size) => set({ size })}
      />
      <ColorLine
        label="Colour"
        value={block.color}
        theme={theme.light.link}
        against={ground}
        onChange={(color) => set({ color })}
      />
    </Part>
  );
}
