import { addDays, type FieldDef } from "~/core/audience";
import { type Random, seeded } from "./random";

/** The demo workspace's own fields. */
export const DEMO_FIELDS: readonly FieldDef[] = [
  { key: "branch", label: "Branch", kind: "record", table: "branches" },
  { key: "adviser", label: "Adviser", kind: "record", table: "advisers" },
  {
    key: "growing_zone",
    label: "Growing zone",
    kind: "choice",
    options: [
      { value: "cool", label: "Cool" },
      { value: "mild", label: "Mild" },
      { value: "warm", label: "Warm" },
    ],
  },
  {
    key: "plot",
    label: "Plot",
    kind: "choice",
    options: [
      { value: "balcony", label: "Balcony" },
      { value: "garden", label: "Garden" },
      { value: "allotment", label: "Allotment" },
    ],
  },
  { key: "member", label: "Member", kind: "boolean" },
  { key: "member_since", label: "Member since", kind: "date" },
  { key: "last_order", label: "Last order", kind: "date" },
  { key: "orders", label: "Orders", kind: "number" },
  {
    key: "interests",
    label: "Interests",
    kind: "set",
    options: ["vegetables", "flowers", "fruit", "herbs", "tools"].map((name) => ({
      value: name,
      label: name,
    })),
  },
];

const FIRST: Record<string, readonly string[]> = {
  en: [
    "Ines",
    "Tobin",
    "Maren",
    "Odell",
    "Priya",
    "Callum",
    "Wren",
    "Hester",
    "Jory",
    "Isla",
    "Bram",
    "Nell",
    "Oona",
    "Tamsin",
    "Ravi",
    "Edda",
    "Silas",
    "Fern",
    "Lowen",
    "Merrin",
    "Zadie",
    "Kofi",
    "Aoife",
    "Siân",
  ],
  fr: ["Élodie", "Maël", "Anaïs", "Théo", "Zoé", "Noémie", "Rémi", "Margaux", "Loïc", "Solène"],
  de: ["Jörg", "Käthe", "Lukas", "Frieda", "Söhnke", "Anneliese", "Björn", "Greta", "Matthäus", "Wiebke"],
};
const LAST = [
  "Calder",
  "O’Rourke",
  "Ashdown",
  "Penhale",
  "Marchetti",
  "Okafor",
  "Vance",
  "D'Arcy-Lund",
  "Brandt",
  "Lindqvist",
  "Thorne",
  "Moreau",
  "Szymański",
  "Grünwald",
  "Hale",
  "Trevanion",
  "Nakagawa",
  "Pellerin",
  "Østergaard",
  "Quill",
  "Rosenbaum",
  "Sandoval",
  "Tregear",
  "Underhill",
  "Wexcombe",
];
const OTHER_SCRIPTS: readonly [string, string][] = [
  ["Юлия", "Орлова"],
  ["美咲", "田中"],
  ["Ελένη", "Παππά"],
  ["نور", "حداد"],
  ["Дмитро", "Бондар"],
];
const ZONES = [
  "Europe/London",
  "Europe/London",
  "Europe/London",
  "Europe/London",
  "Europe/Paris",
  "Europe/Berlin",
  "America/New_York",
  "Asia/Tokyo",
];

/** Who looks after whom; some are looked after by nobody. */
const ADVISED: Record<string, readonly (string | null)[]> = {
  balcony: ["ravi-sandoval", "ravi-sandoval", null],
  garden: ["oona-pellerin", "edda-grunwald", "silas-thorne"],
  allotment: ["hester-quill", "bram-szymanski", null],
};

export interface DemoContact {
  email: string;
  fields: Record<string, unknown>;
  lists: string[];
}

const plain = (name: string) =>
  name
    .normalize("NFD")
    .replace(/[^A-Za-z]/g, "")
    .toLowerCase();

/**
 * Made-up contacts, the same for the same day: some without a name or branch, some in other scripts, some born on
 * 29 February.
 */
export function demoContacts(count: number, today: string): DemoContact[] {
  const random = seeded(7);
  return Array.from({ length: count }, (_, index) => contact(index, today, random));
}

function contact(index: number, today: string, random: Random): DemoContact {
  const language = random.chance(0.8) ? "en" : random.pick(["fr", "de"]);
  let first: string | null = random.pick(FIRST[language]);
  let last: string | null = random.pick(LAST);
  if (random.chance(0.01)) [first, last] = random.pick(OTHER_SCRIPTS);
  if (index === 0) [first, last] = ["Ines", "Calder"];
  else if (random.chance(0.05)) first = null;
  if (index > 0 && random.chance(0.03)) last = null;
  const branch = random.chance(0.93)
    ? random.pick(["Alderwick", "Alderwick", "Marl Bay", "Stonecross", "Fennimoor"])
    : null;
  const member = random.chance(0.24);
  const orders = random.chance(0.35) ? 0 : random.whole(1, 5);
  const joined = addDays(today, -random.whole(0, 1900));
  const year = random.whole(1942, 2004);
  const birthday = random.chance(0.004)
    ? "1988-02-29"
    : `${year}-${String(random.whole(1, 12)).padStart(2, "0")}-${String(random.whole(1, 28)).padStart(2, "0")}`;
  const fields: Record<string, unknown> = {
    first_name: first,
    last_name: last,
    language,
    time_zone: language === "en" ? random.pick(ZONES) : language === "fr" ? "Europe/Paris" : "Europe/Berlin",
    birthday: random.chance(0.7) || index === 0 ? birthday : null,
    joined,
    branch: index === 0 ? "Alderwick" : branch,
    growing_zone: index === 0 ? "cool" : random.pick(["cool", "cool", "mild", "mild", "mild", "warm"]),
    plot:
      index === 0
        ? "allotment"
        : random.pick(["garden", "garden", "garden", "balcony", "balcony", "allotment"]),
    member,
    member_since: member ? addDays(joined, random.whole(0, 200)) : null,
    orders,
    last_order: orders > 0 ? addDays(today, -random.whole(1, 600)) : null,
    interests: ["vegetables", "flowers", "fruit", "herbs", "tools"].filter(() => random.chance(0.4)),
  };
  // Who reads first has bought something of late.
  if (index === 0) Object.assign(fields, { orders: 3, last_order: addDays(today, -12) });
  fields.adviser = ADVISED[String(fields.plot)]?.[index % 3] ?? null;
  fields.consent_source = ["Online shop", "At a branch", "Workshop"][index % 3];
  fields.consent_date = joined;
  for (const key of Object.keys(fields)) if (fields[key] === null) delete fields[key];
  const name =
    [first, last]
      .map((part) => plain(part ?? ""))
      .filter(Boolean)
      .join(".") || "reader";
  const lists = ["letter", "workshops", "seed-club"].filter(
    (_, at) => random.chance([0.82, 0.12, 0.18][at]) || index === 0,
  );
  return {
    email: `${name}.${index + 1}@${random.pick(["mail.example", "post.example", "garden.test", "letters.example"])}`,
    fields,
    lists,
  };
}
