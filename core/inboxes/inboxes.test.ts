import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { BLOCK_TYPES, type BlockTypeName } from "../blocks";
import { type Email, THEMES } from "../email";
import { bind, personalise, previewAddresses, readerOf } from "../personal";
import { compile } from "../render";
import { type Colours, colourful, DUSK, PALE } from "../render/colourful";
import { SAMPLE_OPTIONS, sampleContact, sampleWorld } from "../render/sample";
import { asSeen, CLIPPED, INBOXES, inboxesPage, outlineOf, type Pair, pairsOf, wanted, withClip } from ".";

const world = sampleWorld("2026-11-23");
const reader = readerOf(
  sampleContact(1, { first_name: "Ines" }),
  "en",
  previewAddresses("https://s.example"),
);

function messageOf(email: Email, theme = SAMPLE_OPTIONS.theme) {
  return personalise(bind(compile(email, { ...SAMPLE_OPTIONS, theme }), world), reader);
}

const poor = (pairs: readonly Pair[]) =>
  pairs
    .filter((pair) => pair.ratio < wanted(pair))
    .map(
      ({ kind, words, color, ground, ratio }) =>
        `${ratio.toFixed(2)} ${kind} “${words}” ${color} on ${ground}`,
    );

describe("every pair of words and ground can be read", () => {
  const designs: [string, Email][] = [
    ["in the theme’s colours", colourful(PALE, { own: false })],
    ["in pale colours of its own", colourful(PALE)],
    ["in dark colours of its own", colourful(DUSK)],
  ];
  for (const theme of THEMES) {
    for (const [name, email] of designs) {
      for (const inbox of INBOXES) {
        test(`${theme.name}, ${name}: ${inbox.label}`, () => {
          const pairs = pairsOf(asSeen(messageOf(email, theme).html, inbox.name));
          expect(pairs.length).toBeGreaterThan(60);
          expect(poor(pairs)).toEqual([]);
        });
      }
    }
  }

  const colour = fc
    .integer({ min: 0, max: 0xffffff })
    .map((n) => `#${n.toString(16).padStart(6, "0").toUpperCase()}`);
  const anyColours: fc.Arbitrary<Colours> = fc.record({
    ground: colour,
    paper: colour,
    row: colour,
    column: colour,
    block: colour,
    face: colour,
    onFace: colour,
    words: colour,
    marked: colour,
    highlight: colour,
    onPaper: fc.boolean(),
  });
  test("in our dark whatever colours a designer takes, and in light where the colour of words is the theme’s", () => {
    fc.assert(
      fc.property(anyColours, (colours) => {
        const { html } = messageOf(colourful(colours));
        // What is written by hand, and words on a picture, keep the colours they were given; so do words that could not
        // be read in light, on a ground that was dark already.
        const kept = /Written by hand|Words that stand on the picture/;
        const light = pairsOf(asSeen(html, "light"));
        const dark = pairsOf(asSeen(html, "dark"));
        expect(dark.map(({ words }) => words)).toEqual(light.map(({ words }) => words));
        const worse = dark.filter(
          (pair, index) =>
            pair.kind === "words" && !kept.test(pair.words) && light[index].ratio >= wanted(pair),
        );
        expect(poor(worse)).toEqual([]);
        const themed = colourful(colours, { own: false });
        const plain = pairsOf(asSeen(messageOf(themed).html, "light")).filter(
          ({ words }) => !/coloured/.test(words),
        );
        expect(poor(plain.filter(({ kind }) => kind === "words"))).toEqual([]);
      }),
      { numRuns: 25 },
    );
  });
});

