import type { FieldDef, FieldKind } from "~/core/audience";
import {
  type Brand,
  LETTER_LINK,
  lookupNamed,
  lookupTags,
  type MergeTag,
  type TagFacts,
  type TagFormat,
  typedTag,
} from "~/core/email";

/** How values of each kind may be written, the usual way first. */
export const FORMATS: Record<FieldKind, readonly { value: TagFormat; label: string }[]> = (() => {
  const words = [
    { value: "asIs", label: "As it is" },
    { value: "capital", label: "First letter large" },
    { value: "upper", label: "CAPITALS" },
    { value: "lower", label: "small letters" },
  ] as const;
  const numbers = [
    { value: "asIs", label: "1234.5" },
    { value: "number", label: "As the reader’s language writes it" },
  ] as const;
  return {
    text: words,
    choice: words,
    record: words,
    number: numbers,
    money: [{ value: "money", label: "With its currency" }, ...numbers],
    date: [
      { value: "dayMonth", label: "Day and month" },
      { value: "longDate", label: "Day, month, year" },
      { value: "weekday", label: "Weekday, day and month" },
      { value: "monthYear", label: "Month and year" },
      { value: "shortDate", label: "In figures" },
      { value: "year", label: "Year" },
      { value: "asIs", label: "2026-03-31" },
    ],
    boolean: [{ value: "asIs", label: "yes or no" }],
    set: [
      { value: "list", label: "a, b and c" },
      { value: "asIs", label: "Parted by commas" },
    ],
  };
})();

/** The brand's own facts, the same for every reader. */
function brandFacts({
  addresses = [],
  constants = [],
}: Brand): { key: string; label: string; href?: string }[] {
  const words = (key: string) => key.replaceAll("_", " ");
  return [
    { key: "brand.name", label: "Brand name" },
    { key: "brand.address", label: "Postal address" },
    ...addresses.map(({ key }) => ({ key: `brand.address.${key}`, label: `Address, ${words(key)}` })),
    ...constants.map(({ key, href }) => ({
      key: `brand.${key}`,
      label: `${words(key)[0].toUpperCase()}${words(key).slice(1)}`,
      href,
    })),
  ];
}

/** What a tag asks: the reader themselves, a lookup, a batch of codes, the day, the letter they get, or what is the same for everybody. */
type DatumOf = "reader" | "lookup" | "code" | "day" | "letter" | "all";

/** Something that can be put into words for each reader. */
export interface ReaderDatum {
  key: string;
  label: string;
  of: DatumOf;
  kind: FieldKind | null;
  currency?: string;
  /** Where it leads, when it is a link. */
  href?: string;
  /** What stands for it among words to begin with, where it is nothing but a link. */
  said?: string;
}

/** What tags may speak of, as the composer knows it. */
export interface DataFacts {
  words: { fields: readonly FieldDef[] };
  brand: Brand;
  tags: TagFacts;
}

const CAMPAIGN_FACTS = [
  { key: "campaign.name", label: "Campaign name" },
  { key: "campaign.series", label: "Series" },
  { key: "sender.name", label: "Sender’s name" },
  { key: "sender.address", label: "Sender’s address" },
];

function allData({ words: { fields }, brand, tags: { lookups = [], codes = [] } }: DataFacts): ReaderDatum[] {
  return [
    // What a field points to has a name, which is among its facts.
    ...fields
      .filter(({ kind }) => kind !== "record")
      .map(
        ({ key, label, kind, currency }): ReaderDatum => ({
          key,
          label,
          of: "reader",
          kind,
          ...(currency && { currency }),
        }),
      ),
    ...lookups.flatMap((lookup) =>
      lookupTags(lookup).map(({ field, part }, index): ReaderDatum => {
        const leads = lookup.kind === "link" || part === "portrait" || part === "picture";
        return {
          key: field,
          label: index === 0 ? lookup.name : `${lookup.name}: ${part}`,
          of: "lookup",
          kind: null,
          ...(leads && { href: typedTag({ field, fallback: "", format: "asIs" }) }),
        };
      }),
    ),
    ...codes.map(
      ({ key, name }): ReaderDatum => ({ key: `code.${key}`, label: name, of: "code", kind: null }),
    ),
    { key: "date.today", label: "Day it is sent", of: "day", kind: "date" },
    {
      key: "system.letter",
      label: "This letter in a browser",
      of: "letter",
      kind: null,
      href: LETTER_LINK,
      said: "Read this letter in your browser",
    },
    ...[...brandFacts(brand), ...CAMPAIGN_FACTS].map(
      (fact): ReaderDatum => ({ ...fact, of: "all", kind: null }),
    ),
  ];
}

/** Whether a tag gives the address of a picture. */
export function isPictureTag(field: string, { lookups }: TagFacts): boolean {
  const part = lookupNamed(field, lookups)?.part;
  return part === "picture" || part === "portrait";
}

/** All reader data, those first whose name begins with what is sought. */
export function readerData(facts: DataFacts, query = ""): ReaderDatum[] {
  const wanted = query.trim().toLowerCase();
  const rank = ({ label, key }: ReaderDatum) =>
    label.toLowerCase().startsWith(wanted) ? 0 : `${label} ${key}`.toLowerCase().includes(wanted) ? 1 : 2;
  return allData(facts)
    .filter((it) => rank(it) < 2)
    .sort((a, b) => rank(a) - rank(b));
}

/** A new tag for it, written in the usual way. */
export function tagOf({ key, kind, currency }: ReaderDatum): MergeTag {
  return {
    field: key,
    fallback: "",
    format: kind ? FORMATS[kind][0].value : "asIs",
    ...(kind === "money" && currency && { currency }),
  };
}
