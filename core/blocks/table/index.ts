import { z } from "zod";
import { type Inline, InlineSchema } from "../../email";
import {
  classAttribute,
  css,
  edge,
  firstWords,
  ground,
  ink,
  lineStyle,
  type PictureParts,
  pictureHtml,
  type RenderContext,
  wordsMark,
  writeInline,
} from "../../markup";
import { CELL, escapeHtml, ROW } from "../../program";
import {
  align,
  choice,
  colour,
  each,
  line,
  list,
  number,
  type Properties,
  pictureProperties,
  schemasOf,
  text,
  toggle,
  wordLook,
} from "../../properties";
import { type BlockOf, declareBlock } from "../type";
import { upgradeTable } from "./upgrades";

const cellPicture = pictureProperties();

const properties = {
  columns: list(
    "column",
    {
      /** Shares of all columns add up to 100. */
      width: number("Width", { min: 1, max: 100, unit: "%" }, { fresh: 50 }),
      align: align({ fresh: "left" }),
    },
    { least: 1, most: 12, fresh: [] },
  ),
  rows: list(
    "row",
    {
      /** Words by the ids of columns; a column that is missing here has an empty cell. */
      cells: each("Words", "columns", line("Words", {}), z.record(z.string(), z.array(InlineSchema)), {
        fresh: {},
      }),
      /** Pictures above the words of cells, by the ids of columns. */
      pictures: each(
        "Pictures",
        "columns",
        cellPicture,
        z.record(z.string(), z.object(schemasOf(cellPicture))).optional(),
      ),
    },
    { least: 1, most: 100, fresh: [] },
  ),
  /** Whether the first row says what the columns are. */
  header: toggle("The first row is a header", {
    fresh: true,
    look: true,
    under: "Table",
    history: "Changing the header",
  }),
  /** Whether the first column says what the rows are. */
  rowHeads: toggle("The first column says what the rows are", {
    look: true,
    under: "Table",
    history: "Changing the header",
  }),
  /** What the table is about, above it. */
  caption: text("Caption", 300, { under: "Table", placeholder: "none", history: "Writing the caption" }),
  zebra: toggle("Stripe every other row", {
    fresh: false,
    look: true,
    under: "Table",
    history: "Changing the stripes",
  }),
  lines: choice(
    "Lines",
    [
      { value: "none", label: "None" },
      { value: "rows", label: "Rows" },
      { value: "grid", label: "Grid" },
    ],
    { fresh: "rows", look: true, under: "Table" },
  ),
  ...wordLook({ under: "Look", size: ({ text }) => Math.max(14, text.size - 1), phone: true }),
  headFace: colour("Header", {
    fills: true,
    under: "Look",
    theme: ({ light }) => light.paper,
    when: { header: true },
  }),
  zebraFace: colour("Stripes", {
    fills: true,
    under: "Look",
    theme: ({ light }) => light.table,
    when: { zebra: true },
  }),
} satisfies Properties;
export type TableBlock = BlockOf<"table", typeof properties>;
export type TableColumn = TableBlock["columns"][number];
export type TableRow = TableBlock["rows"][number];

/** Space beside what stands in a cell, in px. */
const BESIDE = 10;

const words = (text: string): Inline[] => (text === "" ? [] : [{ type: "text", text }]);
const hundredths = (value: number) => Math.round(value * 100) / 100;

/** The words of a cell. */
export function cellOf(row: TableRow, column: TableColumn): readonly Inline[] {
  return row.cells[column.id] ?? [];
}

/** A row without what stood in a column. */
function withoutColumn({ cells, pictures, ...row }: TableRow, gone: (id: string) => boolean): TableRow {
  const kept = <T>(of: Record<string, T>) =>
    Object.fromEntries(Object.entries(of).filter(([id]) => !gone(id)));
  const rest = pictures && kept(pictures);
  return { ...row, cells: kept(cells), ...(rest && Object.keys(rest).length > 0 && { pictures: rest }) };
}

/** Where the words of a cell stand in the block. */
export function cellPath(row: { id: string }, column: { id: string }): string {
  return `rows/${row.id}/cells/${column.id}`;
}

/**
 * Rows and columns of words, with ids by their places; the columns share the width.
 * @param looks of the columns: widths in any measure, by their proportions
 */
export function tableParts(
  rows: readonly (readonly (readonly Inline[])[])[],
  looks: readonly Partial<Pick<TableColumn, "width" | "align">>[] = [],
): Pick<TableBlock, "rows" | "columns"> {
  const count = Math.max(1, ...rows.map((row) => row.length));
  const columns = Array.from({ length: count }, (_, index) => ({
    id: String(index + 1),
    width: 100 / count,
    align: "left" as const,
    ...looks[index],
  }));
  return {
    columns: spread(columns),
    rows: rows.map((row, index) => ({
      id: String(index + 1),
      cells: Object.fromEntries(columns.map(({ id }, column) => [id, [...(row[column] ?? [])]])),
    })),
  };
}

