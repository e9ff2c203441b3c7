/** Whatever way a letter's columns, grounds and words on pictures are written in, they come in as what they are. */
import { expect, test } from "vitest";
import { blocksOf, type Section } from "~/core/email";
import { takeFile } from "./taking";

const words = (of: string) =>
  `<h2 style="font-size:20px;margin:0">${of}</h2><p style="margin:0">Words about it that go on for a while.</p>`;
const picture = (of: string, width = 280) =>
  `<img src="https://a.example/${of}.jpg" width="${width}" height="${width / 2}" alt="${of}">`;

/** A letter with something in its middle: the sections it becomes. */
async function sectionsWith(html: string): Promise<Section[]> {
  const letter = `<html><head><title>T</title></head><body style="margin:0;background:#eeeeee"><table width="100%"><tr><td align="center">
    <table width="600" style="background:#ffffff"><tr><td>${words("Before")}</td></tr><tr><td>${html}</td></tr><tr><td>${words("After")}</td></tr></table>
    </td></tr></table></body></html>`;
  return (await takeFile("letter.html", new TextEncoder().encode(letter))).apart!.sections;
}

const columnsIn = (sections: readonly Section[]) =>
  sections.flatMap(({ rows }) => rows.map(({ columns }) => columns)).filter((columns) => columns.length > 1);
/** What the columns of each row say first. */
const sides = (sections: readonly Section[]) =>
  columnsIn(sections).map((columns) =>
    columns.map(({ blocks: [block] }) =>
      block.type === "image" ? block.alt : "content" in block ? said(block.content) : block.type,
    ),
  );
const said = (content: unknown) => /"text":"(\w+)/.exec(JSON.stringify(content))?.[1];

test.each([
  [
    "cells",
    `<table width="600"><tr><td width="300">${words("One")}</td><td width="300">${words("Two")}</td></tr></table>`,
  ],
  [
    "head cells",
    `<table width="600"><tr><th width="300">${words("One")}</th><th width="300">${words("Two")}</th></tr></table>`,
  ],
  [
    "words alone",
    `<table width="600"><tr><td>One and quite some words.</td><td>Two and quite some words.</td></tr></table>`,
  ],
  [
    "linked pictures",
    `<table width="600"><tr><td><a href="https://a.example/1">${picture("One")}</a></td><td><a href="https://a.example/2">${picture("Two")}</a></td></tr></table>`,
  ],
  [
    "cells with a gap between them",
    `<table width="600"><tr><td width="290">${words("One")}</td><td width="20">&nbsp;</td><td width="290">${words("Two")}</td></tr></table>`,
  ],
  [
    "from right to left, for phones",
    `<table width="600" dir="rtl"><tr><td dir="ltr">${words("Two")}</td><td dir="ltr">${words("One")}</td></tr></table>`,
  ],
  [
    "boxes from right to left, for phones",
    `<div style="direction:rtl"><div style="direction:ltr;display:inline-block;width:300px">${words("Two")}</div><div style="direction:ltr;display:inline-block;width:300px">${words("One")}</div></div>`,
  ],
  [
    "boxes in a line",
    `<div style="font-size:0"><div style="display:inline-block;width:300px;font-size:16px">${words("One")}</div><div style="display:inline-block;width:300px;font-size:16px">${words("Two")}</div></div>`,
  ],
  [
    "tables at two sides",
    `<table align="left" width="290"><tr><td>${words("One")}</td></tr></table><table align="right" width="290"><tr><td>${words("Two")}</td></tr></table>`,
  ],
  [
    "a grid",
    `<div style="display:grid;grid-template-columns:repeat(2, minmax(0, 1fr))"><div>${words("One")}</div><div>${words("Two")}</div></div>`,
  ],
  [
    "a flexible row",
    `<div style="display:flex"><div style="flex:1">${words("One")}</div><div style="flex:2">${words("Two")}</div></div>`,
  ],
  [
    "boxes as cells",
    `<div style="display:table"><div style="display:table-row"><div style="display:table-cell;width:50%">${words("One")}</div><div style="display:table-cell">${words("Two")}</div></div></div>`,
  ],
  [
    "paragraphs that float",
    `<p style="float:left;width:280px">One that goes on.</p><p style="float:right;width:280px">Two that goes on.</p>`,
  ],
  [
    "a picture that words go around",
    `<img src="https://a.example/One.jpg" width="200" align="left" alt="One">${words("Two")}`,
  ],
  [
    "a linked picture at the right of words",
    `<a href="https://a.example/2"><img src="https://a.example/Two.jpg" width="200" style="float:right" alt="Two"></a>${words("One")}`,
  ],
])("columns: %s", async (_, html) => {
  expect(sides(await sectionsWith(html))).toEqual([["One", "Two"]]);
});

