/** Pictures for tests, each made when it is asked for. */
import { deflateSync } from "node:zlib";
import sharp, { type Sharp } from "sharp";

/** A picture in which each place has a colour of its own, and light and dark areas. */
export function scene(width: number, height: number): Sharp {
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 100 60" preserveAspectRatio="none"><defs><linearGradient id="g" x2="1" y2="1"><stop stop-color="#e7d9a8"/><stop offset=".5" stop-color="#6f9a5b"/><stop offset="1" stop-color="#2b3f66"/></linearGradient></defs><rect width="100" height="60" fill="url(#g)"/><circle cx="22" cy="18" r="11" fill="#d9542b"/><path d="M50 60L68 20L86 60z" fill="#4a2f5d"/><path d="M5 52h40" stroke="#fff" stroke-width="3"/></svg>`;
  return sharp(Buffer.from(svg)).removeAlpha();
}

function chunk(type: string, data: Buffer): Buffer {
  const body = Buffer.concat([Buffer.from(type, "latin1"), data]);
  const crc = Buffer.alloc(4);
  crc.writeUInt32BE(crc32(body));
  const length = Buffer.alloc(4);
  length.writeUInt32BE(data.length);
  return Buffer.concat([length, body, crc]);
}

function crc32(data: Buffer): number {
  let crc = -1;
  for (const octet of data) {
    crc ^= octet;
    for (let bit = 0; bit < 8; bit++) crc = (crc >>> 1) ^ (crc & 1 ? 0xedb88320 : 0);
  }
  return (crc ^ -1) >>> 0;
}

/** A PNG of a few octets that says it has so many pixels (PNG 1.2): most of them would be nothing. */
export function bomb(width: number, height: number): Buffer {
  const header = Buffer.alloc(13);
  header.writeUInt32BE(width, 0);
  header.writeUInt32BE(height, 4);
  header.set([8, 2, 0, 0, 0], 8);
  const line = Buffer.alloc(width * 3 + 1);
  return Buffer.concat([
    Buffer.from("\x89PNG\r\n\x1a\n", "latin1"),
    chunk("IHDR", header),
    chunk("IDAT", deflateSync(Buffer.concat(Array.from({ length: 20 }, () => line)))),
    chunk("IEND", Buffer.alloc(0)),
  ]);
}

/** An animation whose frames are of different colours. */
export async function animation(width: number, height: number, frames: number): Promise<Buffer> {
  const one = width * height * 3;
  const all = Buffer.alloc(one * frames);
  for (let frame = 0; frame < frames; frame++) {
    const color = [(frame * 37) % 256, (frame * 91) % 256, (frame * 13) % 256];
    for (let at = 0; at < one; at++)
      all[frame * one + at] = at % 3 === 0 && at % 2 === 0 ? 255 : color[at % 3];
  }
  return sharp(all, { raw: { width, height: height * frames, channels: 3, pageHeight: height } })
    .gif({ delay: Array(frames).fill(70), loop: 3 })
    .toBuffer();
}

/** The beginning of a HEIC file. */
export const HEIC = Buffer.concat([
  Buffer.from([0, 0, 0, 24]),
  Buffer.from("ftypheic\0\0\0\0mif1heic", "latin1"),
  Buffer.alloc(200),
]);