/** Shares in percent that keep their proportions and add up to 100. */
function spread(columns: readonly TableColumn[]): TableColumn[] {
  const total = columns.reduce((sum, column) => sum + column.width, 0);
  const widths = columns.map((column) => Math.max(1, hundredths((column.width / total) * 100)));
  const widest = widths.indexOf(Math.max(...widths));
  const off = hundredths(100 - widths.reduce((sum, width) => sum + width, 0));
  widths[widest] = hundredths(widths[widest] + off);
  return columns.map((column, index) => ({ ...column, width: widths[index] }));
}

const inserted = <T>(list: readonly T[], at: number, item: T): T[] => [
  ...list.slice(0, at),
  item,
  ...list.slice(at),
];

/** What is done to a table's rows and columns: each gives the properties to set. */
export const tableEdits = {
  /** Adds an empty row; `id` is new to the table. */
  addRow: ({ rows }: TableBlock, at: number, id: string): Partial<TableBlock> => ({
    rows: inserted(rows, at, { id, cells: {} }),
  }),
  removeRow: ({ rows }: TableBlock, id: string): Partial<TableBlock> =>
    rows.length === 1 ? {} : { rows: rows.filter((row) => row.id !== id) },
  moveRow: ({ rows }: TableBlock, from: number, to: number): Partial<TableBlock> => ({
    rows: moved(rows, from, to),
  }),
  addColumn: ({ columns }: TableBlock, at: number, id: string): Partial<TableBlock> => ({
    columns: spread(inserted(columns, at, { id, width: 100 / columns.length, align: "left" as const })),
  }),
  removeColumn: ({ rows, columns }: TableBlock, id: string): Partial<TableBlock> =>
    columns.length === 1
      ? {}
      : {
          columns: spread(columns.filter((column) => column.id !== id)),
          rows: rows.map((row) => withoutColumn(row, (one) => one === id)),
        },
  moveColumn: ({ columns }: TableBlock, from: number, to: number): Partial<TableBlock> => ({
    columns: moved(columns, from, to),
  }),
  alignColumn: ({ columns }: TableBlock, id: string, align: TableColumn["align"]): Partial<TableBlock> => ({
    columns: columns.map((column) => (column.id === id ? { ...column, align } : column)),
  }),
  /** Puts a picture into a cell, or takes it out. */
  setPicture: (
    { rows }: TableBlock,
    id: string,
    column: string,
    picture: PictureParts | undefined,
  ): Partial<TableBlock> => ({
    rows: rows.map((row) => {
      if (row.id !== id) return row;
      const { pictures = {}, ...rest } = row;
      const { [column]: _, ...others } = pictures;
      const next = picture ? { ...others, [column]: picture } : others;
      return { ...rest, ...(Object.keys(next).length > 0 && { pictures: next }) };
    }),
  }),
  /** Sets one width in percent; the others share what is left as they did. */
  setWidth: ({ columns }: TableBlock, id: string, width: number): Partial<TableBlock> => {
    if (columns.length === 1) return {};
    const wanted = Math.min(100 - 2 * (columns.length - 1), Math.max(2, width));
    const others = columns.reduce((sum, column) => (column.id === id ? sum : sum + column.width), 0);
    return {
      // None of the others gets so narrow that it could not be kept.
      columns: spread(
        columns.map((column) => ({
          ...column,
          width: column.id === id ? wanted : (column.width / others) * (100 - wanted),
        })),
      ),
    };
  },
};

function moved<T>(list: readonly T[], from: number, to: number): T[] {
  const rest = list.filter((_, index) => index !== from);
  return from === to || !list[from] ? [...list] : inserted(rest, to, list[from]);
}

