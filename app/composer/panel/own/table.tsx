import { useEffect, useState } from "react";
import { cellOf, cellPath, type TableBlock, tableEdits } from "~/core/blocks";
import { inlineText } from "~/core/email";
import { NO_PICTURE } from "~/core/markup";
import { Button } from "../../../ui/button";
import { Choose } from "../../../ui/choose";
import { Choice, Line } from "../../../ui/form";
import { NumberField } from "../../../ui/number-field";
import { Part } from "../../controls/part";
import { PictureFields } from "../../controls/picture";
import { useSides } from "../../controls/sides";
import { useComposer } from "../../state/store";
import { useSet } from "../lines";

/** How the columns stand, and pictures in cells. */
export function TableParts({ block }: { block: TableBlock }) {
  const set = useSet<TableBlock>(block.id);
  const sides = useSides();
  return (
    <>
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
      <CellPicture block={block} />
    </>
  );
}

/** A picture above the words of one cell: the one written in last, or any other. */
function CellPicture({ block }: { block: TableBlock }) {
  const set = useSet<TableBlock>(block.id);
  const [chosen, setChosen] = useState({ row: block.rows.at(-1)?.id ?? "", column: block.columns[0].id });
  const known = useComposer((state) => state.pictures);
  const writing = useComposer((state) => (state.editing === block.id ? state.editingKey : null));
  useEffect(() => {
    for (const row of block.rows)
      for (const column of block.columns)
        if (writing === cellPath(row, column)) setChosen({ row: row.id, column: column.id });
  }, [writing, block]);
  const row = block.rows.find(({ id }) => id === chosen.row) ?? block.rows[0];
  const column = block.columns.find(({ id }) => id === chosen.column) ?? block.columns[0];
  const picture = row.pictures?.[column.id];
  const put = (next: typeof picture, label: string) =>
    set(tableEdits.setPicture(block, row.id, column.id, next), label);
  const named = (words: string, index: number) => `${index + 1}${words && `, ${words}`}`;
  return (
    <Part title="Picture in a cell">
      <Line label="Row">
        <Choose
          value={row.id}
          onChange={(next) => setChosen({ row: next, column: column.id })}
          options={block.rows.map((one, index) => ({
            value: one.id,
            label: named(inlineText(cellOf(one, block.columns[0])), index),
          }))}
        />
      </Line>
      <Line label="Column">
        <Choose
          value={column.id}
          onChange={(next) => setChosen({ row: row.id, column: next })}
          options={block.columns.map((one, index) => ({
            value: one.id,
            label: named(inlineText(cellOf(block.rows[0], one)), index),
          }))}
        />
      </Line>
      <PictureFields
        picture={picture ?? { src: "" }}
        said={picture !== undefined}
        leads={picture !== undefined}
        onChange={(parts, label) => {
          const alt = known.find(({ path }) => path === parts.src)?.alt ?? "";
          put({ ...NO_PICTURE, alt, ...picture, ...parts }, label);
        }}
      />
      {picture && (
        <Button onClick={() => put(undefined, "Taking the picture out")}>Take the picture out</Button>
      )}
    </Part>
  );
}
