import type { Rule } from "~/core/audience";
import type { IdMaker } from "~/core/compose";
import type { Block, Brand, Email, Section } from "~/core/email";
import { design, kit } from "~/core/templates";

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
  /** The catalogue. */
  shop: string;
}

const is = (field: string, value: string): Rule => ({ kind: "field", field, op: "is", value });

/** What parts of the demo's letters are made with. */
export const builders = ({ newId, picture }: Kit) =>
  kit({
    id: newId,
    find: (name) => {
      const { path, width, height } = picture(name);
      return { src: path, natural: { width, height } };
    },
  });

/** A letter from the brand's first sender. */
export function letter(
  { brand }: Kit,
  theme: string,
  subject: string,
  preheader: string,
  sections: Section[],
): Email {
  const email = design(theme, subject, preheader, sections);
  const [{ name, address }] = brand.senders;
  return {
    ...email,
    envelope: { ...email.envelope, sender: { name: [{ type: "text", text: name }], address } },
  };
}

/** The monthly letter: zones, members and balconies get different things, some readers have no name. */
export function sowingLetter(world: Kit): Email {
  const b = builders(world);
  const advice = (value: string, text: string): Block => ({
    ...b.text(text),
    size: 18,
    name: `Advice, ${value} zone`,
    show: is("growing_zone", value),
  });
  const three = (picture: string, alt: string, title: string, said: string) => [
    b.picture(picture, alt),
    b.h3(title),
    b.text(said),
  ];
  return letter(
    world,
    "garden",
    "{first_name|Hello}, what to sow this month",
    "Start these on a windowsill, and keep the fleece handy.",
    [
      b.masthead("The monthly letter"),
      {
        ...b.hero(b.picture("spring-rows", "Carrot, parsnip and beetroot in a row under a low sun")),
        name: "Hero",
      },
      b.stack(
        b.h1("Good morning, {first_name|gardener}. Hold your beans.", {
          name: "Hold your beans",
        }),
        advice(
          "cool",
          "{first_name|Friend}, nights in the **cool zone** will touch freezing for weeks yet. Sow indoors now and plant out when the soil is warm.",
        ),
        advice(
          "mild",
          "{first_name|Friend}, in the **mild zone** you can sow peas and broad beans outside this week. Keep the runners in.",
        ),
        advice(
          "warm",
          "{first_name|Friend}, lucky you: in the **warm zone** almost everything can go straight into the ground now.",
        ),
        b.button("See what to sow", "/sow-now"),
      ),
      b.section(
        [
          b.row([
            three("tomato", "Two ripe tomatoes", "Tomatoes", "Copperhead sets fruit where others sulk."),
            three("leek", "Three leeks", "Leeks", "Long Tom stands all winter."),
            three(
              "sweet-pea",
              "Sweet peas in three colours",
              "Sweet peas",
              "A mix for picking by the armful.",
            ),
          ]),
        ],
        { name: "Three to sow" },
      ),
      b.band(
        "accent",
        [
          b.h2("For members: a tenth off all seed", { name: "Members’ offer" }),
          b.text("Show your card at {branch.name|any branch}, or use it in the shop."),
        ],
        { name: "Members’ offer", show: { kind: "segment", segment: "members", in: true } },
      ),
      b.section([
        b.row(
          [
            [
              b.h2("No garden? A balcony will do"),
              b.text("Salads, herbs and one tomato: a summer’s worth in four pots."),
            ],
            [b.picture("seedling", "A seedling in a pot")],
          ],
          {
            name: "Balcony",
            show: is("plot", "balcony"),
            widths: [66, 34],
            onPhones: "reverse",
            valign: "middle",
          },
        ),
        b.row([[b.h2("From the journal"), b.articles(world.feed, 3)]]),
      ]),
      b.footer(),
    ],
  );
}

/** A short letter that has gone out already: one offer, said large. */
export function bulbLetter(world: Kit): Email {
  const b = builders(world);
  return letter(world, "market", "Late bulbs, half price", "They still want to go in. So do we.", [
    b.masthead("Until Sunday"),
    b.stack(b.h1("Put the garden to bed", { size: 88, phone: { size: 54 } })),
    b.hero(b.picture("autumn-bed", "Pumpkins in an autumn bed")),
    b.band("accent", [
      b.text(
        "Dear {first_name|gardener},",
        "tulips do not mind the cold. What is left on the shelves at {branch.name|our four branches} is half price until Sunday.",
      ),
      b.button("Choose bulbs", "/bulbs", { full: true }),
    ]),
    b.footer("left"),
  ]);
}

/** A draft with little in it yet: an invitation without a preheader. */
export function workshopLetter(world: Kit): Email {
  const b = builders(world);
  return letter(world, "greenhouse", "Winter workshops at {branch.name|a branch near you}", "", [
    b.hero(b.picture("workshop", "A bench with pots and tools")),
    b.stack(
      b.h3("Winter workshops", { align: "center" }),
      b.h1("Warm hands", { align: "center" }),
      b.aside("Six Saturdays of pruning, grafting and soup.", "center", 18),
      b.button("Choose a Saturday", "/workshops", { align: "center" }),
    ),
    b.footer(),
  ]);
}