test("a grid of more than a line, and rows one below the other, are as many rows of columns", async () => {
  const cell = (of: string) => `<div>${words(of)}</div>`;
  const grid = `<div style="display:grid;grid-template-columns:1fr 1fr">${["One", "Two", "Three", "Four"].map(cell).join("")}</div>`;
  const rows = `<table width="600">${[1, 2].map(() => `<tr><td>${words("One")}</td><td>${words("Two")}</td></tr>`).join("")}</table>`;
  expect(sides(await sectionsWith(grid))).toEqual([
    ["One", "Two"],
    ["Three", "Four"],
  ]);
  expect(sides(await sectionsWith(rows))).toHaveLength(2);
  // A sign in a line of words is no column, nor is a picture that takes nearly all the room.
  for (const width of [24, 560])
    expect(
      sides(
        await sectionsWith(
          `<img src="https://a.example/x.jpg" width="${width}" align="left" alt="x">${words("One")}`,
        ),
      ),
    ).toEqual([]);
});

test.each([
  ["a cell's", `<td bgcolor="DDEECC" style="padding:20px">`, "#DDEECC"],
  ["by name", `<td style="background:lavender;padding:20px">`, "#E6E6FA"],
  ["by hue", `<td style="background-color:hsl(120, 30%, 90%);padding:20px">`, "#DEEDDE"],
  [
    "the first of several",
    `<td style="background:linear-gradient(to right, rgb(51, 85, 34) 0%, #446633);color:#fff">`,
    "#335522",
  ],
])("a ground: %s", async (_, cell, ground) => {
  const sections = await sectionsWith(`<table width="600"><tr>${cell}${words("One")}</td></tr></table>`);
  expect(sections.map(({ contentBackground }) => contentBackground)).toEqual([undefined, ground, undefined]);
});

test("the ground of a column is its own, or that of what fills it; a button's face is none", async () => {
  const filled = (ground: string, of: string) =>
    `<td width="200"><table width="100%" bgcolor="${ground}"><tr><td style="padding:20px">${words(of)}</td></tr></table></td>`;
  const button = `<td width="200"><table><tr><td bgcolor="#335522"><a href="https://a.example/1" style="color:#fff;padding:10px 20px">Look at it</a></td></tr></table></td>`;
  const [columns] = columnsIn(
    await sectionsWith(
      `<table width="600"><tr>${filled("#DDEECC", "One")}${filled("#CCDDEE", "Two")}${button}</tr></table>`,
    ),
  );
  expect(columns.map(({ background }) => background)).toEqual(["#DDEECC", "#CCDDEE", undefined]);
  expect(columns[2].blocks.map(({ type }) => type)).toEqual(["button"]);
});

test("words laid over a picture stand on it, in the whole width and in a column", async () => {
  const over = `<div style="position:relative">${picture("hero", 600)}<div style="position:absolute;top:40px;left:40px;color:#ffffff;font-size:24px"><h1>Over it</h1><p>and more</p></div></div>`;
  const sections = await sectionsWith(over);
  const laid = sections
    .flatMap((section) => [...blocksOf({ sections: [section] } as never)])
    .filter(({ type }) => type === "overlaid");
  expect(laid).toMatchObject([
    {
      src: "https://a.example/hero.jpg",
      alt: "hero",
      natural: { width: 600, height: 300 },
      color: "#FFFFFF",
      density: 0,
    },
  ]);
  expect(said((laid[0] as { content?: unknown }).content)).toBe("Over");
  const [columns] = columnsIn(
    await sectionsWith(
      `<table width="600"><tr><td width="300" height="240" background="https://a.example/bed.jpg" style="color:#ffffff">${words("One")}<a href="https://a.example/1" style="background:#335522;padding:12px 20px;color:#fff">Look</a></td><td width="300">${words("Two")}</td></tr></table>`,
    ),
  );
  expect(columns[0].blocks.map(({ type }) => type)).toEqual(["overlaid", "button"]);
  expect(columns[0].blocks[0]).toMatchObject({
    src: "https://a.example/bed.jpg",
    height: 240,
    veil: "#1E1B24",
  });
});
