import type { Rule } from "../audience";
import { blockType } from "../blocks";
import {
  type Block,
  type Border,
  type Brand,
  type Column,
  type Email,
  type Fill,
  fillColor,
  type Inline,
  inlineText,
  type Known,
  type Padding,
  type Row,
  type Section,
  type TagFacts,
  TEXT_PART,
  type Theme,
  typedString,
} from "../email";
import {
  backdropCell,
  type ColumnCell,
  classAttribute,
  columnsHtml,
  css,
  fixedGround,
  ground,
  type Level,
  LONG_WORDS,
  type RenderContext,
  sideOf,
  styleAttribute,
  TABLE,
  vmlBackdrop,
  within,
  writeInline,
} from "../markup";
import { absolute, COUNTED_OPENING, directionOf, escapeHtml, Pool, type Program, Writer } from "../program";
import { innerSpace, tooWide } from "../properties";
import { untranslated, versionsOf } from "../translation";
import { writeAnnotations } from "./annotations";
import { classesOf, nodeMark } from "./attributes";
import { fontsHtml, messageCss } from "./css";
import { headingLevels, type LevelCase } from "./levels";
import { whenNeeded } from "./needs";
import { phoneClasses } from "./phone";
import { writeText } from "./text";

export interface CompileOptions extends TagFacts {
  theme: Theme;
  brand: Brand;
  /** Put before picture addresses that start with `/`. */
  origin: string;
  /** `YYYY-MM-DD`: the day it is sent, or looked at. */
  today?: string;
  /** Whether clicks and openings are to be counted, as far as the design says so. */
  counted?: boolean;
  places?: RenderContext["places"];
}

/** What the tags of a design may ask besides the reader. */
export function knownIn(
  { envelope: { sender }, language }: Pick<Email, "envelope" | "language">,
  { brand, campaign, lookups, codes, referrals, items, origin }: Omit<CompileOptions, "theme">,
): Known {
  const name = inlineText(sender.name);
  return {
    brand,
    campaign,
    lookups,
    codes,
    referrals,
    items,
    origin,
    language,
    sender: { name, address: sender.address },
  };
}

type Shared = Omit<RenderContext, "out" | "part" | "width">;

/** What everything of an email is written with. */
export function sharedOf(email: Email, options: CompileOptions, marks: boolean): Shared {
  return {
    ...options,
    known: knownIn(email, options),
    language: email.language,
    direction: directionOf(email.language),
    links: email.links,
    numbered: (email.textPart ?? TEXT_PART).links === "numbered",
    ground: { light: options.theme.light.table, dark: options.theme.dark.table },
    tones: new Set(),
    level: 1,
    marks,
  };
}

/** Compiles a design. Everything that does not depend on the reader is worked out here. */
export function compile(email: Email, options: CompileOptions): Program {
  const pool = new Pool();
  const versions = versionsOf(email).map((version) => ({
    ...version,
    shared: {
      ...sharedOf(version.email, options, false),
      ...(version.language !== email.language && {
        untranslated: { language: email.language, paths: untranslated(email, version.language) },
      }),
    },
  }));
  const part = (write: (email: Email, shared: Shared, out: Writer) => void) => {
    const out = new Writer(pool);
    const ways = versions.map((version) => ({
      when: version.when,
      body: () => write(version.email, version.shared, out),
    }));
    const cases = ways.flatMap(({ when, body }) => (when ? [{ when, body }] : []));
    return out.either(cases, ways[ways.length - 1].body).finish();
  };
  const line = (of: (envelope: Email["envelope"]) => readonly Inline[]) =>
    part(({ envelope }, shared, out) =>
      writeInline(of(envelope), { ...shared, out, part: "header", width: 0 }),
    );
  const typed = (of: (envelope: Email["envelope"]) => string | undefined) =>
    part(({ envelope }, { known }, out) => {
      out.raw(typedString((of(envelope) ?? "").trim(), "header", { known, out }));
    });
  const { width } = options.theme;
  let styleBytes = 0;
  const html = part((version, shared, out) => {
    const bytes = writeDocument(version, { ...shared, out, part: "html", width });
    styleBytes = Math.max(styleBytes, bytes);
  });
  return {
    pool,
    ...(email.only && { only: email.only }),
    language: email.language,
    subject: line(({ subject }) => subject),
    preheader: line(({ preheader }) => preheader),
    senderName: line(({ sender }) => sender.name),
    senderAddress: typed(({ sender }) => sender.address),
    replyTo: typed(({ sender }) => sender.replyTo),
    recipient: line(({ to }) => to ?? []),
    html,
    text: part((version, shared, out) => writeText(version, { ...shared, out, part: "text", width })),
    textWidth: (email.textPart ?? TEXT_PART).width,
    styleBytes,
  };
}

