/** What the columns of a catalogue mean: guessed by their names and by what stands in them, corrected by people. */
import { z } from "zod";
import { FACT_KINDS, type FactKind, type ItemFact, type SourceKind } from "../items";
import { type ColumnFacts, type DateOrder, keyFor } from "../tables";
import { CALENDAR_FACTS } from "./calendar";

/** The parts that all items share, as they are called. */
export const ITEM_PARTS = {
  id: "Its number",
  title: "Title",
  text: "Text",
  link: "Link",
  picture: "Picture",
  price: "Price",
  sale: "Sale price",
  currency: "Currency",
  stock: "Stock",
  category: "Category",
  tags: "Tags",
  date: "Date or beginning",
  until: "End",
  place: "Place",
} as const;
export type ItemPart = keyof typeof ITEM_PARTS;
const PARTS = Object.keys(ITEM_PARTS) as [ItemPart, ...ItemPart[]];

const TargetSchema = z.discriminatedUnion("to", [
  z.object({ to: z.literal("nothing") }),
  z.object({ to: z.literal("part"), part: z.enum(PARTS) }),
  z.object({
    to: z.literal("fact"),
    key: z.string().regex(/^[a-z][a-z0-9_]{0,59}$/),
    label: z.string().min(1).max(100),
    kind: z.enum(FACT_KINDS),
  }),
]);
/** What a column becomes. */
export type ColumnTarget = z.infer<typeof TargetSchema>;

export const MappingSchema = z.object({
  columns: z
    .array(
      z.object({
        name: z.string().max(300),
        target: TargetSchema,
        /** How its numbers and its days are written. */
        decimal: z.enum([".", ","]),
        dates: z.enum(["dmy", "mdy"]),
      }),
    )
    .max(400),
  /** ISO 4217, of prices that do not say theirs; empty where nobody knows. */
  currency: z.string().regex(/^([A-Z]{3})?$/),
});
/** What the columns of a catalogue mean, by their names. A column it does not name means nothing. */
export type Mapping = z.infer<typeof MappingSchema>;

/** The further facts that a source gives its items, each once: a calendar those that standards know, others what is mapped. */
export function factsOfSource({
  kind,
  mapping,
}: {
  kind: SourceKind;
  mapping: Mapping | null;
}): readonly ItemFact[] {
  if (kind === "calendar") return CALENDAR_FACTS;
  const facts = new Map<string, ItemFact>();
  for (const { target } of mapping?.columns ?? [])
    if (target.to === "fact" && !facts.has(target.key))
      facts.set(target.key, { key: target.key, label: target.label, kind: target.kind });
  return [...facts.values()];
}

/** Names that columns have for the parts of an item, in the order in which they are looked for. */
const NAMES: readonly [ItemPart, RegExp][] = [
  [
    "sale",
    /^(sale|special|offer|reduced|discount(ed)?|action|angebots?|aktions?)[ _.-]?(price|preis)(\.value|\.amount)?$|^prix[ _-]?(promo|sold[ée])/i,
  ],
  [
    "price",
    /^((regular|base|list|unit|retail|from|asking|starting)[ _.-]?)?(price|preis|prix|precio|prezzo|rent|miete|loyer)([ _.-]?(value|amount|incl.*|gross|brutto))?$/i,
  ],
  ["currency", /(^|[ _.-])(currency|w[äa]hrung|devise|moneda|valuta)([ _.-]?code)?$/i],
  [
    "id",
    /^((item|product|artikel|article|listing|property|job|record)?[ _.-]?(id|sku|number|nummer|nr|no|ref(erence)?|code|key|guid)|art[ _.-]?nr|bestellnummer|referenz)\.?$/i,
  ],
  [
    "title",
    /^((product|item|artikel|job)?[ _.-]?(title|name|titel|titre|bezeichnung|produktname|nom|headline|designation|summary))$/i,
  ],
  [
    "link",
    /^((product|item|canonical|deep|page)?[ _.-]?(url|link|href|permalink|address|web ?page|webseite|lien|loc))(\.href)?$/i,
  ],
  ["picture", /(image|picture|photo|bild|foto|img|thumbnail)(s|er)?([ _.-]?(link|url|src|href))*$/i],
  [
    "text",
    /^((product|long|short|item)?[ _.-]?(description|beschreibung|text|summary|details?|content|body|excerpt|about|abstract|texte))$/i,
  ],
  [
    "stock",
    /(stock|inventory|quantity|qty|bestand|lager(bestand)?|menge|availab(le|ility)|verf[üu]gbar(keit)?|disponib)/i,
  ],
  [
    "category",
    /(categor|kategori|cat[ée]gorie|product[ _.-]?type|warengruppe|rubrik|department|section|rayon)/i,
  ],
  ["tags", /^(tags?|keywords?|labels?|schlagw[öo]rter|mots[ _-]?cl[ée]s)$/i],
  ["until", /^(end|ends|ends?[ _.-]?(date|time|at|on)?|until|bis|fin|closes|closing[ _.-]?date|expires.*)$/i],
  [
    "date",
    /^(date|datum|start|starts|starts?[ _.-]?(date|time|at|on)|begin(s|n)?|published([ _.-]?(at|on|date))?|created([ _.-]?(at|on))?|updated([ _.-]?(at|on))?|listed|posted|d[ée]but|from|seit|available[ _.-]?from)$/i,
  ],
  ["place", /^(place|location|venue|city|town|ort|lieu|ville|adresse|stadt)(\.name)?$/i],
];

