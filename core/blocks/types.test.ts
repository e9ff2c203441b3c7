import { describe, expect, test } from "vitest";
import { type Block, blocksOf, type Email, isItemList, valueAt } from "../email";
import { bind, personalise, previewAddresses, readerOf } from "../personal";
import { compile } from "../render";
import { newestOf, SAMPLE_OPTIONS, sampleContact, sampleEmail, sampleWorld } from "../render/sample";
import {
  BLOCK_TYPES,
  type BlockTypeName,
  blockTitle,
  blockType,
  createBlock,
  parseEmail,
  placedLinksOf,
  scaleOf,
  unreadyIn,
  wordsOf,
} from ".";

const world = sampleWorld("2026-11-25");
const reader = readerOf(
  sampleContact(1, { first_name: "Ines" }),
  "en",
  previewAddresses("https://septima.example"),
);
const names = Object.keys(BLOCK_TYPES) as BlockTypeName[];

/** The message of an email that holds a block and the footer. */
function messageOf(block: Block) {
  const email = sampleEmail(1);
  const rows = [{ id: "r", columns: [{ id: "c", width: 100, blocks: [block] }] }];
  const whole: Email = parseEmail({ ...email, sections: [{ id: "s", rows }, ...email.sections] });
  return personalise(bind(compile(whole, SAMPLE_OPTIONS), world), reader);
}
const made = (name: BlockTypeName, more: Record<string, unknown>) =>
  ({ ...createBlock(name, "b"), ...more }) as Block;

describe.each(names)("%s declares", (name) => {
  const block = createBlock(name, "b") as Block;
  const type = blockType(name);

  test("places where words stand, each once, of the kind it says", () => {
    const places = wordsOf(block);
    expect(new Set(places.map(({ path }) => path)).size).toBe(places.length);
    for (const { kind, words } of places) expect(Array.isArray(words)).toBe(kind === "line");
  });

  test("links at paths that lead to their address", () => {
    for (const { path, href } of placedLinksOf(block))
      if (path !== null) expect(valueAt(block, path) ?? "").toBe(href);
  });

  test("a look of properties it has, and parts that can be switched off", () => {
    for (const { key } of type?.parts ?? []) {
      const off = { ...block, off: [key] };
      expect(BLOCK_TYPES[name].schema.parse(off)).toEqual(off);
    }
  });

  test("items that can be told apart", () => {
    for (const [key, value] of Object.entries(block)) {
      if (!Array.isArray(value) || value.length === 0 || typeof value[0] !== "object" || "type" in value[0])
        continue;
      expect(isItemList(value), key).toBe(true);
      expect(new Set(value.map((item: { id: string }) => item.id)).size).toBe(value.length);
    }
  });
});

test("a block without words of its own has a title all the same", () => {
  for (const name of names) {
    const block = createBlock(name, "b") as Block;
    const bare: Block = { ...block };
    for (const { path, kind } of wordsOf(block))
      if (!path.includes("/"))
        bare[path] = kind === "line" ? [] : { type: "doc", content: [{ type: "paragraph" }] };
    expect(blockTitle(bare), name).not.toBe("");
    expect(blockTitle({ ...bare, name: "Own name" })).toBe("Own name");
  }
});

describe("a button", () => {
  const button = (more: Record<string, unknown>) =>
    messageOf(
      made("button", { href: "https://a.example/", content: [{ type: "text", text: "Press" }], ...more }),
    ).html;

  test("has the theme's size and space, or its own", () => {
    expect(button({})).toContain("padding:13px 24px;");
    const own = button({
      padX: 40,
      padY: 8,
      size: 20,
      border: { width: 2, style: "dashed", color: "#112233" },
    });
    expect(own).toContain("padding:8px 40px;");
    expect(own).toContain("mso-padding-alt:8px 40px;");
    expect(own).toContain("font-size:20px;");
    expect(own).toContain("border:2px dashed #112233;");
  });

  test("is as wide as it says, never wider than its room, and over all of it when asked", () => {
    expect(button({ width: 240 })).toMatch(/<table [^>]*width="240"/);
    expect(button({ width: 640 })).toMatch(/<table [^>]*width="520"/);
    expect(button({ width: 240, full: true })).not.toContain('width="240"');
  });
});

