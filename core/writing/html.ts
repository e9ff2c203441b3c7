import { type ChildNode, type Element, isTag, isText } from "domhandler";
import { parseDocument } from "htmlparser2";
import { type Inline, inlineText, type Paragraph, type RichNode } from "../email";
import { broughtHref } from "../program";
import { inlinesOf, SILENT, styleOf } from "./inline";

/** A piece of writing, without any look. */
export type Piece =
  | { kind: "heading"; level: 1 | 2 | 3; content: Inline[] }
  | { kind: "words"; nodes: RichNode[] }
  | { kind: "quote"; nodes: RichNode[] }
  | { kind: "image"; src: string; alt: string; href?: string }
  | { kind: "button"; content: Inline[]; href: string }
  | { kind: "table"; rows: Inline[][][]; header: boolean }
  | { kind: "divider" };

const BLOCKS = new Set(
  "address article aside blockquote body center dd details div dl dt fieldset figure figcaption footer form h1 h2 h3 h4 h5 h6 header hr html li main nav ol p pre section table tbody td tfoot th thead tr ul".split(
    " ",
  ),
);

/**
 * Reads HTML as writing: headings, paragraphs, lists, quotations, pictures, tables of facts, and links that stand
 * alone, which become buttons. Layout tables are read through; looks are left behind. Lists of word processors, which
 * are paragraphs with marks of their own, become lists again.
 */
export function readHtml(html: string): Piece[] {
  const reader = new Reader();
  reader.blocks(parseDocument(html, { decodeEntities: true }).children);
  return reader.finish();
}

class Reader {
  private readonly pieces: Piece[] = [];
  private loose: ChildNode[] = [];

  finish(): Piece[] {
    this.flush();
    return this.pieces;
  }

  /** Reads what stands in a block: blocks one by one, and the words between them as paragraphs. */
  blocks(nodes: readonly ChildNode[]): void {
    for (const node of nodes) {
      if (isText(node)) this.loose.push(node);
      else if (isTag(node) && !SILENT.has(node.name) && !isHidden(node)) {
        if (node.name === "img") this.image(node);
        else if (node.name === "a" && pictureIn(node)) this.image(pictureIn(node)!, node.attribs.href);
        else if (BLOCKS.has(node.name)) this.block(node);
        else if (holdsBlock(node)) this.blocks(node.children);
        else this.loose.push(node);
      }
    }
    this.flush();
  }

  private block(it: Element): void {
    this.flush();
    const { name } = it;
    if (/^h[1-6]$/.test(name)) {
      const content = inlinesOf(it.children).map(withoutBold);
      const level = Math.min(3, Number(name[1])) as 1 | 2 | 3;
      if (content.length > 0) this.pieces.push({ kind: "heading", level, content });
      for (const image of imagesIn(it)) this.image(image);
    } else if (name === "hr") this.pieces.push({ kind: "divider" });
    else if (name === "ul" || name === "ol") {
      const list = listOf(it);
      if (list) this.words(list);
    } else if (name === "blockquote") {
      const inner = new Reader();
      inner.blocks(it.children);
      const nodes = inner
        .finish()
        .flatMap((piece): RichNode[] => (piece.kind === "words" ? piece.nodes : []));
      if (nodes.length > 0) this.pieces.push({ kind: "quote", nodes });
    } else if (name === "table") this.table(it);
    else if (name === "pre") {
      const lines = textOf(it).replace(/\n+$/, "").split("\n");
      const content = lines.flatMap((line, index): Inline[] => [
        ...(index > 0 ? [{ type: "hardBreak" as const }] : []),
        ...(line === "" ? [] : [{ type: "text" as const, text: line }]),
      ]);
      if (content.length > 0) this.words({ type: "paragraph", content });
    } else if (
      /MsoList|mso-list/i.test(`${it.attribs.class ?? ""} ${it.attribs.style ?? ""}`) &&
      levelOf(it) > 0
    )
      this.markedItem(it);
    else if (name === "p" || !holdsBlock(it)) this.paragraph(it);
    else this.blocks(it.children);
  }

