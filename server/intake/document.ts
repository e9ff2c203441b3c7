/**
 * Reads a word processor's document (ECMA-376, part 1: WordprocessingML) as HTML with its looks in the elements: words
 * with their colours, paragraphs with their alignment, lists, tables, links and pictures.
 */
import { type ChildNode, type Element, isTag, isText } from "domhandler";
import { strFromU8, unzipSync } from "fflate";
import { parseDocument } from "htmlparser2";
import { escapeHtml } from "~/core/program";
import { Refusal } from "../refusal";

export interface DocumentHtml {
  html: string;
  pictures: { path: string; name: string; bytes: Uint8Array }[];
  lost: string[];
}

/** The most that a document may hold when it is unpacked, in octets. */
const GREATEST = 80_000_000;

const named = (nodes: readonly ChildNode[], name: string): Element[] =>
  nodes.filter((node): node is Element => isTag(node) && node.name === name);
const child = (element: Element | undefined, name: string): Element | undefined =>
  element && named(element.children, name)[0];
const valueIn = (element: Element | undefined): string | undefined => element?.attribs["w:val"];
/** Whether a property is on: it is there, and does not say that it is off. */
const isOn = (properties: Element | undefined, name: string): boolean => {
  const one = child(properties, name);
  return one !== undefined && !/^(0|false|off|none)$/.test(valueIn(one) ?? "1");
};
const within = (nodes: readonly ChildNode[], name: string): Element[] =>
  nodes.flatMap((node) =>
    isTag(node) ? [...(node.name === name ? [node] : []), ...within(node.children, name)] : [],
  );

const HIGHLIGHTS: Record<string, string> = {
  yellow: "#FFFF00",
  green: "#00FF00",
  cyan: "#00FFFF",
  magenta: "#FF00FF",
  lightGray: "#D3D3D3",
  red: "#FF0000",
  blue: "#0000FF",
};

/** @throws Refusal when it is damaged, or no document */
export function readDocx(name: string, data: Uint8Array): DocumentHtml {
  const damaged = new Refusal(
    `“${name}” is damaged, or no .docx document. Save it once more as .docx and try again.`,
  );
  let octets = 0;
  let files: Record<string, Uint8Array>;
  try {
    files = unzipSync(data, {
      filter(file) {
        octets += file.originalSize;
        if (octets > GREATEST)
          throw new Refusal(
            `“${name}” holds more than ${GREATEST / 1_000_000} MB when it is unpacked. Take a part of it.`,
          );
        return /^word\/(document|styles|numbering|footnotes)\.xml$|^word\/_rels\/document\.xml\.rels$|^word\/media\//.test(
          file.name,
        );
      },
    });
  } catch (error) {
    throw error instanceof Refusal ? error : damaged;
  }
  if (!files["word/document.xml"]) throw damaged;
  return new DocumentReader(name, files).read();
}

class DocumentReader {
  private readonly pictures: DocumentHtml["pictures"] = [];
  private readonly lost = new Set<string>();
  private readonly links = new Map<string, string>();
  private readonly headings = new Map<string, string>();
  private readonly ordered = new Map<string, boolean>();
  private readonly notes = new Map<string, string>();
  private readonly cited: string[] = [];

  constructor(
    private readonly name: string,
    private readonly files: Record<string, Uint8Array>,
  ) {}

  private xml(path: string): ChildNode[] {
    const file = this.files[path];
    return file ? parseDocument(strFromU8(file), { xmlMode: true }).children : [];
  }

  read(): DocumentHtml {
    for (const { attribs } of within(this.xml("word/_rels/document.xml.rels"), "Relationship"))
      this.links.set(attribs.Id, attribs.Target);
    for (const style of within(this.xml("word/styles.xml"), "w:style")) {
      const label = (valueIn(child(style, "w:name")) ?? "").toLowerCase();
      const level = /^heading (\d)/.exec(label)?.[1] ?? (label === "title" ? "1" : null);
      if (level) this.headings.set(style.attribs["w:styleId"], `h${Math.min(6, Number(level))}`);
      else if (/quote/.test(label)) this.headings.set(style.attribs["w:styleId"], "blockquote");
    }
    this.readNumbering();
    for (const note of within(this.xml("word/footnotes.xml"), "w:footnote"))
      this.notes.set(
        note.attribs["w:id"],
        named(note.children, "w:p")
          .map((it) => this.runs(it.children))
          .join(" "),
      );
    const [body] = within(this.xml("word/document.xml"), "w:body");
    let html = this.blocks(body?.children ?? []);
    if (this.cited.length > 0)
      html += `<hr>${this.cited.map((words, index) => `<p><sup>${index + 1}</sup> ${words}</p>`).join("")}`;
    return {
      html: `<div style="font-size:16px">${html}</div>`,
      pictures: this.pictures,
      lost: [...this.lost],
    };
  }

