import { type ArticlesBlock, shows } from "~/core/blocks";
import { Choose } from "../../ui/choose";
import { Input, Line, Problem } from "../../ui/form";
import { counted } from "../../ui/time";
import { NumberLine, useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { useComposer } from "../store";

export function ArticlesControls({ block }: { block: ArticlesBlock }) {
  const set = useSet(block.id);
  const sources = useComposer((state) => state.facts.sources);
  const source = sources.find((one) => one.id === block.source);
  return (
    <Part title="Articles" tone="teal">
      <Line label="From">
        {(id) => (
          <Choose
            id={id}
            label="From"
            value={source ? block.source : ""}
            placeholder={block.source && !source ? "A source that is gone" : "Choose a source…"}
            onChange={(next) => set({ source: next }, "Choosing the source")}
            options={sources.map((one) => ({
              value: one.id,
              label: one.name,
              aside: counted(one.articles, "article"),
            }))}
          />
        )}
      </Line>
      {sources.length === 0 && (
        <p className="text-ink-soft">There is no source yet. Add a feed under Sources.</p>
      )}
      {source?.failure && (
        <Problem mild>The last refresh failed: {source.failure} The last good copy is shown.</Problem>
      )}
      <NumberLine
        label="How many"
        unit={source ? `of ${source.articles}` : ""}
        value={block.count}
        min={1}
        max={12}
        onChange={(count) => set({ count })}
      />
      {shows(block, "excerpt") && (
        <NumberLine
          label="Excerpt to"
          unit="characters"
          value={block.excerptLength}
          min={20}
          max={1000}
          onChange={(excerptLength) => set({ excerptLength })}
        />
      )}
      {shows(block, "link") && (
        <Line label="Link words">
          {(id) => (
            <Input
              id={id}
              value={block.linkWords}
              onChange={(event) => set({ linkWords: event.target.value })}
            />
          )}
        </Line>
      )}
    </Part>
  );
}
