/** Invitations and reminders. */
import { kit } from "./build";
import type { Template } from "./template";

const card: Template = {
  id: "card",
  name: "Card",
  about: "an event, one place to press",
  purpose: "invite",
  season: "winter",
  theme: "greenhouse",
  subject: "Grafting, and soup",
  preheader: "Saturday 5 December, ten o’clock, in the long greenhouse.",
  sections() {
    const b = kit();
    return [
      b.stack(
        b.gap(24),
        b.h3("An invitation", { align: "center" }),
        b.h1("Grafting,\nand soup", { align: "center" }),
        b.rule(),
        b.aside("Saturday 5 December, 10:00\n{branch|Alderwick}, the long greenhouse", "center", 17),
        b.rule(),
        b.button("Keep me a place", "/workshops/grafting", { align: "center" }),
        b.aside("Twenty places. Knives are lent, aprons are not.", "center"),
        b.gap(16),
      ),
      b.hero(b.picture("soup", "A bowl of hot soup")),
      b.footer(),
    ];
  },
};

const saturdays: Template = {
  id: "series",
  name: "Six Saturdays",
  about: "a series of events in a table",
  purpose: "invite",
  season: "winter",
  theme: "harbour",
  subject: "Six Saturdays with warm hands",
  preheader: "Pruning, grafting, sharpening, and what to do with a wet January.",
  sections() {
    const b = kit();
    return [
      b.masthead("Workshops"),
      b.hero(b.picture("workshop", "A bench with pots and a flower")),
      b.band("heading", [
        b.h1("Six Saturdays with warm hands"),
        b.text(
          "Ten to one, in the workshop at {branch|Alderwick}, with a stove and a kettle. Come to one or to all six.",
        ),
      ]),
      b.stack(
        b.table(
          [
            ["When", "What", "Places"],
            ["9 January", "Sharpening what you own", "12"],
            ["16 January", "Pruning apples and pears", "20"],
            ["23 January", "Seed: sorting, storing, swapping", "30"],
            ["30 January", "Willow, from stick to basket", "8"],
            ["6 February", "Grafting", "20"],
            ["13 February", "Hotbeds", "16"],
          ],
          [26, 56, 18],
          { zebra: true },
        ),
        b.button("Choose your Saturdays", "/workshops"),
        b.aside("Members pay half. Children over ten are welcome, with somebody who holds the knife."),
      ),
      b.footer(),
    ];
  },
};

const tomorrow: Template = {
  id: "tomorrow",
  name: "See you tomorrow",
  about: "a reminder with the date for the calendar",
  purpose: "remind",
  theme: "harbour",
  subject: "Tomorrow at ten: the seed swap",
  preheader: "Where to park, what to bring, and when the good ones are gone.",
  sections() {
    const b = kit();
    return [
      b.masthead("A reminder"),
      b.stack(b.h1("See you tomorrow, {first_name|gardener}")),
      b.band("accent", [
        b.meeting({
          title: "Seed swap at Alderwick",
          start: "2027-03-06T10:00",
          end: "2027-03-06T13:00",
          place: "3 Nursery Lane, Alderwick",
          about: "Bring what you have too much of.",
        }),
      ]),
      b.stack(
        b.points(
          ["pin", "3 Nursery Lane. Park behind the barn, not on the verge."],
          ["leaf", "Bring seed in envelopes, with the year on them."],
          ["clock", "The good ones are gone by eleven."],
        ),
        b.text(
          "Something has come up? [Give your place to somebody else](https://tansyrow.example/workshops/swap).",
        ),
      ),
      b.footer("left"),
    ];
  },
};

const hours: Template = {
  id: "hours",
  name: "Opening hours",
  about: "hours of every branch at a glance",
  purpose: "remind",
  theme: "harbour",
  subject: "When we are open this winter",
  preheader: "From 1 November, until the clocks go forward.",
  sections() {
    const b = kit();
    return [
      b.masthead("Good to know"),
      b.hero(b.picture("shop-front", "A shop with an awning and plants outside")),
      b.band("accent", [
        b.h1("When the door is open"),
        b.text(
          "From 1 November we keep winter hours. Your branch is {branch|the one nearest to you}; all four are here.",
        ),
      ]),
      b.stack(
        b.table(
          [
            ["Branch", "Weekdays", "Saturday", "Sunday"],
            ["Alderwick", "9–5", "9–5", "10–4"],
            ["Marl Bay", "9–5", "9–4", "closed"],
            ["Stonecross", "8–5", "8–5", "10–2"],
            ["Fennimoor", "10–4", "9–5", "closed"],
          ],
          [34, 22, 22, 22],
          { zebra: true },
        ),
        b.button("How to get here", "/branches"),
      ),
      b.footer("left"),
    ];
  },
};

const holiday: Template = {
  id: "holiday",
  name: "Closed, and merry",
  about: "holiday greetings with the days you are shut",
  purpose: "thank",
  season: "winter",
  theme: "greenhouse",
  subject: "We are off until the third",
  preheader: "The stove is out, the cat is fed, the shop takes orders.",
  sections() {
    const b = kit();
    return [
      b.hero(b.picture("lit-window", "A lit window with plants on its sill, at night")),
      b.stack(
        b.h3("From all of us", { align: "center" }),
        b.h1("A quiet few days", { align: "center" }),
        b.aside(
          "The gates are shut from noon on the 24th until the 3rd of January. The shop takes orders; the van sleeps.",
          "center",
          17,
        ),
        b.rule(),
        b.aside(
          "Thank you for a year of mud, questions and cuttings, {first_name|dear gardener}. The best ones are on the wall by the till.",
          "center",
          16,
        ),
        b.gap(8),
      ),
      b.footer(),
    ];
  },
};

export const MEET: readonly Template[] = [card, saturdays, tomorrow, hours, holiday];
