import { readdirSync, readFileSync } from "node:fs";
import { Parser } from "htmlparser2";
import { describe, expect, test } from "vitest";
import { type Block, blocksOf, type Email, richText, SCHEMA_VERSION, walk, withValueAt } from "../email";
import { bind, personalise, previewAddresses, readerOf } from "../personal";
import { canvasBody, messageBody } from "../personal/test-canvas";
import { allPlacedIn } from "../properties";
import { compile } from "../render";
import { SAMPLE_OPTIONS, sampleContact, sampleEmail, sampleWorld } from "../render/sample";
import { BLOCK_TYPES, type BlockTypeName, createBlock, filledBlock, parseEmail } from ".";
import { NO_PRODUCT_PARTS } from "./items/arranged";

const world = sampleWorld("2026-11-23");
const reader = readerOf(
  sampleContact(1, { first_name: "Ines" }),
  "en",
  previewAddresses("https://septima.example"),
);
const HOSTILE = `"><script>alert(1)</script>`;
const tag = {
  type: "mergeTag" as const,
  attrs: { field: "first_name", fallback: "you", format: "asIs" as const },
};

/** What makes more of a type show than its words, texts and addresses do. */
const MORE: Partial<Record<BlockTypeName, Record<string, unknown>>> = {
  beside: { side: "right" },
  button: { padX: 10, padY: 6, size: 20, width: 200, border: { width: 2, style: "solid", color: "#112233" } },
  table: { zebra: true, lines: "grid" },
  overlaid: { at: "center", wide: 50, src: "/pictures/a'(1).png", radius: 8 },
  social: { display: "both" },
  share: {
    ways: [
      { id: "1", by: "email", glyph: "letter", label: HOSTILE, pattern: "" },
      { id: "2", by: "page", glyph: "chain", label: "Page", pattern: "javascript:{address}" },
    ],
  },
  survey: { from: 0, to: 10 },
  coupon: { batch: "gone" },
  code: { html: `<table><tr><td onclick="x()">${HOSTILE}</td></tr></table><p>Own <b>words` },
};
const ADDRESSES = ["javascript:alert(1)", "https://a.example/?a=1&b=2#c", "data:text/html,x", "vbscript:x"];

/** What fills each type so that every part of it shows; words are hostile, and so are addresses. */
function hostile(name: BlockTypeName): Block {
  let block: Block = { ...filledBlock(name, "b"), ...MORE[name] };
  let links = 0;
  for (const { path, property } of allPlacedIn(BLOCK_TYPES[name].properties, block)) {
    const { kind } = property;
    if (name in MORE && path.split("/")[0] in (MORE[name] ?? {})) continue;
    if (kind === "line") block = withValueAt(block, path, [{ type: "text", text: HOSTILE }, tag]) as Block;
    if (kind === "prose") block = withValueAt(block, path, richText(HOSTILE)) as Block;
    if (kind === "text" && property.said)
      block = withValueAt(block, path, HOSTILE.slice(0, property.most)) as Block;
    if (kind === "address") block = withValueAt(block, path, ADDRESSES[links++ % ADDRESSES.length]) as Block;
  }
  return block;
}

function emailWith(block: Block): Email {
  const email = sampleEmail(1);
  const column = { id: "c", width: 100, blocks: block.type === "footer" ? [] : [block] };
  const narrow = { id: "d", width: 50, blocks: [] };
  const rows = [{ id: "r", columns: [{ ...column, width: 50 }, narrow] }];
  const sections = block.type === "footer" ? [] : [{ id: "s", rows }];
  const last = email.sections.map((section) => ({
    ...section,
    rows: section.rows.map((row) => ({
      ...row,
      columns: row.columns.map((it) => (block.type === "footer" ? { ...it, blocks: [block] } : it)),
    })),
  }));
  return parseEmail({ ...email, sections: [...sections, ...last] });
}

