import {
  cellPath,
  grownAt,
  type TableBlock,
  type TableColumn,
  type TableRow,
  tableEdits,
} from "~/core/blocks";
import { commands } from "~/core/compose";
import { findNode } from "~/core/email";
import { directionOf } from "~/core/program";
import { type Composer, newId } from "./store";

export type Side = "up" | "down" | "left" | "right";

/** The table whose cell is being written in, and which cell; null when it is none. */
export function editedCell(
  store: Composer,
): { block: TableBlock; row: TableRow; column: TableColumn } | null {
  const { email, editing, editingKey } = store.getState();
  const found = editing === null ? undefined : findNode(email, editing);
  if (found?.kind !== "block" || found.node.type !== "table") return null;
  const block = found.node as unknown as TableBlock;
  for (const row of block.rows)
    for (const column of block.columns)
      if (cellPath(row, column) === editingKey) return { block, row, column };
  return null;
}

/** Adds a row or column beside the cell being written in, and goes on in it. */
export function growTable(store: Composer, what: "row" | "column", side: "before" | "after"): boolean {
  const cell = editedCell(store);
  if (!cell) return false;
  const { block, row, column } = cell;
  const id = newId();
  if (what === "row") {
    const at = block.rows.indexOf(row) + (side === "after" ? 1 : 0);
    const first = side === "after" ? block.columns[0] : column;
    return change(store, block, tableEdits.addRow(block, at, id), "Adding a row", cellPath({ id }, first));
  }
  const at = block.columns.indexOf(column) + (side === "after" ? 1 : 0);
  return change(store, block, tableEdits.addColumn(block, at, id), "Adding a column", cellPath(row, { id }));
}

/** Adds an item to the list whose last words one writes, such as a row of a table, and goes on in it. */
export function growList(store: Composer): boolean {
  const { email, editing, editingKey } = store.getState();
  const found = editing === null ? undefined : findNode(email, editing);
  const grown = found?.kind === "block" ? grownAt(found.node, editingKey, newId()) : null;
  return (
    found?.kind === "block" &&
    grown !== null &&
    change(store, found.node, grown.set, `Adding a ${grown.noun}`, grown.path)
  );
}

/** Takes the row or column of the cell being written in away. */
export function shrinkTable(store: Composer, what: "row" | "column"): boolean {
  const cell = editedCell(store);
  if (!cell) return false;
  const { block, row, column } = cell;
  const beside = <T>(list: readonly T[], it: T): T => list[list.indexOf(it) - 1] ?? list[1] ?? it;
  return what === "row"
    ? change(
        store,
        block,
        tableEdits.removeRow(block, row.id),
        "Removing a row",
        cellPath(beside(block.rows, row), column),
      )
    : change(
        store,
        block,
        tableEdits.removeColumn(block, column.id),
        "Removing a column",
        cellPath(row, beside(block.columns, column)),
      );
}

/** Goes on to the cell beside the one being edited; at the edge of the table it stays. */
export function stepCell(store: Composer, side: Side): boolean {
  const cell = editedCell(store);
  if (!cell) return false;
  const { block, row, column } = cell;
  const to = <T>(list: readonly T[], it: T, by: number) => list[list.indexOf(it) + by];
  const nextRow = side === "up" ? to(block.rows, row, -1) : side === "down" ? to(block.rows, row, 1) : row;
  const turned = store.getState().email.language;
  const forward = directionOf(turned) === "ltr" ? "right" : "left";
  const by = side === "left" || side === "right" ? (side === forward ? 1 : -1) : 0;
  const nextColumn = to(block.columns, column, by);
  if (!nextRow || !nextColumn) return true;
  store.getState().edit(block.id, cellPath(nextRow, nextColumn), side === "up" || by < 0 ? "end" : "start");
  return true;
}

function change(
  store: Composer,
  block: { id: string },
  properties: Record<string, unknown>,
  label: string,
  next: string,
): boolean {
  const state = store.getState();
  // The block is drawn anew, so its editor ends first and begins again in the cell that follows.
  state.edit(null);
  state.apply(commands.set(block.id, properties), label);
  state.edit(block.id, next);
  return true;
}
