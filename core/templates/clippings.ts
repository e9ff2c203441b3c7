/** Clippings that come with the program: parts that letters are put together from. */
import type { Clipping, ClippingPart } from "../compose";
import { keptPart } from "../compose";
import type { Node } from "../email";
import { type Kit, kit } from "./build";

const ours = (id: string, name: string, part: ClippingPart, make: (b: Kit) => Node["node"]): Clipping => ({
  id: `ours-${id}`,
  name,
  ...keptPart({ kind: part, node: make(kit()) } as Node),
});

export const CLIPPINGS: readonly Clipping[] = [
  ours("header", "Header: name and a line", "section", (b) => b.masthead("The monthly letter")),
  ours("header-menu", "Header: logo and menu", "section", (b) =>
    b.stack(
      { ...b.h2("{brand.name|Our house}"), align: "center" },
      b.menu(["Shop", "/shop"], ["Journal", "/journal"], ["Visit us", "/branches"]),
    ),
  ),
  ours("front", "Header: large name and a rule", "section", (b) =>
    b.section([
      b.row([[b.h1("Row notes")], [b.aside("No. 41\nNovember", "right")]], {
        onPhones: "beside",
        valign: "bottom",
        widths: [65, 35],
      }),
      b.row([[b.rule({ thickness: 3 })]]),
    ]),
  ),
  ours("banner", "Banner: a wide picture", "section", (b) =>
    b.hero(b.picture("spring-rows", "Carrot, parsnip and beetroot in a row under a low sun")),
  ),
  ours("banner-words", "Banner: words on a picture", "section", (b) =>
    b.hero(b.over("autumn-bed", ["Put the garden to bed"], { size: 34, valign: "bottom" })),
  ),
  ours("call", "A line and a button", "section", (b) =>
    b.stack(
      b.h2("Come by this week", { align: "center" }),
      b.aside("The stove is lit from ten.", "center", 16),
      b.button("Plan a visit", "/branches", { align: "center" }),
    ),
  ),
  ours("info", "Three facts side by side", "row", (b) =>
    b.row([
      [b.h3("Where"), b.text("3 Nursery Lane, Alderwick")],
      [b.h3("When"), b.text("Tuesday to Sunday, 9 to 5")],
      [b.h3("Who"), b.text("Ask for {branch|the head gardener}")],
    ]),
  ),
  ours("products-2", "Two products", "row", (b) =>
    b.row([
      [
        b.picture("leek", "Three leeks"),
        b.h3("Winter leek"),
        b.text("3.20"),
        b.button("To the shop", "/winter-leek"),
      ],
      [
        b.picture("sweet-pea", "Sweet peas in three colours"),
        b.h3("Sweet pea"),
        b.text("2.80"),
        b.button("To the shop", "/sweet-pea"),
      ],
    ]),
  ),
  ours("products-3", "Three products", "row", (b) =>
    b.row([
      [b.picture("tomato", "Two ripe tomatoes"), b.h3("Balcony tomato"), b.text("3.60")],
      [b.picture("beans", "Four bean pods"), b.h3("Field bean"), b.text("2.40")],
      [b.picture("crocus", "Crocuses in snow"), b.h3("Crocus"), b.text("4.50")],
    ]),
  ),
  ours("story", "A picture beside its story", "block", (b) =>
    b.beside("watering-can", "A green watering can", [
      "**Water at the foot**",
      "In the morning, seldom and much, and never on the leaves.",
    ]),
  ),
  ours("quote", "What a reader said", "block", (b) =>
    b.quote("I sowed on your word, and for once I had carrots before my neighbour.", "A reader in Marl Bay"),
  ),
  ours("hours", "Opening hours", "block", (b) =>
    b.table(
      [
        ["Branch", "Weekdays", "Sunday"],
        ["Alderwick", "9–5", "10–4"],
        ["Marl Bay", "9–5", "closed"],
      ],
      [40, 30, 30],
      { zebra: true },
    ),
  ),
  ours("note", "A note in a box", "block", (b) =>
    b.boxed(["Frost is forecast for Thursday night. Cover what you love."]),
  ),
  ours("signature", "Signed by a person", "block", (b) =>
    b.signed("Until next month,", "Petra Lindqvist", "Head gardener"),
  ),
  ours("closing", "Links at the foot", "section", (b) =>
    b.stack(b.rule(), b.social(), b.menu(["Preferences", "/preferences"], ["Branches", "/branches"])),
  ),
];