  private readNumbering(): void {
    const xml = this.xml("word/numbering.xml");
    const kinds = new Map<string, Element[]>();
    for (const kind of within(xml, "w:abstractNum"))
      kinds.set(kind.attribs["w:abstractNumId"], named(kind.children, "w:lvl"));
    for (const list of within(xml, "w:num"))
      for (const level of kinds.get(valueIn(child(list, "w:abstractNumId")) ?? "") ?? [])
        this.ordered.set(
          `${list.attribs["w:numId"]} ${level.attribs["w:ilvl"]}`,
          !/^(bullet|none)$/.test(valueIn(child(level, "w:numFmt")) ?? "bullet"),
        );
  }

  /** Paragraphs, lists and tables, one after the other. */
  private blocks(nodes: readonly ChildNode[]): string {
    let html = "";
    /** The lists that are open, the outermost first. */
    const open: string[] = [];
    const close = (to: number) => {
      while (open.length > to) html += `</li></${open.pop()}>`;
    };
    for (const node of nodes) {
      if (!isTag(node)) continue;
      if (node.name === "w:p") {
        const properties = child(node, "w:pPr");
        const numbers = child(properties, "w:numPr");
        const list = valueIn(child(numbers, "w:numId"));
        if (list && list !== "0") {
          const level = Math.min(8, Number(valueIn(child(numbers, "w:ilvl")) ?? 0));
          const tag = this.ordered.get(`${list} ${level}`) ? "ol" : "ul";
          close(level + 1);
          if (open.length === level + 1 && open[level] === tag) html += "</li><li>";
          else {
            close(level);
            while (open.length <= level) {
              html += `<${tag}><li>`;
              open.push(tag);
            }
          }
          html += this.runs(node.children);
          continue;
        }
        close(0);
        html += this.paragraph(node, properties);
      } else if (node.name === "w:tbl") {
        close(0);
        html += this.table(node);
      } else if (/^(w:sdt|w:sdtContent|w:ins|w:moveTo|w:customXml|w:smartTag)$/.test(node.name))
        html += this.blocks(node.children);
    }
    close(0);
    return html;
  }

  private paragraph(node: Element, properties: Element | undefined): string {
    const style = valueIn(child(properties, "w:pStyle")) ?? "";
    // Without a list of styles their usual names say what they are.
    const tag = this.headings.get(style) ?? (/^heading([1-6])$/i.exec(style)?.[1].replace(/^/, "h") || "p");
    const side = { center: "center", right: "right", end: "right" }[valueIn(child(properties, "w:jc")) ?? ""];
    const boxes = within(node.children, "w:txbxContent");
    const words = this.runs(node.children);
    const aligned = side ? ` style="text-align:${side}"` : "";
    const inner = tag === "blockquote" ? `<p>${words}</p>` : words;
    // What stands in a box of its own follows the paragraph that holds it; each is written twice, for older programs.
    const boxed = boxes
      .slice(0, Math.max(1, Math.ceil(boxes.length / 2)))
      .map((box) => this.blocks(box.children))
      .join("");
    return `${words === "" ? "" : `<${tag}${aligned}>${inner}</${tag}>`}${boxed}`;
  }

  private table(node: Element): string {
    const rows = named(node.children, "w:tr");
    const first = child(child(node, "w:tblPr"), "w:tblLook")?.attribs["w:firstRow"] === "1";
    const written = rows.map((row, index) => {
      const head = isOn(child(row, "w:trPr"), "w:tblHeader") || (first && index === 0 && rows.length > 1);
      const cells = named(row.children, "w:tc").map((cell) => {
        const span = Number(valueIn(child(child(cell, "w:tcPr"), "w:gridSpan")) ?? 1);
        const fill = child(child(cell, "w:tcPr"), "w:shd")?.attribs["w:fill"];
        const look = fill && /^[0-9a-f]{6}$/i.test(fill) ? ` bgcolor="#${fill}"` : "";
        const tag = head ? "th" : "td";
        return `<${tag}${span > 1 ? ` colspan="${span}"` : ""}${look}>${this.blocks(cell.children)}</${tag}>`;
      });
      return `<tr>${cells.join("")}</tr>`;
    });
    return `<table border="1" width="600">${written.join("")}</table>`;
  }

