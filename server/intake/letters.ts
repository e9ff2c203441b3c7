/** Complete letters that somebody brings in: HTML, with its pictures beside it or within, and emails. */
import { unzipSync } from "fflate";
import { fileNameOf, takeApart } from "~/core/apart";
import { cleanCode, createBlock } from "~/core/blocks";
import { blocksFrom, readHtml } from "~/core/writing";
import { Refusal } from "../refusal";
import { inlined } from "./inlined";
import { decoded, newId, plain, type Taken } from "./taken";

/** A file that came along, by the name that the letter gives it. */
export type Beside = ReadonlyMap<string, Uint8Array>;

/** The most that is kept of style sheets, in signs: more has no place in a message. */
const SHEETS = 100_000;

const isComplete = (html: string) => /<(html|body|table)\b/i.test(html);

/**
 * Reads HTML: a complete letter is taken apart and kept whole too, a piece becomes blocks.
 * @param beside pictures that came with it, by their names
 */
export async function readMarkup(html: string, name: string, beside: Beside = new Map()): Promise<Taken> {
  const { html: placed, pictures, missing } = withPictures(html, beside);
  if (!isComplete(placed))
    return { ...plain("HTML", blocksFrom(readHtml(placed), newId)), pictures, missing };
  const { document, html: body, sheets, lost } = await inlined(placed);
  const apart = takeApart(document, sheets, newId, name);
  const whole = { html: body, sheets: sheets.slice(0, SHEETS) };
  const clean = cleanCode({ ...createBlock("code", newId()), ...whole });
  return {
    ...plain("a complete HTML email", []),
    apart,
    whole,
    pictures,
    missing,
    lost: {
      apart: apart.lost,
      whole: [
        ...lost,
        ...clean.removed.map(({ what, count }) => (count > 1 ? `${what}, ${count} times` : what)),
      ],
    },
  };
}

