/** The journal of the demo nursery: title, days before today, summary as the feed carries it, picture and category. */
export interface JournalArticle {
  slug: string;
  title: string;
  age: number;
  summary: string;
  picture: string | null;
  category: string;
}

const SUBJECTS: [title: string, summary: string, picture: string | null, category: string][] = [
  [
    "Hold your beans",
    "Nights still touch freezing. <b>Sow runner beans</b> indoors now and plant out once the soil has reached 10&nbsp;&deg;C for a week.",
    "beans",
    "Sowing",
  ],
  [
    "A bed for no-dig beginners",
    "Cardboard, compost, patience: how to turn a lawn into a bed in an afternoon &amp; why it works.",
    "seedling",
    "Soil",
  ],
  [
    "Leeks that stand all winter",
    "Three kinds we have grown on heavy clay, and what we would sow again.",
    "leek",
    "Vegetables",
  ],
  [
    "Pinching sweet peas",
    "Nip the tip above the second pair of leaves. It feels cruel; it doubles the flowers.",
    "sweet-pea",
    "Flowers",
  ],
  [
    "What the rain does to seed compost",
    "Overhead watering packs it down. Stand the trays in an inch of water instead &#8212; ten minutes is enough.",
    "rain",
    "Sowing",
  ],
  [
    "Tomatoes on a balcony",
    "One plant, one large pot, one stake. Everything else is a question of water.",
    "tomato",
    "Balcony",
  ],
  [
    "A trowel for life",
    "Forged or pressed, long or short: what to look for in the tool you use most.",
    "trowel",
    "Tools",
  ],
  [
    "The case for beetroot",
    "It forgives shade, drought and neglect, and the leaves are a second crop.",
    "beetroot",
    "Vegetables",
  ],
  [
    "Watering once a week, well",
    "Roots go where the water goes. Give much, seldom, and in the morning.",
    "watering-can",
    "Care",
  ],
  [
    "Sunflowers for small hands",
    "A packet, a wall that faces south, a tape measure: a summer with children.",
    "sunflower",
    "Flowers",
  ],
  [
    "Apples in a small garden",
    "Trained flat against a fence, a tree needs no more room than a bookshelf.",
    "apples",
    "Fruit",
  ],
  ["Notes from the potting bench", "", null, "Journal"],
  [
    "Slugs: what we tried",
    "Beer, wool, copper, torchlight. <i>Only one of them</i> worked for us, and it costs nothing but sleep.",
    null,
    "Care",
  ],
  [
    "Saving seed from lettuce",
    "Let one plant bolt. Shake it into a bag a month later. That is all.",
    "seedling",
    "Sowing",
  ],
];

/** About forty articles, newest first, the same every time. `extra` counts those added on demand. */
export function journal(extra: number): JournalArticle[] {
  const articles: JournalArticle[] = [];
  for (let index = 0; index < extra; index++) {
    articles.push({
      slug: `fresh-${extra - index}`,
      title: `Fresh from the bench, no. ${extra - index}`,
      age: 0,
      summary: "Just in: what we potted on this morning, and what is ready to leave.",
      picture: "workshop",
      category: "Journal",
    });
  }
  for (let index = 0; index < 42; index++) {
    const [title, summary, picture, category] = SUBJECTS[index % SUBJECTS.length];
    const round = Math.floor(index / SUBJECTS.length);
    articles.push({
      slug: `${title
        .toLowerCase()
        .replace(/[^a-z]+/g, "-")
        .replace(/^-|-$/g, "")}${round > 0 ? `-${round + 1}` : ""}`,
      title: round === 0 ? title : `${title}, part ${round + 1}`,
      age: 2 + index * 5,
      summary,
      picture,
      category,
    });
  }
  return articles;
}
