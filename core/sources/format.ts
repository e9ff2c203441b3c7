/** What a document is, by its beginning. */
import { SourceError } from "./record";
import { repeatedElement } from "./xml";

export type Format = "feed" | "calendar" | "table" | "json" | "json lines" | "xml";

/** What each is called to people. */
export const FORMATS: Record<Format, string> = {
  feed: "feed",
  calendar: "calendar",
  table: "CSV",
  json: "JSON",
  "json lines": "JSON Lines",
  xml: "XML",
};

/** So much of a document tells what it is, in characters. */
export const TELLING = 256 * 1024;

/** What articles have not and goods have. */
const GOODS = /<(?:[\w-]+:)?(price|sale_price|availability|image_link|product_type)[\s>]/i;

function startsWithObject(line: string): boolean {
  try {
    const value = JSON.parse(line) as unknown;
    return typeof value === "object" && value !== null && !Array.isArray(value);
  } catch {
    return false;
  }
}

/**
 * Tells what a document is.
 * @param beginning of its text, up to `TELLING` characters
 * @throws SourceError that says what was found instead of a source
 */
export function formatOf(beginning: string): Format {
  const start = beginning.replace(/^\uFEFF/, "").trimStart();
  if (start === "") throw new SourceError("It is empty. Check that it is the source's own address.");
  const nothing = (found: string) =>
    new SourceError(
      `This is no source: expected a feed, a calendar, or a catalogue as CSV, JSON or XML, found ${found} (“${start.slice(0, 40).replace(/\s+/g, " ")}…”).`,
    );
  if (/^BEGIN:VCALENDAR/i.test(start)) return "calendar";
  if (/^(<!doctype html|<html)/i.test(start)) throw nothing("a web page");
  if (start.startsWith("<")) {
    if (/<(?:[\w-]+:)?(rss|feed|RDF)\b/.test(start.slice(0, 4000)) && !GOODS.test(start)) return "feed";
    if (repeatedElement(start) === null) throw nothing("XML without anything that repeats");
    return "xml";
  }
  if (/^[{[]/.test(start)) {
    if (/"version"\s*:\s*"https:\/\/jsonfeed\.org\/version\//.test(start.slice(0, 4000))) return "feed";
    const [first, second] = start.split("\n", 2);
    // A single line is one thing of JSON Lines, unless it holds a list of things; nothing follows other JSON.
    if (startsWithObject(first) && (second?.trim() || !/\[\s*\{/.test(first))) return "json lines";
    return "json";
  }
  // One line without anything that parts it is no table.
  if (!/[,;\t|]/.test(start.slice(0, 4000))) throw nothing("plain text");
  return "table";
}
