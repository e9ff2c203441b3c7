/** News, letters and journals. */
import { kit } from "./build";
import type { Template } from "./template";

const glasshouse: Template = {
  id: "announcement",
  name: "Doors open",
  about: "one piece of news, large",
  purpose: "tell",
  theme: "greenhouse",
  subject: "The new glasshouse is open",
  preheader: "Forty metres of it, and you are the first to be let in.",
  sections() {
    const b = kit();
    return [
      b.hero(b.picture("greenhouse", "A glasshouse under the moon")),
      b.stack(
        b.h3("An announcement", { align: "center" }),
        b.h1("The long glasshouse is open", { align: "center" }),
        b.aside(
          "Eleven months, nine hundred panes, and one very patient glazier. From Saturday you can walk through it.",
          "center",
          17,
        ),
        b.button("Come and see", "/glasshouse", { align: "center" }),
      ),
      b.section(
        [
          b.row([
            [
              b.h2("Citrus at the south end"),
              b.text("Lemons, limes and one stubborn kumquat, all for sale from the first frost on."),
            ],
            [
              b.h2("A bench in the warm"),
              b.text("Coffee from ten, and somewhere to sit in February that is not your kitchen."),
            ],
          ]),
        ],
        { contentBackground: "table" },
      ),
      b.footer(),
    ];
  },
};

const monthly: Template = {
  id: "monthly",
  name: "The monthly letter",
  about: "a greeting, one lead, three short things",
  purpose: "regular",
  season: "spring",
  theme: "garden",
  subject: "{first_name|Hello}, what to do this month",
  preheader: "One thing to sow, one to cut back, one to leave alone.",
  sections() {
    const b = kit();
    return [
      b.masthead("The monthly letter"),
      b.hero(b.picture("spring-rows", "Carrot, parsnip and beetroot in a row under a low sun")),
      b.stack(
        b.h1("Good morning, {first_name|gardener}. Hold your beans."),
        b.text(
          "The days are longer and the soil is not warmer, which is how every April begins and how every April beans are lost. Keep them on the sill for two more weeks.",
          "What can go out, what must come back, and what is best left alone: here is the month in three.",
        ),
        b.button("The whole list for your zone", "/this-month"),
      ),
      b.section([
        b.row([
          [
            b.picture("beans", "Four bean pods"),
            b.h3("Sow"),
            b.text("Broad beans and peas, straight into the bed."),
          ],
          [
            b.picture("apples", "A red and a green apple"),
            b.h3("Cut"),
            b.text("Apple water shoots, before the buds break."),
          ],
          [
            b.picture("beetroot", "A beetroot"),
            b.h3("Leave"),
            b.text("The beetroot. It knows what it is doing."),
          ],
        ]),
      ]),
      b.stack(
        b.boxed([
          "At {branch|your branch} this month, the tool bench sharpens for nothing on the first Saturday. Bring what is blunt.",
        ]),
        b.signed("Until May,", "Petra Lindqvist", "Head gardener"),
      ),
      b.footer(),
    ];
  },
};

const front: Template = {
  id: "front-page",
  name: "Front page",
  about: "a journal: a lead and two",
  purpose: "regular",
  season: "autumn",
  theme: "notes",
  subject: "What the rain does to seed compost",
  preheader: "And: pinching sweet peas, and a trowel for life.",
  sections() {
    const b = kit();
    const story = (title: string, said: string, path: string) => [
      b.h2(title),
      b.text(said),
      b.text(`[Read on](https://tansyrow.example/journal${path})`),
    ];
    return [
      b.section([
        b.row([[b.h1("Row notes")], [b.aside("The journal\nof {brand.name|our house}", "right")]], {
          onPhones: "beside",
          valign: "bottom",
          widths: [65, 35],
        }),
        b.row([[b.rule({ thickness: 3 })]]),
      ]),
      b.hero(b.picture("autumn-bed", "Pumpkins and a parsnip in an autumn bed")),
      b.stack(
        b.aside("**Soil**"),
        b.h2("What the rain does to seed compost", { size: 34 }),
        b.text(
          "Overhead watering packs it down, closes the surface, and the seed that needed air gets none. Stand the trays in an inch of water instead, and wait for the surface to darken.",
        ),
        b.button("Read the whole of it", "/journal/rain"),
        b.rule({ thickness: 1 }),
      ),
      b.section([
        b.row([
          story(
            "Pinching sweet peas",
            "Nip the tip above the second pair of leaves. It feels cruel; it doubles the flowers.",
            "/pinching",
          ),
          story(
            "A trowel for life",
            "Forged or pressed, long or short: what to look for in the tool you use most.",
            "/trowel",
          ),
        ]),
      ]),
      b.footer("left"),
    ];
  },
};

const digest: Template = {
  id: "digest",
  name: "Week in brief",
  about: "what is new in the journal, by itself",
  purpose: "regular",
  theme: "notes",
  subject: "New in the journal this week",
  preheader: "Everything we wrote since the last letter, in the order it was written.",
  sections(feed) {
    const b = kit();
    return [
      b.masthead("Every Friday"),
      b.stack(
        b.rule({ thickness: 3 }),
        b.h1("This week, written down"),
        b.text("Short, and in the order it happened. Press what you want to read; the rest keeps."),
      ),
      b.stack(b.articles(feed, 4)),
      b.stack(b.button("All of the journal", "/journal", { full: true })),
      b.footer("left"),
    ];
  },
};

