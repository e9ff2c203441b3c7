import sharp from "sharp";
import { drawing } from "~/core/drawings";
import type { Brand } from "~/core/email";
import { addContacts } from "~/server/audience/contacts";
import { addList, saveSegment } from "~/server/audience/groups";
import { addCampaign } from "~/server/campaigns/campaigns";
import { filePictures, type Picture } from "~/server/pictures/library";
import { addPicture } from "~/server/pictures/taking";
import type { Septima } from "~/server/septima";
import { addFeed } from "~/server/sources/sources";
import { setBrand, setFields } from "~/server/workspace/settings";
import { DEMO_FIELDS, demoContacts } from "./contacts";
import { bulbLetter, sowingLetter, workshopLetter } from "./emails";
import { tansyMark } from "./logo";
import { patternBook } from "./pattern-book";

const BRAND: Brand = {
  name: "Tansy Row",
  address: "3 Nursery Lane, Alderwick AL4 2TR",
  website: "https://tansyrow.example",
  senders: [
    { name: "Tansy Row", address: "letters@tansyrow.example", replyTo: "hello@tansyrow.example" },
    { name: "Tansy Row workshops", address: "workshops@tansyrow.example" },
  ],
  theme: "garden",
  colours: [
    { name: "Leaf", color: "#2B5C3A" },
    { name: "Tansy", color: "#F2B632" },
    { name: "Terracotta", color: "#B5532F" },
    { name: "Frost", color: "#DCE7EC" },
  ],
  addresses: [
    { key: "alderwick", text: "3 Nursery Lane, Alderwick AL4 2TR" },
    { key: "marl_bay", text: "18 Quay Street, Marl Bay MB1 7HA" },
    { key: "stonecross", text: "The Old Kilns, Stonecross ST9 0XE" },
    { key: "fennimoor", text: "Fen End Farm, Fennimoor FM3 5QW" },
  ],
  social: [
    { glyph: "globe", label: "Website", href: "https://tansyrow.example" },
    { glyph: "camera", label: "Pictures", href: "https://pictures.example/tansyrow" },
    { glyph: "film", label: "Films", href: "https://films.example/tansyrow" },
  ],
  constants: [
    { key: "phone", text: "01632 960 100", href: "tel:+441632960100" },
    { key: "hours", text: "nine to five, Sundays ten to four" },
    { key: "head_gardener", text: "Petra Lindqvist" },
  ],
  footers: [
    { name: "Usual", text: "You asked for these letters, at a branch or on our site. Thank you." },
    { name: "Workshops", text: "You get this because you came to a workshop of ours, or asked to." },
  ],
};

const PICTURES: readonly [drawing: string, name: string, alt: string][] = [
  ["spring-rows", "Spring rows", "Carrot, parsnip and beetroot in a row under a low sun"],
  ["autumn-bed", "Autumn bed", "Pumpkins in an autumn bed"],
  ["frost", "Frost", "A frosty garden under a pale moon"],
  ["tomato", "Tomatoes", "Two ripe tomatoes"],
  ["leek", "Leeks", "Three leeks"],
  ["sweet-pea", "Sweet peas", "Sweet peas in three colours"],
  ["sunflower", "Sunflower", "A sunflower"],
  ["apples", "Apples", "A red and a green apple"],
  ["trowel", "Trowel", "A trowel"],
  ["watering-can", "Watering can", "A watering can"],
  ["seedling", "Seedling", "A seedling in a pot"],
  ["workshop", "Workshop bench", "A bench with pots and tools"],
];

/** Whether the workspace holds anything yet. */
export async function isEmpty(septima: Septima): Promise<boolean> {
  const [row] = await septima.db.query("select 1 from settings where key = 'brand' limit 1");
  return !row;
}

