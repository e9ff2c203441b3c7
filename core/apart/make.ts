import { createBlock, tableParts } from "../blocks";
import { contrast } from "../color";
import {
  type Block,
  type Column,
  hrefOfMarks,
  type Inline,
  inlineText,
  type Paragraph,
  type RichNode,
  type Row,
  type Section,
  type Theme,
} from "../email";
import type { Band, Bit, Side } from "./bits";
import { endsSubscription, leadsToWebVersion, withoutEnding } from "./footer";
import { type Habit, levelOf } from "./theme";

/** What is told of what was made. */
export interface Made {
  sections: Section[];
  /** What the link was called that ended the subscription; null when there was none. */
  unsubscribe: string | null;
  /** Words of links that led to the letter on the web. */
  webVersion: string | null;
}

const isFooter = (nodes: readonly RichNode[]): boolean =>
  nodes.some((node) =>
    node.type === "paragraph"
      ? (node.content ?? []).some((it) => {
          const href = hrefOfMarks(it);
          return href !== undefined && endsSubscription(inlineText([it]), href);
        })
      : node.content.some((item) => isFooter(item.content)),
  );

/** Makes sections of bands: what stands on one ground is one of them. */
export function made(bands: readonly Band[], habit: Habit, theme: Theme, newId: () => string): Made {
  const maker = new Maker(habit, theme, newId);
  const sections: Section[] = [];
  let last: Band | null = null;
  for (const band of bands) {
    const rows = rowsOf(band, maker, newId);
    if (rows.length === 0) continue;
    const same =
      last && last.ground === band.ground && last.outer === band.outer && last.picture === band.picture;
    const section = sections.at(-1);
    if (same && section) section.rows.push(...rows);
    else
      sections.push({
        id: newId(),
        ...(band.outer !== habit.table && { background: band.outer }),
        ...(band.ground !== habit.paper && { contentBackground: band.ground }),
        ...(band.picture && {
          picture: { src: band.picture, position: "center" as const, tile: false, open: true },
          background: band.outer !== habit.table ? band.outer : band.ground,
        }),
        rows,
      });
    last = band;
  }
  for (const section of sections) withoutMargins(section, theme);
  return { sections, unsubscribe: maker.unsubscribe, webVersion: maker.webVersion };
}

const NONE = { top: 0, right: 0, bottom: 0, left: 0 };

const toEdges = (bit: Bit) => bit.kind === "image" && bit.edges;

/** The rows of a band: pictures that go from edge to edge have rows of their own. */
function rowsOf(band: Band, maker: Maker, newId: () => string): Row[] {
  const groups: Side[][] = [];
  if (band.sides.length > 1) groups.push(band.sides);
  else
    for (const bit of band.sides[0]?.bits ?? []) {
      const last = groups.at(-1)?.[0].bits;
      if (last && toEdges(last[0]) === toEdges(bit)) last.push(bit);
      else groups.push([{ ...band.sides[0], bits: [bit] }]);
    }
  return groups.flatMap((sides): Row[] => {
    const columns = sides.map((side) => maker.column(side));
    if (columns.every(({ blocks }) => blocks.length === 0)) return [];
    const wide = sides.length === 1 && toEdges(sides[0].bits[0]);
    if (!wide) return [{ id: newId(), columns }];
    for (const block of columns[0].blocks) block.padding = NONE;
    return [{ id: newId(), padding: NONE, columns }];
  });
}

/** Where a section begins or ends with what goes to the edges, there is no space before or after it. */
function withoutMargins(section: Section, theme: Theme): void {
  const [first] = section.rows;
  const last = section.rows.at(-1);
  if (!first.padding && !last?.padding) return;
  const { section: space } = theme.space;
  section.padding = { ...NONE, top: first.padding ? 0 : space, bottom: last?.padding ? 0 : space };
}

class Maker {
  unsubscribe: string | null = null;
  webVersion: string | null = null;

  constructor(
    private readonly habit: Habit,
    private readonly theme: Theme,
    private readonly newId: () => string,
  ) {}

  column({ share, ground, bits }: Side): Column {
    return {
      id: this.newId(),
      width: share,
      // What stands on a ground of its own does not touch its edges.
      ...(ground && { background: ground, padding: { top: 8, right: 16, bottom: 8, left: 16 } }),
      blocks: this.blocks(bits),
    };
  }

