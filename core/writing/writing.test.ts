import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { parseEmail } from "../blocks";
import { inlineText } from "../email";
import { sampleEmail } from "../render/sample";
import { blocksFrom, cleanPaste, type Piece, readHtml, readMarkdown, readText } from ".";

/** Pieces in a short form: what they are and what they say. */
function inShort(piece: Piece): string {
  switch (piece.kind) {
    case "heading":
      return `h${piece.level} ${inlineText(piece.content)}`;
    case "words":
    case "quote":
      return `${piece.kind} ${piece.nodes.map(outline).join(" / ")}`;
    case "image":
      return `image ${piece.src} “${piece.alt}”${piece.href ? ` → ${piece.href}` : ""}`;
    case "button":
      return `button ${inlineText(piece.content)} → ${piece.href}`;
    case "table":
      return `table ${piece.header ? "with header " : ""}${piece.rows.map((row) => row.map(inlineText).join(",")).join(";")}`;
    case "divider":
      return "divider";
  }
}
const short = (pieces: readonly Piece[]) => pieces.map(inShort);
type Words = Extract<Piece, { kind: "words" }>["nodes"][number];
const outline = (node: Words): string =>
  node.type === "paragraph"
    ? inlineText(node.content ?? [])
    : `${node.type === "bulletList" ? "•" : "#"}(${node.content.map((item) => item.content.map(outline).join(" ")).join("; ")})`;

describe("HTML", () => {
  test("structure is kept, looks are left", () => {
    const html = `<h1 style="color:red">Sow <b>now</b></h1><p>First  paragraph,
      with <strong>bold</strong> and <a href="https://a.example/x">a link in it</a>.</p>
      <ul><li>Peas<ul><li>early</li></ul></li><li><p>Beans</p></li></ul>
      <p><a href="https://a.example/shop">To the shop</a></p><hr>
      <blockquote><p>Said</p></blockquote>
      <p><a href="https://a.example/p"><img src="https://a.example/p.png" alt="A pea"></a></p>
      <table><tr><th>A</th><th>B</th></tr><tr><td>1</td><td>2</td></tr></table>`;
    expect(short(readHtml(html))).toEqual([
      "h1 Sow now",
      "words First paragraph, with bold and a link in it. / •(Peas •(early); Beans)",
      "button To the shop → https://a.example/shop",
      "divider",
      "quote Said",
      "image https://a.example/p.png “A pea” → https://a.example/p",
      "table with header A,B;1,2",
    ]);
  });

  test("an email laid out with tables is taken apart", () => {
    const html = `<html><head><title>x</title><style>p{}</style></head><body><div style="display:none">preheader</div>
      <table role="presentation"><tr><td><table><tr><td><h2>Left</h2><p>Words left</p></td></tr></table></td>
      <td><img src="https://a.example/r.png" width="200"><div>Words right<br>second line</div></td></tr></table>
      <img src="https://a.example/count.gif" width="1" height="1"></body></html>`;
    expect(short(readHtml(html))).toEqual([
      "h2 Left",
      "words Words left",
      "image https://a.example/r.png “”",
      "words Words right second line",
    ]);
  });

  test("lists that a word processor writes as paragraphs become lists", () => {
    const html = `<p class=MsoListParagraphCxSpFirst style='text-indent:-18pt;mso-list:l0 level1 lfo1'><![if !supportLists]><span style='mso-list:Ignore'>·<span>&nbsp;&nbsp; </span></span><![endif]>One</p>
      <p class=MsoListParagraphCxSpMiddle style='mso-list:l0 level2 lfo1'><span style='mso-list:Ignore'>o</span>Inner</p>
      <p class=MsoListParagraphCxSpLast style='mso-list:l0 level1 lfo1'><span style='mso-list:Ignore'>·</span>Two</p>
      <p class=MsoListParagraph style='mso-list:l1 level1 lfo2'><span style='mso-list:Ignore'>1.</span>First</p>
      <p class=MsoNormal><b style='font-weight:normal'><span style='font-weight:700'>Bold</span> and <span style='font-style:italic'>slanted</span></b><o:p></o:p></p>`;
    const pieces = readHtml(html);
    expect(short(pieces)).toEqual(["words •(One •(Inner); Two) / #(First) / Bold and slanted"]);
    expect(cleanPaste(html)).toBe(
      "<ul><li><p>One</p><ul><li><p>Inner</p></li></ul></li><li><p>Two</p></li></ul><ol><li><p>First</p></li></ol><p><strong>Bold</strong> and <em>slanted</em></p>",
    );
  });

  test("nothing that could act comes along", () => {
    const html = `<p onclick="x()">A<script>x()</script></p><a href="javascript:x()">B</a><img src="data:image/png;base64,x"><style>p{}</style>`;
    expect(JSON.stringify(readHtml(html))).not.toMatch(/script|onclick|data:/);
    expect(cleanPaste(html)).toBe("<p>A</p><p>B</p>");
  });
});

test("Markdown", async () => {
  const text =
    "# Title\n\nSome *words* with `code`.\n\n1. one\n2. two\n\n> Quoted\n\n---\n\n[Read on](https://a.example/)\n\n![Alt](https://a.example/i.png)\n\n| A | B |\n|---|---|\n| 1 | 2 |\n";
  expect(short(await readMarkdown(text))).toEqual([
    "h1 Title",
    "words Some words with code. / #(one; two)",
    "quote Quoted",
    "divider",
    "button Read on → https://a.example/",
    "image https://a.example/i.png “Alt”",
    "table with header A,B;1,2",
  ]);
});

test("plain text", () => {
  const text =
    "What to sow\r\n\r\nIt is March.\r\nSow indoors, see https://a.example/x?a=1&b=2.\r\n\r\n- peas\r\n- beans <raw>\r\n\r\n-----\r\n\r\nNext month\n\nMore then.";
  expect(short(readText(text))).toEqual([
    "h1 What to sow",
    "words It is March. Sow indoors, see https://a.example/x?a=1&b=2. / •(peas; beans <raw>)",
    "divider",
    "h2 Next month",
    "words More then.",
  ]);
});

test("whatever is read makes blocks that the document takes, and no words are invented", () => {
  const fragment = fc.constantFrom(
    "<p>",
    "</p>",
    "<b>",
    "</b>",
    "<ul>",
    "<li>",
    "</ul>",
    "<table>",
    "<tr>",
    "<td>",
    "<th>",
    "</table>",
    "<h2>",
    "</h2>",
    '<a href="https://a.example/">',
    "</a>",
    "<br>",
    "<hr>",
    "<img src='https://a.example/x.png'>",
    "<blockquote>",
    "</blockquote>",
    "<pre>",
    "</pre>",
    "word",
    " ",
    "\n",
    "<!-- x -->",
    "&amp;",
    "<script>",
    "</script>",
  );
  fc.assert(
    fc.property(fc.array(fragment, { maxLength: 30 }), (parts) => {
      const html = parts.join("");
      let next = 0;
      const blocks = blocksFrom(readHtml(html), () => `x${next++}`);
      const email = sampleEmail(1);
      email.sections[0].rows[0].columns[0].blocks.unshift(...blocks);
      expect(() => parseEmail(email)).not.toThrow();
      const said =
        JSON.stringify(blocks)
          .match(/"text":"[^"]*"/g)
          ?.join("") ?? "";
      expect(said.split("word").length).toBeLessThanOrEqual(html.split("word").length);
    }),
    { numRuns: 500 },
  );
});
