/** Records of a catalogue made items, by what its columns mean. */
import { type FactKind, type FactValue, type Item, itemOf } from "../items";
import { type DateOrder, readBoolean, readDate, readNumber } from "../tables";
import { currencyIn, type ItemPart, type Mapping } from "./mapping";
import { htmlToPlain } from "./plain";
import { firstOf, type RawRecord } from "./record";
import { GREATEST, isoTime, sound, webAddress } from "./sound";

/** An item, with what was odd about it; or why there is none. Each as the end of a sentence that says where. */
export type ItemRead = { item: Item; odd: string[] } | { reason: string };

const NONE_LEFT =
  /^(out[ _-]?of[ _-]?stock|sold[ _-]?out|unavailable|discontinued|ausverkauft|nicht (verf[üu]gbar|lieferbar|auf lager)|[ée]puis[ée]|rupture.*|indisponible|agotado|esaurito|uitverkocht)$/i;
const SOME_LEFT =
  /^(in[ _-]?stock|available|pre[ _-]?order|back[ _-]?order|verf[üu]gbar|lieferbar|auf lager|vorr[äa]tig|en stock|disponible)$/i;

/** How many there are by what a cell says; undefined where it says enough, null where it cannot be read. */
function stockOf(text: string): number | undefined | null {
  const word = text.trim().replace(/^.*\/(?=\w+$)/, "");
  const number = readNumber(word, ".");
  if (number !== null) return Math.max(0, Math.floor(number));
  if (NONE_LEFT.test(word)) return 0;
  if (SOME_LEFT.test(word)) return undefined;
  const yes = readBoolean(word);
  return yes === null ? null : yes ? undefined : 0;
}

/** Parts a path from the broadest to the narrowest. */
function pathOf(cell: string | readonly string[]): string[] {
  const parts = typeof cell === "string" ? cell.split(/\s*(?:>|›|»|\|)\s*|\s+\/\s+/) : cell;
  return named(parts, GREATEST.path);
}

function tagsOf(cell: string | readonly string[]): string[] {
  return named(typeof cell === "string" ? cell.split(/[,;|]/) : cell, GREATEST.categories);
}

const named = (words: readonly string[], most: number) => [
  ...new Set(
    words
      .map((word) => sound(word.trim()).slice(0, GREATEST.category))
      .filter((word) => word !== "")
      .slice(0, most),
  ),
];

/** A moment in ISO 8601, or a day alone where no time is said; null when it is neither. */
function momentOf(text: string, order: DateOrder, thisYear: number): string | null {
  const bare = text.trim();
  if (/^\d{4}-\d{2}-\d{2}[T ]\d{2}:\d{2}/.test(bare) || /^[A-Za-z]{3}, /.test(bare)) return isoTime(bare);
  return readDate(bare, order, thisYear);
}

function factOf(
  kind: FactKind,
  cell: string | readonly string[],
  how: { decimal: "." | ","; dates: DateOrder },
  thisYear: number,
): FactValue | null {
  const text = firstOf(cell).trim();
  switch (kind) {
    case "number":
    case "money":
      return readNumber(text, how.decimal);
    case "date":
      return momentOf(text, how.dates, thisYear);
    case "boolean":
      return readBoolean(text);
    case "set":
      return tagsOf(cell);
    case "text":
      return plain(text, GREATEST.fact);
  }
}

function plain(html: string, length: number): string {
  return sound(htmlToPlain(html.slice(0, GREATEST.html)).slice(0, length));
}

/** What is quoted of a cell that cannot be read. */
const quoted = (text: string) => `“${text.length > 40 ? `${text.slice(0, 38)}…` : text}”`;

/**
 * Reads records by what their columns mean.
 * @param base the address they came from, against which relative addresses are read; null where they came from a file
 * @param thisYear for years of two digits
 */
