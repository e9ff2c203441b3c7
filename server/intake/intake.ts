import { simpleParser } from "mailparser";
import mammoth from "mammoth";
import { cleanHtml, parseEmail } from "~/core/blocks";
import type { Block, Email } from "~/core/email";
import { blocksFrom, readHtml, readMarkdown, readText } from "~/core/writing";
import { Refusal, type Septima } from "../septima";
import { addPicture, type Picture } from "../workspace/pictures";
import { inlined } from "./inlined";

/** What came in, ready to be put into a design. */
export interface Intake {
  /** What it turned out to be. */
  kind: "text" | "Markdown" | "HTML" | "a complete HTML email" | "a document" | "a design of Septima";
  blocks: Block[];
  /** A complete email's HTML as a code block holds it; null when there is nothing to keep whole. */
  whole: string | null;
  /** What could not be kept when it is taken apart, and when it is kept whole. */
  lost: { apart: string[]; whole: string[] };
  /** A whole design, with everything in it. */
  email: Email | null;
  /** Pictures that came along and are in the workspace now. */
  pictures: Picture[];
}

const GREATEST = 10_000_000;

/**
 * Reads a file that somebody wants to make a design of, by its name's ending: text, Markdown, HTML, an email (.eml), a
 * document (.docx), or a design taken out earlier (.json).
 * @throws Refusal when it is too large, of another kind, or damaged
 */
export async function readFile(septima: Septima, name: string, data: Buffer): Promise<Intake> {
  if (data.length > GREATEST) {
    throw new Refusal(
      `“${name}” has ${Math.ceil(data.length / 1_000_000)} MB; up to ${GREATEST / 1_000_000} MB can be read.`,
    );
  }
  const ending = /\.([a-z0-9]+)$/i.exec(name)?.[1].toLowerCase() ?? "";
  switch (ending) {
    case "docx":
      return readDocument(septima, name, data);
    case "eml":
      return readMail(septima, data);
    case "json":
      return readDesign(name, data.toString("utf8"));
    case "md":
    case "markdown":
      return readWriting(septima, "markdown", data.toString("utf8"));
    case "htm":
    case "html":
      return readWriting(septima, "html", data.toString("utf8"));
    case "txt":
    case "text":
      return readWriting(septima, "text", data.toString("utf8"));
    default:
      throw new Refusal(`“${name}” cannot be read. Use .txt, .md, .html, .eml, .docx, or a design as .json.`);
  }
}

/** Reads writing that was pasted. */
export async function readWriting(
  septima: Septima,
  kind: "text" | "markdown" | "html",
  text: string,
): Promise<Intake> {
  if (kind === "html") return readMarkup(septima, text);
  const pieces = kind === "markdown" ? await readMarkdown(text) : readText(text);
  return plain(kind === "markdown" ? "Markdown" : "text", blocksFrom(pieces, septima.newId));
}

function plain(kind: Intake["kind"], blocks: Block[]): Intake {
  return { kind, blocks, whole: null, lost: { apart: [], whole: [] }, email: null, pictures: [] };
}

function readMarkup(septima: Septima, html: string): Intake {
  const blocks = blocksFrom(readHtml(html), septima.newId);
  const complete = /<(html|body|table)\b/i.test(html);
  if (!complete) return plain("HTML", blocks);
  const { html: whole, lost } = inlined(html);
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

async function readMail(septima: Septima, data: Buffer): Promise<Intake> {
  const mail = await simpleParser(data);
  if (mail.html) return readMarkup(septima, mail.html);
  if (mail.text) return readWriting(septima, "text", mail.text);
  throw new Refusal("This email has no words in it that can be read.");
}

async function readDocument(septima: Septima, name: string, data: Buffer): Promise<Intake> {
  const pictures: Picture[] = [];
  const lost: string[] = [];
  const result = await mammoth
    .convertToHtml(
      { buffer: data },
      {
        convertImage: mammoth.images.imgElement(async (image) => {
          try {
            const bytes = Buffer.from(await image.readAsBase64String(), "base64");
            const picture = await addPicture(septima, `From ${name}`, bytes);
            pictures.push(picture);
            return { src: picture.path };
          } catch (error) {
            if (!(error instanceof Refusal)) throw error;
            lost.push(`a picture: ${error.message}`);
            return { src: "" };
          }
        }),
      },
    )
    .catch(() => {
      throw new Refusal(
        `“${name}” is damaged, or no .docx document. Save it once more as .docx and try again.`,
      );
    });
  for (const { message } of result.messages) if (!lost.includes(message)) lost.push(message);
  const blocks = blocksFrom(readHtml(result.value), septima.newId).map((block) => {
    const picture = pictures.find((one) => one.path === block.src);
    return picture ? { ...block, natural: { width: picture.width, height: picture.height } } : block;
  });
  return { ...plain("a document", blocks), lost: { apart: lost, whole: [] }, pictures };
}

function readDesign(name: string, text: string): Intake {
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
