import type { ArticlesBlock } from "~/core/blocks";
import { Input, Line, Problem, Select } from "../../ui/form";
import { NumberLine, useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { useComposer } from "../store";

const PARTS = [
  { key: "picture", label: "Picture" },
  { key: "title", label: "Title" },
  { key: "date", label: "Date" },
  { key: "excerpt", label: "Excerpt" },
  { key: "link", label: "Link" },
] as const;

export function ArticlesControls({ block }: { block: ArticlesBlock }) {
  const set = useSet(block.id);
  const sources = useComposer((state) => state.facts.sources);
  const source = sources.find((one) => one.id === block.source);
  return (
    <Part title="Articles" tone="teal">
      <Line label="From">
        {(id) => (
          <Select
            id={id}
            value={source ? block.source : ""}
            onChange={(event) => set({ source: event.target.value }, "Choosing the source")}
          >
            <option value="" disabled>
              {block.source && !source ? "A source that is gone" : "Choose a source…"}
            </option>
            {sources.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </Select>
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
      <fieldset>
        <legend className="mb-1 text-ink-soft">Show of each</legend>
        <div className="flex flex-wrap gap-1.5">
          {PARTS.map(({ key, label }) => (
            <button
              key={key}
              type="button"
              aria-pressed={block.parts[key]}
              onClick={() => set({ parts: { ...block.parts, [key]: !block.parts[key] } }, "Choosing parts")}
              className="toggle"
            >
              {label}
            </button>
          ))}
        </div>
      </fieldset>
      {block.parts.excerpt && (
        <NumberLine
          label="Excerpt to"
          unit="characters"
          value={block.excerptLength}
          min={20}
          max={1000}
          onChange={(excerptLength) => set({ excerptLength })}
        />
      )}
      {block.parts.link && (
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
