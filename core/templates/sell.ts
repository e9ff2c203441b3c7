/** Offers and things: each with one idea and one thing to press. */
import { kit } from "./build";
import type { Template } from "./template";

const half: Template = {
  id: "half",
  name: "Shout",
  about: "an offer in one large line, one picture",
  purpose: "sell",
  season: "autumn",
  theme: "market",
  subject: "Half the bulbs. Half the price.",
  preheader: "Until Sunday at all four branches, or while the crates last.",
  sections() {
    const b = kit();
    return [
      b.masthead("Until Sunday"),
      b.stack(b.h1("Half the bulbs.\nHalf price.", { size: 104, phone: { size: 60 } })),
      b.hero(b.picture("half-price", "Two carrots and a beetroot before a low sun")),
      b.band("accent", [
        b.text(
          "Tulips, anemones and late daffodils are still in their crates, and still want to go in. Everything in the bulb room at {branch|your branch} is half price until we close on Sunday.",
        ),
        b.button("Choose yours", "/bulbs", { full: true }),
        b.aside("While the crates last. Five of a kind at least, as ever."),
      ]),
      b.footer("left"),
    ];
  },
};

const sill: Template = {
  id: "six",
  name: "Six on a sill",
  about: "products, two across",
  purpose: "sell",
  season: "winter",
  theme: "sill",
  subject: "Six for a cold sill",
  preheader: "What grows indoors while the beds are frozen.",
  sections() {
    const b = kit();
    const thing = (name: string, alt: string, title: string, price: string, path: string) => [
      b.picture(name, alt, { href: `https://tansyrow.example${path}` }),
      b.h3(title),
      b.text(`${price} · [To the shop](https://tansyrow.example${path})`),
    ];
    return [
      b.masthead("No. 41"),
      b.stack(
        b.h1("Six for a cold sill"),
        b.text("A light window and a cool room are all that these ask for until March."),
      ),
      b.section([
        b.row([
          thing("leek", "Three leeks", "Winter leek, to cut young", "3.20", "/winter-leek"),
          thing(
            "sweet-pea",
            "Sweet peas in three colours",
            "Sweet pea, to start early",
            "2.80",
            "/sweet-pea",
          ),
        ]),
        b.row([
          thing("tomato", "Two ripe tomatoes", "Balcony tomato", "3.60", "/balcony-tomato"),
          thing("beans", "Four bean pods", "Field bean", "2.40", "/field-bean"),
        ]),
        b.row([
          thing("crocus", "Crocuses in snow", "Crocus, ready to flower", "4.50", "/crocus"),
          thing("seedling", "A seedling in a pot", "Pot and saucer", "6.00", "/pot"),
        ]),
      ]),
      b.band("accent", [
        b.h2("Everything else that grows indoors", { align: "center" }),
        b.button("See all of it", "/indoors", { align: "center" }),
      ]),
      b.footer(),
    ];
  },
};

const trowel: Template = {
  id: "one",
  name: "One thing well",
  about: "a single product, its reasons, its price",
  purpose: "sell",
  theme: "notes",
  subject: "The trowel we would give our children",
  preheader: "Forged in one piece, ash handle, a lifetime of bulbs.",
  sections() {
    const b = kit();
    return [
      b.masthead("From the workbench"),
      b.hero(b.picture("trowel", "A trowel with a wooden handle")),
      b.stack(
        b.h1("One trowel. For life."),
        b.text(
          "Most trowels bend at the neck. This one is forged in one piece, so there is no neck to bend. We have used the same three for eleven years, in clay.",
        ),
        b.points(
          ["check", "Forged from one piece of steel"],
          ["leaf", "Ash handle from a wood eight miles away"],
          ["clock", "Made good or replaced for as long as we are here"],
        ),
        b.quote(
          "I have buried it, lost it, and left it out all winter. It is still the one I look for.",
          "Noor, Fennimoor",
        ),
      ),
      b.band("accent", [
        b.h1("38.00, post free"),
        b.button("Put one aside for me", "/trowel"),
        b.aside("Forged to order: it leaves within five days."),
      ]),
      b.footer("left"),
    ];
  },
};

