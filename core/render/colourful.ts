import { BLOCK_TYPES, type BlockTypeName, blockType, createBlock, filledBlock } from "../blocks";
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

/** A block with a colour of the designer's own for each that it can have, by what its type declares of them. */
function inColours(block: Block, { words, face, onFace, block: ground, highlight }: Colours): Block {
  const properties = blockType(block.type)?.properties ?? {};
  const coloured: Record<string, unknown> = {};
  const onFaces = new Map<string, string>();
  for (const [key, property] of Object.entries(properties)) {
    if (property.kind !== "colour" || property.fresh !== undefined) continue;
    // What it is about is shown.
    Object.assign(coloured, property.when);
    const on = property.on;
    if (typeof on === "object" && "face" in on) onFaces.set(on.face, face);
    coloured[key] = typeof on === "object" && "face" in on ? onFace : words;
    if (property.fills) coloured[key] = key === "zebraFace" ? highlight : ground;
  }
  if (block.type === "code")
    coloured.html = `<p style="color:${words};background-color:${ground}">Written by hand</p>`;
  return { ...block, ...coloured, ...Object.fromEntries(onFaces) };
}

/**
 * A design with every type of block, once in the theme's colours and once in the designer's own, on each kind of ground
 * a part can have.
 */
export function colourful(colours: Colours, how: { own: boolean; language?: string } = { own: true }): Email {
  let next = 0;
  const id = () => `c${next++}`;
  const plain = (Object.keys(BLOCK_TYPES) as BlockTypeName[]).map((type) => filledBlock(type, id()));
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