  private blocks(bits: readonly Bit[]): Block[] {
    const blocks: Block[] = [];
    let words: { nodes: RichNode[]; bit: Bit } | null = null;
    const flush = () => {
      if (words) blocks.push(...this.text(words.nodes, words.bit));
      words = null;
    };
    const say = (nodes: RichNode[], bit: Bit) => {
      if (words && alike(words.bit, bit)) words.nodes.push(...nodes);
      else {
        flush();
        words = { nodes: [...nodes], bit };
      }
    };
    for (const bit of bits) {
      if (bit.kind === "words") say(bit.nodes, bit);
      else if (bit.kind === "line") {
        const level = levelOf(bit, this.habit);
        if (level === null) say([paragraph(bit)], bit);
        else {
          flush();
          blocks.push(this.heading(bit, level));
        }
      } else {
        flush();
        blocks.push(this.block(bit));
      }
    }
    flush();
    return blocks;
  }

  private heading(bit: Bit & { kind: "line" }, level: 1 | 2 | 3): Block {
    return {
      ...createBlock("heading", this.newId()),
      level,
      content: withoutBold(bit.content),
      ...(bit.look.align !== "left" && { align: bit.look.align }),
      ...(Math.abs(bit.look.size - this.theme.headings[`h${level}`].size) >= 2 && {
        size: Math.min(140, Math.max(10, Math.round(bit.look.size))),
      }),
      ...this.own(bit, "heading"),
    };
  }

  /** Words; where they end the subscription, the footer that Septima needs. */
  private text(nodes: RichNode[], bit: Bit): Block[] {
    const shown = this.withoutWebVersion(nodes);
    if (isFooter(shown) && this.unsubscribe === null) {
      const { nodes: rest, words } = withoutEnding(shown);
      this.unsubscribe = words || "Unsubscribe";
      return [
        {
          ...createBlock("footer", this.newId()),
          content: { type: "doc", content: rest.map(unaligned) },
          unsubscribeWords: this.unsubscribe.slice(0, 120),
          align: bit.look.align,
        },
      ];
    }
    if (shown.length === 0) return [];
    const size = Math.round(bit.look.size);
    return [
      {
        ...createBlock("text", this.newId()),
        content: { type: "doc", content: shown },
        ...(bit.look.align !== "left" && { align: bit.look.align }),
        ...(Math.abs(size - this.habit.size) >= 1 && { size: Math.min(40, Math.max(10, size)) }),
        ...this.own(bit, "text"),
      },
    ];
  }

  /** The words stay; the link leads to a letter that is not this one. */
  private withoutWebVersion(nodes: readonly RichNode[]): RichNode[] {
    const line = (content: readonly Inline[]): Inline[] =>
      content.map((it) => {
        const href = hrefOfMarks(it);
        if (href === undefined || !leadsToWebVersion(inlineText([it]), href)) return it;
        this.webVersion ??= inlineText([it]).trim();
        const marks = it.marks?.filter(({ type }) => type !== "link");
        const { marks: _, ...plain } = it;
        return (marks && marks.length > 0 ? { ...plain, marks } : plain) as Inline;
      });
    return nodes.map((node) =>
      node.type === "paragraph"
        ? { ...node, content: line(node.content ?? []) }
        : {
            ...node,
            content: node.content.map((item) => ({ ...item, content: this.withoutWebVersion(item.content) })),
          },
    );
  }

  /** A colour of its own, where what the theme gives would be another and it can be read. */
  private own({ look }: Bit, role: "text" | "heading"): { color?: string } {
    if (look.color === (role === "text" ? this.habit.color : this.theme.light.heading)) return {};
    if (contrast(look.color, look.ground) < 2) return {};
    return { color: look.color };
  }

