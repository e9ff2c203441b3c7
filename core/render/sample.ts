import type { Contact, Rule } from "../audience";
import { createBlock, readyList, type TypedBlock } from "../blocks";
import { type Block, type Brand, DEFAULT_THEME, type Email, paragraphOf, SCHEMA_VERSION } from "../email";
import { itemOf } from "../items";
import type { RenderContext } from "../markup";
import type { ListAsk, PickedList } from "../picking";
import { Pool, Writer } from "../program";

/** Documents and people for tests and benchmarks. */
export const SAMPLE_BRAND: Brand = {
  name: "Tansy Row",
  address: "3 Nursery Lane, Alderwick",
  website: "https://tansyrow.example",
  senders: [{ name: "Tansy Row", address: "letters@tansyrow.example" }],
};

export const SAMPLE_OPTIONS = {
  theme: DEFAULT_THEME,
  brand: SAMPLE_BRAND,
  origin: "https://septima.example",
};

/** What something is given to write itself, on the theme's paper. */
export function sampleContext(more: Partial<RenderContext> = {}): RenderContext {
  const { light, dark } = DEFAULT_THEME;
  return {
    ...SAMPLE_OPTIONS,
    known: { brand: SAMPLE_BRAND, origin: SAMPLE_OPTIONS.origin },
    out: new Writer(new Pool()),
    part: "html",
    width: 560,
    ground: { light: light.paper, dark: dark.paper },
    tones: new Set(),
    level: 2,
    marks: false,
    language: "en",
    direction: "ltr",
    numbered: false,
    ...more,
  };
}

/** What programs of samples meet: the journal's articles, nobody's segments, and lists that give everybody what there is. */
export function sampleWorld(today: string) {
  const items = SAMPLE_ITEMS.map((item) => ({ ...item, price: 4, sale: 3, currency: "EUR" }));
  const picks = ({ count }: ListAsk): PickedList => ({
    items,
    pick: () => items.slice(0, count).map((_, at) => ({ at, way: 0 })),
  });
  return { audience: { today, segments: new Map<string, Rule>() }, picks };
}

export function sampleContact(id: number, fields: Record<string, unknown>, lists: string[] = []): Contact {
  return { id, email: `reader${id}@mail.example`, fields, lists };
}

/** An email of so many blocks of all kinds, with rules, tags and an article list. */
export function sampleEmail(blocks: number): Email {
  let next = 0;
  const id = () => `n${next++}`;
  const tag = (field: string, fallback: string) => ({
    type: "mergeTag" as const,
    attrs: { field, fallback, format: "asIs" as const },
  });
  const make = (index: number): Block => {
    switch (index % 8) {
      case 0:
        return {
          ...createBlock("heading", id()),
          content: [{ type: "text", text: `Heading ${index} for ` }, tag("first_name", "you")],
        };
      case 1:
      case 5:
        return {
          ...createBlock("text", id()),
          content: {
            type: "doc",
            content: [
              paragraphOf(
                "Dear ",
                tag("first_name", "gardener"),
                ", nights at ",
                tag("branch", "our branches"),
                " will touch freezing until the end of the month. ",
                { type: "text", text: "Sow indoors", marks: [{ type: "bold" }] },
                " & wait <patiently>.",
              ),
              {
                type: "bulletList",
                content: [
                  { type: "listItem", content: [paragraphOf("Peas")] },
                  { type: "listItem", content: [paragraphOf("Beans")] },
                ],
              },
            ],
          },
          ...(index % 16 === 1
            ? {
                show: {
                  kind: "field" as const,
                  field: "zone",
                  op: "is" as const,
                  value: ["cool", "mild", "warm"][index % 3],
                },
              }
            : {}),
        };
      case 2:
        return {
          ...createBlock("image", id()),
          src: "/pictures/x.png",
          alt: "Carrots",
          natural: { width: 800, height: 400 },
        };
      case 3:
        return { ...createBlock("button", id()), href: "https://shop.tansyrow.example/?a=1&b=2" };
      case 4:
        return createBlock("divider", id());
      case 6:
        return newestOf(id());
      default:
        return createBlock("spacer", id());
    }
  };
  const all = Array.from({ length: blocks - 1 }, (_, index) => make(index));
  const sections = [];
  for (let at = 0; at < all.length; at += 6) {
    const six = all.slice(at, at + 6);
    sections.push({
      id: id(),
      rows: [
        { id: id(), columns: [{ id: id(), width: 100, blocks: six.slice(0, 2) }] },
        {
          id: id(),
          columns: [
            { id: id(), width: 50, blocks: six.slice(2, 4) },
            { id: id(), width: 50, blocks: six.slice(4) },
          ],
        },
      ],
      ...(at === 12 ? { show: { kind: "field" as const, field: "member", op: "yes" as const } } : {}),
    });
  }
  sections.push({
    id: id(),
    rows: [{ id: id(), columns: [{ id: id(), width: 100, blocks: [createBlock("footer", id())] }] }],
  });
  return {
    schema: SCHEMA_VERSION,
    language: "en",
    theme: "plain",
    envelope: {
      subject: [tag("first_name", "Hello"), { type: "text", text: ", hold your beans" }],
      preheader: [{ type: "text", text: "Start on a windowsill at " }, tag("branch", "home")],
      sender: { name: [{ type: "text", text: "Tansy Row" }], address: "letters@tansyrow.example" },
    },
    sections,
  };
}

/** What the journal of samples holds. */
const SAMPLE_ITEMS = [1, 2, 3, 4].map((n) =>
  itemOf({
    id: `${n}`,
    title: `Article <${n}> & more`,
    link: `https://journal.example/${n}?a=1&b=2`,
    text: "Words about it ".repeat(20),
    picture: "https://journal.example/p.png",
    date: `2026-11-0${5 - n}T07:00:00.000Z`,
  }),
);

/** A block of the newest articles of the journal, or of another source. */
export const newestOf = (id: string, more: Partial<TypedBlock<"picks">> = {}): TypedBlock<"picks"> => ({
  ...createBlock("picks", id),
  source: "journal",
  ...readyList("articles"),
  ...more,
});
