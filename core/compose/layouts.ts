import { createBlock } from "../blocks";
import {
  type Block,
  type Email,
  equalWidths,
  paragraphOf,
  type Row,
  richText,
  SCHEMA_VERSION,
  type Section,
} from "../email";
import type { IdMaker } from "./ids";

/** A blank layout to start from. */
export interface Layout {
  id: string;
  name: string;
  about: string;
  /** Whether it is a letter in text only. */
  only?: "text";
  sections(newId: IdMaker): Section[];
}

const row = (newId: IdMaker, columns: Block[][], more: Partial<Row> = {}): Row => {
  const widths = equalWidths(columns.length);
  return {
    id: newId(),
    columns: columns.map((blocks, index) => ({ id: newId(), width: widths[index], blocks })),
    ...more,
  };
};

const footer = (newId: IdMaker): Section => ({
  id: newId(),
  rows: [row(newId, [[createBlock("footer", newId())]])],
});

const heading = (newId: IdMaker, level: 1 | 2 | 3, words: string): Block => ({
  ...createBlock("heading", newId()),
  level,
  content: [{ type: "text", text: words }],
});

const text = (newId: IdMaker, words: string): Block => ({
  ...createBlock("text", newId()),
  content: { type: "doc", content: [paragraphOf(words)] },
});

export const LAYOUTS: readonly Layout[] = [
  {
    id: "letter",
    name: "A letter",
    about: "One column: heading, words, a button",
    sections: (newId) => [
      {
        id: newId(),
        rows: [
          row(newId, [
            [
              heading(newId, 1, "What this letter is about"),
              text(newId, "Begin with what matters to the reader."),
              createBlock("button", newId()),
            ],
          ]),
        ],
      },
      footer(newId),
    ],
  },
  {
    id: "news",
    name: "News",
    about: "A picture, an opening, then two columns",
    sections: (newId) => [
      {
        id: newId(),
        padding: { top: 0, right: 0, bottom: 0, left: 0 },
        rows: [
          row(newId, [[createBlock("image", newId())]], {
            padding: { top: 0, right: 0, bottom: 0, left: 0 },
          }),
        ],
      },
      {
        id: newId(),
        rows: [
          row(newId, [
            [
              heading(newId, 1, "The news in a line"),
              text(newId, "Two sentences that say why it is worth reading on."),
            ],
          ]),
          row(newId, [
            [heading(newId, 3, "First story"), text(newId, "What happened."), createBlock("button", newId())],
            [
              heading(newId, 3, "Second story"),
              text(newId, "What happened."),
              createBlock("button", newId()),
            ],
          ]),
        ],
      },
      footer(newId),
    ],
  },
  {
    id: "sample",
    name: "A sample",
    about: "A filled letter that greets by name, to change",
    sections: (newId) => [
      {
        id: newId(),
        rows: [
          row(newId, [
            [
              {
                ...createBlock("heading", newId()),
                level: 1,
                content: [
                  { type: "text", text: "Good morning, " },
                  {
                    type: "mergeTag",
                    attrs: { field: "first_name", fallback: "dear reader", format: "asIs" },
                  },
                ],
              },
              text(
                newId,
                "Three things happened this month that we would have told you over the fence. Here they are, in the order of how much they will please you.",
              ),
            ],
          ]),
          row(newId, [
            [heading(newId, 3, "The new thing"), text(newId, "What it is, and since when it can be had.")],
            [heading(newId, 3, "The useful thing"), text(newId, "A tip that saves an hour, given away.")],
            [heading(newId, 3, "The last chance"), text(newId, "What ends soon, with the day it ends.")],
          ]),
          row(newId, [[createBlock("divider", newId()), createBlock("button", newId())]]),
        ],
      },
      footer(newId),
    ],
  },
  {
    id: "empty",
    name: "Empty",
    about: "Nothing but the footer",
    sections: (newId) => [{ id: newId(), rows: [] }, footer(newId)],
  },
  {
    id: "text",
    name: "Text only",
    about: "Words and reader data, sent as plain text",
    only: "text",
    sections: (newId) => [
      { id: newId(), rows: [row(newId, [[{ ...createBlock("text", newId()), content: richText("") }]])] },
      footer(newId),
    ],
  },
];

/** A new document with a blank layout. */
export function blankEmail(
  layout: Layout,
  sender: { name: string; address: string },
  theme: string,
  newId: IdMaker,
): Email {
  return {
    schema: SCHEMA_VERSION,
    language: "en",
    theme,
    envelope: {
      subject: [],
      preheader: [],
      sender: {
        name: sender.name === "" ? [] : [{ type: "text", text: sender.name }],
        address: sender.address,
      },
    },
    ...(layout.only && { only: layout.only }),
    sections: layout.sections(newId),
  };
}
