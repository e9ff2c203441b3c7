import type { Rule } from "../audience";
import { blockType } from "../blocks";
import {
  type Block,
  type Border,
  type Brand,
  type Column,
  type Email,
  type Inline,
  type MergeTag,
  type Padding,
  type Row,
  type Section,
  TEXT_PART,
  type Theme,
} from "../email";
import {
  backdropCell,
  columnsHtml,
  css,
  type RenderContext,
  styleAttribute,
  TABLE,
  vmlBackdrop,
  writeInline,
} from "../markup";
import { escapeHtml, type Instruction, type Program, Tables, Writer } from "../program";
import { messageCss } from "./css";
import { phoneClass } from "./phone";

export interface CompileOptions {
  theme: Theme;
  brand: Brand;
  /** Put before picture addresses that start with `/`. */
  origin: string;
}

type Shared = Omit<RenderContext, "out" | "part" | "width">;

function sharedOf(email: Email, options: CompileOptions, marks: boolean): Shared {
  return { ...options, language: email.language, links: email.links, marks };
}

const NO_PADDING: Padding = { top: 0, right: 0, bottom: 0, left: 0 };

/** Compiles a design. Everything that does not depend on the reader is worked out here. */
export function compile(email: Email, options: CompileOptions): Program {
  const tables = new Tables();
  const shared = sharedOf(email, options, false);
  const envelope = writeEnvelope(email, shared, tables);
  const html = new Writer(tables);
  writeDocument(email, { ...shared, out: html, part: "html", width: options.theme.width });
  const text = new Writer(tables);
  writeText(email, { ...shared, out: text, part: "text", width: options.theme.width });
  return {
    tables,
    language: email.language,
    ...envelope,
    html: html.finish(),
    text: text.finish(),
    textWidth: (email.textPart ?? TEXT_PART).width,
  };
}

function writeEnvelope(email: Email, shared: Shared, tables: Tables) {
  const part = (content: Email["envelope"]["subject"]) => {
    const out = new Writer(tables);
    writeInline(content, { ...shared, out, part: "header", width: 0 });
    return out.finish();
  };
  return {
    subject: part(email.envelope.subject),
    preheader: part(email.envelope.preheader),
    senderName: part(email.envelope.sender.name),
  };
}

function writeDocument(email: Email, context: RenderContext): void {
  const { out, theme } = context;
  const language = escapeHtml(email.language);
  out.raw(
    `<!doctype html><html lang="${language}" dir="ltr" xmlns:o="urn:schemas-microsoft-com:office:office"><head>` +
      '<meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1">' +
      '<meta name="color-scheme" content="light dark"><meta name="supported-color-schemes" content="light dark">' +
      '<meta name="x-apple-disable-message-reformatting">' +
      '<meta name="format-detection" content="telephone=no,date=no,address=no,email=no,url=no"><title>',
  );
  writeInline(email.envelope.subject, { ...context, marks: false });
  out.raw(
    `</title><style>${messageCss(theme, email)}</style>` +
      "<!--[if mso]><xml><o:OfficeDocumentSettings><o:PixelsPerInch>96</o:PixelsPerInch></o:OfficeDocumentSettings></xml><![endif]-->" +
      `</head><body class="d-table" style="margin:0;padding:0;background-color:${theme.light.table};">`,
  );
  if (email.envelope.preheader.length > 0) {
    out.raw(
      '<div style="display:none;max-height:0;overflow:hidden;mso-hide:all;font-size:1px;line-height:1px;opacity:0;">',
    );
    writeInline(email.envelope.preheader, { ...context, marks: false });
    out.raw(`${"&zwj;&nbsp;".repeat(90)}</div>`);
  }
  out.raw(
    `<div role="article" aria-roledescription="email" lang="${language}" class="d-table" style="background-color:${theme.light.table};">`,
  );
  for (const section of email.sections) writeSection(section, context, writeBlockCell);
  out.raw("</div></body></html>");
}

type CellWriter = (block: Block, context: RenderContext) => void;

function nodeMark(id: string, kind: string, conditional: boolean, context: RenderContext): string {
  return context.marks
    ? ` data-node="${escapeHtml(id)}" data-kind="${kind}"${conditional ? " data-conditional" : ""}`
    : "";
}

/** The classes of a part, for phones: hidden there or only there, and what is different. */
function classesOf(
  node: { id: string; hideOn?: "phone" | "desktop"; phone?: object },
  ...more: (string | false)[]
): { attribute: string; style: string } {
  const names = [
    node.hideOn === "phone" && "hide-phone",
    node.hideOn === "desktop" && "only-phone",
    ...more,
  ].filter(Boolean);
  return {
    attribute: names.length > 0 ? ` class="${names.join(" ")}"` : "",
    style: node.hideOn === "desktop" ? "display:none;mso-hide:all;" : "",
  };
}

/**
 * Writes a part for those who get it. The canvas gets a mark in its place for a reader who does not, of no height, so
 * that the part can be found there.
 */