const FACTS: Record<ColumnFacts["kind"], FactKind> = {
  text: "text",
  choice: "text",
  record: "text",
  address: "text",
  number: "number",
  money: "money",
  date: "date",
  boolean: "boolean",
  set: "set",
};

const CURRENCIES: Record<string, string> = {
  "€": "EUR",
  "£": "GBP",
  "¥": "JPY",
  "₹": "INR",
  zł: "PLN",
  $: "USD",
};

/** The currency whose code a sum has with it (ISO 4217), or null. */
export function currencyIn(text: string): string | null {
  return /(?:^|[\s\d.,])([A-Z]{3})(?:$|[\s\d])/.exec(text)?.[1] ?? null;
}

/** The same, or what its sign most often stands for. */
function likelyCurrency(text: string): string | null {
  const code = currencyIn(text);
  if (code) return code;
  const sign = /\p{Sc}|zł/u.exec(text)?.[0];
  return (sign && CURRENCIES[sign]) ?? null;
}

const isSum = ({ samples, kind }: ColumnFacts) =>
  kind === "number" || (samples.length > 0 && samples.every((it) => /\d/.test(it) && it.length < 30));
const isAddress = ({ samples }: ColumnFacts) =>
  samples.some((it) => /^(https?:)?\/|^[\w./%-]+\.(html?|jpe?g|png|webp|gif|php)/i.test(it.trim()));

/** Whether what stands in a column can be that part at all. */
function fits(part: ItemPart, column: ColumnFacts): boolean {
  if (column.filled === 0) return true;
  if (part === "price" || part === "sale") return isSum(column);
  if (part === "link" || part === "picture") return isAddress(column);
  if (part === "date" || part === "until")
    return column.kind === "date" || column.samples.some((it) => !Number.isNaN(Date.parse(it)));
  return true;
}

/** What the columns may mean: no part is given twice, what is called like nothing known is a further fact. */
export function guessMapping(columns: readonly ColumnFacts[], dates?: DateOrder): Mapping {
  const targets = new Map<string, ColumnTarget>();
  for (const [part, pattern] of NAMES) {
    const named = columns.find(
      (column) => !targets.has(column.name) && pattern.test(column.name) && fits(part, column),
    );
    if (named) targets.set(named.name, { to: "part", part });
  }
  const has = (part: ItemPart) => [...targets.values()].some((it) => it.to === "part" && it.part === part);
  // Some column has to say what it is: the first of words that no two have in common, else the first of words.
  if (!has("title")) {
    const words = columns.filter(
      (column) => !targets.has(column.name) && column.kind === "text" && !isAddress(column) && !isSum(column),
    );
    const title = words.find(({ different, filled }) => different >= Math.min(filled, 20)) ?? words[0];
    if (title) targets.set(title.name, { to: "part", part: "title" });
  }
  const keys = new Set<string>();
  const currency = columns
    .filter(({ name }) => {
      const target = targets.get(name);
      return target?.to === "part" && (target.part === "price" || target.part === "sale");
    })
    .flatMap(({ samples }) => samples.map(likelyCurrency))
    .find((it) => it !== null);
  return {
    columns: columns.map((column) => {
      let target = targets.get(column.name);
      if (!target) {
        const label = labelOf(column.name);
        const key = keyFor(label, keys);
        keys.add(key);
        target =
          column.filled === 0 ? { to: "nothing" } : { to: "fact", key, label, kind: FACTS[column.kind] };
      }
      return { name: column.name, target, decimal: column.decimal, dates: dates ?? column.dates };
    }),
    currency: currency ?? "",
  };
}

/** A column's name as people would write it. */
function labelOf(name: string): string {
  const words = name
    .replace(/([a-z])([A-Z])/g, "$1 $2")
    .replace(/[_.-]+/g, " ")
    .trim()
    .toLowerCase();
  return (words.charAt(0).toUpperCase() + words.slice(1)).slice(0, 100) || "Fact";
}

/** Whether a mapping speaks of things that are sold; else they are records. */
export function isCatalogue(mapping: Mapping): boolean {
  return mapping.columns.some(({ target }) => target.to === "part" && target.part === "price");
}
