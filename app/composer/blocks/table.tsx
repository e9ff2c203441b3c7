import { cellOf, type TableBlock, tableEdits } from "~/core/blocks";
import { inlineText } from "~/core/email";
import { Choice, Line } from "../../ui/form";
import { NumberField } from "../../ui/number-field";
import { Switch } from "../../ui/switch";
import { ColorLine, useSet } from "../panel/lines";
import { Part } from "../panel/part";
import { useTheme } from "../theme";
import { useSides } from "./align";
import { useGround } from "./ground";
import { WordsLines } from "./words";

export function TableControls({ block }: { block: TableBlock }) {
  const ground = useGround(block.id);
  const set = useSet(block.id);
  const sides = useSides();
  const { light, text } = useTheme();
  return (
    <>
      <Part title="Table">
        <Switch checked={block.header} onChange={(on) => set({ header: on }, "Changing the header")}>
          The first row is a header
        </Switch>
        <Switch checked={block.zebra} onChange={(on) => set({ zebra: on }, "Changing the stripes")}>
          Stripe every other row
        </Switch>
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
            <li key={one.id} className="grid grid-cols-[1fr_64px] items-center gap-2">
              <Choice
                label={`Column ${index + 1}, ${inlineText(cellOf(block.rows[0], one))}, aligned`}
                value={one.align}
                onChange={(align) => set(tableEdits.alignColumn(block, one.id, align))}
                options={sides}
              />
              <NumberField
                label={`Width of column ${index + 1} in percent`}
                min={2}
                max={98}
                disabled={block.columns.length === 1}
                value={Math.round(one.width)}
                onChange={(width) => set(tableEdits.setWidth(block, one.id, width))}
              />
            </li>
          ))}
        </ol>
      </Part>
      <Part title="Look">
        <WordsLines block={block} size={Math.max(14, text.size - 1)} color={light.text} against={ground} />
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
