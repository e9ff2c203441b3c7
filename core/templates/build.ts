/** What templates are written with: short names for blocks, and a short way to write words. */
import { createBlock, readyList, tableParts } from "../blocks";
import { drawing } from "../drawings";
import {
  type Block,
  type Email,
  equalWidths,
  type Fill,
  type Inline,
  type Mark,
  paragraphOf,
  type RichDoc,
  type Row,
  SCHEMA_VERSION,
  type Section,
} from "../email";
import { type GlyphName, numbered } from "../markup";

const NONE = { top: 0, right: 0, bottom: 0, left: 0 };
const SITE = "https://tansyrow.example";

/**
 * Words as templates write them: `**bold**`, `_italic_`, `[words](address)`, and `{field|fallback}` for reader data; a
 * line break within a paragraph is a soft one.
 */
export function words(text: string): Inline[] {
  const out: Inline[] = [];
  const pattern = /\*\*(.+?)\*\*|_([^_]+)_|\[([^\]]+)\]\(([^)]+)\)|\{([^|}]+)\|([^}]*)\}|\n/g;
  let from = 0;
  const plain = (until: number) => {
    if (until > from) out.push({ type: "text", text: text.slice(from, until) });
  };
  const marked = (said: string, mark: Mark) => out.push({ type: "text", text: said, marks: [mark] });
  for (const found of text.matchAll(pattern)) {
    plain(found.index);
    const [whole, bold, italic, linked, href, field, fallback] = found;
    if (bold) marked(bold, { type: "bold" });
    else if (italic) marked(italic, { type: "italic" });
    else if (linked) marked(linked, { type: "link", attrs: { href } });
    else if (field) out.push({ type: "mergeTag", attrs: { field, fallback, format: "asIs" } });
    else out.push({ type: "hardBreak" });
    from = found.index + whole.length;
  }
  plain(text.length);
  return out;
}

/** A document of one paragraph for each argument. */
const prose = (...paragraphs: string[]): RichDoc => ({
  type: "doc",
  content: paragraphs.map((it) => paragraphOf(...words(it))),
});

/** A picture as blocks take it, with its size in px. */
export interface Shown {
  src: string;
  natural: { width: number; height: number };
}

/** A drawing of ours by its name. */
function drawn(name: string): Shown {
  const found = drawing(name);
  if (!found) throw new Error(`there is no drawing “${name}”`);
  const { width, height } = found;
  return { src: `/drawings/${name}-solid.png`, natural: { width, height } };
}

type More = Record<string, unknown>;

function counted(): () => string {
  let last = 0;
  return () => `t${++last}`;
}

