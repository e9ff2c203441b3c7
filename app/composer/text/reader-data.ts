import type { FieldDef, FieldKind } from "~/core/audience";
import type { Brand, MergeTag, TagFormat } from "~/core/email";

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
    money: numbers,
    date: [
      { value: "dayMonth", label: "Day and month" },
      { value: "longDate", label: "Day, month, year" },
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

/** Something that can be put into words for each reader. */
export interface ReaderDatum {
  key: string;
  label: string;
  kind: FieldKind | null;
  /** Where it leads, when it is a link. */
  href?: string;
}

/** All reader data, those first whose name begins with what is sought. */
export function readerData(fields: readonly FieldDef[], brand: Brand, query = ""): ReaderDatum[] {
  const wanted = query.trim().toLowerCase();
  const all: ReaderDatum[] = [
    // What a field points to has a name, which is among its facts.
    ...fields.filter(({ kind }) => kind !== "record").map(({ key, label, kind }) => ({ key, label, kind })),
    ...brandFacts(brand).map((fact) => ({ ...fact, kind: null })),
  ];
  const rank = ({ label, key }: ReaderDatum) =>
    label.toLowerCase().startsWith(wanted) ? 0 : `${label} ${key}`.toLowerCase().includes(wanted) ? 1 : 2;
  return all.filter((it) => rank(it) < 2).sort((a, b) => rank(a) - rank(b));
}

/** A new tag for it, written in the usual way. */
export function tagOf({ key, kind }: ReaderDatum): MergeTag {
  return { field: key, fallback: "", format: kind ? FORMATS[kind][0].value : "asIs" };
}
