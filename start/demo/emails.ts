import type { Rule } from "~/core/audience";
import { createBlock } from "~/core/blocks";
import type { IdMaker } from "~/core/compose";
import {
  type Block,
  type Brand,
  type Email,
  equalWidths,
  type Inline,
  type MergeTag,
  paragraphOf,
  type Row,
  SCHEMA_VERSION,
  type Section,
} from "~/core/email";

/** A picture of the demo as a block needs it. */
export interface DemoPicture {
  path: string;
  width: number;
  height: number;
}

/** What the demo's emails are made with. */
export interface Kit {
  newId: IdMaker;
  brand: Brand;
  picture(name: string): DemoPicture;
  feed: string;
}

const NONE = { top: 0, right: 0, bottom: 0, left: 0 };
const words = (text: string): Inline => ({ type: "text", text });
const bold = (text: string): Inline => ({ type: "text", text, marks: [{ type: "bold" }] });
const tag = (field: string, fallback: string, format: MergeTag["format"] = "asIs"): Inline => ({
  type: "mergeTag",
  attrs: { field, fallback, format },
});
const is = (field: string, value: string): Rule => ({ kind: "field", field, op: "is", value });

function builders({ newId, picture, feed }: Kit) {
  return {
    heading: (level: 1 | 2 | 3, content: Inline[], more: Partial<Block> = {}): Block => ({
      ...createBlock("heading", newId()),
      level,
      content,
      ...more,
    }),
    text: (...paragraphs: Inline[][]): Block => ({
      ...createBlock("text", newId()),
      content: { type: "doc", content: paragraphs.map((content) => paragraphOf(...content)) },
    }),
    image: (name: string, alt: string): Block => {
      const { path, width, height } = picture(name);
      return { ...createBlock("image", newId()), src: path, alt, natural: { width, height }, padding: NONE };
    },
    button: (label: string, href: string): Block => ({
      ...createBlock("button", newId()),
      content: [words(label)],
      href,
    }),
    divider: (): Block => createBlock("divider", newId()),
    footer: (): Block => createBlock("footer", newId()),
    articles: (count: number): Block => ({ ...createBlock("articles", newId()), source: feed, count }),
    row: (columns: Block[][], more: Partial<Row> = {}): Row => {
      const widths = equalWidths(columns.length);
      return {
        id: newId(),
        columns: columns.map((blocks, index) => ({ id: newId(), width: widths[index], blocks })),
        ...more,
      };
    },
    section: (rows: Row[], more: Partial<Section> = {}): Section => ({ id: newId(), rows, ...more }),
  };
}

function email(kit: Kit, subject: Inline[], preheader: Inline[], sections: Section[]): Email {
  const [sender] = kit.brand.senders;
  return {
    schema: SCHEMA_VERSION,
    language: "en",
    theme: "garden",
    envelope: { subject, preheader, sender: { name: [words(sender.name)], address: sender.address } },
    sections,
  };
}

