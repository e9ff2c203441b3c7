import sharp from "sharp";
import { z } from "zod";
import { drawing } from "~/core/drawings";
import type { Brand } from "~/core/email";
import { signingDomain } from "~/core/mime";
import { addContacts } from "~/server/audience/contacts";
import { setFields } from "~/server/audience/fields";
import { lists, saveList, saveSegment, segments } from "~/server/audience/groups";
import { saveRecords, saveTable } from "~/server/audience/records";
import { addCampaign, setArchived } from "~/server/campaigns/campaigns";
import { makeKeys, setRelaySigns } from "~/server/mail/signing-keys";
import { filePictures, type Picture } from "~/server/pictures/library";
import { addPicture } from "~/server/pictures/taking";
import { saveProgramme } from "~/server/referrals/programme";
import { Refusal } from "~/server/refusal";
import type { Septima } from "~/server/septima";
import { addBatch } from "~/server/sources/codes";
import { addSource, refreshAll, sources } from "~/server/sources/sources";
import { saveLookup } from "~/server/workspace/lookups";
import { cachedSetting, setBrand, setZone, writeSetting } from "~/server/workspace/settings";
import { demoTables } from "./branches";
import { DEMO_FIELDS, demoContacts } from "./contacts";
import { draftLetter } from "./draft";
import { bulbLetter, sowingLetter, workshopLetter } from "./emails";
import { hastyLetter } from "./hasty";
import { addReactions, addSent, addSizes, addTrade } from "./history";
import { tansyMark } from "./logo";
import { patternBook } from "./pattern-book";
import { demoBatches, demoLookups, MANAGERS, portrait } from "./wording";

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

const DAY = 86_400_000;

/** Where the links of the past year led. */
const LINKS = [
  "https://tansyrow.example/shop",
  "https://tansyrow.example/shop/seeds",
  "https://tansyrow.example/workshops",
  "https://tansyrow.example/journal",
  "https://tansyrow.example/members",
];

const READ_AT = "demo read at";

/** Reads what our own stand-ins say anew where they are at another address than last time: those of their pictures depend on it. */
export async function readOwnSources(septima: Septima): Promise<void> {
  const at = septima.config.standins.publisher;
  if ((await cachedSetting(septima, READ_AT, z.string(), "")) === at) return;
  const own = (await sources(septima)).filter(({ address }) => address.startsWith("standin://"));
  await refreshAll(
    septima,
    own.map(({ id }) => id),
  );
  await writeSetting(septima, READ_AT, at);
}

/** Whether the workspace holds anything yet. */
export async function isEmpty(septima: Septima): Promise<boolean> {
  const [row] = await septima.db.query("select 1 from settings where key = 'brand' limit 1");
  return !row;
}

const MAKING = "demo being made";

/** Forgets a demo that was left half made, so that it is made anew. Says whether there was one. */
export async function clearHalfMade(septima: Septima): Promise<boolean> {
  const { db } = septima;
  const [row] = await db.query("select 1 from settings where key = $1", [MAKING]);
  if (!row) return false;
  const tables = await db.query<{ name: string }>(
    `select quote_ident(tablename) as name from pg_tables
     where schemaname = current_schema() and tablename <> 'migrations'`,
  );
  await db.script(`truncate ${tables.map(({ name }) => name).join(", ")} restart identity`);
  septima.cache.clear();
  return true;
}

/** Fills an empty workspace with the demo nursery. Only dates depend on the day. */
export async function seedDemo(septima: Septima, count: number, say: (what: string) => void): Promise<void> {
  await writeSetting(septima, MAKING, true);
  await makeDemo(septima, count, say);
  await septima.db.query("delete from settings where key = $1", [MAKING]);
}

