/**
 * How a file's letters are written as octets, found while it passes by. Not guessed from how often letters follow one
 * another, as the packages for it do: names and addresses are too short for that, and a whole file that is UTF-8 is told
 * by its last line, too.
 */

export type Encoding = "utf-8" | "utf-16le" | "utf-16be" | "windows-1252";

/** What each is called to people; Latin-1 as programs write it is Windows-1252 (WHATWG, Encoding). */
export const DECODERS: Record<Encoding, string> = {
  "utf-8": "UTF-8",
  "utf-16le": "UTF-16",
  "utf-16be": "UTF-16",
  "windows-1252": "Latin-1",
};

/** What begins with these octets is no text, whatever it is called. */
const NO_TEXT: readonly [octets: readonly number[], what: string][] = [
  [[0x4d, 0x5a], "a program"],
  [[0x7f, 0x45, 0x4c, 0x46], "a program"],
  [[0x50, 0x4b, 0x03, 0x04], "a workbook or an archive. Open it and save the sheet as CSV"],
  [[0xd0, 0xcf, 0x11, 0xe0], "a workbook or document of an older kind. Open it and save the sheet as CSV"],
  [[0x25, 0x50, 0x44, 0x46], "a PDF document"],
  [[0x89, 0x50, 0x4e, 0x47], "a picture"],
  [[0xff, 0xd8, 0xff], "a picture"],
  [[0x47, 0x49, 0x46, 0x38], "a picture"],
  [[0x1f, 0x8b], "a packed file. Unpack it first"],
];

/** So many octets tell whether it is text. */
const HEAD = 4096;

/**
 * Watches the octets of a file pass. UTF-8 is told from Latin-1 by the whole file: a letter with an accent may come in
 * the last line.
 */
export class EncodingFinder {
  private head: number[] = [];
  private length = 0;
  private utf8: TextDecoder | null = new TextDecoder("utf-8", { fatal: true });

  take(octets: Uint8Array): void {
    this.length += octets.length;
    for (let at = 0; at < octets.length && this.head.length < HEAD; at++) this.head.push(octets[at]);
    try {
      this.utf8?.decode(octets, { stream: true });
    } catch {
      this.utf8 = null;
    }
  }

  /** What was found: the encoding, or what the file is instead of text, as the end of a sentence. */
  end(): { encoding: Encoding } | { problem: string } {
    const { head } = this;
    if (this.length === 0) return { problem: "is empty: it has no octets at all." };
    const begins = (octets: readonly number[]) => octets.every((octet, at) => head[at] === octet);
    const other = NO_TEXT.find(([octets]) => begins(octets));
    if (other) return { problem: `is no text: it looks like ${other[1]}.` };
    if (begins([0xff, 0xfe])) return { encoding: "utf-16le" };
    if (begins([0xfe, 0xff])) return { encoding: "utf-16be" };
    const zeros = [0, 1].map((odd) => head.filter((octet, at) => octet === 0 && at % 2 === odd).length);
    if (zeros[0] + zeros[1] > 0) {
      // Of Latin letters in UTF-16 every other octet is zero.
      if (zeros[1] > head.length / 4 && zeros[0] <= zeros[1] / 10) return { encoding: "utf-16le" };
      if (zeros[0] > head.length / 4 && zeros[1] <= zeros[0] / 10) return { encoding: "utf-16be" };
      return { problem: "is no text: it holds octets that no letter is written with." };
    }
    try {
      this.utf8?.decode();
    } catch {
      this.utf8 = null;
    }
    return { encoding: this.utf8 ? "utf-8" : "windows-1252" };
  }
}

/**
 * The text of octets in an encoding, by any of its names. Decoded as a stream: decoded at once, some versions of Node.js
 * take windows-1252 for ISO 8859-1 and lose its dashes and quotation marks.
 * @throws TypeError when it must be that encoding and is not; RangeError for a name that is none
 */
export function decodeText(octets: Uint8Array, encoding: string, must = false): string {
  const decoder = new TextDecoder(encoding, { fatal: must });
  return decoder.decode(octets, { stream: true }) + decoder.decode();
}