  /** Words, links and pictures within a paragraph. */
  private runs(nodes: readonly ChildNode[]): string {
    return nodes
      .map((node): string => {
        if (!isTag(node)) return "";
        switch (node.name) {
          case "w:r":
            return this.run(node);
          case "w:hyperlink": {
            const target = this.links.get(node.attribs["r:id"] ?? "");
            const inner = this.runs(node.children);
            return target ? `<a href="${escapeHtml(target)}">${inner}</a>` : inner;
          }
          case "w:del":
          case "w:moveFrom":
            this.lost.add("words that were deleted with changes tracked");
            return "";
          case "m:oMath":
          case "m:oMathPara":
            this.lost.add("the form of formulas; their signs stay");
            return within(node.children, "m:t")
              .map(({ children }) => text(children))
              .join("");
          case "w:commentRangeStart":
            this.lost.add("comments");
            return "";
          case "w:ins":
          case "w:moveTo":
          case "w:sdt":
          case "w:sdtContent":
          case "w:smartTag":
          case "w:fldSimple":
          case "w:customXml":
            return this.runs(node.children);
          default:
            return "";
        }
      })
      .join("");
  }

  private run(node: Element): string {
    const properties = child(node, "w:rPr");
    if (isOn(properties, "w:vanish")) {
      this.lost.add("hidden words");
      return "";
    }
    const inner = node.children.map((one) => (isTag(one) ? this.piece(one) : "")).join("");
    if (inner === "") return "";
    const styles: string[] = [];
    const color = valueIn(child(properties, "w:color"));
    if (color && /^[0-9a-f]{6}$/i.test(color)) styles.push(`color:#${color}`);
    const mark = HIGHLIGHTS[valueIn(child(properties, "w:highlight")) ?? ""];
    if (mark) styles.push(`background-color:${mark}`);
    const raised = { superscript: "sup", subscript: "sub" }[valueIn(child(properties, "w:vertAlign")) ?? ""];
    const tags = [
      isOn(properties, "w:b") && "b",
      isOn(properties, "w:i") && "i",
      isOn(properties, "w:u") && "u",
      (isOn(properties, "w:strike") || isOn(properties, "w:dstrike")) && "s",
      raised,
    ].filter((tag): tag is string => Boolean(tag));
    const wrapped = tags.reduce((words, tag) => `<${tag}>${words}</${tag}>`, inner);
    return styles.length > 0 ? `<span style="${styles.join(";")}">${wrapped}</span>` : wrapped;
  }

  private piece(node: Element): string {
    switch (node.name) {
      case "w:t":
        return escapeHtml(text(node.children));
      case "w:tab":
        return " ";
      case "w:br":
        return node.attribs["w:type"] === "page" ? "" : "<br>";
      case "w:cr":
        return "<br>";
      case "w:noBreakHyphen":
        return "\u2011";
      case "w:footnoteReference": {
        const words = this.notes.get(node.attribs["w:id"]);
        if (words === undefined) return "";
        this.cited.push(words);
        return `<sup>${this.cited.length}</sup>`;
      }
      case "w:drawing":
      case "w:pict":
      case "w:object":
      case "mc:AlternateContent":
        return this.picture(node);
      default:
        return "";
    }
  }

  private picture(node: Element): string {
    const [blip] = within(node.children, "a:blip");
    const [old] = within(node.children, "v:imagedata");
    const id = blip?.attribs["r:embed"] ?? old?.attribs["r:id"];
    const target = id && this.links.get(id);
    const bytes = target && this.files[`word/${target.replace(/^\/?word\//, "")}`];
    if (!bytes) {
      if (within(node.children, "c:chart").length > 0) this.lost.add("charts: put them in as pictures");
      else if (within(node.children, "w:txbxContent").length === 0)
        this.lost.add("drawings of the word processor: put them in as pictures");
      return "";
    }
    const [extent] = within(node.children, "wp:extent");
    const [about] = within(node.children, "wp:docPr");
    // In English Metric Units, of which a px at 96 to the inch has 9,525.
    const px = (value: string | undefined) => Math.round(Number(value ?? 0) / 9525);
    const path = `/pictures/taken-${this.pictures.length}.x`;
    this.pictures.push({ path, name: target.split("/").at(-1) ?? `picture of ${this.name}`, bytes });
    const [width, height] = [px(extent?.attribs.cx), px(extent?.attribs.cy)];
    return `<img src="${path}" alt="${escapeHtml(about?.attribs.descr ?? "")}"${width > 0 ? ` width="${width}"` : ""}${height > 0 ? ` height="${height}"` : ""}>`;
  }
}

const text = (nodes: readonly ChildNode[]): string =>
  nodes.map((node) => (isText(node) ? node.data : "")).join("");
