import { Parser } from "htmlparser2";
import { describe, expect, test } from "vitest";
import { type Inline, paragraphOf, richText } from "../email";
import { absolute } from "../program";
import { sampleContext } from "../render/sample";
import {
  backdropCell,
  columnsHtml,
  css,
  firstProse,
  firstWords,
  numbered,
  pictureHtml,
  pictureText,
  proseHtml,
  proseText,
  type RenderContext,
  styleAttribute,
  withItemIds,
  wordsMark,
  writeInline,
} from ".";

/** What something writes, as one text. */
function written(body: (context: RenderContext) => void, more: Partial<RenderContext> = {}): string {
  const context = sampleContext(more);
  body(context);
  return context.out
    .finish()
    .map((it) => (it.op === "static" ? it.text : `‹${it.op}›`))
    .join("");
}

/** Whether every element that was opened is closed in turn. */
function balanced(html: string): boolean {
  const open: string[] = [];
  let sound = true;
  const parser = new Parser({
    onopentagname: (name) => void (/^(img|br)$/.test(name) || open.push(name)),
    onclosetag(name, implied) {
      if (!/^(img|br)$/.test(name) && (implied || open.pop() !== name)) sound = false;
    },
  });
  parser.end(html);
  return sound && open.length === 0;
}

describe("styles", () => {
  test("leave out what has no value, and are safe in an attribute", () => {
    expect(css({ color: "#112233", margin: undefined, border: false, "font-family": 'a, "b c"' })).toBe(
      "color:#112233;font-family:a, &quot;b c&quot;;",
    );
    expect(styleAttribute("")).toBe("");
    expect(styleAttribute("a:b;")).toBe(' style="a:b;"');
  });

  test("a line height is exact in the word-processor engine too", () =>
    expect(css({ "line-height": "20px" })).toBe("mso-line-height-rule:exactly;line-height:20px;"));
});

describe("columns", () => {
  const cells = (shares: number[], widths: number[] = []) =>
    shares.map((share, at) => ({
      share,
      write(width: number) {
        widths[at] = width;
      },
    }));

  test("one column takes all the room; more are told theirs, which fits", () => {
    const widths: number[] = [];
    expect(balanced(written((context) => columnsHtml(context, cells([100], widths), { gap: 20 })))).toBe(
      true,
    );
    expect(widths).toEqual([560]);
    written((context) => columnsHtml(context, cells([50, 30, 20], widths), { gap: 20 }));
    expect(widths.reduce((sum, width) => sum + width, 0)).toBeLessThanOrEqual(560 - 2 * 20 + 2);
    expect(Math.min(...widths)).toBeGreaterThan(0);
  });

  test.each(["stack", "reverse", "beside"] as const)(
    "%s on phones: sound HTML, in tables where only those are known",
    (onPhones) => {
      const html = written((context) =>
        columnsHtml(context, cells([50, 50]), { gap: 10, onPhones, valign: "middle" }),
      );
      expect(balanced(html)).toBe(true);
      expect(html).toContain("middle");
      if (onPhones === "beside") expect(html).not.toContain("inline-block");
      else expect(html).toMatch(/<!--\[if mso\]><table .*<!--\[if mso\]><\/tr><\/table><!\[endif\]-->/s);
      if (onPhones === "reverse") expect(html).toContain('dir="rtl"');
    },
  );
});

