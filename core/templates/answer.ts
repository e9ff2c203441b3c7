/** Letters between a house and one reader: hello, thanks, questions, receipts. */
import { kit } from "./build";
import type { Template } from "./template";

const welcome: Template = {
  id: "welcome",
  name: "Come in",
  about: "the first letter: who you are, where to begin",
  purpose: "welcome",
  theme: "garden",
  subject: "Come in, {first_name|friend}",
  preheader: "What you will get from us, how often, and a packet of seed.",
  sections() {
    const b = kit();
    return [
      b.hero(b.picture("bouquet", "A pot full of bright flowers")),
      b.stack(
        b.h1("Come in, {first_name|friend}"),
        b.text(
          "You asked for our letters, so here is the first. One comes on the first Monday of each month, and now and then a short one when something cannot wait. That is all.",
        ),
      ),
      b.section([
        b.row([
          [
            b.h2("Read"),
            b.text(
              "The journal, forty pieces and growing. [Begin with soil](https://tansyrow.example/journal).",
            ),
          ],
          [
            b.h2("Visit"),
            b.text("Four branches and a stove in each. [Find yours](https://tansyrow.example/branches)."),
          ],
          [b.h2("Grow"), b.text("Tell us your zone and we will stop telling you about lemons.")],
        ]),
      ]),
      b.stack(
        b.boxed(
          ["Show this letter at the till and take a packet of seed with you. We will choose it together."],
          { align: "center" },
        ),
        b.button("Tell us about your plot", "/preferences", { align: "center" }),
        b.social(),
      ),
      b.footer(),
    ];
  },
};

const thanks: Template = {
  id: "thanks",
  name: "Thank you",
  about: "a few warm lines, signed",
  purpose: "thank",
  theme: "frost",
  subject: "Thank you for Saturday",
  preheader: "Forty-one of you, nine barrows, and one very large hole.",
  sections() {
    const b = kit();
    return [
      b.stack(
        b.gap(12),
        b.h1("Thank you."),
        b.text(
          "Forty-one of you came on Saturday, with nine barrows, and moved eleven tonnes of compost before the rain did. The pond is as deep as it was ever meant to be.",
          "We had planned for three weekends. You took one.",
        ),
      ),
      b.hero(b.picture("watering-can", "A green watering can")),
      b.stack(
        b.text("Come by when the water is in, {first_name|dear friend}. The first frogs are yours to name."),
        b.signed("With sore arms,", "Petra Lindqvist", "Head gardener"),
      ),
      b.footer("left"),
    ];
  },
};

const question: Template = {
  id: "question",
  name: "One question",
  about: "a scale to tap, nothing else",
  purpose: "ask",
  theme: "lilac",
  subject: "How did the garlic do?",
  preheader: "One tap, and next year’s list is better for it.",
  sections() {
    const b = kit();
    return [
      b.masthead("One question"),
      b.stack(
        b.h1("How did the garlic do?"),
        b.survey("Tap what comes closest", "Rotted", "A wreath of it"),
        b.text(
          "We ask because three kinds are on trial, and you have one of them. What you tap decides which stay.",
        ),
      ),
      b.hero(b.picture("garlic-plait", "A plait of garlic")),
      b.footer("left"),
    ];
  },
};

const opinion: Template = {
  id: "opinion",
  name: "Tell us more",
  about: "a survey with a reason and a reward",
  purpose: "ask",
  theme: "plum",
  subject: "{first_name|Friend}, three minutes for a better list",
  preheader: "Eight questions, and a tenth off your next order.",
  sections() {
    const b = kit();
    return [
      b.masthead("We ask"),
      b.stack(
        b.h1("What should we stop selling?"),
        b.text(
          "Every spring the list grows, and every autumn we carry a third of it back inside. You know better than we do what should stay.",
        ),
        b.points(
          ["clock", "Three minutes, eight questions"],
          ["check", "A tenth off your next order"],
          ["heart", "Nobody sees your answers but us"],
        ),
        b.pair("Answer now", "/opinion", "Read last year’s", "/opinion/last-year"),
        b.rule(),
        b.survey("And this letter, was it any use?", "None", "Plenty"),
      ),
      b.footer(),
    ];
  },
};

