/** What a font file says about itself (WOFF File Format 2.0, W3C; OpenType `name`, `fvar` and `OS/2`). */
import { brotliDecompressSync } from "node:zlib";

export interface FontFacts {
  family: string;
  /** The least and the greatest weight in it, 1 to 1000. */
  weights: [least: number, greatest: number];
}

/** Tags that stand as numbers in the directory; only those that are read here have to be known by name. */
const KNOWN =
  "cmap head hhea hmtx maxp name OS/2 post cvt fpgm glyf loca prep CFF VORG EBDT EBLC gasp hdmx kern LTSH PCLT VDMX vhea vmtx BASE GDEF GPOS GSUB EBSC JSTF MATH CBDT CBLC COLR CPAL SVG sbix acnt avar bdat bloc bsln cvar fdsc feat fmtx fvar gvar hsty just lcar mort morx opbd prop trak Zapf Silf Glat Gloc Feat Sill".split(
    " ",
  );
const HEADER = 48;
/** Octets that a font may have when it is unpacked: enough for any that is sent with letters. */
const UNPACKED = 20_000_000;

/**
 * Reads the family and the weights of a WOFF 2 file.
 * @returns null when it is no such file, or is damaged
 */
export function readWoff2(file: Buffer): FontFacts | null {
  try {
    if (
      file.length < HEADER ||
      file.toString("latin1", 0, 4) !== "wOF2" ||
      file.readUInt32BE(8) !== file.length
    )
      return null;
    const tables = tablesOf(file);
    const name = tables.get("name");
    const family = name && familyOf(name);
    if (!family) return null;
    const variable = tables.get("fvar");
    const fixed = tables.get("OS/2")?.readUInt16BE(4) ?? 400;
    return { family, weights: (variable && weightsOf(variable)) ?? [fixed, fixed] };
  } catch {
    return null;
  }
}

/** The tables that are not transformed, unpacked. */
function tablesOf(file: Buffer): Map<string, Buffer> {
  let at = HEADER;
  const number = () => {
    let value = 0;
    for (let count = 0; count < 5; count++) {
      const octet = file.readUInt8(at++);
      value = value * 128 + (octet & 127);
      if (octet < 128) return value;
    }
    throw new RangeError("a length of more than five octets");
  };
  const places: { tag: string; from: number; length: number }[] = [];
  let from = 0;
  for (let count = file.readUInt16BE(12); count > 0; count--) {
    const flags = file.readUInt8(at++);
    let tag = KNOWN[flags & 63];
    if ((flags & 63) === 63) {
      tag = file.toString("latin1", at, at + 4).trim();
      at += 4;
    }
    const whole = number();
    // Outlines are transformed unless they say that they are not; everything else is not unless it says so.
    const outlines = tag === "glyf" || tag === "loca";
    const transformed = outlines ? flags >> 6 !== 3 : flags >> 6 !== 0;
    const length = transformed ? number() : whole;
    if (!transformed) places.push({ tag, from, length });
    from += length;
  }
  const packed = file.subarray(at, at + file.readUInt32BE(20));
  const data = brotliDecompressSync(packed, { maxOutputLength: UNPACKED });
  return new Map(places.map(({ tag, from, length }) => [tag, data.subarray(from, from + length)]));
}

/** The family that weights belong to (name 16), or the one that old programs know (name 1). */
function familyOf(table: Buffer): string | null {
  const names = new Map<number, string>();
  const strings = table.readUInt16BE(4);
  for (let index = 0; index < table.readUInt16BE(2); index++) {
    const at = 6 + index * 12;
    const [platform, id, length, offset] = [0, 6, 8, 10].map((more) => table.readUInt16BE(at + more));
    if (id !== 1 && id !== 16) continue;
    const raw = Buffer.from(table.subarray(strings + offset, strings + offset + length));
    const text = platform === 1 ? raw.toString("latin1") : raw.swap16().toString("utf16le");
    if (platform === 3 || !names.has(id)) names.set(id, text);
  }
  return names.get(16) ?? names.get(1) ?? null;
}

/** The range of the weight axis; null when there is none. */
function weightsOf(table: Buffer): [number, number] | null {
  const size = table.readUInt16BE(10);
  for (let index = 0; index < table.readUInt16BE(8); index++) {
    const at = table.readUInt16BE(4) + index * size;
    if (table.toString("latin1", at, at + 4) === "wght")
      return [table.readInt32BE(at + 4) / 65536, table.readInt32BE(at + 12) / 65536];
  }
  return null;
}
