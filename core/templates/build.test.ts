import fc from "fast-check";
import { expect, test } from "vitest";
import { parseEmail } from "../blocks";
import { blocksOf, inlineText, walk } from "../email";
import { design, kit, words } from "./build";

test("the short notation says what it says, with marks, links and reader data where they are written", () => {
  expect(words("Hold **your** _beans_, {first_name|friend}: [here](https://a.example/)\nnow")).toEqual([
    { type: "text", text: "Hold " },
    { type: "text", text: "your", marks: [{ type: "bold" }] },
    { type: "text", text: " " },
    { type: "text", text: "beans", marks: [{ type: "italic" }] },
    { type: "text", text: ", " },
    { type: "mergeTag", attrs: { field: "first_name", fallback: "friend", format: "asIs" } },
    { type: "text", text: ": " },
    { type: "text", text: "here", marks: [{ type: "link", attrs: { href: "https://a.example/" } }] },
    { type: "hardBreak" },
    { type: "text", text: "now" },
  ]);
});

test("words without marks come out as they are, whatever they are", () => {
  fc.assert(
    fc.property(fc.string({ unit: "grapheme" }), (text) => {
      fc.pre(!/[*_[\]{}\n]/.test(text));
      expect(inlineText(words(text))).toBe(text);
    }),
  );
});

test("all that a kit makes is a design that can be read, with an id for each part", () => {
  const b = kit();
  const made = design("garden", "{first_name|Hello}", "", [
    b.masthead("Now"),
    b.hero(b.picture("tomato", "Two ripe tomatoes")),
    b.band("accent", [b.h1("Large"), b.countdown("Until", "2027-01-01T10:00")]),
    b.section([
      b.row([[b.h2("Half"), b.list("one", "two")], [b.table([["a", "b"]], [50, 50])]], { widths: [60, 40] }),
    ]),
    b.stack(b.survey("Well?", "no", "yes"), b.signed("Yours,", "Petra", "Gardener"), b.social()),
    b.footer(),
  ]);
  const read = parseEmail({
    ...made,
    envelope: { ...made.envelope, sender: { name: [], address: "a@b.example" } },
  });
  expect(read.sections).toEqual(made.sections);
  expect(blocksOf(read).map(({ type }) => type)).not.toContain("unreadable");
  const ids = [...walk(made)].map(({ node }) => node.id);
  expect(new Set(ids).size).toBe(ids.length);
  expect(made.sections[2].contentBackground).toBe("accent");
  expect(made.sections[3].rows[0].columns.map(({ width }) => width)).toEqual([60, 40]);
});

test("a kit takes ids and pictures from where it is told, and names a picture that is not there", () => {
  let next = 0;
  const b = kit({
    id: () => `own${++next}`,
    find: (name) => ({ src: `/x/${name}`, natural: { width: 1, height: 2 } }),
  });
  expect(b.picture("leaf", "A leaf")).toMatchObject({ id: "own1", src: "/x/leaf", alt: "A leaf" });
  expect(() => kit().picture("no such drawing", "")).toThrow("no such drawing");
});