  private block(bit: Exclude<Bit, { kind: "line" | "words" }>): Block {
    const id = this.newId();
    switch (bit.kind) {
      case "quote":
        return {
          ...createBlock("quote", id),
          content: { type: "doc", content: bit.nodes },
          source: [],
          off: ["source"],
        };
      case "image": {
        const { src, alt, href, width, height, share, radius } = bit;
        return {
          ...createBlock("image", id),
          src,
          alt,
          decorative: alt === "",
          width: share,
          align: bit.look.align,
          ...(href && { href }),
          ...(width && height && { natural: { width, height } }),
          ...(radius > 0 && { radius: Math.min(100, Math.round(radius)) }),
        };
      }
      case "overlaid": {
        const { src, alt, natural, height, words, look } = bit;
        const nodes = words.flatMap((it) => (it.kind === "line" ? [paragraph(it)] : it.nodes));
        return {
          ...createBlock("overlaid", id),
          src,
          alt,
          content: { type: "doc", content: nodes },
          ...(natural && { natural }),
          ...(height !== null && { height }),
          valign: "middle",
          align: look.align,
          color: look.color,
          size: Math.min(60, Math.max(10, Math.round(look.size))),
          // Nothing stood between the words and the picture; without the picture they stand on this.
          veil: contrast(look.color, look.ground) >= 3 ? look.ground : fitting(look.color),
          density: 0,
        };
      }
      case "button": {
        const { href, face, radius, edge, look } = bit;
        const usual = face === this.theme.light.accent && look.color === this.theme.light.onAccent;
        return {
          ...createBlock("button", id),
          content: bit.content,
          href,
          align: look.align,
          ...(face && !usual && { face, color: look.color }),
          ...(edge && {
            face: look.ground,
            color: look.color,
            border: { width: 2, style: "solid" as const, color: look.color },
          }),
          ...(Math.round(radius) !== this.theme.button.radius && {
            radius: Math.min(60, Math.round(radius)),
          }),
          ...(Math.abs(look.size - this.theme.button.size) >= 2 && {
            size: Math.min(40, Math.max(10, Math.round(look.size))),
          }),
        };
      }
      case "social":
        return {
          ...createBlock("social", id),
          items: bit.items.map(({ src, label, href }) => ({
            id: this.newId(),
            glyph: glyphOf(label, href),
            picture: src,
            label,
            href,
          })),
          align: bit.look.align,
          size: bit.size,
        };
      case "menu":
        return {
          ...createBlock("menu", id),
          items: bit.items.map(({ label, href }) => ({ id: this.newId(), label, href })),
          size: Math.min(24, Math.max(10, Math.round(bit.look.size))),
          ...(bit.look.color !== this.theme.light.link && { color: bit.look.color }),
        };
      case "table":
        return { ...createBlock("table", id), ...tableParts(bit.rows, bit.columns), header: bit.header };
      case "divider":
        return createBlock("divider", id);
    }
  }
}

/** What words in a colour can be read on. */
const fitting = (color: string) =>
  contrast(color, "#1E1B24") > contrast(color, "#FFFFFF") ? "#1E1B24" : "#FFFFFF";

const alike = (one: Bit, other: Bit) =>
  Math.abs(one.look.size - other.look.size) < 1 &&
  one.look.color === other.look.color &&
  one.look.align === other.look.align;

/** A line as a paragraph; where all of it is bold and it is no heading, its words say so. */
const paragraph = (bit: Bit & { kind: "line" }): Paragraph => ({
  type: "paragraph",
  content: bit.look.bold ? bit.content.map(emboldened) : bit.content,
});

const emboldened = (it: Inline): Inline =>
  it.type === "hardBreak" || it.marks?.some(({ type }) => type === "bold")
    ? it
    : { ...it, marks: [{ type: "bold" }, ...(it.marks ?? [])] };

const unaligned = (node: RichNode): RichNode =>
  node.type === "paragraph" ? { type: "paragraph", content: node.content } : node;

function withoutBold(content: readonly Inline[]): Inline[] {
  return content.map((it): Inline => {
    const marks = it.marks?.filter(({ type }) => type !== "bold");
    const { marks: _, ...plain } = it;
    return (marks && marks.length > 0 ? { ...plain, marks } : plain) as Inline;
  });
}

/** A drawing that fits what a link leads to, for where its own picture is not shown. */
function glyphOf(label: string, href: string) {
  const text = `${label} ${href}`.toLowerCase();
  if (/film|video|tube|watch/.test(text)) return "film" as const;
  if (/photo|picture|image|foto/.test(text)) return "camera" as const;
  if (/chat|talk|message|forum|community/.test(text)) return "talk" as const;
  return "globe" as const;
}