/** Light HTML engines go by the style, the word-processor engine by the attribute. */
const FULL = "width:100%;";

/** Writes the document; gives the octets of its style block. */
function writeDocument(email: Email, context: RenderContext): number {
  const { out, theme, direction, brand, origin } = context;
  const language = escapeHtml(email.language);
  // The body comes first: it finds the dark colours that the style block has to name.
  const body = new Writer(out.pool);
  const levels = headingLevels(email);
  for (const section of email.sections)
    writeSection(section, { ...context, out: body }, (block, inner) => writeBlockCell(block, inner, levels));
  const style = messageCss(theme, email, context.tones, absolute(brand.logoDark?.src ?? "", origin));
  const behind = ground(undefined, "table", context);
  out.raw(
    `<!doctype html><html lang="${language}" dir="${direction}" xmlns:v="urn:schemas-microsoft-com:vml" xmlns:o="urn:schemas-microsoft-com:office:office"><head>` +
      '<meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1">' +
      '<meta name="color-scheme" content="light dark"><meta name="supported-color-schemes" content="light dark">' +
      '<meta name="x-apple-disable-message-reformatting">' +
      '<meta name="format-detection" content="telephone=no,date=no,address=no,email=no,url=no"><title>',
  );
  writeInline(email.envelope.subject, { ...context, marks: false, part: "title" });
  out.raw("</title>");
  writeAnnotations(email, context);
  out.raw(
    `<style>${style}</style>${fontsHtml(theme, brand, origin)}` +
      "<!--[if mso]><xml><o:OfficeDocumentSettings><o:PixelsPerInch>96</o:PixelsPerInch></o:OfficeDocumentSettings></xml><![endif]-->" +
      `</head><body class="${behind.tone}" style="margin:0;padding:0;background-color:${behind.color};">`,
  );
  if (email.envelope.preheader.length > 0) {
    out.raw(
      '<div style="display:none;max-height:0;overflow:hidden;mso-hide:all;font-size:1px;line-height:1px;opacity:0;">',
    );
    writeInline(email.envelope.preheader, { ...context, marks: false });
    out.raw(`${"&zwj;&nbsp;".repeat(90)}</div>`);
  }
  out.raw(
    `<div role="article" aria-roledescription="email" lang="${language}" dir="${direction}" class="${behind.tone}" style="background-color:${behind.color};">`,
  );
  out.append(body.finish());
  if (context.counted && email.links?.openings !== false) {
    out.raw('<img src="');
    out.value({ field: COUNTED_OPENING, fallback: "", format: "asIs", sink: "href" });
    out.raw('" width="1" height="1" alt="" style="display:block;border:0;">');
  }
  out.raw("</div></body></html>");
  return new TextEncoder().encode(style).length;
}

export type CellWriter = (block: Block, context: RenderContext) => void;

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

