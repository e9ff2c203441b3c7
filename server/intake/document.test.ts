import { strToU8, zipSync } from "fflate";
import sharp from "sharp";
import { expect, test } from "vitest";
import type { Block } from "~/core/email";
import { takeFile } from "./taking";

const xml = (text: string) => strToU8(`<?xml version="1.0" encoding="UTF-8" standalone="yes"?>${text}`);
const W =
  'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships" xmlns:wp="wp" xmlns:a="a" xmlns:c="c"';

async function take(body: string, parts: Record<string, Uint8Array> = {}) {
  const found = await takeFile(
    "letter.docx",
    zipSync({ "word/document.xml": xml(`<w:document ${W}><w:body>${body}</w:body></w:document>`), ...parts }),
  );
  return { ...found, blocks: found.blocks as (Block & { content: { content: unknown[] } })[] };
}
const run = (text: string, properties = "") =>
  `<w:r><w:rPr>${properties}</w:rPr><w:t xml:space="preserve">${text}</w:t></w:r>`;
const paragraph = (content: string, properties = "") => `<w:p><w:pPr>${properties}</w:pPr>${content}</w:p>`;
const PLAIN = paragraph(run("Plain words that go on for a while, so that it is known what is usual here."));

test("words keep their colours and marks, and paragraphs their alignment", async () => {
  const { blocks } = await take(
    PLAIN +
      paragraph(
        run("Now ") +
          run("red", '<w:color w:val="C00000"/><w:b/>') +
          run(" and ") +
          run("gone", "<w:strike/>") +
          run("2", '<w:vertAlign w:val="superscript"/>'),
        '<w:jc w:val="center"/>',
      ),
  );
  expect(blocks.map(({ type, align }) => [type, align])).toEqual([
    ["text", undefined],
    ["text", "center"],
  ]);
  expect(blocks[1].content.content[0]).toMatchObject({
    content: [
      { text: "Now " },
      { text: "red", marks: [{ type: "bold" }, { type: "style", attrs: { color: "#C00000" } }] },
      { text: " and " },
      { text: "gone", marks: [{ type: "strike" }] },
      { text: "2", marks: [{ type: "superscript" }] },
    ],
  });
});

test("headings, nested lists, quotes and links are what they are", async () => {
  const item = (text: string, level: number, list = "1") =>
    paragraph(run(text), `<w:numPr><w:ilvl w:val="${level}"/><w:numId w:val="${list}"/></w:numPr>`);
  const { blocks } = await take(
    paragraph(run("Big"), '<w:pStyle w:val="T1"/>') +
      PLAIN +
      item("One", 0) +
      item("Inner", 1) +
      item("Two", 0) +
      paragraph(run("Said so"), '<w:pStyle w:val="Q"/>') +
      paragraph(`<w:hyperlink r:id="l1">${run("the calendar")}</w:hyperlink>${run(" is here")}`),
    {
      "word/styles.xml": xml(
        `<w:styles ${W}><w:style w:styleId="T1"><w:name w:val="heading 1"/></w:style><w:style w:styleId="Q"><w:name w:val="Quote"/></w:style></w:styles>`,
      ),
      "word/numbering.xml": xml(
        `<w:numbering ${W}><w:abstractNum w:abstractNumId="7"><w:lvl w:ilvl="0"><w:numFmt w:val="decimal"/></w:lvl><w:lvl w:ilvl="1"><w:numFmt w:val="bullet"/></w:lvl></w:abstractNum><w:num w:numId="1"><w:abstractNumId w:val="7"/></w:num></w:numbering>`,
      ),
      "word/_rels/document.xml.rels": xml(
        '<Relationships><Relationship Id="l1" Target="https://a.example/calendar"/></Relationships>',
      ),
    },
  );
  expect(blocks.map(({ type }) => type)).toEqual(["heading", "text", "quote", "text"]);
  const list = { type: "orderedList", content: [{ content: [{}, { type: "bulletList" }] }, {}] };
  expect(blocks[1].content.content[1]).toMatchObject(list);
  expect(JSON.stringify(blocks[3])).toContain("https://a.example/calendar");
});

test("tables and pictures come along, at the size they are shown in", async () => {
  const png = new Uint8Array(
    await sharp({ create: { width: 40, height: 30, channels: 3, background: "#080" } })
      .png()
      .toBuffer(),
  );
  const cell = (text: string) => `<w:tc>${paragraph(run(text))}</w:tc>`;
  const { blocks, pictures } = await take(
    PLAIN +
      `<w:tbl><w:tblPr><w:tblLook w:firstRow="1"/></w:tblPr><w:tr>${cell("Day")}${cell("Work")}</w:tr><w:tr>${cell("Monday")}${cell("Sow")}</w:tr></w:tbl>` +
      paragraph(
        '<w:r><w:drawing><wp:inline><wp:extent cx="2857500" cy="1905000"/><wp:docPr id="1" descr="A green bed"/><a:blip r:embed="p1"/></wp:inline></w:drawing></w:r>',
      ),
    {
      "word/_rels/document.xml.rels": xml(
        '<Relationships><Relationship Id="p1" Target="media/image1.png"/></Relationships>',
      ),
      "word/media/image1.png": png,
    },
  );
  expect(blocks.map(({ type }) => type)).toEqual(["text", "table", "image"]);
  expect(blocks[1]).toMatchObject({ header: true });
  expect(blocks[2]).toMatchObject({ alt: "A green bed", width: 50, src: pictures[0].path });
  expect(pictures).toMatchObject([{ name: "image1.png" }]);
});

test("what cannot be kept is named: what was deleted, comments, charts; footnotes stand at the end", async () => {
  const { blocks, lost } = await take(
    paragraph(
      `${run("Kept")}<w:del><w:r><w:delText>gone</w:delText></w:r></w:del><w:commentRangeStart w:id="0"/>${run(" hidden", "<w:vanish/>")}<w:r><w:footnoteReference w:id="2"/></w:r>`,
    ) + paragraph("<w:r><w:drawing><wp:inline><c:chart/></wp:inline></w:drawing></w:r>"),
    {
      "word/footnotes.xml": xml(
        `<w:footnotes ${W}><w:footnote w:id="2">${paragraph(run("From the almanac."))}</w:footnote></w:footnotes>`,
      ),
    },
  );
  const words = JSON.stringify(blocks);
  expect(words).toContain("Kept");
  expect(words).toContain("From the almanac.");
  expect(words).not.toMatch(/gone|hidden/);
  expect(lost.apart.join("; ")).toMatch(/deleted.*comments.*hidden words.*charts/);
});
