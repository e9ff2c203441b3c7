/** What kind of file something is, by how it begins and not by its name. */

const KINDS = ["jpeg", "png", "gif", "webp", "avif", "svg"] as const;
export type Kind = (typeof KINDS)[number];

/** What may be taken in, for people. */
export const KINDS_WORDS = "JPEG, PNG, GIF, WebP, AVIF or SVG";

const ascii = (data: Uint8Array, from: number, to: number) =>
  Buffer.from(data.buffer, data.byteOffset + from, Math.max(0, Math.min(to, data.length) - from)).toString(
    "latin1",
  );

/** What other files begin with, and what they are called. */
const OTHERS: readonly [RegExp, string][] = [
  [/^%PDF/, "a PDF"],
  [/^PK\x03\x04/, "an archive or a document"],
  [/^(II\*\0|MM\0\*)/, "a TIFF picture"],
  [/^BM/, "a BMP picture"],
  [/^8BPS/, "a layered design of an image editor"],
  [/^\0\0\x01\0/, "an icon"],
  [/^(MZ|\x7fELF)/, "a program"],
  [/^....ftyp(qt|mp4|isom|M4V|iso2|avc1)/s, "a film"],
  [/^(RIFF....AVI|\x1aE\xdf\xa3)/s, "a film"],
  [/^\s*<(!doctype html|html)/i, "a web page"],
];

/**
 * The kind of a file by its first octets (at least 64 and up to a few thousand of them).
 * @returns its kind; or, when it is none that can be taken in, what it is
 */
export function kindOf(head: Uint8Array): { kind: Kind } | { other: string | null } {
  const start = ascii(head, 0, 2048);
  if (start.startsWith("\xff\xd8\xff")) return { kind: "jpeg" };
  if (start.startsWith("\x89PNG\r\n\x1a\n")) return { kind: "png" };
  if (/^GIF8[79]a/.test(start)) return { kind: "gif" };
  if (/^RIFF....WEBP/s.test(start)) return { kind: "webp" };
  if (start.slice(4, 8) === "ftyp") {
    // The brands a file is compatible with (ISO/IEC 14496-12, 4.3).
    const brands = start.slice(8, Math.max(16, head.length > 3 ? Buffer.from(head).readUInt32BE(0) : 16));
    if (/avi[fs]/.test(brands)) return { kind: "avif" };
    if (/he[iv][cxms]|mif1|msf1/.test(brands)) return { other: "HEIC" };
  }
  const text = start.replace(/^(\xef\xbb\xbf|\xff\xfe|\xfe\xff)/, "").replaceAll("\0", "");
  if (
    /^\s*(<\?xml[^>]*>)?\s*(<!--[\s\S]*?-->\s*)*(<!DOCTYPE svg[\s\S]*?>\s*)?(<!--[\s\S]*?-->\s*)*<(\w+:)?svg[\s>]/i.test(
      text,
    )
  )
    return { kind: "svg" };
  // A document type with entities of its own can be longer than what is looked at.
  if (/^\s*(<\?xml[^>]*>)?\s*<!DOCTYPE svg/i.test(text)) return { kind: "svg" };
  return { other: OTHERS.find(([pattern]) => pattern.test(start))?.[1] ?? null };
}