export function writeSection(section: Section, context: RenderContext, cell: CellWriter): void {
  const { out, theme } = context;
  const full = section.width ?? theme.width;
  const { padding, width } = within(
    innerSpace({ kind: "section", node: section }, theme),
    full,
    2 * (section.border?.width ?? 0),
  );
  const { picture } = section;
  const own = section.contentBackground ?? section.background;
  const open = picture?.open === true && section.contentBackground === undefined;
  const around = ground(section.background, "table", context);
  const { style } = classesOf(section);
  writeFor(section, "div", context, () => {
    const backdrop = picture && { ...picture, color: fillColor(section.background ?? "table", theme) };
    const behind = backdrop && backdropCell(backdrop, context.origin);
    const outer = css({ "background-color": section.background && around.color });
    const turned = context.direction === "rtl" ? ' dir="rtl"' : "";
    const { attribute } = classesOf(section, section.background && !picture && around.tone);
    out.raw(
      `<table ${TABLE} width="100%"${turned}${nodeMark(section.id, "section", !!section.show, context)}${attribute}${styleAttribute(`${FULL}${style}${outer}`)}><tr><td align="center"${behind?.attributes ?? ""}${styleAttribute(behind?.style ?? "")}>`,
    );
    const content = () => {
      out.raw(`<!--[if mso]><table ${TABLE} width="${full}" align="center"><tr><td><![endif]-->`);
      const radius = section.radius ? `${section.radius}px` : undefined;
      // On a picture the words keep their colours in dark, as the picture does.
      const paper = open
        ? { color: undefined, tone: "", inside: fixedGround(backdrop?.color ?? theme.light.table, context) }
        : ground(own, "paper", context);
      const inner = css({
        "max-width": `${full}px`,
        margin: "0 auto",
        "text-align": sideOf("left", context),
        "background-color": paper.color,
        "border-radius": radius,
        overflow: radius && "hidden",
      });
      const cellStyle = css({
        padding: paddingCss(padding),
        ...LONG_WORDS,
        border: borderCss(section.border),
        "border-radius": radius,
      });
      const classes = classAttribute(paper.tone, ...(section.phone ? phoneClasses(section.phone) : []));
      out.raw(
        `<div${classAttribute(paper.tone)} style="${inner}"><table ${TABLE} width="100%" style="${FULL}"><tr><td${classes}${paper.color ? ` bgcolor="${paper.color}"` : ""} style="${cellStyle}">`,
      );
      for (const row of section.rows) writeRow(row, { ...paper.inside, width }, cell);
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
  const { padding, width } = within(innerSpace({ kind: "row", node: row }, theme), context.width);
  const { attribute, style: hide } = classesOf(row);
  const inset = !row.phone?.padding && tooWide(padding) && "inset";
  const behind = ownGround(row.background, context);
  const classes = classAttribute(inset, behind.tone, ...(row.phone ? phoneClasses(row.phone) : []));
  writeFor(row, "div", context, () => {
    const style = css({ "background-color": behind.color, padding: paddingCss(padding) });
    out.raw(
      `<table ${TABLE} width="100%"${nodeMark(row.id, "row", !!row.show, context)}${attribute}${styleAttribute(FULL + hide)}><tr>`,
    );
    out.raw(`<td${classes}${behind.color ? ` bgcolor="${behind.color}"` : ""} style="${style}">`);
    columnsHtml(
      { ...behind.inside, width },
      row.columns.map((column) => columnCell(column, behind.inside, cell)),
      { gap: row.gap ?? theme.space.gap, valign: row.valign, onPhones: row.onPhones },
    );
    out.raw("</td></tr></table>");
  });
}

function columnCell(column: Column, context: RenderContext, cell: CellWriter): ColumnCell {
  const behind = ownGround(column.background, context);
  const inside = (full: number) =>
    within(
      innerSpace({ kind: "column", node: column }, context.theme),
      full,
      2 * (column.border?.width ?? 0),
    );
  return {
    share: column.width,
    attributes: nodeMark(column.id, "column", false, context),
    box: (full) => ({
      style: css({
        "background-color": behind.color,
        padding: column.padding && paddingCss(inside(full).padding),
        border: borderCss(column.border),
        "border-radius": column.radius ? `${column.radius}px` : undefined,
      }),
      bgcolor: behind.color,
      tone: behind.tone,
    }),
    write: (full) => writeColumn(column, { ...behind.inside, width: inside(full).width }, cell),
  };
}

/** A ground of the designer's own, where there is one. */
function ownGround(
  own: Fill | undefined,
  context: RenderContext,
): { color: string | undefined; tone: string; inside: RenderContext } {
  return own === undefined ? { color: undefined, tone: "", inside: context } : ground(own, "paper", context);
}

function writeColumn(column: Column, context: RenderContext, cell: CellWriter): void {
  const { out } = context;
  if (column.blocks.length === 0) {
    if (context.marks) out.raw('<div class="waiting">Drop a block here</div>');
    else out.raw("&nbsp;");
    return;
  }
  out.raw(`<table ${TABLE} width="100%" style="${FULL}">`);
  for (const block of column.blocks) writeFor(block, "tr", context, () => cell(block, context));
  out.raw("</table>");
}

export function writeBlockCell(
  block: Block,
  context: RenderContext,
  levels: ReadonlyMap<string, readonly LevelCase[]>,
): void {
  const { out, theme } = context;
  const { padding, width } = within(innerSpace({ kind: "block", node: block }, theme), context.width);
  const hide = classesOf(block);
  const behind = ownGround(block.background, context);
  const style = css({ padding: paddingCss(padding), "background-color": behind.color });
  const classes = classAttribute(behind.tone, ...(block.phone ? phoneClasses(block.phone) : []));
  const inCell = (body: () => void) => {
    out.raw(`<tr${hide.attribute}${styleAttribute(hide.style)}>`);
    out.raw(
      `<td${classes}${nodeMark(block.id, "block", !!block.show, context)}${behind.color ? ` bgcolor="${behind.color}"` : ""} style="${style}">`,
    );
    body();
    out.raw("</td></tr>");
  };
  const inside = {
    ...behind.inside,
    width,
    block: block.id,
  };
  const write = (level: Level) => inCell(() => blockType(block.type)?.html(block, { ...inside, level }));
  const counted = levels.get(block.id) ?? [{ level: 1 }];
  whenNeeded(
    block,
    context,
    () =>
      out.either(
        counted.flatMap(({ when, level }) => (when ? [{ when, body: () => write(level) }] : [])),
        () => write(counted[counted.length - 1].level),
      ),
    context.marks
      ? () =>
          inCell(() => {
            out.raw('<div class="waiting live">Left out for this reader: its tag is empty for them</div>');
          })
      : undefined,
  );
}