function writeFor(
  node: { id: string; show?: Rule },
  element: "tr" | "div",
  context: RenderContext,
  body: () => void,
): void {
  const { out } = context;
  out.when(node.show, body);
  if (!context.marks || !node.show) return;
  out.when({ kind: "none", of: [node.show] }, () => {
    const mark = ` data-hidden="${escapeHtml(node.id)}"`;
    out.raw(
      element === "tr"
        ? `<tr${mark}><td style="padding:0;height:0;font-size:0;line-height:0"></td></tr>`
        : `<div${mark}></div>`,
    );
  });
}

function borderCss(border: Border | undefined): string | undefined {
  return border && `${border.width}px ${border.style} ${border.color}`;
}

function paddingCss(padding: Padding): string {
  return `${padding.top}px ${padding.right}px ${padding.bottom}px ${padding.left}px`;
}

function writeSection(section: Section, context: RenderContext, cell: CellWriter): void {
  const { out, theme } = context;
  const padding = section.padding ?? { ...NO_PADDING, top: theme.space.section, bottom: theme.space.section };
  const full = section.width ?? theme.width;
  const edges = 2 * (section.border?.width ?? 0);
  const width = full - padding.left - padding.right - edges;
  const { picture } = section;
  const { attribute, style } = classesOf(section);
  const paper = section.contentBackground ?? section.background ?? theme.light.paper;
  const own = section.contentBackground ?? section.background;
  const open = picture?.open === true && section.contentBackground === undefined;
  const themed = !own && !open;
  writeFor(section, "div", context, () => {
    const backdrop = picture && { ...picture, color: section.background ?? theme.light.table };
    const behind = backdrop && backdropCell(backdrop, context.origin);
    const outer = css({ "background-color": section.background });
    out.raw(
      `<table ${TABLE} width="100%"${nodeMark(section.id, "section", !!section.show, context)}${attribute}${styleAttribute(style + outer)}><tr><td align="center"${behind?.attributes ?? ""}${styleAttribute(behind?.style ?? "")}>`,
    );
    const content = () => {
      out.raw(`<!--[if mso]><table ${TABLE} width="${full}" align="center"><tr><td><![endif]-->`);
      const radius = section.radius ? `${section.radius}px` : undefined;
      const inner = css({
        "max-width": `${full}px`,
        margin: "0 auto",
        "text-align": "left",
        "background-color": open ? undefined : paper,
        "border-radius": radius,
        overflow: radius && "hidden",
      });
      const cellStyle = css({
        padding: paddingCss(padding),
        border: borderCss(section.border),
        "border-radius": radius,
      });
      const classes = [themed && "d-paper", section.phone && phoneClass(section.id)]
        .filter(Boolean)
        .join(" ");
      out.raw(
        `<div${themed ? ' class="d-paper"' : ""} style="${inner}"><table ${TABLE} width="100%"><tr><td${classes ? ` class="${classes}"` : ""}${open ? "" : ` bgcolor="${paper}"`} style="${cellStyle}">`,
      );
      for (const row of section.rows) writeRow(row, { ...context, width }, cell);
      if (section.rows.length === 0 && context.marks)
        out.raw('<div class="waiting">An empty section: drop a block here</div>');
      out.raw("</td></tr></table></div><!--[if mso]></td></tr></table><![endif]-->");
    };
    if (backdrop) vmlBackdrop(backdrop, "full", context, content);
    else content();
    out.raw("</td></tr></table>");
  });
}

function writeRow(row: Row, context: RenderContext, cell: CellWriter): void {
  const { out, theme } = context;
  const padding = row.padding ?? { ...NO_PADDING, left: theme.space.inset, right: theme.space.inset };
  const width = context.width - padding.left - padding.right;
  const { attribute, style: hide } = classesOf(row);
  const inset = !row.phone && (padding.left > 20 || padding.right > 20) && "inset";
  const classes = [inset, row.phone && phoneClass(row.id)].filter(Boolean).join(" ");
  writeFor(row, "div", context, () => {
    const style = css({ "background-color": row.background, padding: paddingCss(padding) });
    out.raw(
      `<table ${TABLE} width="100%"${nodeMark(row.id, "row", !!row.show, context)}${attribute}${styleAttribute(hide)}><tr>`,
    );
    out.raw(
      `<td${classes ? ` class="${classes}"` : ""}${row.background ? ` bgcolor="${row.background}"` : ""} style="${style}">`,
    );
    columnsHtml(
      { ...context, width },
      row.columns.map((column) => ({
        share: column.width,
        attributes: nodeMark(column.id, "column", false, context),
        style: css({
          "background-color": column.background,
          padding: column.padding && paddingCss(column.padding),
          border: borderCss(column.border),
          "border-radius": column.radius ? `${column.radius}px` : undefined,
        }),
        write: (room) => writeColumn(column, { ...context, width: columnRoom(column, room) }, cell),
      })),
      { gap: row.gap ?? theme.space.gap, valign: row.valign, onPhones: row.onPhones },
    );
    out.raw("</td></tr></table>");
  });
}