async function makeDemo(septima: Septima, count: number, say: (what: string) => void): Promise<void> {
  const today = new Date(septima.now()).toISOString().slice(0, 10);
  await setZone(septima, "Europe/London");
  for (const [id, name, about] of [
    ["letter", "Monthly letter", "What to sow and to do, once a month."],
    ["workshops", "Workshop guests", "When there is a workshop at a branch."],
    ["seed-club", "Seed club", "New seeds before anybody else sees them."],
  ])
    await saveList(septima, { id, name, about, topic: true });
  say(`Writing ${count.toLocaleString("en")} demo contacts`);
  await addContacts(septima, demoContacts(count, today));
  await septima.db.query("update contacts set status = 'unsubscribed' where id % 61 = 7");
  await septima.db.query("update contacts set status = 'bounced' where id % 97 = 11");
  await septima.db.query("update contacts set status = 'complained' where id % 1009 = 5");
  await septima.db.query("update contacts set created_at = (fields ->> 'joined')::date + interval '9 hours'");
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
  for (const { table, records } of demoTables({
    Alderwick: pictures.get("autumn-bed")!.path,
    "Marl Bay": pictures.get("sunflower")!.path,
    Stonecross: pictures.get("frost")!.path,
    Fennimoor: pictures.get("spring-rows")!.path,
  })) {
    await saveTable(septima, table);
    await saveRecords(septima, table.id, records);
  }
  await setFields(septima, DEMO_FIELDS);
  const portraits = new Map<string, string>();
  for (const { name, colours } of MANAGERS) {
    const [skin, hair, coat] = colours;
    const drawn = await sharp(Buffer.from(portrait(skin, hair, coat)))
      .png()
      .toBuffer();
    portraits.set(name, (await addPicture(septima, name, drawn, name)).path);
  }
  for (const lookup of demoLookups(portraits)) await saveLookup(septima, lookup, null);
  for (const [batch, list] of demoBatches(Number(today.slice(0, 4)))) await addBatch(septima, batch, list);
  await saveProgramme(septima, {
    on: true,
    list: "letter",
    title: "Letters worth getting",
    words: "Once a month: what to sow, what to leave, and what is on at the branches.",
    consent: "Yes, write to me by email. I can stop it with one press in every letter.",
    steps: [
      { id: "thanks", at: 1, reward: "a packet of sweet peas at the till", batch: null },
      { id: "bulbs", at: 3, reward: "a bag of bulbs", batch: "bulb_gift" },
      { id: "day", at: 10, reward: "a Saturday workshop of your choice", batch: null },
    ],
  });
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
  const feed = await addSource(septima, "standin://publisher/journal.rss", "Journal");
  const shop = await addSource(septima, "standin://shop/products.xml", "Shop");
  await addSource(septima, "standin://calendar/workshops.ics");
  const kit = {
    newId: septima.newId,
    brand: BRAND,
    feed,
    shop,
    picture: (name: string) => pictures.get(name)!,
  };
  const letter = { include: [{ kind: "list" as const, id: "letter" }], exclude: [] };
  await addCampaign(septima, { name: "Pattern book", series: "Seasonal", email: patternBook(kit) });
  await addCampaign(septima, { name: "Winter workshops", series: "Workshops", email: workshopLetter(kit) });
  await addCampaign(septima, {
    name: "Bare-root week",
    series: "Seasonal",
    email: hastyLetter(kit, new Date(septima.now()).toISOString().slice(0, 10)),
    readers: letter,
  });
  await addCampaign(septima, {
    name: "What to sow now",
    series: "Monthly letter",
    email: draftLetter(kit),
    readers: letter,
  });
  say("Recalling a year");
  for (let months = 11; months >= 0; months--) {
    const at = new Date(septima.now() - (21 + months * 30) * DAY);
    const month = at.toLocaleString("en-GB", { month: "long", timeZone: "UTC" });
    const past = await addCampaign(septima, {
      ...(months === 0
        ? { name: "Late bulbs, half price", series: "Seasonal", email: bulbLetter(kit) }
        : { name: `The garden in ${month}`, series: "Monthly letter", email: sowingLetter(kit) }),
      readers: letter,
    });
    // What is older than the season is out of the way.
    const old = months > 3;
    await addSent(septima, past, at, !old);
    if (old) await setArchived(septima, past, true);
  }
  await addReactions(septima, LINKS);
  await addTrade(septima);
  for (const { id } of await lists(septima))
    await addSizes(septima, "list", id, { kind: "list", list: id, in: true });
  for (const { id, rule } of await segments(septima)) await addSizes(septima, "segment", id, rule);
  // Last, as the mark that the demo is complete.
  const mark = async (title: string, stem: string, flower: string) => {
    const drawn = await sharp(Buffer.from(tansyMark(stem, flower)))
      .png()
      .toBuffer();
    const { path: src, width, height } = await addPicture(septima, title, drawn, "Tansy Row");
    return { src, width, height };
  };
  await signFor(septima, [...new Set(BRAND.senders.map(({ address }) => signingDomain(address)))], say);
  await setBrand(septima, {
    ...BRAND,
    logo: await mark("Mark", "#2B5C3A", "#F2B632"),
    logoDark: await mark("Mark for dark grounds", "#DCE8D4", "#F2C14E"),
  });
}

/**
 * Makes keys for domains; where they cannot be kept, the relay is said to sign. Of the quick kind: no receiver of the demo
 * knows RSA alone.
 */
async function signFor(
  septima: Septima,
  domains: readonly string[],
  say: (what: string) => void,
): Promise<void> {
  for (const domain of domains) {
    try {
      await makeKeys(septima, domain, ["ed25519-sha256"]);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      say(error.message);
      await setRelaySigns(septima, domain, true);
    }
  }
}