describe("for every type of block", () => {
  const email = colourful(PALE);
  const { html } = messageOf(email);
  const types = Object.keys(BLOCK_TYPES) as BlockTypeName[];
  const only = (type: BlockTypeName): string => {
    const blocks = email.sections[0].rows[0].columns[0].blocks.filter((block) => block.type === type);
    const column = {
      id: "c",
      width: 50,
      background: "#FFEECC",
      padding: { top: 4, right: 12, bottom: 4, left: 12 },
    };
    const alone: Email = {
      ...email,
      sections: [
        {
          id: "s",
          rows: [
            {
              id: "r",
              gap: 20,
              columns: [
                { ...column, blocks },
                { ...column, id: "d", blocks: blocks.map((block) => ({ ...block, id: `${block.id}-2` })) },
              ],
            },
          ],
        },
      ],
    };
    return messageOf(alone).html;
  };

  test.each(types)("%s in the word-processor engine: room, ground and edge are a cell’s", (type) => {
    const seen = asSeen(only(type), "word");
    expect(seen).not.toMatch(/<!--\[if|<!\[endif\]|max-width|border-radius|inline-block|rgba\(|<v:/);
    // The column's box is there: its ground as an attribute, its padding on the cell.
    expect(seen.match(/<td[^>]* bgcolor="#FFEECC" style="[^"]*padding:4px 12px 4px 12px/g)).toHaveLength(2);
    // The gap is a cell of its own between the two.
    expect(seen).toMatch(/<td width="20"[^>]*>(&nbsp;|&#xa0;|\u00a0)<\/td>/);
    for (const [, style] of seen.matchAll(/<(?:div|p|h\d|a|span|ul)[^>]* style="([^"]*)"/g))
      expect(style).not.toMatch(/(^|;)padding/);
    for (const [face] of seen.matchAll(/<td[^>]*>(?=<a )/g)) {
      if (!/ bgcolor=/.test(face)) continue;
      expect(face).toMatch(/padding:/);
    }
  });

  test.each(types)("%s without a style block: columns begin at one place and keep their distance", (type) => {
    const seen = asSeen(only(type), "stripped");
    expect(seen).not.toMatch(/<style|class=/);
    const slots = [...seen.matchAll(/<div style="display:inline-block;([^"]*)"><div style="([^"]*)"/g)];
    expect(slots.length).toBeGreaterThanOrEqual(2);
    for (const [, slot, inner] of slots) {
      expect(slot).toMatch(/width:100%/);
      // No side of either is set in, so that whichever stands below the other begins where it does.
      expect(`${slot};${inner}`).not.toMatch(/padding:|padding-left|padding-right|margin/);
    }
    expect(slots[0][1]).toMatch(/padding-bottom:16px/);
  });

  test.each(types)("%s with pictures off says what they show, in colours that can be read", (type) => {
    const seen = asSeen(only(type), "picturesOff");
    expect(seen).not.toMatch(/<img[^>]* src=|background-image| background="/);
    expect(poor(pairsOf(seen))).toEqual([]);
  });

  test.each(types)("%s tells every line height exactly, and lets long words break", (type) => {
    const seen = only(type);
    const heights = seen.match(/[;"]line-height:/g)?.length ?? 0;
    const exact =
      seen.match(/mso-line-height-rule:exactly;(mso-line-height-alt:[\d.]+px;)?line-height:/g)?.length ?? 0;
    // The preheader alone, which nobody sees, has one without.
    expect(heights - exact).toBeLessThanOrEqual(0);
    // Where only the letters grow, the lines grow with them.
    expect(seen).not.toMatch(/font-size:(?:[89]|\d\d+)px;[^"]*[;"]line-height:[\d.]+px/);
    expect(seen).toContain("overflow-wrap:anywhere;word-break:break-word;");
  });

  test("all of it is written", () => {
    for (const type of types) expect(html.length, type).toBeGreaterThan(0);
  });
});

test("a page of all classes runs nothing and shows the text part as text", () => {
  const message = messageOf(colourful(PALE));
  const page = inboxesPage("A <b>name</b>", { ...message, text: "<script>alert(1)</script>" });
  expect(page).toContain("A &lt;b&gt;name&lt;/b&gt;");
  expect(page).not.toContain("<script>alert(1)");
  for (const { label } of INBOXES) expect(page).toContain(label);
  expect(page.match(/<iframe /g)?.length).toBe(page.match(/sandbox="allow-same-origin"/g)?.length);
});

describe("pairs", () => {
  const one = (html: string) => pairsOf(`<body>${html}</body>`)[0];
  test.each([
    ["inherited", '<div style="color:#112233"><p>a</p></div>', "#112233", "#FFFFFF"],
    ["by an attribute", '<table><tr><td bgcolor="#112233">a</td></tr></table>', "#000000", "#112233"],
    [
      "seen through",
      '<div style="background-color:#000000"><p style="background-color:rgba(255,255,255,0.5)">a</p></div>',
      "#000000",
      "#808080",
    ],
    [
      "by a rule",
      '<style>.x{color:#445566!important}</style><p class="x" style="color:#000000">a</p>',
      "#445566",
      "#FFFFFF",
    ],
    ["of a link", '<p style="color:#112233"><a href="#">a</a></p>', "#0000EE", "#FFFFFF"],
    ["of alternative text", '<p style="color:#112233"><img alt="a"></p>', "#112233", "#FFFFFF"],
  ])("%s", (_name, html, color, ground) => expect(one(html)).toMatchObject({ color, ground, words: "a" }));

  test("large words need less, and what is hidden is no pair", () => {
    expect(one('<p style="font-size:24px">a</p>').large).toBe(true);
    expect(one('<p style="font-size:19px"><strong>a</strong></p>').large).toBe(true);
    expect(one('<p style="font-size:19px">a</p>').large).toBe(false);
    expect(pairsOf('<p style="display:none">a</p><p>&nbsp; </p>')).toEqual([]);
  });

  test("a face is what a link’s cell stands on", () => {
    const [face] = pairsOf(
      '<table><tr><td bgcolor="#2F5D8A"><a href="#" style="color:#FFFFFF">Go</a></td></tr></table>',
    );
    expect(face).toMatchObject({ kind: "face", color: "#2F5D8A", ground: "#FFFFFF", words: "Go" });
  });
});

describe("what a message is shown on", () => {
  const page =
    '<html><head><style>.a{font-size:12px}@media (max-width:599px){.p p{font-size:20px!important}}</style></head><body><div class="p a" style="font-size:10px"><p style="font-size:16px;line-height:1.5">One</p><p>Two</p></div></body></html>';
  const sizes = (html: string) => pairsOf(html).map(({ words, size }) => [words, size]);

  test("on a phone what is for narrow windows holds, whatever the window", () => {
    expect(sizes(asSeen(page, "light"))).toEqual([
      ["One", 16],
      ["Two", 10],
    ]);
    expect(sizes(asSeen(page, "light", { phone: true }))).toEqual([
      ["One", 20],
      ["Two", 20],
    ]);
  });

  test("letters grow where they are written, and nothing else does", () => {
    const large = asSeen(page, "light", { letters: 1.5, phone: true });
    expect(sizes(large)).toEqual([
      ["One", 30],
      ["Two", 30],
    ]);
    expect(large).toContain("line-height:1.5");
  });

  test("the outline has headings, links and pictures in order, each with the block it stands in", () => {
    const marked =
      '<td data-node="a"><h1>Peas <b>and</b> beans</h1><a href="https://a.example"><img src="x.png" alt="A pea" width="9"></a></td><td data-node="z"><a href="#" aria-label="Read on: beans">Read on</a><img src="o.gif" width="1"></td>';
    expect(outlineOf(marked)).toEqual({
      headings: [{ level: 1, words: "Peas and beans", node: "a" }],
      links: [
        { href: "https://a.example", words: "A pea", node: "a" },
        { href: "#", words: "Read on: beans", node: "z" },
      ],
      pictures: [{ src: "x.png", alt: "A pea", node: "a" }],
    });
  });

  test("a cut is marked where the octets of what is sent reach the limit, and nowhere in a light message", () => {
    const cell = `<tr><td>${"ä".repeat(2000)}</td></tr>`;
    const html = `<table>${cell.repeat(40)}</table>`;
    const cut = withClip(html, html).indexOf("cuts the message off here");
    const before = new TextEncoder().encode(withClip(html, html).slice(0, cut)).length;
    expect(before).toBeGreaterThan(CLIPPED);
    expect(before).toBeLessThan(CLIPPED + 4500);
    const light = `<table>${cell.repeat(3)}</table>`;
    expect(withClip(light, light)).toBe(light);
  });
});