/** Puts our own addresses where pictures are named that came along; those that did not come are told. */
function withPictures(
  html: string,
  beside: Beside,
): { html: string; pictures: Taken["pictures"]; missing: string[] } {
  const pictures: Taken["pictures"] = [];
  const paths = new Map<string, string>();
  const missing = new Set<string>();
  const byName = new Map([...beside].map(([name, bytes]) => [fileNameOf(name), bytes]));
  const take = (key: string, name: string, bytes: Uint8Array) => {
    const known = paths.get(key);
    if (known) return known;
    const path = `/pictures/taken-${pictures.length}.x`;
    pictures.push({ path, name, bytes });
    paths.set(key, path);
    return path;
  };
  const found = (src: string): string => {
    const address = src.trim();
    const data = /^data:image\/([a-z+]+);base64,([A-Za-z0-9+/=\s]+)$/i.exec(address);
    if (data)
      return take(address, `picture.${data[1].replace("svg+xml", "svg")}`, Buffer.from(data[2], "base64"));
    if (address === "" || /^(https?:)?\/\//i.test(address) || address.startsWith("/pictures/")) return src;
    const cid = /^cid:(.+)$/i.exec(address)?.[1];
    const bytes = beside.get(cid ?? address) ?? beside.get(`<${cid}>`) ?? byName.get(fileNameOf(address));
    if (bytes) return take(address, fileNameOf(address), bytes);
    missing.add(address.slice(0, 300));
    return src;
  };
  const placed = html
    .replace(
      /(<img\b[^>]*?\ssrc\s*=\s*)(["'])(.*?)\2/gis,
      (_, before, quote, src) => `${before}${quote}${found(src)}${quote}`,
    )
    .replace(
      /(\sbackground\s*=\s*)(["'])(.*?)\2/gis,
      (_, before, quote, src) => `${before}${quote}${found(src)}${quote}`,
    )
    .replace(/url\(\s*(["']?)(?!data:font)([^)"']+)\1\s*\)/gi, (whole, _quote, src: string) =>
      /\.(png|jpe?g|gif|webp|avif|svg)([?#]|$)|^cid:|^data:image/i.test(src) ? `url(${found(src)})` : whole,
    );
  return { html: placed, pictures, missing: [...missing] };
}

/** Reads an email file (RFC 5322): its letter, with the pictures that are in it. */
export async function readMail(name: string, data: Buffer): Promise<Taken> {
  const { simpleParser } = await import("mailparser");
  const mail = await simpleParser(data, { skipImageLinks: true, skipTextToHtml: true });
  const beside = new Map<string, Uint8Array>();
  const others: string[] = [];
  for (const { cid, contentId, filename, contentType, content, related } of mail.attachments) {
    if (cid) beside.set(cid, content);
    if (contentId) beside.set(contentId, content);
    if (filename && contentType.startsWith("image/")) beside.set(filename, content);
    if (!related && !contentType.startsWith("image/")) others.push(filename ?? contentType);
  }
  const lost = others.length > 0 ? [`what was attached: ${others.join(", ")}`] : [];
  const from = mail.from?.text;
  if (from) lost.push(`its sender, ${from}: the brand’s is taken`);
  if (mail.html) {
    const found = await readMarkup(mail.html, mail.subject ?? name, beside);
    const subject = mail.subject ?? found.apart?.subject ?? "";
    return {
      ...found,
      kind: "an email",
      ...(found.apart && { apart: { ...found.apart, subject } }),
      lost: { apart: [...found.lost.apart, ...lost], whole: [...found.lost.whole, ...lost] },
    };
  }
  if (!mail.text) throw new Refusal("This email has no words in it that can be read.");
  const { readText } = await import("~/core/writing");
  return { ...plain("an email", blocksFrom(readText(mail.text), newId)), lost: { apart: lost, whole: [] } };
}

/** The most that an archive may hold, unpacked, in octets, and the most files. */
const ARCHIVE = { octets: 60_000_000, files: 400 };

/** Reads an archive with a letter in HTML and the pictures it names. */
export async function readArchive(name: string, data: Buffer): Promise<Taken> {
  let octets = 0;
  let files: Record<string, Uint8Array>;
  try {
    files = unzipSync(new Uint8Array(data), {
      filter(file) {
        octets += file.originalSize;
        if (octets > ARCHIVE.octets)
          throw new Refusal(
            `“${name}” holds more than ${ARCHIVE.octets / 1_000_000} MB when it is unpacked.`,
          );
        return /\.(html?|png|jpe?g|gif|webp|avif|svg)$/i.test(file.name) && !/__MACOSX|\/\./.test(file.name);
      },
    });
  } catch (error) {
    if (error instanceof Refusal) throw error;
    throw new Refusal(`“${name}” is damaged, or no .zip archive.`);
  }
  const names = Object.keys(files);
  if (names.length > ARCHIVE.files) throw new Refusal(`“${name}” holds more than ${ARCHIVE.files} files.`);
  const letters = names.filter((one) => /\.html?$/i.test(one));
  // The one that is named as the first page is, or the longest.
  const [letter] = letters.sort(
    (one, other) =>
      Number(/(^|\/)index\.html?$/i.test(other)) - Number(/(^|\/)index\.html?$/i.test(one)) ||
      files[other].length - files[one].length,
  );
  if (!letter)
    throw new Refusal(`“${name}” holds no .html file. Put the letter and its pictures into one archive.`);
  const beside = new Map(names.filter((one) => one !== letter).map((one) => [one, files[one]]));
  const found = await readMarkup(decoded(files[letter]), letter, beside);
  const more = letters.length - 1;
  const lost =
    more > 0
      ? [more === 1 ? "another .html file in the archive" : `${more} other .html files in the archive`]
      : [];
  return { ...found, lost: { apart: [...found.lost.apart, ...lost], whole: [...found.lost.whole, ...lost] } };
}