/** Makes the parts of one design. @param from where ids and pictures come from: counted, and our drawings */
export function kit({
  id = counted(),
  find = drawn,
}: {
  id?: () => string;
  find?: (picture: string) => Shown;
} = {}) {
  const shown = (name: string, alt: string) => ({ ...find(name), alt });
  const block = (type: Parameters<typeof createBlock>[0], more: More): Block => ({
    ...createBlock(type, id()),
    ...more,
  });
  const row = (columns: Block[][], more: Partial<Row> & { widths?: number[] } = {}): Row => {
    const { widths = equalWidths(columns.length), ...rest } = more;
    return {
      id: id(),
      columns: columns.map((blocks, index) => ({ id: id(), width: widths[index], blocks })),
      ...rest,
    };
  };
  const section = (rows: Row[], more: Partial<Section> = {}): Section => ({ id: id(), rows, ...more });
  const b = {
    h1: (text: string, more: More = {}) => block("heading", { level: 1, content: words(text), ...more }),
    h2: (text: string, more: More = {}) => block("heading", { level: 2, content: words(text), ...more }),
    h3: (text: string, more: More = {}) => block("heading", { level: 3, content: words(text), ...more }),
    text: (...paragraphs: string[]) => block("text", { content: prose(...paragraphs) }),
    /** A line to one side, smaller than the rest. */
    aside: (text: string, align: "left" | "center" | "right" = "left", size = 14) =>
      block("text", { content: prose(text), align, size }),
    list: (...points: string[]) =>
      block("text", {
        content: {
          type: "doc",
          content: [
            {
              type: "bulletList",
              content: points.map((point) => ({ type: "listItem", content: [paragraphOf(...words(point))] })),
            },
          ],
        },
      }),
    picture: (name: string, alt: string, more: More = {}) => block("image", { ...shown(name, alt), ...more }),
    captioned: (name: string, alt: string, caption: string) =>
      block("captioned", { ...shown(name, alt), content: words(caption) }),
    beside: (name: string, alt: string, paragraphs: string[], more: More = {}) =>
      block("beside", { ...shown(name, alt), content: prose(...paragraphs), ...more }),
    over: (name: string, paragraphs: string[], more: More = {}) => {
      const { src, natural } = shown(name, "");
      return block("overlaid", { src, natural, content: prose(...paragraphs), ...more });
    },
    pictures: (across: number, ...all: [name: string, alt: string][]) =>
      block("imageSet", {
        across,
        pictures: numbered(all.map(([name, alt]) => ({ ...shown(name, alt), decorative: false }))),
      }),
    button: (label: string, path: string, more: More = {}) =>
      block("button", { content: words(label), href: SITE + path, ...more }),
    pair: (first: string, firstPath: string, second: string, secondPath: string, more: More = {}) =>
      block("pair", {
        content: words(first),
        href: SITE + firstPath,
        second: words(second),
        secondHref: SITE + secondPath,
        ...more,
      }),
    boxed: (paragraphs: string[], more: More = {}) =>
      block("boxed", { content: prose(...paragraphs), ...more }),
    quote: (said: string, by: string) => block("quote", { content: prose(said), source: words(by) }),
    points: (...all: [glyph: GlyphName, text: string][]) =>
      block("icons", { items: numbered(all.map(([glyph, text]) => ({ glyph, content: words(text) }))) }),
    table: (rows: string[][], widths: readonly number[], more: More = {}) => {
      const cells = rows.map((row) => row.map(words));
      return block("table", {
        ...tableParts(
          cells,
          widths.map((width) => ({ width })),
        ),
        ...more,
      });
    },
    survey: (question: string, low: string, high: string, more: More = {}) =>
      block("survey", { content: words(question), low: words(low), high: words(high), ...more }),
    signed: (greeting: string, name: string, role: string) =>
      block("signature", {
        ...shown("person", "A gardener in a straw hat"),
        greeting: prose(greeting),
        content: words(name),
        role: words(role),
      }),
    menu: (...all: [label: string, path: string][]) =>
      block("menu", { items: numbered(all.map(([label, path]) => ({ label, href: SITE + path }))) }),
    social: (more: More = {}) =>
      block("social", {
        items: numbered([
          { glyph: "globe", label: "Website", href: SITE },
          { glyph: "camera", label: "Pictures", href: "https://pictures.example/tansyrow" },
          { glyph: "film", label: "Films", href: "https://films.example/tansyrow" },
        ]),
        ...more,
      }),
    refer: (asked: string, label: string) =>
      block("refer", { words: prose(asked), content: words(label), href: `${SITE}/letters` }),
    meeting: (more: More) => block("appointment", { zone: "Europe/London", ...more }),
    countdown: (text: string, until: string) =>
      block("countdown", { content: words(text), until, zone: "Europe/London" }),
    articles: (source: string, count: number) => block("picks", { ...readyList("articles"), source, count }),
    rule: (more: More = {}) => block("divider", more),
    gap: (height: number) => block("spacer", { height }),
    row,
    section,
    /** A section of one column. */
    stack: (...blocks: Block[]) => section([row([blocks])]),
    /** The same on one of the theme's colours, from edge to edge of the paper. */
    band: (fill: Fill, blocks: Block[], more: Partial<Section> = {}) =>
      section([row([blocks])], { contentBackground: fill, ...more }),
    /** The name of the brand at the left, a few words at the right. */
    masthead: (aside: string) =>
      section([row([[b.h3("{brand.name|Our house}")], [b.aside(aside, "right")]], { onPhones: "beside" })], {
        name: "Masthead",
      }),
    /** A picture from edge to edge. */
    hero: (picture: Block) =>
      section([row([[{ ...picture, padding: NONE, radius: 0 }]], { padding: NONE })], {
        padding: NONE,
        name: "Picture",
      }),
    footer: (align: "left" | "center" = "center") =>
      section([row([[block("footer", { align })]])], { name: "Footer" }),
  };
  return b;
}

export type Kit = ReturnType<typeof kit>;

/** A whole design; the sender is filled in when somebody starts from it. */
export function design(theme: string, subject: string, preheader: string, sections: Section[]): Email {
  return {
    schema: SCHEMA_VERSION,
    language: "en",
    theme,
    envelope: {
      subject: words(subject),
      preheader: words(preheader),
      sender: { name: [], address: "" },
    },
    sections,
  };
}