function columnRoom(column: Column, width: number): number {
  const inside = column.padding ? column.padding.left + column.padding.right : 0;
  return width - inside - 2 * (column.border?.width ?? 0);
}

function writeColumn(column: Column, context: RenderContext, cell: CellWriter): void {
  const { out } = context;
  if (column.blocks.length === 0) {
    if (context.marks) out.raw('<div class="waiting">Drop a block here</div>');
    else out.raw("&nbsp;");
    return;
  }
  out.raw(`<table ${TABLE} width="100%">`);
  for (const block of column.blocks) writeFor(block, "tr", context, () => cell(block, context));
  out.raw("</table>");
}

function writeBlockCell(block: Block, context: RenderContext): void {
  const { out, theme } = context;
  const padding = block.padding ?? { ...NO_PADDING, top: theme.space.block, bottom: theme.space.block };
  const hide = classesOf(block);
  const style = css({ padding: paddingCss(padding), "background-color": block.background });
  const phone = block.phone ? ` class="${phoneClass(block.id)}"` : "";
  out.raw(`<tr${hide.attribute}${styleAttribute(hide.style)}>`);
  out.raw(
    `<td${phone}${nodeMark(block.id, "block", !!block.show, context)}${block.background ? ` bgcolor="${block.background}"` : ""} style="${style}">`,
  );
  const type = blockType(block.type);
  type?.html(block, { ...context, width: context.width - padding.left - padding.right });
  out.raw("</td></tr>");
}

function writeText(email: Email, shared: Omit<RenderContext, "textLinks">): void {
  const { out } = shared;
  const numbered = (email.textPart ?? TEXT_PART).links === "numbered";
  const textLinks: string[] | undefined = numbered ? [] : undefined;
  const context: RenderContext = { ...shared, textLinks };
  for (const section of email.sections) {
    out.when(section.show, () => {
      for (const row of section.rows) {
        out.when(row.show, () => {
          for (const column of row.columns) {
            for (const block of column.blocks) out.when(block.show, () => writeBlockText(block, context));
          }
        });
      }
    });
  }
  if (!textLinks) return;
  // Links of live content are numbered after those of the design, each time the sources are read.
  const fixed = textLinks.length;
  out.live("", (_, list) => {
    const lines = textLinks.map((address, index) => `[${index + 1}] ${address}\n`);
    if (lines.length > 0) list.raw(`Links\n${lines.join("")}\n`);
    textLinks.length = fixed;
  });
}

function writeBlockText(block: Block, context: RenderContext): void {
  if (!block.ownText) blockType(block.type)?.text(block, context);
  else if (block.ownText.words.length > 0) {
    writeInline(block.ownText.words, context);
    context.out.raw("\n\n");
  }
}

/**
 * What the design gives for a block in the plain-text part, as words that can be edited; null where live content
 * stands, which changes with its source.
 */
export function blockText(block: Block, email: Email, options: CompileOptions): Inline[] | null {
  const tables = new Tables();
  const out = new Writer(tables);
  const shared = sharedOf(email, options, false);
  blockType(block.type)?.text(block, { ...shared, out, part: "text", width: options.theme.width });
  const words: Inline[] = [];
  for (const it of out.finish()) {
    if (it.op === "hole") return null;
    if (it.op === "value") {
      const { field, fallback, format } = tables.slots[it.slot];
      words.push({ type: "mergeTag", attrs: { field, fallback, format: format as MergeTag["format"] } });
    } else if (it.op === "static") {
      for (const [index, line] of it.text.split("\n").entries()) {
        if (index > 0) words.push({ type: "hardBreak" });
        if (line !== "") words.push({ type: "text", text: line });
      }
    }
  }
  while (words.at(-1)?.type === "hardBreak") words.pop();
  return words;
}

/**
 * The canvas's frame: sections, rows and columns with marks, and an empty `<tr data-slot>` for each block, so that
 * blocks can be drawn one by one. `widths` says how wide each block's column is, in px.
 */
export function compileFrame(
  email: Email,
  options: CompileOptions,
): { tables: Tables; html: Instruction[]; widths: Map<string, number> } {
  const tables = new Tables();
  const out = new Writer(tables);
  const widths = new Map<string, number>();
  const shared = sharedOf(email, options, true);
  const context: RenderContext = { ...shared, out, part: "html", width: options.theme.width };
  const slot: CellWriter = (block, inner) => {
    widths.set(block.id, inner.width);
    out.raw(`<tr data-slot="${escapeHtml(block.id)}"></tr>`);
  };
  for (const section of email.sections) writeSection(section, context, slot);
  return { tables, html: out.finish(), widths };
}

/** One block of the canvas, with marks: the `<tr>` that takes the place of its slot. */
export function compileBlock(
  block: Block,
  width: number,
  email: Email,
  options: CompileOptions,
): { tables: Tables; html: Instruction[] } {
  const tables = new Tables();
  const out = new Writer(tables);
  writeBlockCell(block, { ...sharedOf(email, options, true), out, part: "html", width });
  return { tables, html: out.finish() };
}
