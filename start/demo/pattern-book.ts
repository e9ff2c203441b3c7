import { BLOCK_TYPES, type BlockTypeName, createBlock, tableParts } from "~/core/blocks";
import { type Block, type Email, equalWidths, type Inline, richText, SCHEMA_VERSION } from "~/core/email";
import { itemOf } from "~/core/items";
import { numbered } from "~/core/markup";
import type { Kit } from "./emails";

const words = (text: string): Inline[] => [{ type: "text", text }];
const name: Inline = {
  type: "mergeTag",
  attrs: { field: "first_name", fallback: "gardener", format: "capital" },
};

/** What fills each type of block so that all of it can be seen. */
function filled({ picture, shop }: Kit): Record<BlockTypeName, Record<string, unknown>> {
  const shown = (drawing: string, alt: string) => {
    const { path, width, height } = picture(drawing);
    return { src: path, alt, natural: { width, height } };
  };
  const site = "https://tansyrow.example";
  return {
    logo: { width: 96 },
    menu: {
      items: numbered([
        { label: "Seeds", href: `${site}/seeds` },
        { label: "Journal", href: `${site}/journal` },
        { label: "Branches", href: `${site}/branches` },
      ]),
    },
    heading: { level: 1, content: [...words("The pattern book, "), name] },
    text: {
      content: richText(
        "Every kind of block, once. Copy what you like into a letter of your own: select it, press Ctrl and C, and paste it there.",
        "Two columns of words stand side by side where there is room for both, and one below the other on a phone. The gap between paragraphs comes from the theme, and each block may have its own.",
      ),
      twoColumns: true,
    },
    boxed: {
      content: richText("Boxed words, for what must not be missed: frost is forecast for Thursday night."),
    },
    quote: {
      content: richText("I sowed on your word, and for once I had carrots before my neighbour."),
      source: words("A reader in Marl Bay"),
    },
    icons: {
      items: numbered([
        { glyph: "sun", content: words("Full sun, six hours and more") },
        { glyph: "drop", content: words("Water in the morning, at the foot") },
        { glyph: "leaf", content: words("Feed every second week") },
      ]),
    },
    table: {
      ...tableParts([
        [words("Branch"), words("Weekdays"), words("Sunday")],
        [words("Alderwick"), words("9 to 6"), words("10 to 4")],
        [words("Marl Bay"), words("9 to 5"), words("closed")],
        [words("Stonecross"), words("8 to 6"), words("10 to 2")],
      ]),
      zebra: true,
    },
    hours: {
      rows: numbered([
        { days: words("Monday to Friday"), hours: words("9 to 6") },
        { days: words("Saturday"), hours: words("8 to 6") },
        { days: words("Sunday"), hours: words("10 to 4") },
      ]),
      closed: numbered([{ on: "2026-12-25" }, { on: "2026-12-26" }]),
    },
    image: { ...shown("spring-rows", "Carrot, parsnip and beetroot in a row under a low sun") },
    captioned: {
      ...shown("frost", "A frosty garden under a pale moon"),
      content: words("The beds on the first of March, at six in the morning"),
    },
    overlaid: {
      ...shown("autumn-bed", ""),
      alt: undefined,
      content: richText("Words on a picture"),
      valign: "bottom",
      radius: 8,
    },
    beside: {
      ...shown("tomato", "Two ripe tomatoes"),
      content: richText(
        "A picture beside its words: the ratio is free, and on phones the picture comes first.",
      ),
    },
    imageSet: {
      across: 3,
      radius: 6,
      pictures: numbered([
        { ...shown("sweet-pea", "Sweet peas"), decorative: false },
        { ...shown("sunflower", "A sunflower"), decorative: false },
        { ...shown("apples", "Apples"), decorative: false },
      ]),
    },
    video: {
      ...shown("workshop", "Sharpening a pruning knife"),
      href: `${site}/films/pruning`,
      content: words("Four minutes with a whetstone"),
    },
    signature: {
      ...shown("seedling", "A seedling"),
      content: words("Petra Lindqvist"),
      role: words("Head gardener at Tansy Row"),
    },
    button: { content: words("To the seed list"), href: `${site}/seeds` },
    pair: { href: `${site}/yes`, secondHref: `${site}/more` },
    social: {
      items: numbered([
        { glyph: "globe", label: "Website", href: site },
        { glyph: "camera", label: "Pictures", href: "https://pictures.example/tansyrow" },
        { glyph: "film", label: "Films", href: "https://films.example/tansyrow" },
        { glyph: "talk", label: "Garden talk", href: "https://talk.example/tansyrow" },
      ]),
    },
    share: {
      href: `${site}/pattern-book`,
      ways: numbered([
        { by: "email", glyph: "letter", label: "Forward", pattern: "" },
        {
          by: "page",
          glyph: "talk",
          label: "Garden talk",
          pattern: "https://talk.example/new?link={address}&text={words}",
        },
      ]),
    },
    refer: { href: `${site}/letters` },
    survey: {},
    coupon: {
      batch: "seed_tenth",
      otherwise: "Ask at the till",
      figure: "qr",
      href: `${site}/shop`,
    },
    countdown: { content: words("The seed swap begins in"), until: "2027-03-06T10:00" },
    appointment: {
      title: "Seed swap at Alderwick",
      start: "2027-03-06T10:00",
      end: "2027-03-06T13:00",
      place: "3 Nursery Lane, Alderwick",
      about: "Bring what you have too much of.",
    },
    items: {
      across: 2,
      ratio: "4x3",
      off: ["date", "place"],
      facts: [{ id: "1", fact: "height", label: "Height" }],
      badges: [{ id: "1", by: "saving", than: 10, words: "−# %" }],
      items: [
        {
          id: "1",
          source: "",
          item: itemOf({
            id: "1001",
            title: "Runner bean “Lantern Red”",
            text: "Climbs to eight feet, asks for water and a pole, and crops from the middle of July until the first frost.",
            link: `${site}/shop/1001`,
            picture: picture("leek").path,
            price: 3.2,
            sale: 2.6,
            currency: "GBP",
            facts: { height: "8 feet" },
          }),
        },
        {
          id: "2",
          source: "",
          item: itemOf({
            id: "1027",
            title: "Courgette “Two Are Plenty”",
            link: `${site}/shop/1027`,
            price: 3,
            currency: "GBP",
            stock: 0,
          }),
          title: "The courgette that says so on its packet",
        },
      ],
    },
    picks: {
      source: shop,
      title: "By rule: picked for each reader",
      arranged: "lead",
      // One that is sold out, and what is on sale.
      sold: true,
      ways: [
        {
          id: "1",
          by: "cheapest",
          filter: { kind: "field", field: "title", op: "contains", value: "two are plenty" },
        },
        { id: "2", by: "saving" },
      ],
      count: 3,
    },
    divider: {},
    spacer: {},
    code: {
      html: '<table width="100%" cellpadding="12" style="border:1px dashed #8a8a7a"><tr><td align="center"><b>Code of your own</b><br>made harmless before anyone sees it</td></tr></table>',
    },
    footer: {},
  };
}