  private paragraph(it: Element): void {
    const images = imagesIn(it);
    for (const image of images) {
      const link = linkAround(image, it);
      this.image(image, link);
    }
    const content = inlinesOf(it.children);
    if (content.length === 0) return;
    const align = styleOf(it, "text-align") || (it.attribs.align ?? "").toLowerCase();
    this.inlines(content, align === "center" || align === "right" ? align : undefined);
  }

  /** Adds a paragraph, or a button when all of it is one short link that looks or stands like one. */
  private inlines(content: Inline[], align?: "center" | "right"): void {
    const [first] = content;
    const link = first.marks?.find((mark) => mark.type === "link");
    const alone =
      content.length === 1 &&
      first.type === "text" &&
      link?.type === "link" &&
      /^https?:/i.test(link.attrs.href);
    if (alone && first.text.length <= 40 && !/^https?:\/\/|^www\.|@/i.test(first.text)) {
      this.pieces.push({
        kind: "button",
        content: [{ type: "text", text: first.text }],
        href: link.attrs.href,
      });
    } else this.words({ type: "paragraph", ...(align && { attrs: { align } }), content });
  }

  private words(node: RichNode): void {
    const last = this.pieces.at(-1);
    if (last?.kind === "words") last.nodes.push(node);
    else this.pieces.push({ kind: "words", nodes: [node] });
  }

  /** A paragraph that a word processor means as the item of a list. */
  private markedItem(it: Element): void {
    const mark = markOf(it);
    const type = /^[0-9ivxlcdma-z]{1,4}[.)]/i.test(mark) ? ("orderedList" as const) : ("bulletList" as const);
    const item = { type: "listItem" as const, content: [paragraph(inlinesOf(it.children))] };
    const last = this.pieces.at(-1);
    const list = last?.kind === "words" ? last.nodes.at(-1) : undefined;
    const level = levelOf(it);
    if (list && list.type !== "paragraph" && list.type === type && level === 1) list.content.push(item);
    else if (list && list.type !== "paragraph" && level > 1) {
      const parent = list.content.at(-1)!;
      const inner = parent.content.at(-1);
      if (inner && inner.type === type) inner.content.push(item);
      else parent.content.push({ type, content: [item] });
    } else this.words({ type, content: [item] });
  }

  private image(it: Element, href?: string): void {
    this.flush();
    const src = (it.attribs.src ?? "").trim();
    const { width, height } = it.attribs;
    // Pictures of one pixel count openings; they show nothing.
    if (!/^(https?:\/\/|\/pictures\/)/i.test(src) || width === "1" || height === "1") return;
    const link = broughtHref(href ?? "");
    this.pieces.push({
      kind: "image",
      src,
      alt: (it.attribs.alt ?? "").trim().slice(0, 500),
      ...(link && { href: link }),
    });
  }

  /** A table of facts becomes a table; one that only lays things out is read through. */
  private table(it: Element): void {
    const rows = rowsOf(it);
    const widths = new Set(rows.map((row) => row.length));
    const facts =
      it.attribs.role !== "presentation" &&
      rows.length > 1 &&
      widths.size === 1 &&
      rows[0].length > 1 &&
      rows[0].length <= 12 &&
      rows.every((row) =>
        row.every((cell) => !imagesIn(cell).length && !find(cell, (inner) => inner.name === "table")),
      );
    if (!facts) {
      for (const row of rows) for (const cell of row) this.blocks(cell.children);
      return;
    }
    const header = rows[0].every((cell) => cell.name === "th");
    this.pieces.push({
      kind: "table",
      rows: rows
        .slice(0, 100)
        .map((row) => row.map((cell) => inlinesOf(cell.children).map(header ? withoutBold : same))),
      header,
    });
  }

  private flush(): void {
    const nodes = this.loose;
    this.loose = [];
    if (nodes.length === 0) return;
    const content = inlinesOf(nodes);
    if (content.length > 0) this.inlines(content);
  }
}