function unbalanced(html: string): string[] {
  const open: string[] = [];
  const wrong: string[] = [];
  const isVoid = (name: string) => ["meta", "img", "br"].includes(name);
  const parser = new Parser({
    onopentagname: (name) => void (isVoid(name) || open.push(name)),
    onclosetag(name, implied) {
      if (!isVoid(name) && (implied || open.pop() !== name)) wrong.push(name);
    },
  });
  parser.end(html);
  return [...wrong, ...open];
}

describe.each(Object.keys(BLOCK_TYPES) as BlockTypeName[])("%s", (name) => {
  const fresh = createBlock(name, "b") as Block;
  const filled = BLOCK_TYPES[name].schema.parse(hostile(name)) as Block;

  test("comes from the shelf as its schema wants it, and has a title", () => {
    expect(BLOCK_TYPES[name].schema.parse(fresh)).toEqual(fresh);
    expect((BLOCK_TYPES[name] as { title(block: Block): string }).title(fresh)).not.toBe("");
  });

  test.each([
    ["fresh", fresh],
    ["filled", filled],
  ] as const)("%s, it renders well-formed, safe HTML and text", (_state, block) => {
    const message = personalise(bind(compile(emailWith(block), SAMPLE_OPTIONS), world), reader);
    expect(unbalanced(message.html)).toEqual([]);
    const body = message.html.slice(message.html.indexOf("<body"));
    expect(body).not.toMatch(
      /<script|javascript:|vbscript:|data:text|undefined|NaN|class="waiting"|style=""/,
    );
    for (const [img] of body.matchAll(/<img [^>]*>/g)) expect(img).toMatch(/ alt="[^"]*" width="\d+"/);
    expect(message.text).not.toMatch(/javascript:|undefined|<td|&lt;/);
    expect(message.text).toMatch(/\n\n$/);
    if (block.type === "code") return;
    for (const [table] of body.matchAll(/<table [^>]*>/g))
      expect(table).toMatch(/role="(presentation|table)"/);
  });

  test("the canvas shows the same as the message", () => {
    const email = emailWith(filled);
    const { html } = personalise(bind(compile(email, SAMPLE_OPTIONS), world), reader);
    const canvas = canvasBody(email, SAMPLE_OPTIONS, world, reader);
    expect(canvas).not.toBe("");
    expect(canvas).toBe(messageBody(html));
  });
});

test("a code block’s pictures from the workspace are absolute in messages", () => {
  const html =
    '<img src="/pictures/a.png"><p style="background:url(\'/pictures/b.png\')">/pictures/c.png</p>';
  const block = { ...createBlock("code", "b"), html } as Block;
  const message = personalise(bind(compile(emailWith(block), SAMPLE_OPTIONS), world), reader).html;
  expect(message).toContain('<img src="https://septima.example/pictures/a.png" alt="">');
  expect(message).toContain("url(&#39;https://septima.example/pictures/b.png&#39;)");
  expect(message).toContain(">/pictures/c.png</p>");
});

