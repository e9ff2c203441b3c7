import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import { isTag } from "domhandler";
import { strToU8, zipSync } from "fflate";
import { parseDocument } from "htmlparser2";
import sharp from "sharp";
import { describe, expect, test } from "vitest";
import { lettersWords, placeholdersIn } from "~/core/apart";
import { BASE_FIELDS } from "~/core/audience";
import { parseEmail, type TableBlock } from "~/core/blocks";
import { blankEmail, LAYOUTS } from "~/core/compose";
import { type Block, blocksOf, DEFAULT_THEME, type Email, ThemeSchema } from "~/core/email";
import { bind, personalise, previewAddresses, readerOf } from "~/core/personal";
import { compile } from "~/core/render";
import { inlined } from "./inlined";
import type { Taken } from "./taken";
import { takeFile, takeWriting } from "./taking";

const FIXTURES = path.join(process.cwd(), "core/apart/fixtures");
const NAMES = readdirSync(FIXTURES).filter((name) => name.endsWith(".html"));
const source = (name: string) => readFileSync(path.join(FIXTURES, name), "utf8");

let made = 0;
const newId = () => `n${made++}`;

/** What was taken apart as a whole design. */
function designOf(found: Taken): Email {
  const email = blankEmail(LAYOUTS[0], { name: "A", address: "a@a.example" }, DEFAULT_THEME.id, newId);
  return parseEmail(JSON.parse(JSON.stringify({ ...email, sections: found.apart?.sections ?? [] })));
}

function messageOf(found: Taken): string {
  const options = {
    theme: found.apart?.theme ?? DEFAULT_THEME,
    brand: { name: "A", address: "1 Street", website: "", senders: [{ name: "A", address: "a@a.example" }] },
    origin: "https://septima.example",
  };
  const world = { content: new Map(), audience: { today: "2026-11-25", segments: new Map() } };
  const someone = { id: 1, email: "r@r.example", fields: {}, lists: [] };
  const bound = bind(compile(designOf(found), options), world);
  return personalise(bound, readerOf(someone, "en", previewAddresses("https://septima.example"))).html;
}

/** The longest run of things that two lists have in common, in order (Hunt and Szymanski would be quicker). */
function common(one: readonly string[], other: readonly string[]): number {
  let before = new Uint16Array(other.length + 1);
  for (const word of one) {
    const row = new Uint16Array(other.length + 1);
    for (let at = 1; at <= other.length; at++)
      row[at] = word === other[at - 1] ? before[at - 1] + 1 : Math.max(before[at], row[at - 1]);
    before = row;
  }
  return before[other.length];
}

/** Attributes of elements that are shown, in order. */
function attributes(html: string, name: string, attribute: string): string[] {
  const found: string[] = [];
  const look = (nodes: ReturnType<typeof parseDocument>["children"]) => {
    for (const node of nodes) {
      if (!isTag(node)) continue;
      if (node.name === name && node.attribs[attribute]) found.push(node.attribs[attribute]);
      look(node.children);
    }
  };
  look(parseDocument(html).children);
  return found;
}