describe("pictures", () => {
  const picture = {
    src: "/pictures/a.png",
    alt: "Carrots",
    decorative: false,
    natural: { width: 800, height: 400 },
  };

  test("have their size, words and address; decoration has none", () => {
    const html = written((context) => pictureHtml(picture, context, { width: 50, align: "right" }));
    expect(html).toContain(
      'src="https://septima.example/pictures/a.png/560" alt="Carrots" width="280" height="140"',
    );
    expect(html).toContain('align="right"');
    expect(html).not.toContain('class="fluid"');
    expect(written((context) => pictureHtml({ ...picture, decorative: true }, context))).toContain('alt=""');
    expect(
      balanced(
        written((context) => pictureHtml({ ...picture, href: "https://a.example/?a=1&b=2" }, context)),
      ),
    ).toBe(true);
  });

  test("one that is still to be chosen shows on the canvas only, and says where it belongs", () => {
    const empty = { ...picture, src: "" };
    expect(written((context) => pictureHtml(empty, context))).toBe("");
    const canvas = written((context) => pictureHtml(empty, context, undefined, "pictures/p1"), {
      marks: true,
    });
    expect(canvas).toContain('data-choose="pictures/p1"');
  });

  test("in text they are their words and where they lead", () => {
    const text = (it: typeof picture & { href?: string }) =>
      written((context) => pictureText(it, context), { part: "text" });
    expect(text({ ...picture, href: "https://a.example/" })).toBe("[Carrots] (https://a.example/)\n\n");
    expect(text({ ...picture, decorative: true })).toBe("");
  });

  test("behind something they are an attribute, a style and a colour, and no address breaks out", () => {
    const cell = backdropCell({ src: "/pictures/a'(1).png", color: "#112233" }, "https://septima.example");
    expect(cell.attributes).toContain('bgcolor="#112233"');
    expect(cell.style).not.toMatch(/url\(&#39;[^)]*'/);
    expect(absolute("https://b.example/x.png", "https://a.example")).toBe("https://b.example/x.png");
  });
});

describe("words", () => {
  const line: Inline[] = [
    { type: "text", text: "Sow " },
    {
      type: "text",
      text: "now",
      marks: [{ type: "bold" }, { type: "link", attrs: { href: "https://a.example/" } }],
    },
    { type: "text", text: " & wait, m" },
    { type: "text", text: "2", marks: [{ type: "superscript" }] },
  ];

  test("are escaped, with their marks inside one another", () => {
    const html = written((context) => writeInline(line, context));
    expect(html).toContain("&amp; wait");
    expect(html).toMatch(/<strong><a href="https:\/\/a\.example\/"[^>]*>now<\/a><\/strong>/);
    expect(html).toMatch(/<sup style="[^"]*">2<\/sup>/);
    expect(balanced(html)).toBe(true);
  });

  test("in text a link is spelt out once, and an address that stands there is not said again", () => {
    const text = (words: Inline[]) => written((context) => writeInline(words, context), { part: "text" });
    expect(text(line)).toBe("Sow now (https://a.example/) & wait, m2");
    const address = "https://a.example/";
    expect(text([{ type: "text", text: address, marks: [{ type: "link", attrs: { href: address } }] }])).toBe(
      address,
    );
  });

  test("paragraphs and lists have their gaps, the last none", () => {
    const list = {
      type: "bulletList" as const,
      content: [{ type: "listItem" as const, content: [paragraphOf("Peas")] }],
    };
    const doc = { type: "doc" as const, content: [paragraphOf("One"), list, paragraphOf()] };
    const html = written((context) => proseHtml(doc, { gap: 12 }, context));
    expect(html).toContain("margin:0 0 12px;");
    expect(html).toContain('<p style="margin:0 0 0px;">&nbsp;</p>');
    expect(balanced(html)).toBe(true);
    expect(written((context) => proseText(doc.content, context), { part: "text" })).toContain("- Peas\n");
  });

  test("the canvas is told where words can be written; the message is not", () => {
    expect(wordsMark(sampleContext({ marks: true }), "line", "items/1/content")).toBe(
      ' data-edit="items/1/content" data-edit-kind="line"',
    );
    expect(wordsMark(sampleContext(), "line")).toBe("");
    expect(written((context) => proseHtml(richText("A"), {}, context))).not.toContain("data-edit");
  });

  test("the first words stand for the whole, cut at a word of their length", () => {
    expect(firstWords([{ type: "text", text: "  Short  " }])).toBe("Short");
    expect(firstWords([{ type: "text", text: "long ".repeat(30) }])).toMatch(/^.{30,40}…$/);
    expect(firstProse(richText("", "Second line"))).toBe("Second line");
    expect(firstProse(richText())).toBe("");
  });
});

test("items get ids by their places, once", () => {
  expect(numbered([{ a: 1 }, { a: 2 }])).toEqual([
    { id: "1", a: 1 },
    { id: "2", a: 2 },
  ]);
  const raw = { items: [{ a: 1 }, { id: "own", a: 2 }] };
  expect(withItemIds(raw, "items")).toEqual({
    items: [
      { id: "1", a: 1 },
      { id: "own", a: 2 },
    ],
  });
  expect(withItemIds({ items: "none" }, "items")).toEqual({ items: "none" });
});
