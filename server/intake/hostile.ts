/** Files that mean harm, for the tests and the bench: small ones that take ever so long or much to read. */
import { strToU8, zipSync } from "fflate";

export interface HostileFile {
  name: string;
  /** What it is, in words. */
  about: string;
  data: Uint8Array;
}

const DOCX = {
  types: `<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>`,
  rels: `<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/></Relationships>`,
};

/** A document with so many paragraphs; a hundred thousand of them pack into a few kilobytes. */
export function documentOf(paragraphs: number, words = "a"): Uint8Array {
  const body = `<w:p><w:r><w:t>${words}</w:t></w:r></w:p>`.repeat(paragraphs);
  return zipSync({
    "[Content_Types].xml": strToU8(DOCX.types),
    "_rels/.rels": strToU8(DOCX.rels),
    "word/document.xml": strToU8(
      `<?xml version="1.0"?><w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:body>${body}</w:body></w:document>`,
    ),
  });
}

/** One after the other, so that no more than one is in memory. */
export function* hostileFiles(): Generator<HostileFile> {
  yield {
    name: "rules.html",
    about: "290 KB of style rules over many elements",
    data: strToU8(
      `<html><head><style>${Array.from({ length: 7000 }, (_, n) => `td.c${n} > p b i,u{color:#${(n % 10) + 100};top:0}`).join("")}</style></head><body><table><tr>${"<td class='c1'><p><b><i>x</i></b><u>y</u></p></td>".repeat(2000)}</tr></table></body></html>`,
    ),
  };
  yield {
    name: "swelling.docx",
    about: "a document of 100 KB that unpacks to 80 MB",
    data: documentOf(2_200_000),
  };
  yield { name: "brackets.md", about: "20 KB of [", data: strToU8("[".repeat(20_000)) };
  yield {
    name: "stars.md",
    about: "200 KB of emphasis that never ends",
    data: strToU8("*a **b ".repeat(28_000)),
  };
  yield { name: "deep.html", about: "elements nested 200,000 deep", data: strToU8("<div>".repeat(200_000)) };
  yield { name: "deep.json", about: "lists nested a million deep", data: strToU8("[".repeat(1_000_000)) };
  yield {
    name: "wide.html",
    about: "a table of 300,000 cells",
    data: strToU8(`<table><tr>${"<td>a</td>".repeat(300_000)}</tr></table>`),
  };
  yield {
    name: "unfinished.html",
    about: "5 MB of tags that do not end",
    data: strToU8(`<html><body>${"<img ".repeat(1_000_000)}`),
  };
  yield {
    name: "parts.eml",
    about: "an email of parts within parts",
    data: strToU8(
      `${Array.from({ length: 2000 }, (_, n) => `Content-Type: multipart/mixed; boundary=b${n}\r\n\r\n--b${n}\r\n`).join("")}Content-Type: text/plain\r\n\r\nhello`,
    ),
  };
}
