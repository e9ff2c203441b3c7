import type { Format } from "./format";
import { jsonLinesReader, jsonReader } from "./json";
import { type RecordReader, SourceError } from "./record";
import { separatedReader } from "./separated";
import { repeatedElement, xmlReader } from "./xml";

/**
 * Opens a document whose things pass one by one.
 * @param beginning of its text, as `formatOf` was asked with
 * @param told hears of what is left out, each as a sentence
 * @throws SourceError when nothing in it is a thing
 */
export function openRecords(
  format: Exclude<Format, "feed" | "calendar">,
  beginning: string,
  told: (problem: string) => void,
): RecordReader {
  switch (format) {
    case "table":
      return separatedReader(beginning);
    case "json":
      return jsonReader();
    case "json lines":
      return jsonLinesReader(told);
    case "xml": {
      const thing = repeatedElement(beginning);
      if (thing === null) throw new SourceError("This XML holds nothing that repeats, so no list of things.");
      return xmlReader(thing);
    }
  }
}
