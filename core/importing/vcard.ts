/** vCards (RFC 2426, RFC 6350) as lines of a table. */
import type { CsvRecord } from "../tables";

/** What of a card becomes a column, by the name of its property. */
const PROPERTIES = {
  "Email address": "EMAIL",
  "First name": "",
  "Last name": "",
  Birthday: "BDAY",
  Phone: "TEL",
  Organisation: "ORG",
  Title: "TITLE",
  City: "",
  Postcode: "",
  Country: "",
  Website: "URL",
  Language: "LANG",
  "Time zone": "TZ",
  Note: "NOTE",
  Lists: "CATEGORIES",
} as const;
export const CARD_COLUMNS: readonly string[] = Object.keys(PROPERTIES);

/** Whether a text is a file of vCards. */
export function isCards(beginning: string): boolean {
  return /^\ufeff?\s*BEGIN:VCARD\s*$/im.test(beginning.slice(0, 200));
}

interface Property {
  name: string;
  preferred: boolean;
  value: string;
}

/** Octets written as in mail (RFC 2045, 6.7), which version 2.1 has. */
function unquoted(text: string): string {
  const octets = text.replace(/=\r?\n/g, "").replace(/=([0-9A-F]{2})/gi, (_, hex: string) => `%${hex}`);
  try {
    return decodeURIComponent(octets.replace(/%(?![0-9A-F]{2})/gi, "%25"));
  } catch {
    return octets.replace(/%[0-9A-F]{2}/gi, "");
  }
}

/** So long the name of a property is with its parameters, at most. */
const LONGEST_NAME = 2000;

function propertyOf(line: string): Property | null {
  const match = /^(?:[\w-]+\.)?([\w-]+)((?:;(?:"[^"]*"|[^;:"])*)*):/.exec(line.slice(0, LONGEST_NAME));
  if (!match) return null;
  const said = line.slice(match[0].length);
  const parameters = match[2].toUpperCase();
  const value = /ENCODING=QUOTED-PRINTABLE/.test(parameters) ? unquoted(said) : said;
  return { name: match[1].toUpperCase(), preferred: /PREF/.test(parameters), value };
}

/** Parts of a value between signs that are not masked. */
function parts(value: string, sign: ";" | ","): string[] {
  const found: string[] = [];
  let from = 0;
  for (let at = 0; at < value.length; at++) {
    if (value[at] === "\\") at++;
    else if (value[at] === sign) {
      found.push(unmasked(value.slice(from, at)));
      from = at + 1;
    }
  }
  if (value !== "") found.push(unmasked(value.slice(from)));
  return found;
}

function unmasked(text: string): string {
  return text
    .replace(/\\([nN,;:\\])/g, (_, sign: string) => (sign === "n" || sign === "N" ? " " : sign))
    .trim();
}

/** The cards of a text as records, each with the line it begins on. What does not end is read as far as it goes. */
export function cardsAsRecords(text: string): CsvRecord[] {
  const records: CsvRecord[] = [];
  let card: { line: number; properties: Property[] } | null = null;
  const lines = text.replace(/^\ufeff/, "").split(/\r\n|\n|\r/);
  for (let at = 0; at < lines.length; at++) {
    const line = at + 1;
    const pieces = [lines[at]];
    // A line that goes on begins with a space; one in quoted-printable ends with =.
    while (/^[ \t]/.test(lines[at + 1] ?? "")) pieces.push(lines[++at].slice(1));
    const beginning = pieces.length === 1 ? pieces[0] : pieces.slice(0, 20).join("");
    if (/ENCODING=QUOTED-PRINTABLE/i.test(beginning.slice(0, LONGEST_NAME)))
      for (let last = pieces.length - 1; pieces[last].endsWith("=") && at + 1 < lines.length; last++) {
        pieces[last] = pieces[last].slice(0, -1);
        pieces.push(lines[++at]);
      }
    const whole = pieces.join("");
    if (/^BEGIN:VCARD/i.test(whole)) card = { line, properties: [] };
    else if (/^END:VCARD/i.test(whole)) {
      if (card) records.push({ line: card.line, cells: cellsOf(card.properties) });
      card = null;
    } else if (card) {
      const property = propertyOf(whole);
      if (property) card.properties.push(property);
    }
  }
  if (card) records.push({ line: card.line, cells: cellsOf(card.properties) });
  return records;
}

function cellsOf(properties: readonly Property[]): string[] {
  const first = (name: string) => {
    const all = properties.filter((property) => property.name === name);
    return (all.find(({ preferred }) => preferred) ?? all[0])?.value ?? "";
  };
  const [last = "", given = ""] = parts(first("N"), ";");
  const called = unmasked(first("FN")).split(/\s+/);
  const [, , , city = "", , postcode = "", country = ""] = parts(first("ADR"), ";");
  const special: Record<string, string> = {
    "First name": given || (last === "" ? called.slice(0, -1).join(" ") || called[0] || "" : ""),
    "Last name": last || (given === "" && called.length > 1 ? called[called.length - 1] : ""),
    City: city,
    Postcode: postcode,
    Country: country,
  };
  return Object.entries(PROPERTIES).map(([column, name]) => {
    if (column in special) return special[column];
    const value = first(name);
    if (name === "CATEGORIES") return parts(value, ",").join(", ");
    if (name === "BDAY") return /^\d{4}-?\d{2}-?\d{2}/.exec(value)?.[0] ?? "";
    return unmasked(name === "ORG" ? value.split(";")[0] : value.replace(/^(tel|mailto):/i, ""));
  });
}
