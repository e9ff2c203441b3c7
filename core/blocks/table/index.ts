import { z } from "zod";
import { BlockBaseSchema, ColorSchema, type Inline, InlineSchema } from "../../email";
import type { RenderContext } from "../context";
import { css, editMark } from "../html";
import { writeInline } from "../inline";
import { firstWords } from "../prose";
import type { BlockType } from "../type";

const AlignSchema = z.enum(["left", "center", "right"]);
const schema = BlockBaseSchema.extend({
  type: z.literal("table"),
  /** Words by row and column; every row has as many cells as there are columns. */
  rows: z
    .array(z.array(z.array(InlineSchema)))
    .min(1)
    .max(100),
  columns: z
    .array(z.object({ /** Share in percent. */ width: z.number().min(1).max(100), align: AlignSchema }))
    .min(1)
    .max(12),
  /** Whether the first row says what the columns are. */
  header: z.boolean(),
  zebra: z.boolean(),
  lines: z.enum(["none", "rows", "grid"]),
  size: z.number().min(10).max(40).optional(),
  color: ColorSchema.optional(),
  headFace: ColorSchema.optional(),
  zebraFace: ColorSchema.optional(),
}).refine((block) => block.rows.every((row) => row.length === block.columns.length), {
  message: "every row of a table has a cell for each column",
});
export type TableBlock = z.infer<typeof schema>;

const words = (text: string): Inline[] => (text === "" ? [] : [{ type: "text", text }]);

/** Shares in percent that keep their proportions and add up to 100. */
function spread(columns: TableBlock["columns"]): TableBlock["columns"] {
  const total = columns.reduce((sum, column) => sum + column.width, 0);
  return columns.map((column) => ({
    ...column,
    width: Math.max(1, Math.round((column.width / total) * 10_000) / 100),
  }));
}

/** What is done to a table's rows and columns: each gives the properties to set. */
export const tableEdits = {
  addRow: ({ rows, columns }: TableBlock, at: number): Partial<TableBlock> => ({
    rows: [...rows.slice(0, at), columns.map((): Inline[] => []), ...rows.slice(at)],
  }),
  removeRow: ({ rows }: TableBlock, at: number): Partial<TableBlock> =>
    rows.length === 1 ? {} : { rows: rows.filter((_, index) => index !== at) },
  addColumn: ({ rows, columns }: TableBlock, at: number): Partial<TableBlock> => {
    const average = 100 / columns.length;
    return {
      columns: spread([...columns.slice(0, at), { width: average, align: "left" }, ...columns.slice(at)]),
      rows: rows.map((row) => [...row.slice(0, at), [], ...row.slice(at)]),
    };
  },
  removeColumn: ({ rows, columns }: TableBlock, at: number): Partial<TableBlock> =>
    columns.length === 1
      ? {}
      : {
          columns: spread(columns.filter((_, index) => index !== at)),
          rows: rows.map((row) => row.filter((_, index) => index !== at)),
        },
  /** Sets one width in percent; the others share what is left as they did. */
  setWidth: ({ columns }: TableBlock, at: number, width: number): Partial<TableBlock> => {
    if (columns.length === 1) return {};
    const wanted = Math.min(100 - 2 * (columns.length - 1), Math.max(2, width));
    const others = columns.reduce((sum, column, index) => (index === at ? sum : sum + column.width), 0);
    return {
      columns: columns.map((column, index) => ({
        ...column,
        width: Math.round((index === at ? wanted : (column.width / others) * (100 - wanted)) * 100) / 100,
      })),
    };
  },
};

export const table: BlockType<TableBlock> = {
  type: "table",
  label: "Table",
  group: "words",
  words: "rows columns cells grid prices hours",
  schema,
  create: (id) => ({
    id,
    type: "table",
    rows: [
      [words("What"), words("When"), words("Where")],
      [words("First"), words("Monday"), words("Here")],
      [words("Second"), words("Tuesday"), words("There")],
    ],
    columns: [
      { width: 34, align: "left" },
      { width: 33, align: "left" },
      { width: 33, align: "left" },
    ],
    header: true,
    zebra: false,
    lines: "rows",
  }),
  look: ["header", "zebra", "lines", "size", "color", "headFace", "zebraFace"],
  html(block, context) {
    const { out, theme } = context;
    const { light } = theme;
    const size = block.size ?? Math.max(14, theme.text.size - 1);
    // A table of facts is read as one: no presentation role here.
    out.raw(
      '<table role="table" cellpadding="0" cellspacing="0" border="0" width="100%" style="table-layout:fixed;border-collapse:collapse;">',
    );
    for (const [r, row] of block.rows.entries()) {
      out.raw("<tr>");
      for (const [c, cell] of row.entries()) {
        const head = block.header && r === 0;
        const odd = block.zebra && (block.header ? r % 2 === 0 && r > 0 : r % 2 === 1);
        const face = head ? block.headFace : odd ? (block.zebraFace ?? light.table) : undefined;
        const own = block.color !== undefined;
        const last = r === block.rows.length - 1;
        const line = `1px solid ${light.line}`;
        const style = css({
          padding: "8px 10px",
          "font-family": theme.fonts.body,
          "font-size": `${size}px`,
          "line-height": `${Math.round(size * 1.4)}px`,
          "font-weight": head ? "700" : "400",
          color: block.color ?? (head ? light.heading : light.text),
          "text-align": block.columns[c].align,
          "vertical-align": "top",
          "overflow-wrap": "break-word",
          border: block.lines === "grid" && line,
          "border-bottom": block.lines === "rows" && (!last || head) && line,
          "background-color": face,
        });
        // The theme's own zebra follows the dark colours; chosen ones stay.
        const zebra = odd && !block.zebraFace ? "d-table " : "";
        const dark =
          `${zebra}${own ? "" : head ? "d-head " : "d-text "}${block.lines === "none" ? "" : "d-line"}`.trim();
        const tag = head ? "th" : "td";
        out.raw(
          `<${tag}${head ? ' scope="col"' : ""} width="${block.columns[c].width}%"${face ? ` bgcolor="${face}"` : ""}${editMark(context, "line", `rows.${r}.${c}`)}${dark ? ` class="${dark}"` : ""} style="${style}">`,
        );
        if (cell.length > 0) writeInline(cell, context);
        else out.raw("&nbsp;");
        out.raw(`</${tag}>`);
      }
      out.raw("</tr>");
    }
    out.raw("</table>");
  },
  text: tableText,
  title: (block) => firstWords(block.rows[0][0]) || "Table",
};

/** A table as text: one line for each row, cells parted by bars, a rule below the header. */
function tableText(block: TableBlock, context: RenderContext): void {
  const { out } = context;
  for (const [r, row] of block.rows.entries()) {
    for (const [c, cell] of row.entries()) {
      if (c > 0) out.raw(" | ");
      writeInline(cell, context);
    }
    out.raw(block.header && r === 0 ? "\n--------\n" : "\n");
  }
  out.raw("\n");
}