/** Fills an empty workspace with the demo nursery. Only dates depend on the day. */
export async function seedDemo(septima: Septima, count: number, say: (what: string) => void): Promise<void> {
  const today = new Date(septima.now()).toISOString().slice(0, 10);
  await setFields(septima, DEMO_FIELDS);
  await addList(septima, "letter", "Monthly letter");
  await addList(septima, "workshops", "Workshop guests");
  await addList(septima, "seed-club", "Seed club");
  say(`Writing ${count.toLocaleString("en")} demo contacts`);
  await addContacts(septima, demoContacts(count, today));
  await septima.db.query("update contacts set status = 'unsubscribed' where id % 61 = 7");
  await septima.db.query("update contacts set status = 'bounced' where id % 97 = 11");
  const field = (name: string, value: string) => ({
    kind: "field" as const,
    field: name,
    op: "is" as const,
    value,
  });
  await saveSegment(septima, {
    id: "members",
    name: "Members",
    rule: { kind: "field", field: "member", op: "yes" },
  });
  await saveSegment(septima, { id: "cool", name: "Cool zone", rule: field("growing_zone", "cool") });
  await saveSegment(septima, { id: "balcony", name: "Balcony gardeners", rule: field("plot", "balcony") });
  await saveSegment(septima, {
    id: "new",
    name: "Joined this month",
    rule: { kind: "field", field: "joined", op: "withinLast", value: 30 },
  });
  await saveSegment(septima, {
    id: "quiet",
    name: "No order for a year",
    rule: { kind: "none", of: [{ kind: "field", field: "last_order", op: "withinLast", value: 365 }] },
  });
  await saveSegment(septima, {
    id: "cool-members",
    name: "Members in the cool zone",
    rule: {
      kind: "all",
      of: [
        { kind: "segment", segment: "members", in: true },
        { kind: "segment", segment: "cool", in: true },
      ],
    },
  });
  say("Drawing pictures");
  const pictures = new Map<string, Picture>();
  for (const [name, title, alt] of PICTURES) {
    const { svg } = drawing(name)!;
    pictures.set(name, await addPicture(septima, title, await sharp(Buffer.from(svg)).png().toBuffer(), alt));
  }
  const filed = (names: readonly string[]) => names.map((name) => pictures.get(name)!.id);
  await filePictures(septima, filed(["spring-rows", "autumn-bed", "frost"]), {
    folder: "Wide",
    label: "season",
  });
  await filePictures(septima, filed(["tomato", "leek", "apples"]), {
    folder: "Kitchen garden",
    label: "harvest",
  });
  await filePictures(septima, filed(["sweet-pea", "sunflower"]), { label: "flowers" });
  say("Reading the journal");
  const feed = await addFeed(septima, "standin://publisher/journal.rss", "Journal");
  const kit = { newId: septima.newId, brand: BRAND, feed, picture: (name: string) => pictures.get(name)! };
  const letter = { include: [{ kind: "list" as const, id: "letter" }], exclude: [] };
  await addCampaign(septima, { name: "Pattern book", series: "Seasonal", email: patternBook(kit) });
  await addCampaign(septima, { name: "Winter workshops", series: "Workshops", email: workshopLetter(kit) });
  await addCampaign(septima, {
    name: "What to sow now",
    series: "Monthly letter",
    email: sowingLetter(kit),
    readers: letter,
  });
  await addSent(
    septima,
    await addCampaign(septima, {
      name: "Late bulbs, half price",
      series: "Seasonal",
      email: bulbLetter(kit),
      readers: letter,
    }),
  );
  // Last, as the mark that the demo is complete.
  const mark = async (title: string, stem: string, flower: string) => {
    const drawn = await sharp(Buffer.from(tansyMark(stem, flower)))
      .png()
      .toBuffer();
    const { path: src, width, height } = await addPicture(septima, title, drawn, "Tansy Row");
    return { src, width, height };
  };
  await setBrand(septima, {
    ...BRAND,
    logo: await mark("Mark", "#2B5C3A", "#F2B632"),
    logoDark: await mark("Mark for dark grounds", "#DCE8D4", "#F2C14E"),
  });
}

/** Records a dispatch that ended three weeks ago. */
async function addSent(septima: Septima, campaignId: string): Promise<void> {
  const at = new Date(septima.now() - 21 * 86_400_000);
  const id = septima.newId();
  await septima.db.query("update campaigns set updated_at = $2, created_at = $2 where id = $1", [
    campaignId,
    at,
  ]);
  await septima.db.query(
    `insert into dispatches (id, campaign_id, state, zone, email, readers, content, created_at, started_at, finished_at)
     select $1, id, 'sent', 'Europe/London', email, readers, '{}', $3, $3, $4 from campaigns where id = $2`,
    [id, campaignId, at, new Date(at.getTime() + 95_000)],
  );
  await septima.db.query(
    `insert into recipients (dispatch_id, contact_id, state, message_id, attempts, changed_at)
     select $1, c.id, case when c.status = 'bounced' then 'failed' else 'accepted' end, $1 || '.' || c.id || '@tansyrow.example', 1, $2
     from contacts c join list_members m on m.contact_id = c.id and m.list_id = 'letter'`,
    [id, at],
  );
  await septima.db.query(
    "update dispatches set total = (select count(*) from recipients where dispatch_id = $1) where id = $1",
    [id],
  );
}
