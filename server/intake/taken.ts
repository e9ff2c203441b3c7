import { randomBytes } from "node:crypto";
import type { Apart } from "~/core/apart";
import type { Block, Email } from "~/core/email";
import { decodeText } from "~/core/tables";

/** What was taken out of what came in. */
export interface Taken {
  /** What it turned out to be. */
  kind:
    | "text"
    | "Markdown"
    | "HTML"
    | "a complete HTML email"
    | "an email"
    | "a document"
    | "a design of Septima";
  /** Of writing that is no complete letter. */
  blocks: Block[];
  /** Of a complete letter: what it is made of. */
  apart: Apart | null;
  /** A complete email's HTML and style sheets as a code block holds them; null when there is nothing to keep whole. */
  whole: { html: string; sheets: string } | null;
  /** What could not be kept when it is taken apart, and when it is kept whole. */
  lost: { apart: string[]; whole: string[] };
  /** A whole design, with everything in it. */
  email: Email | null;
  /** What the things that a whole design names were called where it comes from, by their kinds and keys. */
  names: Record<string, string>;
  /** Pictures that came along; blocks show them under these addresses. */
  pictures: { path: string; name: string; bytes: Uint8Array }[];
  /** Pictures that are named and did not come: files beside it, or parts of an email. */
  missing: string[];
}

export const newId = () => randomBytes(8).toString("hex");

export function plain(kind: Taken["kind"], blocks: Block[]): Taken {
  return {
    kind,
    blocks,
    apart: null,
    whole: null,
    lost: { apart: [], whole: [] },
    email: null,
    names: {},
    pictures: [],
    missing: [],
  };
}

/** What a page says of its encoding, where it says it: at its beginning. */
const DECLARED = /<meta\b[^>]*charset\s*=\s*["']?\s*([\w.:-]+)|<\?xml[^>]*encoding\s*=\s*["']([\w.:-]+)/i;

/**
 * The text of a file: as its byte order mark says, or as it declares; as UTF-8 where it is that, and else as windows-1252,
 * which is what most programs write that write no UTF-8 (Encoding Standard, 6.1 and HTML, 13.2.3.2).
 */
export function decoded(data: Uint8Array): string {
  const read = (encoding: string, must = false) => decodeText(data, encoding, must);
  if (data[0] === 0xff && data[1] === 0xfe) return read("utf-16le");
  if (data[0] === 0xfe && data[1] === 0xff) return read("utf-16be");
  const head = new TextDecoder("latin1").decode(data.subarray(0, 4096));
  const [, meta, xml] = DECLARED.exec(head) ?? [];
  const said = (meta ?? xml ?? "utf-8").toLowerCase();
  try {
    // A page that can be read so far is none in UTF-16, whatever it says.
    return read(/^utf-?16|^unicode$/.test(said) ? "utf-8" : said, true);
  } catch {
    try {
      return read("utf-8", true);
    } catch {
      return read("windows-1252");
    }
  }
}
