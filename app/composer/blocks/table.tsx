import { type TableBlock, tableEdits } from "~/core/blocks";
import { inlineText, resolveTheme } from "~/core/email";
import { Choice, Input, Line } from "../../ui/form";
import { ColorLine, useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { useComposer } from "../store";
import { WordsLines } from "./words";

export function TableControls({ block }: { block: TableBlock }) {
  const set = useSet(block.id);
  const { light, text } = resolveTheme(useComposer((state) => state.email.theme));
  const column = (at: number, part: Partial<TableBlock["columns"][number]>) =>
    set({ columns: block.columns.map((one, index) => (index === at ? { ...one, ...part } : one)) });
  return (
    <>
      <Part title="Table">
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={block.header}
            onChange={(event) => set({ header: event.target.checked }, "Changing the header")}
          />{" "}
          The first row is a header
        </label>
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={block.zebra}
            onChange={(event) => set({ zebra: event.target.checked }, "Changing the stripes")}
          />{" "}
          Stripe every other row
        </label>
        <Line label="Lines">
          {() => (
            <Choice
              label="Lines"
              value={block.lines}
              onChange={(lines) => set({ lines })}
              options={[
                { value: "none", label: "None" },
                { value: "rows", label: "Rows" },
                { value: "grid", label: "Grid" },
              ]}
            />
          )}
        </Line>
        <p className="text-xs text-ink-soft">
          Click a cell to write in it; Tab goes to the next. Rows and columns are added beside the cell.
        </p>
      </Part>
      <Part title="Columns">
        <ol className="space-y-2">
          {block.columns.map((one, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: columns have no identity besides their place
            <li key={index} className="grid grid-cols-[1fr_64px] items-center gap-2">
              <Choice
                label={`Column ${index + 1}, ${inlineText(block.rows[0][index])}, aligned`}
                value={one.align}
                onChange={(align) => column(index, { align })}
                options={[
                  { value: "left", label: "Left" },
                  { value: "center", label: "Centre" },
                  { value: "right", label: "Right" },
                ]}
              />
              <Input
                type="number"
                aria-label={`Width of column ${index + 1} in percent`}
                min={2}
                max={98}
                disabled={block.columns.length === 1}
                value={Math.round(one.width)}
                onChange={(event) => {
                  const width = event.target.valueAsNumber;
                  if (!Number.isNaN(width)) set(tableEdits.setWidth(block, index, width));
                }}
              />
            </li>
          ))}
        </ol>
      </Part>
      <Part title="Look">
        <WordsLines
          block={block}
          size={Math.max(14, text.size - 1)}
          color={light.text}
          against={block.background ?? light.paper}
        />
        {block.header && (
          <ColorLine
            label="Header"
            value={block.headFace}
            theme={light.paper}
            onChange={(headFace) => set({ headFace })}
          />
        )}
        {block.zebra && (
          <ColorLine
            label="Stripes"
            value={block.zebraFace}
            theme={light.table}
            onChange={(zebraFace) => set({ zebraFace })}
          />
        )}
      </Part>
    </>
  );
}