describe("designs as they were stored", () => {
  const fixtures = readdirSync(new URL("./fixtures", import.meta.url)).map(
    (name) =>
      [name, JSON.parse(readFileSync(new URL(`./fixtures/${name}`, import.meta.url), "utf8"))] as const,
  );

  test.each(fixtures)(
    "%s: every design is read whole by this version, with all its words",
    (_name, designs) => {
      for (const stored of Object.values(designs as Record<string, Email>)) {
        const email = parseEmail(stored);
        expect(blocksOf(email).filter((block) => block.type === "unreadable")).toEqual([]);
        expect(email.schema).toBe(SCHEMA_VERSION);
        expect(parseEmail(JSON.parse(JSON.stringify(email)))).toEqual(email);
        const said = (it: unknown) =>
          [...JSON.stringify(it).matchAll(/"text":"([^"]*)"/g)].map(([, text]) => text);
        expect(said(email).sort()).toEqual(said(stored).sort());
      }
    },
  );

  test("a block of articles of before is a list of the newest, and says what it said; items stand as they stood", () => {
    const was = {
      id: "a",
      type: "articles",
      source: "journal",
      count: 2,
      excerptLength: 60,
      linkWords: "Go on",
    };
    const items: Record<string, unknown> = { ...createBlock("items", "i"), off: ["text"] };
    const added = [
      "arranged",
      "shorten",
      "textLines",
      "facts",
      "badges",
      "leadsBy",
      "calendarWords",
      "follow",
    ];
    for (const key of added) delete items[key];
    const read = (block: object, schema: number) => {
      const email = { ...sampleEmail(1), schema };
      const [{ rows }] = email.sections;
      rows[0].columns[0].blocks = [block as Block, ...rows[0].columns[0].blocks];
      return blocksOf(parseEmail(JSON.parse(JSON.stringify(email))))[0];
    };
    for (const [block, schema] of [
      [{ ...was, off: ["date", "excerpt"] }, 2],
      [{ ...was, parts: { picture: true, title: true, date: false, excerpt: false, link: true } }, 1],
    ] as const)
      expect(read(block, schema)).toMatchObject({
        type: "picks",
        source: "journal",
        count: 2,
        ways: [{ by: "newest" }],
        arranged: "list",
        textLength: 60,
        linkWords: "Go on",
        off: ["date", "text", "badge", "place", "facts", "price", "stock", "calendar"],
      });
    // The date was a part of it that one could switch on.
    expect(read({ ...was, off: [] }, 2).off).not.toContain("date");
    expect(read(items, 2)).toEqual({ ...createBlock("items", "i"), off: ["text", ...NO_PRODUCT_PARTS] });
    // One that a newer version could not read meanwhile, too.
    const kept = {
      id: "a",
      type: "unreadable",
      raw: was,
      written: 2,
      why: "This version does not know its type.",
    };
    expect(read(kept, 3)).toMatchObject({ type: "picks" });
  });

  test("one block that cannot be read is kept byte for byte and takes nothing else with it", () => {
    const email = sampleEmail(9);
    const broken = { id: "odd", type: "heading", level: 9, content: "?" };
    const newer = { id: "new", type: "hologram", depth: [1, 2] };
    const noBlock = "not even an object";
    const column = email.sections[0].rows[0].columns[0] as unknown as { blocks: unknown[] };
    column.blocks.push(broken, newer, noBlock);
    const read = parseEmail(email);
    const kept = blocksOf(read).filter((block) => block.type === "unreadable");
    expect(kept.map((block) => block.raw)).toEqual([broken, newer, noBlock]);
    expect(kept.map((block) => block.id)).toEqual(["odd", "new", "unreadable-1"]);
    expect(kept[0].why).toContain("level");
    expect(parseEmail(read)).toEqual(read);
    expect(blocksOf(read)).toHaveLength(12);
    const message = personalise(bind(compile(read, SAMPLE_OPTIONS), world), reader);
    expect(message.html).not.toContain("unreadable");
    // What was wrong was put right, as when the version that knows it is back.
    (kept[0] as Record<string, unknown>).raw = { ...broken, level: 1, content: [] };
    expect(blocksOf(parseEmail(read)).find((block) => block.id === "odd")).toMatchObject({
      type: "heading",
      level: 1,
    });
  });

  test("a design of a newer version is refused with a sentence; ids that come twice become two", () => {
    expect(() => parseEmail({ ...sampleEmail(2), schema: 99 })).toThrow("newer version");
    const email = sampleEmail(5);
    const [{ columns }] = email.sections[0].rows;
    columns[0].blocks.push(columns[0].blocks[0]);
    const ids = [...walk(parseEmail(email))].map((it) => it.node.id);
    expect(new Set(ids).size).toBe(ids.length);
  });
});