export const table = declareBlock({
  type: "table",
  label: "Table",
  group: "words",
  words: "rows columns cells grid prices hours",
  properties,
  fresh: tableParts([
    [words("What"), words("When"), words("Where")],
    [words("First"), words("Monday"), words("Here")],
    [words("Second"), words("Tuesday"), words("There")],
  ]),
  about: "Click a cell to write in it; Tab goes to the next. Rows and columns are added beside the cell.",
  upgrades: { 2: upgradeTable },
  tidy(block) {
    const ids = new Set(block.columns.map((column) => column.id));
    const total = block.columns.reduce((sum, column) => sum + column.width, 0);
    const stray = block.rows.some((row) =>
      [...Object.keys(row.cells), ...Object.keys(row.pictures ?? {})].some((id) => !ids.has(id)),
    );
    if (!stray && Math.abs(total - 100) < 0.5) return block;
    return {
      ...block,
      columns: Math.abs(total - 100) < 0.5 ? block.columns : spread(block.columns),
      rows: block.rows.map((row) => withoutColumn(row, (id) => !ids.has(id))),
    };
  },
  html(block, context) {
    const { out, theme } = context;
    const size = block.size ?? Math.max(14, theme.text.size - 1);
    const lineHeight = Math.round(size * 1.4);
    const line = edge(undefined, "line", context);
    // A table of facts is read as one: no presentation role here.
    out.raw(
      '<table role="table" cellpadding="0" cellspacing="0" border="0" width="100%" style="table-layout:fixed;border-collapse:collapse;">',
    );
    if (block.caption?.trim()) {
      const soft = ink(undefined, "soft", context);
      const look = css({
        padding: `0 ${BESIDE}px 8px`,
        ...lineStyle({ size: 14, lineHeight: 20 }, soft.color, context),
      });
      out.raw(`<caption${classAttribute(soft.tone)} style="${look}">${escapeHtml(block.caption)}</caption>`);
    }
    for (const [r, row] of block.rows.entries()) {
      const head = block.header && r === 0;
      const odd = block.zebra && (block.header ? r % 2 === 0 && r > 0 : r % 2 === 1);
      const last = r === block.rows.length - 1;
      const behind =
        head && block.headFace
          ? ground(block.headFace, "table", context)
          : odd
            ? ground(block.zebraFace, "table", context)
            : undefined;
      const inside = behind?.inside ?? context;
      const voice = { role: head ? ("heading" as const) : ("text" as const), own: block.color };
      const { color, tone } = ink(voice.own, voice.role, inside);
      out.raw("<tr>");
      for (const [c, column] of block.columns.entries()) {
        const { align } = column;
        const ofRow = block.rowHeads === true && c === 0 && !head;
        const tag = head || ofRow ? "th" : "td";
        const scope = head ? ' scope="col"' : ofRow ? ' scope="row"' : "";
        const style = css({
          padding: `8px ${BESIDE}px`,
          ...lineStyle({ size, lineHeight, weight: head || ofRow ? 700 : 400, align }, color, context),
          "vertical-align": "top",
          border: block.lines === "grid" && `1px solid ${line.color}`,
          "border-bottom": block.lines === "rows" && (!last || head) && `1px solid ${line.color}`,
          "background-color": behind?.color,
        });
        const classes = classAttribute(behind?.tone, tone, block.lines !== "none" && line.tone);
        const cell = cellOf(row, column);
        const picture = row.pictures?.[column.id];
        const mark = wordsMark(context, "cell", cellPath(row, column));
        out.raw(
          `<${tag}${scope} width="${column.width}%"${behind ? ` bgcolor="${behind.color}"` : ""}${picture ? "" : mark}${classes} style="${style}">`,
        );
        if (picture) {
          const width = Math.max(1, Math.round((context.width * column.width) / 100) - 2 * BESIDE);
          pictureHtml(picture, { ...inside, width }, { width: 100, align });
          if (cell.length > 0 || context.marks) out.raw(`<div${mark}>`);
        }
        if (cell.length > 0) writeInline(cell, inside, voice);
        else if (!picture || context.marks) out.raw("&nbsp;");
        if (picture && (cell.length > 0 || context.marks)) out.raw("</div>");
        out.raw(`</${tag}>`);
      }
      out.raw("</tr>");
    }
    out.raw("</table>");
  },
  text: tableText,
  title: (block) => firstWords(cellOf(block.rows[0], block.columns[0])) || "Table",
});

/** A table as text: one line for each row, set in columns when the reader's words are known; a rule below the header. */
function tableText(block: TableBlock, context: RenderContext): void {
  const { out } = context;
  if (block.caption?.trim()) out.raw(`${block.caption.trim()}\n`);
  for (const [r, row] of block.rows.entries()) {
    out.raw(ROW);
    for (const [c, column] of block.columns.entries()) {
      if (c > 0) out.raw(CELL);
      const picture = row.pictures?.[column.id];
      if (picture && !picture.decorative && picture.alt !== "") out.raw(`[${picture.alt}] `);
      writeInline(withoutBreaks(cellOf(row, column)), context);
    }
    out.raw("\n");
    if (block.header && r === 0) out.raw(`${ROW}${block.columns.map(() => "-").join(CELL)}\n`);
  }
  out.raw("\n");
}

/** A row of a text table is one line. */
const withoutBreaks = (cell: readonly Inline[]): Inline[] =>
  cell.map((it) => (it.type === "hardBreak" ? { type: "text", text: " " } : it));