export function itemReader(
  mapping: Mapping,
  base: string | null,
  thisYear: number,
): (record: RawRecord) => ItemRead {
  const byPart = new Map<ItemPart, Mapping["columns"]>();
  for (const column of mapping.columns)
    if (column.target.to === "part")
      byPart.set(column.target.part, [...(byPart.get(column.target.part) ?? []), column]);
  const facts = mapping.columns.flatMap((column) =>
    column.target.to === "fact" ? [{ ...column, fact: column.target }] : [],
  );
  return ({ cells }) => {
    const odd: string[] = [];
    /** The first column of the part that says something. */
    const cellOf = (part: ItemPart) => {
      for (const column of byPart.get(part) ?? []) {
        const cell = cells.get(column.name);
        if (cell !== undefined && firstOf(cell).trim() !== "")
          return { column, cell, text: firstOf(cell).trim() };
      }
      return null;
    };
    const words = (part: ItemPart, length: number) => plain(cellOf(part)?.text ?? "", length);
    const sum = (part: "price" | "sale"): number | undefined => {
      const said = cellOf(part);
      if (!said) return undefined;
      const bare = said.text.replace(/^(from|ab|von|[àa] partir de|p\.?m\.?)\s+/i, "");
      const number = readNumber(bare, said.column.decimal);
      if (number === null || number < 0) {
        odd.push(`${quoted(said.text)} is no ${part === "price" ? "price" : "sale price"}`);
        return undefined;
      }
      return Math.round(number * 1e4) / 1e4;
    };
    const address = (part: "link" | "picture"): string | null => {
      const said = cellOf(part);
      if (!said) return null;
      const all = typeof said.cell === "string" ? [said.cell] : said.cell;
      const found = all.map((one) => webAddress(one, base)).find((one) => one !== null) ?? null;
      if (found === null)
        odd.push(`${quoted(said.text)} is no address of a ${part === "link" ? "page" : "picture"}`);
      return found;
    };
    const moment = (part: "date" | "until"): string | null => {
      const said = cellOf(part);
      if (!said) return null;
      const found = momentOf(said.text, said.column.dates, thisYear);
      if (found === null) odd.push(`${quoted(said.text)} is no date`);
      return found;
    };

    const title = words("title", GREATEST.title);
    const link = address("link") ?? "";
    if (title === "") return { reason: "has no title" };
    const price = sum("price");
    const sale = sum("sale");
    const until = moment("until");
    const place = words("place", GREATEST.place);
    const currency =
      cellOf("currency")?.text.toUpperCase() ??
      currencyIn(cellOf("price")?.text ?? "") ??
      currencyIn(cellOf("sale")?.text ?? "") ??
      mapping.currency;
    const said = cellOf("stock");
    const stock = said ? stockOf(said.text) : undefined;
    if (stock === null) odd.push(`${quoted(said?.text ?? "")} is no stock`);
    const own: Record<string, FactValue> = {};
    for (const column of facts) {
      const cell = cells.get(column.name);
      if (cell === undefined || firstOf(cell).trim() === "" || Object.hasOwn(own, column.fact.key)) continue;
      const value = factOf(column.fact.kind, cell, column, thisYear);
      if (value === null) odd.push(`${quoted(firstOf(cell))} is not what “${column.fact.label}” is`);
      else own[column.fact.key] = value;
    }
    const category = cellOf("category");
    const tags = cellOf("tags");
    const shown = price !== undefined || sale !== undefined;
    return {
      item: itemOf({
        id: sound(cellOf("id")?.text || link || title).slice(0, GREATEST.id),
        title,
        text: words("text", GREATEST.excerpt),
        link,
        picture: address("picture"),
        date: moment("date"),
        ...(until && { until }),
        ...(place && { place }),
        ...(shown && { price: price ?? sale }),
        // A sale that is no less is none.
        ...(sale !== undefined && price !== undefined && sale < price && { sale }),
        ...(shown && /^[A-Z]{3}$/.test(currency) && { currency }),
        ...(typeof stock === "number" && { stock }),
        category: category ? pathOf(category.cell) : [],
        tags: tags ? tagsOf(tags.cell) : [],
        facts: own,
      }),
      odd,
    };
  };
}