const gifts: Template = {
  id: "gifts",
  name: "Gift guide",
  about: "three across, by price, for the holidays",
  purpose: "sell",
  season: "winter",
  theme: "greenhouse",
  subject: "Presents for people who have soil under their nails",
  preheader: "Under ten, under thirty, and the one they will not buy themselves.",
  sections() {
    const b = kit();
    const gift = (name: string, alt: string, title: string, said: string) => [
      b.picture(name, alt),
      b.h3(title),
      b.text(said),
    ];
    return [
      b.stack(
        b.h3("{brand.name|Our house}", { align: "center" }),
        b.h1("Given by hand", { align: "center" }),
        b.aside("Order by Thursday 17 December and it is under the tree.", "center", 16),
      ),
      b.hero(b.picture("lit-window", "A lit window with plants on its sill, at night")),
      b.section([
        b.row([
          gift("seed-packets", "Three packets of seeds", "Under ten", "A year of salad in four packets."),
          gift("gloves", "A pair of garden gloves", "Under thirty", "Gloves that survive brambles."),
          gift("lantern", "A lit lantern", "The large one", "A lantern for the potting shed."),
        ]),
      ]),
      b.section([
        b.row([[b.button("See all presents", "/presents", { align: "center" })]]),
        b.row([
          [
            b.aside(
              "Or a card with any sum on it, [sent within the hour](https://tansyrow.example/cards).",
              "center",
            ),
          ],
        ]),
      ]),
      b.footer(),
    ];
  },
};

const members: Template = {
  id: "members",
  name: "Members first",
  about: "an early offer with a code",
  purpose: "sell",
  season: "summer",
  theme: "harbour",
  subject: "{first_name|Friend}, a day before everyone else",
  preheader: "Your code opens the summer sale this Thursday.",
  sections() {
    const b = kit();
    return [
      b.masthead("For members"),
      b.hero(b.picture("summer-table", "A table in a garden with vegetables on it")),
      b.stack(
        b.h1("A day before everyone else"),
        b.text(
          "On Friday the summer sale opens for all. For you, {first_name|friend}, it opens on Thursday at eight, with what is rarest still on the shelf.",
        ),
      ),
      b.band("accent", [
        b.aside("Your word at the till, or in the shop", "center", 16),
        b.h1("EARLY-ROW", { align: "center" }),
        b.button("Open the shelves", "/summer", { align: "center" }),
        b.aside("One use for each member, until Sunday at midnight.", "center"),
      ]),
      b.footer(),
    ];
  },
};

const last: Template = {
  id: "last-call",
  name: "Last call",
  about: "a clock that runs, one button",
  purpose: "remind",
  theme: "market",
  subject: "The van leaves at noon on Friday",
  preheader: "What is ordered by then is planted by the weekend.",
  sections() {
    const b = kit();
    return [
      b.masthead("Last call"),
      b.stack(
        b.h1("The van leaves at noon."),
        b.text(
          "Bare-root trees travel once a year. What is on the list by Friday noon is with you on Saturday; what is not waits for next November.",
        ),
      ),
      b.band("accent", [
        b.countdown("Until the list is closed", "2027-11-05T12:00"),
        b.button("Put me on the list", "/bare-root", { full: true }),
      ]),
      b.footer("left"),
    ];
  },
};

const back: Template = {
  id: "back-again",
  name: "Back on the shelf",
  about: "what was sold out is there again",
  purpose: "sell",
  season: "spring",
  theme: "garden",
  subject: "The blue sweet pea is back",
  preheader: "Four hundred packets. Last year they lasted nine days.",
  sections() {
    const b = kit();
    return [
      b.masthead("Back again"),
      b.stack(
        b.h1("The blue one is back"),
        b.beside(
          "sweet-pea",
          "Sweet peas in three colours",
          [
            "You asked for it, {first_name|dear gardener}, and so did three hundred others.",
            "The seed came in on Monday: **four hundred packets** of the old blue sweet pea, from the same grower as before.",
            "[Keep one for me](https://tansyrow.example/blue-sweet-pea)",
          ],
          { share: 46 },
        ),
      ),
      b.section(
        [
          b.row([
            [b.h3("Sow"), b.text("Now, on a sill, two to a pot.")],
            [b.h3("Pinch"), b.text("Above the second pair of leaves.")],
            [b.h3("Pick"), b.text("Every second day, or it stops.")],
          ]),
        ],
        { contentBackground: "table" },
      ),
      b.stack(b.button("To the sweet peas", "/sweet-peas", { align: "center" })),
      b.footer(),
    ];
  },
};

export const SELL: readonly Template[] = [half, sill, trowel, gifts, members, last, back];