describe("words on a picture", () => {
  const overlaid = (more: Record<string, unknown>) =>
    messageOf(made("overlaid", { src: "/pictures/a.png", ...more })).html;
  const linked = {
    type: "doc",
    content: [
      {
        type: "paragraph",
        content: [
          { type: "text", text: "here", marks: [{ type: "link", attrs: { href: "https://b.example/" } }] },
        ],
      },
    ],
  };

  test("stand in a box at their place, as wide as it says", () => {
    expect(overlaid({ at: "right", wide: 40, valign: "top" })).toMatch(
      /valign="top".*<td align="right"><table [^>]*width="40%" style="margin:0 0 0 auto;"/s,
    );
    expect(overlaid({ at: "left", wide: 40 })).toMatch(/<table [^>]*border="0" width="40%"><tr>/);
  });

  test("lead somewhere as a whole, unless they have links of their own", () => {
    expect(overlaid({ href: "https://a.example/" })).toContain('<a href="https://a.example/"');
    const own = overlaid({ href: "https://a.example/", content: linked });
    expect(own).not.toContain('<a href="https://a.example/"');
    expect(own).toContain("https://b.example/");
  });
});

describe("live and made for each reader", () => {
  test("articles leave out what is switched off, and shorten at a word", () => {
    const { html } = messageOf(newestOf("a", { count: 2, off: ["date", "picture"], textLength: 40 }));
    expect(html).not.toContain("p.png");
    expect(html).not.toMatch(/November 2026/);
    expect(html).toMatch(/Words about it Words about it[^<]{0,20}…/);
    expect(messageOf(newestOf("a", { count: 1, off: ["price"] })).html).toContain("November 2026");
  });

  test("a survey has an answer for each step of its scale, in text too", () => {
    const block = made("survey", { from: 0, to: 10 });
    expect(scaleOf(block as never)).toHaveLength(11);
    const { html, text } = messageOf(block);
    for (const answer of scaleOf(block as never)) {
      expect(html).toContain(`/b/${answer}"`);
      expect(text).toMatch(new RegExp(`^${answer}: `, "m"));
    }
  });

  test("a countdown without an end, and a calendar entry without a start, leave nothing broken", () => {
    for (const name of ["countdown", "appointment"] as const) {
      const { html } = messageOf(createBlock(name, "b") as Block);
      expect(html).not.toMatch(/NaN|undefined|Invalid/);
      expect(unreadyIn(createBlock(name, "b") as Block)).toHaveLength(1);
    }
  });

  test("sharing prepares an email and fills in the page's address", () => {
    const { html } = messageOf(
      made("share", {
        href: "https://a.example/?x=1&y=2",
        words: "Look & read",
        ways: [
          { id: "1", by: "email", glyph: "letter", label: "Mail", pattern: "" },
          {
            id: "2",
            by: "page",
            glyph: "talk",
            label: "Talk",
            pattern: "https://t.example/new?u={address}&t={words}",
          },
        ],
      }),
    );
    expect(html).toContain("mailto:?subject=Look%20%26%20read");
    expect(html).toContain("u=https%3A%2F%2Fa.example%2F%3Fx%3D1%26y%3D2&amp;t=Look%20%26%20read");
  });
});

test("the unreadable block keeps its place on the canvas and none in the message", () => {
  const { html, text } = messageOf({ id: "b", type: "hologram", depth: 3 } as Block);
  expect(html + text).not.toMatch(/hologram|cannot be read/);
  const read = parseEmail({
    ...sampleEmail(1),
    sections: [
      {
        id: "s",
        rows: [{ id: "r", columns: [{ id: "c", width: 100, blocks: [{ id: "b", type: "hologram" }] }] }],
      },
    ],
  });
  const [block] = blocksOf(read);
  expect(blockTitle(block)).toBe("Unreadable block (hologram)");
  expect(unreadyIn(block)[0]).toContain("hologram");
});
