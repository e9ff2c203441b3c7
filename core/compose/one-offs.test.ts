import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { createBlock } from "../blocks";
import { type Block, DEFAULT_THEME, type Email } from "../email";
import { bind, personalise, previewAddresses, readerOf } from "../personal";
import { compile } from "../render";
import { colourful, DUSK, PALE } from "../render/colourful";
import { SAMPLE_OPTIONS, sampleContact, sampleEmail, sampleWorld } from "../render/sample";
import { invert, replay } from "../steps";
import { changeEmail } from "./commands";
import { clearOneOffs, oneOffsOf } from "./one-offs";

const world = sampleWorld("2026-11-23");
const reader = readerOf(sampleContact(1, {}), "en", previewAddresses("https://s.example"));
const textOf = (email: Email) => personalise(bind(compile(email, SAMPLE_OPTIONS), world), reader).text;
const countOneOffs = (email: Email) =>
  oneOffsOf(email, DEFAULT_THEME).reduce((sum, { places }) => sum + places.length, 0);
const cleared = (email: Email) => changeEmail(email, clearOneOffs()).email;

function withBlock(block: Block): Email {
  const email = sampleEmail(1);
  email.sections[0].rows[0].columns[0].blocks = [block];
  return email;
}

describe("looks of their own", () => {
  test.each([
    ["pale", colourful(PALE)],
    ["dusk", colourful(DUSK)],
  ])("are cleared, and what is said stays: %s", (_name, email) => {
    expect(countOneOffs(email)).toBeGreaterThan(20);
    const after = cleared(email);
    expect(countOneOffs(after)).toBe(0);
    expect(textOf(after)).toBe(textOf(email));
  });

  test("are not those that follow the theme by a role", () => {
    const email = sampleEmail(1);
    const [section] = email.sections;
    const before = countOneOffs(email);
    Object.assign(section, { contentBackground: "accent", background: "#123456" });
    Object.assign(section.rows[0], { background: "table" });
    expect(countOneOffs(email)).toBe(before + 1);
    const [kept] = cleared(email).sections;
    expect([kept.contentBackground, kept.background, kept.rows[0].background]).toEqual([
      "accent",
      undefined,
      "table",
    ]);
  });

  test("of single words go, their links and bold do not", () => {
    const text = withBlock({
      ...createBlock("text", "t"),
      content: {
        type: "doc",
        content: [
          {
            type: "paragraph",
            content: [
              {
                type: "text",
                text: "Beans",
                marks: [
                  { type: "bold" },
                  { type: "style", attrs: { color: "#AA0000", size: 30, font: "mono" } },
                  { type: "link", attrs: { href: "https://b.example/" } },
                ],
              },
            ],
          },
        ],
      },
    } as Block);
    expect(countOneOffs(text)).toBe(3);
    const [block] = cleared(text).sections[0].rows[0].columns[0].blocks;
    expect(JSON.stringify(block.content)).toContain(
      '"marks":[{"type":"bold"},{"type":"link","attrs":{"href":"https://b.example/"}}]',
    );
  });

  test("what comes so from the shelf, and what is no look, does not count", () => {
    for (const type of ["boxed", "social", "button", "overlaid", "divider", "heading"] as const)
      expect(countOneOffs(withBlock(createBlock(type, "b") as Block)), type).toBe(0);
    expect(
      countOneOffs(withBlock({ ...createBlock("button", "b"), align: "right", full: true } as Block)),
    ).toBe(0);
    expect(
      countOneOffs(withBlock({ ...createBlock("button", "b"), face: "#AA0000", radius: 3 } as Block)),
    ).toBe(2);
  });

  test("clearing can be taken back, from whatever there was", () => {
    const colour = fc.integer({ min: 0, max: 0xffffff }).map((n) => `#${n.toString(16).padStart(6, "0")}`);
    fc.assert(
      fc.property(
        fc.record({
          color: colour,
          face: colour,
          background: colour,
          size: fc.integer({ min: 12, max: 30 }),
        }),
        (looks) => {
          const email = withBlock({ ...createBlock("button", "b"), ...looks } as Block);
          const { email: after, steps } = changeEmail(email, clearOneOffs());
          expect(countOneOffs(after)).toBe(0);
          expect(replay(after, invert(steps))).toEqual(email);
        },
      ),
    );
  });

  test("are listed by what they are, those most used first, with what they miss by a hair", () => {
    const email = withBlock({
      ...createBlock("button", "a"),
      face: "#2F5D8B",
      size: 17,
      radius: 40,
    } as Block);
    email.sections[0].rows[0].columns[0].blocks.push(
      { ...createBlock("button", "b"), face: "#2F5D8B", color: "#FFFFFF" } as Block,
      { ...createBlock("heading", "c"), color: "#AA0000" } as Block,
    );
    expect(oneOffsOf(email, DEFAULT_THEME)).toEqual([
      { kind: "face", value: "#2F5D8B", places: ["a", "b"], hair: "#2F5D8A", twin: null },
      { kind: "size", value: "17 px", places: ["a"], hair: "16 px", twin: null },
      { kind: "corners", value: "40 px", places: ["a"], hair: null, twin: null },
      { kind: "words", value: "#FFFFFF", places: ["b"], hair: "#FFFFFF", twin: null },
      { kind: "words", value: "#AA0000", places: ["c"], hair: null, twin: null },
    ]);
  });

  test("one by one: the others stay", () => {
    const email = withBlock({ ...createBlock("button", "a"), face: "#2F5D8B", size: 17 } as Block);
    const after = changeEmail(email, clearOneOffs({ kind: "face", value: "#2F5D8B" })).email;
    expect(oneOffsOf(after, DEFAULT_THEME).map(({ value }) => value)).toEqual(["17 px"]);
    const marked = withBlock({
      ...createBlock("heading", "h"),
      content: [
        { type: "text", text: "Beans", marks: [{ type: "style", attrs: { color: "#AA0000", size: 30 } }] },
      ],
    } as Block);
    const left = changeEmail(marked, clearOneOffs({ kind: "words", value: "#AA0000" })).email;
    expect(oneOffsOf(left, DEFAULT_THEME)).toMatchObject([{ kind: "size", value: "30 px" }]);
  });
});

test("looks that differ from each other by a hair are told, and one becomes the other", () => {
  const button = (id: string, face: string, size: number) =>
    ({ ...createBlock("button", id), face, size }) as unknown as Block;
  const email = withBlock(button("a", "#AA3300", 31));
  email.sections[0].rows[0].columns[0].blocks.push(button("b", "#AA3300", 31), button("c", "#AC3502", 30));
  const found = oneOffsOf(email, DEFAULT_THEME);
  const near = found.find(({ value }) => value === "#AC3502");
  expect(near?.twin).toEqual({ value: "#AA3300", raw: "#AA3300" });
  expect(found.find(({ value }) => value === "#AA3300")?.twin).toBeNull();
  expect(found.find(({ value }) => value === "30 px")?.twin).toEqual({ value: "31 px", raw: 31 });
  const joined = changeEmail(email, clearOneOffs(near, near?.twin?.raw)).email;
  expect(joined.sections[0].rows[0].columns[0].blocks.map((block) => block.face)).toEqual([
    "#AA3300",
    "#AA3300",
    "#AA3300",
  ]);
  expect(textOf(joined)).toBe(textOf(email));
});