const same = (it: Inline) => it;

/** Headings and headers are bold by themselves. */
function withoutBold(it: Inline): Inline {
  const marks = it.marks?.filter((mark) => mark.type !== "bold");
  const { marks: _, ...bare } = it;
  return (marks && marks.length > 0 ? { ...bare, marks } : bare) as Inline;
}

function paragraph(content: Inline[]): Paragraph {
  return content.length > 0 ? { type: "paragraph", content } : { type: "paragraph" };
}

function listOf(it: Element): RichNode | null {
  const items = it.children.filter(isTag).flatMap((child) => {
    if (child.name !== "li") return [];
    const words: ChildNode[] = [];
    const content: RichNode[] = [];
    const flush = () => {
      const inlines = inlinesOf(words.splice(0));
      if (inlines.length > 0) content.push(paragraph(inlines));
    };
    for (const node of child.children) {
      if (isTag(node) && (node.name === "ul" || node.name === "ol")) {
        flush();
        const inner = listOf(node);
        if (inner) content.push(inner);
      } else if (isTag(node) && BLOCKS.has(node.name)) {
        flush();
        const inlines = inlinesOf(node.children);
        if (inlines.length > 0) content.push(paragraph(inlines));
      } else words.push(node);
    }
    flush();
    return content.length > 0 ? [{ type: "listItem" as const, content }] : [];
  });
  return items.length > 0 ? { type: it.name === "ol" ? "orderedList" : "bulletList", content: items } : null;
}

function rowsOf(table: Element): Element[][] {
  return table.children.filter(isTag).flatMap((child) => {
    if (child.name === "tr") {
      const cells = child.children.filter(isTag).filter((cell) => cell.name === "td" || cell.name === "th");
      return cells.length > 0 ? [cells] : [];
    }
    return /^(thead|tbody|tfoot)$/.test(child.name) ? rowsOf(child) : [];
  });
}

function find(it: Element, wanted: (element: Element) => boolean): Element | null {
  for (const child of it.children) {
    if (!isTag(child)) continue;
    if (wanted(child)) return child;
    const inside = find(child, wanted);
    if (inside) return inside;
  }
  return null;
}

const holdsBlock = (it: Element) =>
  find(it, (inner) => BLOCKS.has(inner.name) || inner.name === "img") !== null;

function imagesIn(it: Element): Element[] {
  return it.children
    .filter(isTag)
    .flatMap((child) => (child.name === "img" ? [child] : SILENT.has(child.name) ? [] : imagesIn(child)));
}

/** The picture of a link that holds nothing else. */
function pictureIn(link: Element): Element | null {
  const images = imagesIn(link);
  return images.length === 1 && inlineText(inlinesOf(link.children)) === "" ? images[0] : null;
}

function linkAround(image: Element, within: Element): string | undefined {
  for (let at = image.parent; at && at !== within; at = at.parent) {
    if (isTag(at) && at.name === "a") return at.attribs.href;
  }
  return undefined;
}

/** Words for nobody's eyes, such as the preheader of an email. */
function isHidden(it: Element): boolean {
  return (
    styleOf(it, "display") === "none" || styleOf(it, "mso-hide") === "all" || it.attribs.hidden !== undefined
  );
}

function levelOf(it: Element): number {
  return Number(
    /\blevel(\d)/i.exec(it.attribs.style ?? "")?.[1] ??
      (/MsoListParagraph/i.test(it.attribs.class ?? "") ? 1 : 0),
  );
}

function markOf(it: Element): string {
  const mark = find(it, (inner) => styleOf(inner, "mso-list") === "ignore");
  return mark ? textOf(mark).trim() : "";
}

function textOf(it: Element): string {
  return it.children
    .map((child) => (isText(child) ? child.data : isTag(child) ? textOf(child) : ""))
    .join("");
}