const letter: Template = {
  id: "plain-letter",
  name: "A plain letter",
  about: "one column, no pictures",
  purpose: "tell",
  season: "autumn",
  theme: "frost",
  subject: "The first frost came on a Tuesday",
  preheader: "What we did with the dahlias, and what you can leave until Sunday.",
  sections() {
    const b = kit();
    return [
      b.stack(
        b.h3("{brand.name|Our house}"),
        b.gap(20),
        b.h1("The first frost came on a Tuesday."),
        b.text(
          "Dear {first_name|friend},",
          "By seven the dahlias had gone black, and by nine we had lifted half of them. Here is what we do with the other half, and what you can leave until Sunday.",
          "Cut the stems to a hand’s width. Lift with a fork, well away from the tuber, and let them dry upside down for a week. A box of dry sand is better than any shed full of good intentions.",
          "Keep the tubers dry, label them now, and write down the colour. You will not remember it in April.",
        ),
        b.text("_Petra, head gardener_"),
      ),
      b.footer("left"),
    ];
  },
};

const spring: Template = {
  id: "spring",
  name: "First warm day",
  about: "spring: a wide picture, four things to do",
  purpose: "tell",
  season: "spring",
  theme: "plum",
  subject: "The first warm day is no reason to plant",
  preheader: "But it is a reason to open the shed.",
  sections() {
    const b = kit();
    return [
      b.masthead("Spring"),
      b.hero(b.picture("spring-tulips", "Seven tulips in a row on a hill")),
      b.stack(
        b.h1("The first warm day is no reason to plant"),
        b.text("It is a reason to open the shed, though. Four things for a Saturday with the door open:"),
        b.points(
          ["sun", "Wash the glass. It is worth a week of light."],
          ["drop", "Empty, scrub and refill the butts."],
          ["leaf", "Sort last year’s packets; throw out the parsnips."],
          ["check", "Sharpen whatever you cursed in October."],
        ),
        b.button("What to sow when it is warm", "/spring"),
      ),
      b.footer(),
    ];
  },
};

const summer: Template = {
  id: "summer",
  name: "Long evenings",
  about: "summer: words on a picture, then a recipe",
  purpose: "tell",
  season: "summer",
  theme: "sill",
  subject: "Eat it outside",
  preheader: "Tomatoes, bread, salt, and forty minutes of sun.",
  sections() {
    const b = kit();
    return [
      b.masthead("Summer"),
      b.hero(b.picture("summer-table", "A table in a garden with vegetables on it")),
      b.stack(
        b.h1("Eat it outside"),
        b.text("The glut has begun. This is the only recipe you need until September, and it is hardly one."),
      ),
      b.section([
        b.row(
          [
            [
              b.h2("Take"),
              b.list(
                "a kilo of tomatoes, warm from the plant",
                "yesterday’s bread",
                "salt, oil, a handful of basil",
              ),
            ],
            [
              b.h2("And"),
              b.text(
                "Tear the bread, crush the tomatoes over it with your hands, salt it, and leave it in the sun while you lay the table. Oil and basil at the last minute.",
              ),
            ],
          ],
          { widths: [45, 55] },
        ),
      ]),
      b.stack(b.button("Which tomato for what", "/tomatoes")),
      b.footer(),
    ];
  },
};

const autumn: Template = {
  id: "autumn",
  name: "Put to bed",
  about: "autumn: a list to tick off, with pictures",
  purpose: "tell",
  season: "autumn",
  theme: "garden",
  subject: "Put the garden to bed",
  preheader: "Three jobs, an afternoon each, before the clocks go back.",
  sections() {
    const b = kit();
    return [
      b.hero(b.picture("pumpkins", "Three pumpkins in a field")),
      b.stack(
        b.h1("Put the garden to bed", { align: "center" }),
        b.aside("Three jobs, an afternoon each, before the clocks go back.", "center", 17),
      ),
      b.stack(
        b.beside(
          "apples",
          "A red and a green apple",
          [
            "**Pick the last apples.** Only what comes off with a twist. Wrap each in a page of the local news.",
          ],
          { share: 34 },
        ),
        b.beside(
          "bulbs",
          "Three bulbs",
          ["**Plant what sleeps.** Tulips can wait for November; daffodils cannot."],
          { share: 34, side: "right" },
        ),
        b.beside(
          "rain",
          "A rain cloud",
          ["**Let it rain.** Drain the hoses, open the taps, and turn off what freezes."],
          { share: 34 },
        ),
      ),
      b.stack(b.button("Bulbs that are still here", "/bulbs", { align: "center" })),
      b.footer(),
    ];
  },
};

const winter: Template = {
  id: "winter",
  name: "Snow on the beds",
  about: "winter: quiet, one picture, a catalogue to ask for",
  purpose: "tell",
  season: "winter",
  theme: "frost",
  subject: "Nothing to do, at last",
  preheader: "Sit down with the catalogue. We printed it for January.",
  sections() {
    const b = kit();
    return [
      b.hero(b.picture("winter-wood", "Firs in the snow under a full moon")),
      b.stack(
        b.h3("January"),
        b.h1("Nothing to do, at last"),
        b.text(
          "The beds are white and there is nothing you can do for them. So sit down, {first_name|dear gardener}, and choose next summer by the stove.",
          "The catalogue is ninety-six pages this year, with more words than pictures, as you asked.",
        ),
        b.button("Send me the catalogue", "/catalogue"),
      ),
      b.footer("left"),
    ];
  },
};

export const TELL: readonly Template[] = [
  glasshouse,
  monthly,
  front,
  digest,
  letter,
  spring,
  summer,
  autumn,
  winter,
];