const SECTIONS: readonly BlockTypeName[][][] = [
  [["logo", "menu", "heading", "text", "boxed", "quote"], ["icons"], ["table", "hours"]],
  [["image", "captioned", "overlaid", "beside", "imageSet", "video"]],
  [
    ["button", "pair", "survey", "countdown", "appointment"],
    ["social", "share"],
    ["refer", "coupon"],
  ],
  [
    ["items", "picks"],
    ["divider", "spacer", "code", "signature", "footer"],
  ],
];

/** A draft that holds every type of block, filled. */
export function patternBook(kit: Kit): Email {
  const content = filled(kit);
  const block = (type: BlockTypeName): Block => {
    const { alt, ...rest } = content[type] as { alt?: string };
    const more = alt === undefined ? rest : { ...rest, alt };
    return { ...createBlock(type, kit.newId()), ...more } as Block;
  };
  const [sender] = kit.brand.senders;
  const missing = Object.keys(BLOCK_TYPES).filter(
    (type) => !SECTIONS.flat(2).includes(type as BlockTypeName),
  );
  if (missing.length > 0) throw new Error(`the pattern book lacks ${missing.join(", ")}`);
  return {
    schema: SCHEMA_VERSION,
    language: "en",
    theme: "garden",
    envelope: {
      subject: words("The pattern book"),
      preheader: words("Every kind of block, once, to look at and to copy"),
      sender: { name: words(sender.name), address: sender.address },
    },
    sections: SECTIONS.map((stacks) => {
      // The first stack stands alone; those after it stand side by side.
      const [first, ...beside] = stacks;
      const row = (columns: readonly BlockTypeName[][]) => {
        const widths = equalWidths(columns.length);
        return {
          id: kit.newId(),
          columns: columns.map((types, index) => ({
            id: kit.newId(),
            width: widths[index],
            blocks: types.map(block),
          })),
        };
      };
      return { id: kit.newId(), rows: [row([first]), ...(beside.length > 0 ? [row(beside)] : [])] };
    }),
  };
}
