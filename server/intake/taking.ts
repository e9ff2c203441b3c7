/**
 * Takes apart what somebody brings in: text, Markdown, HTML, documents, emails and designs. Pure but for new ids, and
 * run confined (`server/confined`), since some of it takes ever so long or much memory. Each reader of a kind comes
 * when that kind does.
 */
import { randomBytes } from "node:crypto";
import { cleanHtml, parseEmail } from "~/core/blocks";
import type { Block, Email } from "~/core/email";
import { blocksFrom, readHtml, readMarkdown, readText } from "~/core/writing";
import { Refusal } from "../septima";
import { inlined } from "./inlined";

/** What was taken out of what came in. */
export interface Taken {
  /** What it turned out to be. */
  kind: "text" | "Markdown" | "HTML" | "a complete HTML email" | "a document" | "a design of Septima";
  blocks: Block[];
  /** A complete email's HTML as a code block holds it; null when there is nothing to keep whole. */
  whole: string | null;
  /** What could not be kept when it is taken apart, and when it is kept whole. */
  lost: { apart: string[]; whole: string[] };
  /** A whole design, with everything in it. */
  email: Email | null;
  /** Pictures that came along; blocks show them under these addresses. */
  pictures: { path: string; bytes: Uint8Array }[];
}

const GREATEST = {
  /** Of a file, in bytes. */
  file: 10_000_000,
  /** Of the design it makes, in characters of its JSON. */
  design: 3_000_000,
};

const newId = () => randomBytes(8).toString("hex");

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

/** Reads writing that was pasted. */
export async function takeWriting(kind: "text" | "markdown" | "html", text: string): Promise<Taken> {
  return bounded(await writing(kind, text));
}

/** @throws Refusal when it makes more than a design can hold */
function bounded(found: Taken): Taken {
  if (JSON.stringify([found.blocks, found.whole, found.email]).length > GREATEST.design)
    throw new Refusal("It makes more than one email can hold. Take a part of it.");
  return found;
}

async function taken(name: string, data: Buffer): Promise<Taken> {
  const ending = /\.([a-z0-9]+)$/i.exec(name)?.[1].toLowerCase() ?? "";
  switch (ending) {
    case "docx":
      return readDocument(name, data);
    case "eml":
      return readMail(data);
    case "json":
      return readDesign(name, data.toString("utf8"));
    case "md":
    case "markdown":
      return writing("markdown", data.toString("utf8"));
    case "htm":
    case "html":
      return writing("html", data.toString("utf8"));
    case "txt":
    case "text":
      return writing("text", data.toString("utf8"));
    default:
      throw new Refusal(`“${name}” cannot be read. Use .txt, .md, .html, .eml, .docx, or a design as .json.`);
  }
}

async function writing(kind: "text" | "markdown" | "html", text: string): Promise<Taken> {
  if (kind === "html") return readMarkup(text);
  const pieces = kind === "markdown" ? await readMarkdown(text) : readText(text);
  return plain(kind === "markdown" ? "Markdown" : "text", blocksFrom(pieces, newId));
}

function plain(kind: Taken["kind"], blocks: Block[]): Taken {
  return { kind, blocks, whole: null, lost: { apart: [], whole: [] }, email: null, pictures: [] };
}

async function readMarkup(html: string): Promise<Taken> {
  const blocks = blocksFrom(readHtml(html), newId);
  const complete = /<(html|body|table)\b/i.test(html);
  if (!complete) return plain("HTML", blocks);
  const { html: whole, lost } = await inlined(html);
  const clean = cleanHtml(whole);
  return {
    ...plain("a complete HTML email", blocks),
    whole,
    lost: {
      apart: whatApartLoses(html),
      whole: [
        ...lost,
        // Names of classes and comments are of no use once the styles stand in the elements.
        ...clean.removed
          .filter(({ what }) => what !== "class and id names" && what !== "comments")
          .map(({ what, count }) => (count > 1 ? `${what}, ${count} times` : what)),
      ],
    },
  };
}

/** What readers of the original saw and blocks do not take over. */
function whatApartLoses(html: string): string[] {
  const count = (pattern: RegExp) => html.match(pattern)?.length ?? 0;
  const found: [number, string][] = [
    [count(/<style|\sstyle=|bgcolor=|<font/gi), "colours, type and spacing: the theme gives them anew"],
    [count(/background(-image)?\s*[=:][^;>]*(url|http)/gi), "pictures behind content"],
    [count(/<td/gi) > 1 ? 1 : 0, "what stood side by side stands one below the other"],
    [count(/<(form|input|button|select)\b/gi), "forms"],
    [count(/<(script|iframe|video|audio|object|embed)\b/gi), "scripts, films and frames"],
    [count(/@media/gi), "rules for phones: the theme has its own"],
    [count(/<!--\[if/gi), "parts meant for one mail program only"],
  ];
  return found.filter(([times]) => times > 0).map(([, what]) => what);
}

async function readMail(data: Buffer): Promise<Taken> {
  const { simpleParser } = await import("mailparser");
  const mail = await simpleParser(data);
  if (mail.html) return readMarkup(mail.html);
  if (mail.text) return writing("text", mail.text);
  throw new Refusal("This email has no words in it that can be read.");
}

async function readDocument(name: string, data: Buffer): Promise<Taken> {
  const { default: mammoth } = await import("mammoth");
  const pictures: Taken["pictures"] = [];
  const result = await mammoth
    .convertToHtml(
      { buffer: data },
      {
        convertImage: mammoth.images.imgElement(async (image) => {
          const bytes = Buffer.from(await image.readAsBase64String(), "base64");
          const path = `/pictures/taken-${pictures.length}`;
          pictures.push({ path, bytes });
          return { src: path };
        }),
      },
    )
    .catch(() => {
      throw new Refusal(
        `“${name}” is damaged, or no .docx document. Save it once more as .docx and try again.`,
      );
    });
  const lost = [...new Set(result.messages.map(({ message }) => message))];
  const blocks = blocksFrom(readHtml(result.value), newId);
  return { ...plain("a document", blocks), lost: { apart: lost, whole: [] }, pictures };
}

function readDesign(name: string, text: string): Taken {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch (error) {
    throw new Refusal(
      `“${name}” is not valid JSON: ${error instanceof Error ? error.message : "it is cut off"}.`,
    );
  }
  const design = json as { septima?: unknown; email?: unknown };
  if (typeof json !== "object" || json === null || design.septima === undefined)
    throw new Refusal(`“${name}” is no design taken out of Septima.`);
  try {
    return { ...plain("a design of Septima", []), email: parseEmail(design.email) };
  } catch (error) {
    const issue = (error as { issues?: { path: PropertyKey[]; message: string }[] }).issues?.[0];
    if (!issue) throw error;
    throw new Refusal(
      `“${name}” is damaged at ${issue.path.join(" › ") || "its beginning"}: ${issue.message}.`,
    );
  }
}
