import { BLOCK_TYPES, type BlockTypeName, createBlock } from "../blocks";
import { type Block, type Email, paragraphOf, SCHEMA_VERSION } from "../email";

/** Colours of the designer's own for everything that can have one: what is behind, and words chosen for it. */
export interface Colours {
  ground: string;
  paper: string;
  row: string;
  column: string;
  block: string;
  face: string;
  onFace: string;
  words: string;
  marked: string;
  highlight: string;
  /** Whether the words can be read on the theme's paper too. */
  onPaper: boolean;
}

/** Two designers: one likes everything pale, the other works on dark. */
export const PALE: Colours = {
  ground: "#F7E3C8",
  paper: "#FFF6E3",
  row: "#E4F3E6",
  column: "#E1ECF9",
  block: "#FBE3EC",
  face: "#0F5C5C",
  onFace: "#FFFFFF",
  words: "#5A1F3D",
  marked: "#7A1F1F",
  highlight: "#FFF0A8",
  onPaper: true,
};
export const DUSK: Colours = {
  ground: "#101A2B",
  paper: "#16233A",
  row: "#2A1838",
  column: "#123033",
  block: "#33202A",
  face: "#F2C14E",
  onFace: "#22190A",
  words: "#F3DFB8",
  marked: "#FFC9B8",
  highlight: "#4A3B12",
  onPaper: false,
};

/** What each type has of colours, by the names of its own properties. */
function inColours(block: Block, { words, face, onFace, block: ground, highlight }: Colours): Block {
  switch (block.type) {
    case "button":
    case "survey":
    case "countdown":
      return { ...block, face, color: onFace };
    case "pair":
      return { ...block, face, color: onFace, secondFace: words, secondColor: ground };
    case "coupon":
      return { ...block, face: ground, edge: words, batch: "spring", href: "https://shop.example/" };
    case "boxed":
      return { ...block, face: ground, edge: words, color: words };
    case "overlaid":
      return { ...block, veil: "#1E1B24", density: 70, src: "/pictures/over.jpg" };
    case "table":
      return {
        ...block,
        zebra: true,
        headFace: ground,
        zebraFace: highlight,
        color: words,
        lines: "grid",
      };
    case "quote":
      return { ...block, color: words, bar: face };
    case "icons":
      return { ...block, color: words, iconColor: words };
    case "divider":
      return { ...block, color: words };
    case "menu":
    case "social":
    case "share":
      return { ...block, color: words, display: block.type === "menu" ? undefined : "both" };
    case "code":
      return { ...block, html: `<p style="color:${words};background-color:${ground}">Written by hand</p>` };
    case "heading":
    case "text":
    case "beside":
      return { ...block, color: words };
    default:
      return block;
  }
}

const withContent = (block: Block): Block => {
  const filled =
    "src" in block && block.src === "" ? { ...block, src: "/pictures/x.jpg", alt: "Beans" } : block;
  if (block.type === "appointment") return { ...filled, title: "A sale", start: "2026-12-03T18:00" };
  if (block.type === "countdown") return { ...filled, until: "2026-12-03T18:00" };
  if (block.type === "articles") return { ...filled, source: "journal", off: [] };
  if (block.type === "imageSet")
    return {
      ...filled,
      pictures: ["1", "2"].map((id) => ({ id, src: "/pictures/x.jpg", alt: "B", decorative: false })),
    };
  return filled;
};

/**
 * A design with every type of block, once in the theme's colours and once in the designer's own, on each kind of ground
 * a part can have.
 */
export function colourful(colours: Colours, how: { own: boolean; language?: string } = { own: true }): Email {
  let next = 0;
  const id = () => `c${next++}`;
  const plain = (Object.keys(BLOCK_TYPES) as BlockTypeName[]).map((type) =>
    withContent(createBlock(type, id()) as Block),
  );
  const all = how.own ? plain.map((block) => inColours(block, colours)) : plain;
  const marked: Block = {
    ...createBlock("text", id()),
    content: {
      type: "doc",
      content: [
        paragraphOf(
          "Plain, ",
          { type: "text", text: "coloured", marks: [{ type: "style", attrs: { color: colours.marked } }] },
          ", ",
          {
            type: "text",
            text: "on a marker",
            marks: [{ type: "style", attrs: { highlight: colours.highlight } }],
          },
          " and ",
          { type: "text", text: "a link", marks: [{ type: "link", attrs: { href: "https://a.example/" } }] },
        ),
      ],
    },
  };
  const column = (blocks: Block[], background?: string) => ({ id: id(), width: 100, background, blocks });
  const half = Math.ceil(all.length / 2);
  const twice = () => all.map((block) => ({ ...block, id: id() }));
  return {
    schema: SCHEMA_VERSION,
    language: how.language ?? "en",
    theme: "plain",
    envelope: {
      subject: [{ type: "text", text: "Colours" }],
      preheader: [],
      sender: { name: [{ type: "text", text: "Tansy Row" }], address: "letters@tansyrow.example" },
    },
    sections: [
      { id: id(), rows: [{ id: id(), columns: [column(colours.onPaper ? [...all, marked] : plain)] }] },
      {
        id: id(),
        background: colours.ground,
        contentBackground: colours.paper,
        rows: [
          { id: id(), columns: [column([...twice(), { ...marked, id: id() }])] },
          {
            id: id(),
            background: colours.row,
            columns: [
              {
                ...column(twice().slice(0, half)),
                width: 50,
                padding: { top: 8, right: 8, bottom: 8, left: 8 },
              },
              { ...column(twice().slice(half), colours.column), width: 50 },
            ],
          },
          { id: id(), columns: [column(twice().map((block) => ({ ...block, background: colours.block })))] },
        ],
      },
    ],
  } as Email;
}