/** The monthly letter: zones, members and balconies get different things, some readers have no name. */
export function sowingLetter(kit: Kit): Email {
  const b = builders(kit);
  const zone = (value: string, advice: Inline[]): Block => ({
    ...b.text([tag("first_name", "Friend"), ...advice]),
    name: `Advice, ${value} zone`,
    show: is("growing_zone", value),
  });
  return email(
    kit,
    [tag("first_name", "Hello"), words(", what to sow this month")],
    [words("Start these on a windowsill, and keep the fleece handy.")],
    [
      b.section(
        [
          b.row(
            [
              [b.heading(3, [words("Tansy Row")])],
              [{ ...b.text([words("The monthly letter")]), align: "right" }],
            ],
            { onPhones: "beside" },
          ),
        ],
        { name: "Masthead" },
      ),
      b.section(
        [
          b.row([[b.image("spring-rows", "Carrot, parsnip and beetroot in a row under a low sun")]], {
            padding: NONE,
          }),
        ],
        { padding: NONE, name: "Hero" },
      ),
      b.section([
        b.row([
          [
            b.heading(
              1,
              [words("Good morning, "), tag("first_name", "gardener"), words(". Hold your beans.")],
              { name: "Hold your beans" },
            ),
            zone("cool", [
              words(", nights in the "),
              bold("cool zone"),
              words(
                " will touch freezing for weeks yet. Sow indoors now and plant out when the soil is warm.",
              ),
            ]),
            zone("mild", [
              words(", in the "),
              bold("mild zone"),
              words(" you can sow peas and broad beans outside this week. Keep the runners in."),
            ]),
            zone("warm", [
              words(", lucky you: in the "),
              bold("warm zone"),
              words(" almost everything can go straight into the ground now."),
            ]),
            b.button("See what to sow", "https://shop.tansyrow.example/sow-now"),
          ],
        ]),
      ]),
      b.section(
        [
          b.row([
            [
              b.image("tomato", "Two ripe tomatoes"),
              b.heading(3, [words("Tomatoes")]),
              b.text([words("Copperhead sets fruit where others sulk.")]),
            ],
            [
              b.image("leek", "Three leeks"),
              b.heading(3, [words("Leeks")]),
              b.text([words("Long Tom stands all winter.")]),
            ],
            [
              b.image("sweet-pea", "Sweet peas in three colours"),
              b.heading(3, [words("Sweet peas")]),
              b.text([words("A mix for picking by the armful.")]),
            ],
          ]),
        ],
        { name: "Three to sow" },
      ),
      b.section(
        [
          b.row([
            [
              { ...b.heading(2, [words("For members: a tenth off all seed")]), name: "Members’ offer" },
              b.text([
                words("Show your card at "),
                tag("branch", "any branch"),
                words(", or use it in the shop."),
              ]),
            ],
          ]),
        ],
        {
          name: "Members’ offer",
          show: { kind: "segment", segment: "members", in: true },
          contentBackground: "#E6EEDD",
        },
      ),
      b.section([
        b.row(
          [
            [
              b.heading(2, [words("No garden? A balcony will do")]),
              b.text([words("Salads, herbs and one tomato: a summer’s worth in four pots.")]),
            ],
          ],
          { name: "Balcony", show: is("plot", "balcony") },
        ),
        b.row([[b.heading(2, [words("From the journal")]), b.articles(3)]]),
      ]),
      b.section([b.row([[b.divider(), b.footer()]])]),
    ],
  );
}

/** A short letter that has gone out already. */
export function bulbLetter(kit: Kit): Email {
  const b = builders(kit);
  return email(
    kit,
    [words("Late bulbs, half price")],
    [words("They still want to go in. So do we.")],
    [
      b.section([b.row([[b.image("autumn-bed", "Pumpkins in an autumn bed")]], { padding: NONE })], {
        padding: NONE,
      }),
      b.section([
        b.row([
          [
            b.heading(1, [words("Put the garden to bed")]),
            b.text(
              [words("Dear "), tag("first_name", "gardener"), words(",")],
              [
                words("tulips do not mind the cold. What is left on the shelves at "),
                tag("branch", "our four branches"),
                words(" is half price until Sunday."),
              ],
            ),
            b.button("Choose bulbs", "https://shop.tansyrow.example/bulbs"),
          ],
        ]),
      ]),
      b.section([b.row([[b.footer()]])]),
    ],
  );
}

/** A draft with little in it yet. */
export function workshopLetter(kit: Kit): Email {
  const b = builders(kit);
  return email(
    kit,
    [words("Winter workshops at "), tag("branch", "a branch near you")],
    [],
    [
      b.section([
        b.row([
          [b.image("workshop", "A bench with pots and tools")],
          [
            b.heading(1, [words("Warm hands")]),
            b.text([words("Six Saturdays of pruning, grafting and soup.")]),
            b.button("Choose a Saturday", "https://workshops.tansyrow.example/"),
          ],
        ]),
      ]),
      b.section([b.row([[b.footer()]])]),
    ],
  );
}