describe.each(NAMES)("%s", (name) => {
  const html = source(name);

  test("has at least a hundred and fifty lines", () => {
    expect(html.split("\n").length).toBeGreaterThanOrEqual(150);
  });

  test("comes in with nearly all of its words, in order", async () => {
    const found = await takeWriting("html", html);
    // What style sheets hide is nobody’s to read.
    const there = lettersWords((await inlined(html)).document);
    const here = lettersWords(messageOf(found));
    expect(common(there, here) / there.length).toBeGreaterThanOrEqual(0.95);
  });

  test("comes in with all links and pictures, in order", async () => {
    const found = await takeWriting("html", html);
    const message = messageOf(found);
    const replaced = /unsubscribe|opt-out|abmelden|leave\?|\/web$|webversion|online-ansehen/;
    const links = attributes(html, "a", "href").filter(
      (href) => /^(https?|mailto|tel):/.test(href) && !replaced.test(href),
    );
    // Spaces that were left in an address are encoded in messages.
    const kept = attributes(message, "a", "href").map((href) => href.replaceAll("%20", " "));
    expect(links.filter((href) => !kept.includes(href))).toEqual([]);
    expect(common(links, kept)).toBe(links.length);
    const seen = attributes(html, "img", "src").filter((src) => !/spacer|open\.gif/.test(src));
    const shown =
      found.missing.length > 0
        ? blocksOf(designOf(found)).flatMap((block) => (block.type === "image" ? [String(block.src)] : []))
        : attributes(message, "img", "src");
    expect(seen.filter((src) => !shown.includes(src))).toEqual([]);
    expect(common(seen, shown)).toBe(seen.length);
  });

  test("says what it is about, ends the subscription our way, and has a theme of its look", async () => {
    const { apart, lost } = await takeWriting("html", html);
    expect(apart?.subject.length).toBeGreaterThan(5);
    if (name !== "nested-tables.html") expect(apart?.preheader.length).toBeGreaterThan(10);
    const blocks = blocksOf({ sections: apart?.sections ?? [] } as unknown as Email);
    const [footer] = blocks.filter(({ type }) => type === "footer");
    expect(String(footer?.unsubscribeWords)).toMatch(/unsubscribe|sign off|abbestellen/i);
    expect(lost.apart.join("; ")).toContain("Septima’s own takes its place");
    expect(ThemeSchema.parse({ ...apart?.theme, id: "x" }).light.paper).toMatch(/^#/);
    expect(blocks.filter(({ type }) => type === "button").length).toBeGreaterThanOrEqual(1);
    expect(blocks.filter(({ type }) => type === "heading").length).toBeGreaterThanOrEqual(2);
  });
});

const apartOf = async (html: string) => {
  const { apart, ...rest } = await takeWriting("html", html);
  if (!apart) throw new Error("It was not taken apart.");
  const blocks = blocksOf({ sections: apart.sections } as unknown as Email);
  return {
    ...rest,
    apart,
    blocks,
    of: (type: string) => blocks.filter((block) => block.type === type) as (Block & Record<string, never>)[],
  };
};

describe("taken apart", () => {
  test("columns keep their widths, also where only the word-processor engine is told of them", async () => {
    const widths = (sections: { rows: { columns: { width: number }[] }[] }[]) =>
      sections.flatMap(({ rows }) =>
        rows
          .filter(({ columns }) => columns.length > 1)
          .map(({ columns }) => columns.map(({ width }) => Math.round(width))),
      );
    const nested = await apartOf(
      `<table width="600"><tr><td width="200"><p>One</p></td><td width="400"><p>Two</p></td></tr></table>`,
    );
    expect(widths(nested.apart.sections)).toEqual([[33, 67]]);
    const ghosts = await apartOf(
      `<table><tr><td><!--[if mso]><table><tr><td width="150"><![endif]--><div style="display:inline-block;width:100%">One</div><!--[if mso]></td><td width="450"><![endif]--><div style="display:inline-block;width:100%">Two</div><!--[if mso]></td></tr></table><![endif]--></td></tr></table>`,
    );
    expect(widths(ghosts.apart.sections)).toEqual([[25, 75]]);
    const floats = await apartOf(
      `<table><tr><td><table align="left" width="300"><tr><td>One</td></tr></table><table align="right" width="300"><tr><td>Two</td></tr></table></td></tr></table>`,
    );
    expect(widths(floats.apart.sections)).toEqual([[50, 50]]);
  });

  test.each([
    [
      "on the link",
      `<a href="https://a.example/x" style="background:#123456;color:#fff;padding:12px 20px;border-radius:6px">Buy it</a>`,
      "#123456",
    ],
    [
      "on the cell",
      `<table><tr><td bgcolor="#123456" style="padding:12px 20px"><a href="https://a.example/x">Buy it</a></td></tr></table>`,
      "#123456",
    ],
    [
      "beside VML",
      `<div><!--[if mso]><v:roundrect href="https://a.example/x" fillcolor="#123456"><center>Buy it</center></v:roundrect><![endif]--><a href="https://a.example/x" style="background-color:#123456;padding:0 9px;mso-hide:all">Buy it</a></div>`,
      "#123456",
    ],
    [
      "in a line as high as it",
      `<div><a href="https://a.example/x" style="background-color:#123456;display:inline-block;width:200px;line-height:44px;text-align:center">Buy it</a></div>`,
      "#123456",
    ],
    [
      "in a thick edge of its own colour",
      `<p><a href="https://a.example/x" style="background:#123456;border-top:0;border:14px solid #123456;color:#ffffff">Buy it</a></p>`,
      "#123456",
    ],
    [
      "as wide as there is room",
      `<table width="100%"><tr><td bgcolor="#123456" align="center" style="border-radius:4px"><a href="https://a.example/x" style="display:block;padding:14px;color:#ffffff">Buy it</a></td></tr></table>`,
      "#123456",
    ],
    [
      "with an address that lacks its scheme",
      `<p><a href="//a.example/x" style="background:#123456;padding:12px 20px;color:#ffffff">Buy it</a></p>`,
      "#123456",
    ],
    [
      "with an edge",
      `<p><a href="https://a.example/x" style="border:2px solid #123456;padding:10px 20px;display:inline-block">Buy it</a></p>`,
      undefined,
    ],
  ])("a button is a button: %s", async (_, html, face) => {
    const { of, apart } = await apartOf(
      `<table><tr><td><p>Words before it, so that there are some.</p>${html}</td></tr></table>`,
    );
    const [button] = of("button");
    expect(button).toMatchObject({
      href: "https://a.example/x",
      content: [{ type: "text", text: "Buy it" }],
    });
    // What all buttons have is the theme’s.
    if (face) expect([button.face, apart.theme.light.accent]).toEqual([undefined, face]);
    else expect(button).toMatchObject({ face: "#FFFFFF", border: { width: 2 } });
    expect(of("button")).toHaveLength(1);
  });

  test("a line in a band of its own is no button, and a link in words stays in them", async () => {
    const { of } = await apartOf(
      `<table width="100%"><tr><td bgcolor="#eeeeee" align="center" width="100%" style="padding:20px"><a href="https://a.example/">Our shop</a></td></tr><tr><td>Read <a href="https://a.example/y">this one</a> first.</td></tr></table>`,
    );
    expect(of("button")).toEqual([]);
    expect(JSON.stringify(of("text"))).toContain("https://a.example/y");
  });

  test("headings are those that are large or heavy among the words", async () => {
    const { of } = await apartOf(
      `<table style="font-size:15px"><tr><td><div style="font-size:32px">Large</div><div>${"Plain words go on and on here. ".repeat(8)}</div><div style="font-size:20px">Middle</div><div><b>Heavy</b></div><div>${"More of them come after it all. ".repeat(8)}<b>not this one</b></div></td></tr></table>`,
    );
    expect(
      of("heading").map(({ level, content }) => [level, (content as { text: string }[])[0].text]),
    ).toEqual([
      [1, "Large"],
      [2, "Middle"],
      [3, "Heavy"],
    ]);
    expect(JSON.stringify(of("text"))).toContain('"bold"');
  });

  test("pictures keep their shown width, link and round corners; those that show nothing are told of", async () => {
    const { of, lost } = await apartOf(
      `<table width="600"><tr><td><a href="https://a.example/"><img src="https://a.example/x.jpg" width="300" height="150" style="border-radius:9px" alt="A bed"></a><img src="https://a.example/o.gif" width="1" height="1"></td></tr></table>`,
    );
    expect(of("image")).toHaveLength(1);
    expect(of("image")[0]).toMatchObject({
      width: 50,
      href: "https://a.example/",
      radius: 9,
      alt: "A bed",
      natural: { width: 300, height: 150 },
    });
    expect(lost.apart.join()).toContain("a picture that shows nothing");
  });

  test("grounds stay, and what is written on them can be read", async () => {
    const { apart } = await apartOf(
      `<body bgcolor="#eeeeee"><table width="600" bgcolor="#ffffff" align="center"><tr><td>${"Words on paper, many of them. ".repeat(9)}</td></tr><tr><td bgcolor="#102030" style="color:#ffffff">Words at night</td></tr></table></body>`,
    );
    expect(apart.theme.light).toMatchObject({ table: "#EEEEEE", paper: "#FFFFFF" });
    expect(apart.sections.map(({ contentBackground }) => contentBackground)).toEqual([undefined, "#102030"]);
  });

  test("what cannot be kept is said: capitals and spaces that a style made, and what only opens something for one program", async () => {
    const { lost } = await apartOf(
      `<table><tr><td><!--[if mso]><table><tr><td><![endif]--><p style="text-transform:uppercase;letter-spacing:2px">News</p><!--[if mso]></td></tr></table><![endif]--></td></tr></table>`,
    );
    expect(lost.apart.join("; ")).toMatch(/capitals that a style made.*space between letters/);
    expect(lost.whole.join("; ")).toContain("comments for one mail program, 2 times");
  });

  test("nothing of it acts: scripts, forms and addresses that are none are left out and named", async () => {
    const { apart, lost } = await apartOf(
      `<table><tr><td><script>alert(1)</script><a href="javascript:alert(1)">Press</a><form><input name="x"></form><iframe src="https://a.example"></iframe><p onclick="x()">Words</p></td></tr></table>`,
    );
    expect(JSON.stringify(apart.sections)).not.toMatch(/alert|javascript|iframe|onclick/);
    expect(lost.apart.join("; ")).toMatch(/forms and fields.*scripts.*address that is none: javascript/);
  });
});

test("a table of facts keeps how its columns stand; one without widths gives room to long words", async () => {
  const columnsOf = async (html: string) => {
    const { apart } = await apartOf(html);
    const found = blocksOf({ sections: apart.sections } as unknown as Email).find(
      ({ type }) => type === "table",
    );
    return (found as TableBlock).columns.map(({ width, align }) => [Math.round(width), align]);
  };
  expect(
    await columnsOf(
      `<table border="1"><tr><th width="60">A</th><th width="240">B</th></tr><tr><td>1</td><td align="right">2</td></tr><tr><td>3</td><td align="right">4</td></tr></table>`,
    ),
  ).toEqual([
    [20, "left"],
    [80, "right"],
  ]);
  const [day, hours, metres] = await columnsOf(source("divs.html"));
  expect(hours[0]).toBeGreaterThan(Number(day[0]) * 1.3);
  expect(metres[1]).toBe("right");
});

test("placeholders of any kind are found, with the field they may mean; asides are words", async () => {
  const { apart } = await apartOf(
    `<table><tr><td><p>Dear {{ first_name | default: "you" }}, [[Last Name]] %%EMAIL%% {% vorname %} &lt;&lt;Branch&gt;&gt; [FIRSTNAME] %points% #CODE# and 20 % of 30 % [sic] [1].</p></td></tr></table>`,
  );
  const found = placeholdersIn(apart.sections, BASE_FIELDS);
  expect(found.map(({ text }) => text)).toEqual(
    expect.arrayContaining([
      "[[Last Name]]",
      "%%EMAIL%%",
      "{% vorname %}",
      "<<Branch>>",
      "[FIRSTNAME]",
      "%points%",
      "#CODE#",
    ]),
  );
  expect(found.map(({ text }) => text).join()).not.toMatch(/sic|\[1\]|20|30/);
  const meant = Object.fromEntries(found.map(({ text, field }) => [text, field]));
  expect(meant).toMatchObject({
    "[FIRSTNAME]": "first_name",
    "[[Last Name]]": "last_name",
    "%%EMAIL%%": "email",
    "{% vorname %}": "first_name",
    "#CODE#": null,
  });
});

describe("pictures that come along", () => {
  const png = sharp({ create: { width: 30, height: 20, channels: 3, background: "#a00" } })
    .png()
    .toBuffer();

  test("in an archive beside the letter are taken by their names; those that are not there are told", async () => {
    const zip = zipSync({
      "letter/index.html": strToU8(source("verein.html")),
      "letter/bilder/krokus.png": new Uint8Array(await png),
      "letter/notes.txt": strToU8("x"),
    });
    const found = await takeFile("blatt.zip", zip);
    expect(found.pictures.map(({ name }) => name)).toEqual(["krokus.png"]);
    expect(found.missing).toEqual(["cid:kopf@gartenblatt", "bilder/unterschrift.png"]);
    const images = blocksOf({ sections: found.apart?.sections ?? [] } as unknown as Email).filter(
      ({ type }) => type === "image",
    );
    expect(images.map(({ src }) => src)).toContain(found.pictures[0].path);
  });

  test("in an email are those that it names, and its subject is the letter’s", async () => {
    const eml = [
      "From: Verein <blatt@garten.example>",
      "Subject: =?UTF-8?Q?Gartenblatt_f=C3=BCr_M=C3=A4rz?=",
      "MIME-Version: 1.0",
      'Content-Type: multipart/related; boundary="b"',
      "",
      "--b",
      "Content-Type: text/html; charset=utf-8",
      "Content-Transfer-Encoding: base64",
      "",
      Buffer.from(source("verein.html"))
        .toString("base64")
        .replace(/(.{76})/g, "$1\r\n"),
      "--b",
      "Content-Type: image/png",
      "Content-ID: <kopf@gartenblatt>",
      "Content-Transfer-Encoding: base64",
      "",
      (await png).toString("base64"),
      "--b--",
      "",
    ].join("\r\n");
    const found = await takeFile("blatt.eml", Buffer.from(eml));
    expect(found.apart?.subject).toBe("Gartenblatt für März");
    expect(found.pictures).toHaveLength(1);
    expect(found.missing).toEqual(["bilder/krokus.png", "bilder/unterschrift.png"]);
    expect(found.lost.apart.join()).toContain("blatt@garten.example");
  });

  test("written into the letter are taken out of it", async () => {
    const data = `data:image/png;base64,${(await png).toString("base64")}`;
    const found = await takeWriting(
      "html",
      `<table><tr><td><p>Words</p><img src="${data}" width="30" alt="Red"></td></tr></table>`,
    );
    expect(Buffer.from(found.pictures[0].bytes).equals(await png)).toBe(true);
    expect(JSON.stringify(found.apart?.sections)).toContain(found.pictures[0].path);
  });
});

test.each([
  ["x.png", /Pictures/],
  ["x.csv", /Audience/],
  ["x.ics", /Sources/],
  ["x.pdf", /\.docx/],
  ["x.woff2", /Brand/],
  ["x.exe", /cannot be read/],
])("a file of another kind is told where it goes: %s", async (name, where) => {
  await expect(takeFile(name, Buffer.from("x"))).rejects.toThrow(where);
});

test("an archive that unpacks to too much, or holds no letter, is refused", async () => {
  const zeros = zipSync({ "a.png": new Uint8Array(70_000_000) }, { level: 9 });
  await expect(takeFile("bomb.zip", zeros)).rejects.toThrow("60 MB");
  await expect(takeFile("none.zip", zipSync({ "a.png": new Uint8Array(9) }))).rejects.toThrow(
    "holds no .html",
  );
  await expect(takeFile("torn.zip", Buffer.from("PK\x03\x04 torn"))).rejects.toThrow("damaged");
});

test("a letter is read in its own encoding: as its mark says, as it declares, and else as what it is", async () => {
  const html = (meta: string) =>
    `<html><head>${meta}</head><body><table><tr><td><p>Grüße aus Köln – 5 €</p></td></tr></table></body></html>`;
  const western = (text: string) =>
    Buffer.from([...text].map((sign) => ({ "–": 0x96, "€": 0x80 })[sign] ?? sign.charCodeAt(0)));
  const files: [string, Uint8Array][] = [
    ["utf-8.html", Buffer.from(html(""))],
    [
      "declared.html",
      western(html('<meta http-equiv="Content-Type" content="text/html; charset=windows-1252">')),
    ],
    ["latin.html", western(html("<meta charset=iso-8859-1>"))],
    ["undeclared.html", western(html(""))],
    ["wrongly.html", western(html('<meta charset="utf-8">'))],
    ["marked.html", Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from(html(""), "utf16le")])],
  ];
  for (const [name, bytes] of files) {
    const said = JSON.stringify((await takeFile(name, Buffer.from(bytes))).apart?.sections);
    expect(said, name).toContain("Grüße aus Köln – 5 €");
    const zip = zipSync({ "index.html": new Uint8Array(bytes) });
    expect(
      JSON.stringify((await takeFile("a.zip", Buffer.from(zip))).apart?.sections),
      `${name} in an archive`,
    ).toContain("Grüße aus Köln – 5 €");
  }
});
