/**
 * Takes apart what somebody brings in: text, Markdown, HTML, documents, emails and designs. Pure but for new ids, and
 * run confined (`server/confined`), since some of it takes ever so long or much memory. Each reader of a kind comes
 * when that kind does.
 */
import { z } from "zod";
import { takeApart } from "~/core/apart";
import { parseEmail } from "~/core/blocks";
import type { Block } from "~/core/email";
import { blocksFrom, readMarkdown, readText } from "~/core/writing";
import { Refusal } from "../refusal";
import { readDocx } from "./document";
import { readArchive, readMail, readMarkup } from "./letters";
import { decoded, newId, plain, type Taken } from "./taken";

const GREATEST = {
  /** Of a file, in bytes. */
  file: 10_000_000,
  /** Of the design it makes, in characters of its JSON. */
  design: 3_000_000,
};

/**
 * Reads a file that somebody wants to make a design of, by its name's ending: text, Markdown, HTML, an email (.eml), a
 * document (.docx), or a design taken out earlier (.json).
 * @throws Refusal when it is too large, of another kind, or damaged
 */
export async function takeFile(name: string, data: Uint8Array): Promise<Taken> {
  if (data.byteLength > GREATEST.file) {
    throw new Refusal(
      `“${name}” has ${Math.ceil(data.byteLength / 1_000_000)} MB; up to ${GREATEST.file / 1_000_000} MB can be read.`,
    );
  }
  return bounded(await taken(name, Buffer.from(data)));
}

/** Where files of other kinds go. */
function wrongKind(name: string, ending: string): string {
  const here =
    "Here come text (.txt), Markdown (.md), HTML (.html, or a .zip with its pictures), emails (.eml), documents (.docx) and designs (.json).";
  if (/^(png|jpe?g|gif|webp|avif|svg|heic|tiff?|bmp)$/.test(ending))
    return `“${name}” is a picture: drop it on the email, or add it under Pictures. ${here}`;
  if (/^(csv|tsv|xlsx?|vcf|ods)$/.test(ending))
    return `“${name}” looks like contacts or products: those are brought in under Audience and Sources. ${here}`;
  if (/^(ics|rss|atom|xml)$/.test(ending))
    return `“${name}” is a calendar or a feed: add it under Sources. ${here}`;
  if (/^(woff2?|ttf|otf)$/.test(ending)) return `“${name}” is a font: add it under Brand. ${here}`;
  if (/^(doc|odt|rtf|pages|pdf|msg)$/.test(ending))
    return `“${name}” is a .${ending} file. Save it as .docx${ending === "msg" ? " or .eml" : ""} and bring that in. ${here}`;
  return `“${name}” cannot be read. ${here}`;
}

/** Reads writing that was pasted. */
export async function takeWriting(kind: "text" | "markdown" | "html", text: string): Promise<Taken> {
  return bounded(await writing(kind, text));
}

/** @throws Refusal when it makes more than a design can hold */
function bounded(found: Taken): Taken {
  if (JSON.stringify([found.blocks, found.apart, found.whole, found.email]).length > GREATEST.design)
    throw new Refusal("It makes more than one email can hold. Take a part of it.");
  return found;
}

async function taken(name: string, data: Buffer): Promise<Taken> {
  const ending = /\.([a-z0-9]+)$/i.exec(name)?.[1].toLowerCase() ?? "";
  switch (ending) {
    case "docx":
      return readDocument(name, data);
    case "eml":
      return readMail(name, data);
    case "zip":
      return readArchive(name, data);
    case "json":
      return readDesign(name, data.toString("utf8"));
    case "md":
    case "markdown":
      return writing("markdown", decoded(data));
    case "htm":
    case "html":
      return readMarkup(decoded(data), name.replace(/\.html?$/i, ""));
    case "txt":
    case "text":
      return writing("text", decoded(data));
    default:
      throw new Refusal(wrongKind(name, ending));
  }
}

async function writing(kind: "text" | "markdown" | "html", text: string): Promise<Taken> {
  if (kind === "html") return readMarkup(text, "pasted HTML");
  const pieces = kind === "markdown" ? await readMarkdown(text) : readText(text);
  return plain(kind === "markdown" ? "Markdown" : "text", blocksFrom(pieces, newId));
}

/** A document becomes what a letter of its kind would: its looks are read off, its words are its own. */
function readDocument(name: string, data: Buffer): Taken {
  const { html, pictures, lost } = readDocx(name, new Uint8Array(data));
  const { sections } = takeApart(html, "", newId, name);
  const blocks = sections.flatMap(({ rows }) =>
    rows.flatMap(({ columns }) => columns.flatMap((column) => column.blocks)),
  );
  return { ...plain("a document", blocks.map(unpadded)), lost: { apart: lost, whole: [] }, pictures };
}

/** In a document nothing goes to the edges. */
function unpadded({ padding: _, ...block }: Block): Block {
  return block;
}

const NamesSchema = z.record(z.string().max(200), z.string().max(200));

function readDesign(name: string, text: string): Taken {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch (error) {
    throw new Refusal(
      `“${name}” is not valid JSON: ${error instanceof Error ? error.message : "it is cut off"}.`,
    );
  }
  const design = json as { septima?: unknown; email?: unknown; names?: unknown };
  if (typeof json !== "object" || json === null || design.septima === undefined)
    throw new Refusal(`“${name}” is no design taken out of Septima.`);
  try {
    const names = NamesSchema.safeParse(design.names).data ?? {};
    return { ...plain("a design of Septima", []), email: parseEmail(design.email), names };
  } catch (error) {
    const issue = (error as { issues?: { path: PropertyKey[]; message: string }[] }).issues?.[0];
    if (!issue) throw error;
    throw new Refusal(
      `“${name}” is damaged at ${issue.path.join(" › ") || "its beginning"}: ${issue.message}.`,
    );
  }
}
