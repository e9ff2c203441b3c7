/** What a message is wherever it is read: its headings, its direction, its text part, its addresses. */
import { describe, expect, test } from "vitest";
import { BLOCK_TYPES, type BlockTypeName, createBlock } from "../blocks";
import { type Block, type Email, richText, type Section } from "../email";
import { bind, personalise, previewAddresses, readerOf } from "../personal";
import { compile, everySurroundings, groundAt } from ".";
import { colourful, DUSK, PALE } from "./colourful";
import { newestOf, SAMPLE_OPTIONS, sampleContact, sampleEmail, sampleWorld } from "./sample";

const world = sampleWorld("2026-11-23");

function emailOf(blocks: Block[], more: Partial<Email> = {}, section: Partial<Section> = {}): Email {
  return {
    ...sampleEmail(1),
    ...more,
    sections: [{ id: "s", rows: [{ id: "r", columns: [{ id: "c", width: 100, blocks }] }], ...section }],
  } as Email;
}
function read(email: Email, fields: Record<string, unknown> = {}, language = email.language) {
  const bound = bind(compile(email, SAMPLE_OPTIONS), world);
  return personalise(
    bound,
    readerOf(sampleContact(1, fields), language, previewAddresses("https://s.example")),
  );
}
let ids = 0;
const block = (type: Parameters<typeof createBlock>[0], more: object = {}): Block =>
  ({ ...createBlock(type, `b${ids++}`), ...more }) as Block;
const words = (text: string) => [{ type: "text" as const, text }];

describe("headings", () => {
  const heading = (level: 1 | 2 | 3, text: string) => block("heading", { level, content: words(text) });
  const levels = (blocks: Block[]) =>
    [...read(emailOf(blocks)).html.matchAll(/<h(\d)/g)].map(([, level]) => Number(level));

  test("begin with the first level and skip none, whatever looks were chosen", () => {
    expect(levels([heading(2, "a"), heading(3, "b"), heading(3, "c"), heading(2, "d")])).toEqual([
      1, 2, 2, 2,
    ]);
    expect(levels([heading(1, "a"), heading(3, "b"), heading(2, "c"), heading(3, "d")])).toEqual([
      1, 2, 2, 3,
    ]);
    expect(levels([heading(3, "a"), heading(1, "b")])).toEqual([1, 2]);
  });

  test("have the level that the designer chose, and those after it follow", () => {
    const chosen = (outline: 1 | 2 | 3 | 4) => block("heading", { level: 2, outline, content: words("x") });
    expect(levels([heading(1, "a"), chosen(4), heading(3, "b"), heading(2, "c")])).toEqual([1, 4, 5, 2]);
    expect(levels([heading(1, "a"), heading(2, "b"), chosen(1), heading(3, "c")])).toEqual([1, 2, 1, 2]);
  });

  test("of live items and appointments stand under the heading before them", () => {
    const articles = newestOf("a", { count: 2 });
    const sale = block("appointment", { title: "Sale", start: "2026-12-03T18:00" });
    expect(levels([heading(1, "a"), articles, heading(2, "b"), sale])).toEqual([1, 2, 2, 2, 3]);
    expect(levels([articles])).toEqual([1, 2]);
  });
});

describe("a language written from right to left", () => {
  const blocks = () => [
    block("text", { content: richText("שלום") }),
    block("button", { align: "left" }),
    block("quote"),
    block("icons"),
  ];
  test("turns the message, its alignments and its insides round", () => {
    const { html } = read(emailOf(blocks(), { language: "he" }));
    expect(html).toMatch(/^<!doctype html><html lang="he" dir="rtl"/);
    expect(html).toMatch(/<table [^>]*dir="rtl"/);
    expect(html).toMatch(/text-align:right;[^>]*><p[^>]*>שלום/);
    const ending = read(emailOf([block("button", { align: "right" })], { language: "he" })).html;
    expect(ending).toMatch(/<td align="left"><table [^>]*style="margin:0 auto 0 0;"><tr><td[^>]*><a/);
    expect(html).toContain("border-right:4px");
    expect(html).not.toContain("border-left:4px");
    const { html: left } = read(emailOf(blocks(), { language: "en_GB" }));
    expect(left).toMatch(/dir="ltr"/);
    expect(left).toContain("border-left:4px");
  });

  test("in our words a value that runs the other way is set apart; signs that turn what follows are left out", () => {
    const tag = {
      type: "mergeTag" as const,
      attrs: { field: "first_name", fallback: "", format: "asIs" as const },
    };
    const email = emailOf([block("heading", { content: [tag, ...words(", sow")] })], {
      envelope: { ...sampleEmail(1).envelope, subject: [tag, ...words(", sow")] },
    });
    const { html, subject, text } = read(email, { first_name: "דנה\u202e" });
    expect(html).toContain("<bdi>דנה</bdi>, sow");
    expect(subject).toBe("\u2068דנה\u2069, sow");
    expect(text).toContain("\u2068דנה\u2069, sow");
    expect(`${html}${subject}${text}`).not.toContain("\u202e");
    expect(read(email, { first_name: "Ines" }).html).toContain(">Ines, sow");
  });
});

