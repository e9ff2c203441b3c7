import type { Raw } from "../../email";

/** To schema 2: rows and columns have ids, and cells stand under the ids of their columns. */
export function upgradeTable(raw: Raw): Raw {
  const { rows, columns } = raw;
  if (!Array.isArray(rows) || !Array.isArray(columns)) return raw;
  return {
    ...raw,
    columns: columns.map((column: unknown, index) => ({ id: String(index + 1), ...(column as object) })),
    rows: rows.map((row: unknown, index) => ({
      id: String(index + 1),
      cells: Array.isArray(row)
        ? Object.fromEntries(row.map((cell: unknown, at) => [String(at + 1), cell]))
        : row,
    })),
  };
}
