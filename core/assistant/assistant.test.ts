import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { createBlock } from "../blocks";
import { blankEmail, LAYOUTS } from "../compose";
import {
  hrefOfMarks,
  type Inline,
  linesOf,
  paragraphOf,
  type RichDoc,
  type RichNode,
  wordSigns,
} from "../email";
import { letterOf, placeOf, withTagsOf, writtenOut } from ".";
import { differingIn, pieces, proseOf, withReaderData } from "./words";

const FIELDS = [
  { key: "first_name", label: "First name" },
  { key: "zone", label: "Zone" },
];
const tag = (field: string, fallback = ""): Inline => ({
  type: "mergeTag",
  attrs: { field, fallback, format: "asIs" },
});

/** Words and addresses of a line with their looks, pieces that look the same as one. */
function looks(line: readonly Inline[]): string {
  let out = "";
  let last = "";
  for (const it of line) {
    const on = (type: string) =>
      it.type !== "hardBreak" && it.marks?.some((mark) => mark.type === type) ? type : "";
    const look = `${on("bold")} ${on("italic")} ${it.type === "hardBreak" ? "" : (hrefOfMarks(it) ?? "")}`;
    const said =
      it.type === "text"
        ? it.text
        : it.type === "hardBreak"
          ? "\n"
          : it.type === "either"
            ? `<${JSON.stringify(it.attrs)}>`
            : `<${it.attrs.field}|${it.attrs.fallback}>`;
    out += look === last || it.type === "hardBreak" || said.trim() === "" ? said : `«${look}»${said}`;
    if (it.type !== "hardBreak" && said.trim() !== "") last = look;
  }
  return out
    .replace(/(«[^»]*»)(\s+)/g, "$2$1")
    .replace(/[ \t]+/g, " ")
    .replace(/ ?\n ?/g, "\n")
    .trim();
}

const text = fc
  .array(
    fc.constantFrom(
      "sow",
      "now",
      "*",
      "_",
      "[x]",
      "(y)",
      "1.",
      "2)",
      "-",
      "#",
      ">",
      "`",
      "~~",
      "\\",
      "|",
      "!",
      "&amp;",
      "<b>",
      "=",
      "née",
      "الآن",
      "+",
      "a_b_c",
      "http",
    ),
    { minLength: 1, maxLength: 6 },
  )
  .map((words) => words.join(" "));
const marks = fc.constantFrom<Inline["marks"][]>(
  undefined,
  [{ type: "bold" }],
  [{ type: "italic" }],
  [{ type: "link", attrs: { href: "https://a.example/x_y?(z)=1" } }],
  [{ type: "bold" }, { type: "link", attrs: { href: "https://b.example/" } }],
);
const inline: fc.Arbitrary<Inline> = fc.oneof(
  {
    weight: 5,
    arbitrary: fc
      .tuple(text, marks)
      .map(([said, look]): Inline => ({ type: "text", text: `${said} `, ...(look && { marks: look }) })),
  },
  fc.constantFrom(tag("first_name", "friend"), tag("zone")),
  fc.tuple(fc.constantFrom("beans", "a {b} | *c*", "", "leaf ".repeat(40)), fc.constantFrom("peas", "")).map(
    ([otherwise, first]): Inline => ({
      type: "either",
      attrs: {
        cases: [
          {
            when: { kind: "field", field: "zone", op: "is", value: "cool" },
            words: [{ type: "text", text: first }],
          },
        ],
        otherwise: [{ type: "text", text: otherwise }],
      },
    }),
  ),
);
const paragraph = fc
  .array(inline, { minLength: 1, maxLength: 5 })
  .map((line) => paragraphOf({ type: "text", text: "Well " }, ...line, { type: "text", text: "so." }));
const node: fc.Arbitrary<RichNode> = fc.oneof(
  { weight: 3, arbitrary: paragraph },
  fc
    .tuple(
      fc.constantFrom("bulletList" as const, "orderedList" as const),
      fc.array(paragraph, { minLength: 1, maxLength: 3 }),
    )
    .map(([type, items]) => ({
      type,
      content: items.map((content) => ({ type: "listItem" as const, content: [content] })),
    })),
);

describe("words written out for an assistant", () => {
  test("come back as they were: words, links, bold, italics, lists, reader data and either/or", async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(node, { minLength: 1, maxLength: 4 }), async (content) => {
        const doc: RichDoc = { type: "doc", content };
        const out = writtenOut(doc);
        const { parts } = withReaderData(
          [{ ...createBlock("text", "t"), content: proseOf(await pieces(out)) }],
          [...FIELDS, ...differingIn(out)],
        );
        const back = withTagsOf(parts[0].content as RichDoc, doc);
        expect(linesOf(back).map(looks)).toEqual(linesOf(doc).map(looks));
      }),
      { numRuns: 300 },
    );
  });

  test("reader data keeps its fallback and its form where it stood before", () => {
    const before: Inline[] = [
      { type: "mergeTag", attrs: { field: "zone", fallback: "mild", format: "upper" } },
    ];
    const after = withTagsOf([{ type: "text", text: "In " }, tag("zone"), tag("first_name")], before);
    expect(after).toEqual([{ type: "text", text: "In " }, before[0], tag("first_name")]);
  });

  test("of wording that differs by reader and is gone meanwhile, what everybody else got is left", () => {
    const kept = withTagsOf([tag("wording_by_reader_1", "beans "), tag("wording_by_reader_2", " ")], []);
    expect(kept).toEqual([{ type: "text", text: "beans" }]);
  });
});

test("a letter is told place by place, without its footer, and each place is found again until it is gone", () => {
  let n = 0;
  const email = blankEmail(LAYOUTS[0], { name: "Us", address: "us@a.example" }, "plain", () => `n${++n}`);
  const { places } = letterOf(email);
  expect(places.map(({ kind, form, text: said }) => [kind, form, said])).toEqual([
    ["heading", "line", "What this letter is about"],
    ["text", "paragraphs", "Begin with what matters to the reader."],
    ["button", "line", expect.any(String)],
  ]);
  for (const { id, text: said } of places) expect(wordSigns(placeOf(email, id)!.words)).toBe(said);
  expect(placeOf({ ...email, sections: [] }, places[0].id)).toBeUndefined();
});