test.each(["left", "center", "right"] as const)(
  "no table floats, whatever stands at the side (%s): what follows would stand beside it, or be lost",
  (side) => {
    const blocks = (Object.keys(BLOCK_TYPES) as BlockTypeName[]).map((type) => {
      const made = block(type);
      return {
        ...made,
        ...("align" in made && { align: side }),
        ...(type === "overlaid" && { at: side, wide: 40 }),
        ...("src" in made && { src: "/pictures/x.png" }),
      } as Block;
    });
    for (const language of ["en", "he"]) {
      const { html } = read(emailOf(blocks, { language }));
      expect(html).not.toMatch(/<table [^>]*align="(left|right)"/);
    }
  },
);

describe("the text part", () => {
  const link = (href: string, text: string, show?: object) =>
    block("button", { href, content: words(text), ...(show && { show }) });
  const numbered = { textPart: { width: 76, links: "numbered" as const } };

  test("numbers the links that this reader has, those of live items too, with the parameters of all", () => {
    const email = emailOf(
      [
        link("https://a.example/", "One", { kind: "field", field: "member", op: "yes" }),
        link("https://b.example/", "Two"),
        newestOf("a", { count: 1, off: ["text", "date"] }),
        link("https://b.example/", "Two again"),
      ],
      { ...numbered, links: { parameters: [{ name: "from", value: "letter" }], untracked: [] } },
    );
    const member = read(email, { member: true }).text;
    const other = read(email, { member: false }).text;
    expect(member).toContain("One [1]");
    expect(member).toContain("[1] https://a.example/?from=letter");
    expect(other).not.toContain("a.example");
    expect(other).toContain("Two [1]");
    expect(other).toContain("Two again [1]");
    expect(other).toContain("[1] https://b.example/?from=letter\n");
    expect(other).toContain("[2] https://journal.example/1?a=1&b=2&from=letter\n");
    expect(other).not.toContain("[3]");
    expect(`${member}${other}`).not.toMatch(/[\u0000-\u0009\u000b-\u001f]/);
  });

  test("sets tables in columns, by what this reader reads in them", () => {
    const tag = {
      type: "mergeTag" as const,
      attrs: { field: "branch", fallback: "here", format: "asIs" as const },
    };
    const table = block("table");
    const rows = (table as unknown as { rows: { id: string; cells: Record<string, unknown> }[] }).rows;
    rows[1].cells["3"] = [tag];
    const lines = (branch?: string) =>
      read(emailOf([table]), branch ? { branch } : {})
        .text.split("\n")
        .slice(0, 4);
    expect(lines()).toEqual([
      "What    When     Where",
      "------  -------  -----",
      "First   Monday   here",
      "Second  Tuesday  There",
    ]);
    expect(lines("Alderwick on the Marl")[1]).toBe("------  -------  ---------------------");
    const wide = lines(
      "A very long name of a branch that would make the table wider than a line may be at all",
    );
    expect(wide[0]).toBe("What | When | Where");
  });

  test("leaves out what phones alone show, and ends with the mark of a signature", () => {
    const hidden = block("text", { content: richText("For phones"), hideOn: "desktop" });
    const { text } = read(
      emailOf([hidden, block("text", { content: richText("For all") }), block("footer")]),
    );
    expect(text).not.toContain("For phones");
    expect(text).toContain("For all");
    expect(text).toMatch(/\n-- \n/);
  });
});

describe("addresses", () => {
  const hostile = "/pictures/a.png'); background: url('https://spy.example/x";
  test("cannot leave the quotes of a style", () => {
    const { html } = read(
      emailOf(
        [block("overlaid", { src: `${hostile}\\` })],
        {},
        {
          picture: { src: hostile, position: "top", tile: false, open: true },
        },
      ),
    );
    for (const [, address] of html.matchAll(/url\(&#39;(.*?)&#39;\)/g))
      expect(address).not.toMatch(/['"()\\\s<>]/);
    expect(html.match(/url\(/g)?.length).toBe(
      html.match(/url\(&#39;https:\/\/septima\.example\/pictures/g)?.length,
    );
  });

  test.each([
    "javascript:alert(1)",
    "vbscript:x",
    "data:image/svg+xml,<svg/>",
    " JaVaScRiPt:alert(1)",
    "//spy.example/x.png",
    "file:///etc/passwd",
  ])("of a picture cannot be %s", (src) => {
    const picture = { src, alt: "Beans", natural: { width: 10, height: 10 } };
    const set = block("imageSet", { pictures: [{ id: "1", decorative: false, ...picture }] });
    const { html } = read(
      emailOf(
        [block("image", picture), block("video", picture), block("overlaid", { src }), set],
        {},
        { picture: { src, position: "top", tile: false, open: false } },
      ),
    );
    expect(html.toLowerCase()).not.toMatch(/(src|background)="\s*(javascript|vbscript|data|file|\/\/)/);
    expect(html).not.toContain("url(");
  });
});

test("what stands behind a block’s words is the same for the panel as for the renderer", () => {
  for (const colours of [PALE, DUSK]) {
    const email = colourful(colours);
    const surroundings = everySurroundings(email, SAMPLE_OPTIONS);
    let own = 0;
    for (const section of email.sections)
      for (const row of section.rows)
        for (const column of row.columns)
          for (const one of column.blocks) {
            const { ground } = surroundings.get(one.id)!;
            const found = groundAt(email, one.id, SAMPLE_OPTIONS.theme);
            if (one.background === undefined) expect(found).toEqual(ground);
            else {
              own++;
              expect(found.light).toBe(one.background);
            }
          }
    expect(own).toBeGreaterThan(10);
  }
});