const miss: Template = {
  id: "win-back",
  name: "It has been a while",
  about: "for readers who went quiet",
  purpose: "remind",
  theme: "sill",
  subject: "Is anything growing, {first_name|friend}?",
  preheader: "We have not seen you since last summer. Stay, or go: both are one press.",
  sections() {
    const b = kit();
    return [
      b.stack(
        b.h3("{brand.name|Our house}"),
        b.gap(8),
        b.h1("Is anything growing?"),
        b.text(
          "You have not been in for a year, {first_name|friend}. That is quite all right; gardens have years like that.",
          "If you would like to go on hearing from us, press below, and the next parcel travels post free. If not, the last line of this letter takes you off the list, and no hard feelings.",
        ),
        b.pair("Keep me on the list", "/stay", "Fewer letters, please", "/preferences"),
      ),
      b.hero(b.picture("seedling", "A seedling in a pot")),
      b.footer(),
    ];
  },
};

const receipt: Template = {
  id: "receipt",
  name: "On its way",
  about: "a note with what was ordered",
  purpose: "thank",
  theme: "plain",
  subject: "Your parcel left this morning",
  preheader: "Two parcels, with you by Thursday.",
  sections() {
    const b = kit();
    return [
      b.masthead("Order 2041"),
      b.stack(
        b.h1("It left this morning"),
        b.text(
          "Thank you, {first_name|friend}. It travels in one parcel and should be with you by Thursday. Plants want light and a drink as soon as they arrive.",
        ),
        b.table(
          [
            ["In the parcel", "How many", "Price"],
            ["Winter leek, packet", "2", "6.40"],
            ["Trowel, ash handle", "1", "38.00"],
            ["Post", "", "0.00"],
            ["**In all**", "", "**44.40**"],
          ],
          [52, 26, 22],
          { size: 15 },
        ),
        b.button("Where is it now?", "/orders/2041"),
        b.rule(),
        b.text("Something wrong? Answer this letter; Petra reads them all."),
      ),
      b.footer("left"),
    ];
  },
};

const birthday: Template = {
  id: "birthday",
  name: "Many happy returns",
  about: "a present on the day",
  purpose: "thank",
  theme: "lilac",
  subject: "{first_name|Friend}, this one is on us",
  preheader: "A packet of seed for your birthday, to fetch or to be sent.",
  sections() {
    const b = kit();
    return [
      b.hero(b.picture("cake-and-candle", "A cake with one candle")),
      b.stack(
        b.h1("Another ring on the tree, {first_name|friend}", { align: "center" }),
        b.aside(
          "Come by this month and choose any packet from the wall. It is yours. We only ask that you sow it.",
          "center",
          17,
        ),
        b.button("Send it to me instead", "/birthday", { align: "center" }),
      ),
      b.footer(),
    ];
  },
};

const neighbour: Template = {
  id: "neighbour",
  name: "Bring a neighbour",
  about: "readers bring readers",
  purpose: "ask",
  season: "spring",
  theme: "harbour",
  subject: "Who lives next door?",
  preheader: "For each of you, a tray of salad plants.",
  sections() {
    const b = kit();
    return [
      b.masthead("Over the fence"),
      b.stack(
        b.h1("Who lives next door?"),
        b.pictures(
          3,
          ["sunflower", "A sunflower"],
          ["tomato", "Two ripe tomatoes"],
          ["parcel", "A parcel with a bow"],
        ),
        b.text(
          "Gardens are better in rows. Bring a neighbour to our letters and there is a tray of salad plants for each of you, from April on.",
        ),
        b.refer("Pass this on to one person who would like it.", "Bring a neighbour"),
      ),
      b.footer(),
    ];
  },
};

export const ANSWER: readonly Template[] = [
  welcome,
  thanks,
  question,
  opinion,
  miss,
  receipt,
  birthday,
  neighbour,
];
