import { getSchema } from "@tiptap/core";
import { Node } from "@tiptap/pm/model";
import fc from "fast-check";
import { expect, test } from "vitest";
import { type Inline, type Mark, type RichDoc, RichDocSchema, type RichNode } from "~/core/email";
import { fromEditor, inlineFromEditor, inlineToEditor, toEditor } from "./convert";
import { textExtensions } from "./extensions";
import { QUIET_HOST } from "./test-host";

const schemas = {
  prose: getSchema(textExtensions(QUIET_HOST, "prose")),
  line: getSchema(textExtensions(QUIET_HOST, "line")),
  plain: getSchema(textExtensions(QUIET_HOST, "plain")),
};

/** As the editor holds it: marks in the order of its schema, neighbours with equal marks joined. */
const through = (kind: keyof typeof schemas, json: ReturnType<typeof toEditor>) => {
  const node = Node.fromJSON(schemas[kind], json);
  node.check();
  return node.toJSON();
};

const marks: fc.Arbitrary<Mark[]> = fc
  .subarray<Mark["type"]>(["link", "bold", "italic", "strike", "style", "underline"])
  .map((types) =>
    types.map((type): Mark => {
      if (type === "link") return { type, attrs: { href: "https://a.example/?x=1" } };
      return type === "style" ? { type, attrs: { color: "#7D2248", size: 20, font: "mono" } } : { type };
    }),
  );
const words = fc
  .string({ unit: "grapheme", minLength: 1, maxLength: 12 })
  .filter((text) => !/[\n\r]/.test(text));
const anyTag = fc.record(
  {
    field: fc.constantFrom("first_name", "branch"),
    or: fc.constant("last_name"),
    fallback: words,
    format: fc.constantFrom("asIs" as const, "upper" as const),
  },
  { requiredKeys: ["field", "fallback", "format"] },
);
const inline: fc.Arbitrary<Inline> = fc.oneof(
  fc.record({ type: fc.constant("text" as const), text: words, marks }),
  fc.record({ type: fc.constant("hardBreak" as const) }),
  fc.record({
    type: fc.constant("mergeTag" as const),
    attrs: anyTag,
  }),
  fc.record({
    type: fc.constant("either" as const),
    attrs: fc.record({
      cases: fc.array(
        fc.record({
          when: fc.constant({ kind: "field" as const, field: "zone", op: "is" as const, value: "cool" }),
          words: fc.array(
            anyTag.map((attrs) => ({ type: "mergeTag" as const, attrs })),
            { maxLength: 2 },
          ),
        }),
        { minLength: 1, maxLength: 2 },
      ),
      otherwise: words.map((text) => [{ type: "text" as const, text }]),
    }),
  }),
);
const paragraph: fc.Arbitrary<RichNode> = fc
  .record({
    content: fc.array(inline, { maxLength: 5 }),
    align: fc.constantFrom(undefined, "center" as const, "right" as const),
  })
  .map(({ content, align }) => ({
    type: "paragraph",
    ...(align && { attrs: { align } }),
    ...(content.length > 0 && { content }),
  }));
const list: fc.Arbitrary<RichNode> = fc.record({
  type: fc.constantFrom("bulletList" as const, "orderedList" as const),
  content: fc.array(
    fc.record({ type: fc.constant("listItem" as const), content: fc.tuple(paragraph).map(([one]) => [one]) }),
    { minLength: 1, maxLength: 3 },
  ),
});
const document: fc.Arbitrary<RichDoc> = fc
  .array(fc.oneof(paragraph, list), { minLength: 1, maxLength: 5 })
  .map((content) => ({ type: "doc", content }));

/** The words with their marks as a set, letter by letter: what a reader would see. */
function seen(nodes: readonly unknown[]): string {
  return JSON.stringify(nodes, (key, value) => {
    if (key === "marks") return [...(value as Mark[])].map((mark) => JSON.stringify(mark)).sort();
    return value;
  });
}

/** Splits text into letters, so that runs cut differently compare equal. */
function letters(doc: RichDoc): string {
  const split = (content: readonly Inline[]) =>
    content.flatMap((it): unknown[] =>
      it.type === "text"
        ? [...it.text].map((letter) => ({
            type: "text",
            text: letter,
            ...(it.marks?.length ? { marks: it.marks } : {}),
          }))
        : [it],
    );
  const walk = (nodes: readonly RichNode[]): unknown[] =>
    nodes.map((node) =>
      node.type === "paragraph"
        ? { type: node.type, align: node.attrs?.align, content: split(node.content ?? []) }
        : { type: node.type, content: node.content.map((item) => walk(item.content)) },
    );
  return seen(walk(doc.content));
}

test("what goes into the editor comes out again, word for word and mark for mark", () => {
  fc.assert(
    fc.property(document, (doc) => {
      const back = fromEditor(through("prose", toEditor(RichDocSchema.parse(doc))));
      expect(letters(back)).toBe(letters(doc));
      expect(fromEditor(through("prose", toEditor(back)))).toEqual(back);
    }),
    { numRuns: 300 },
  );
});

test("a heading's words and a subject's words round-trip", () => {
  fc.assert(
    fc.property(fc.array(inline, { maxLength: 6 }), (content) => {
      const bare = content.filter((it) => it.type !== "hardBreak").map((it) => ({ ...it, marks: undefined }));
      const clean = JSON.parse(JSON.stringify(bare)) as Inline[];
      const once = inlineFromEditor(through("plain", inlineToEditor(clean)));
      expect(inlineFromEditor(through("plain", inlineToEditor(once)))).toEqual(once);
      const line = inlineFromEditor(through("line", inlineToEditor(content)));
      const doc = (it: Inline[]): RichDoc => ({ type: "doc", content: [{ type: "paragraph", content: it }] });
      expect(letters(doc(line))).toBe(letters(doc(content)));
    }),
    { numRuns: 200 },
  );
});

test("what the editor knows and we do not keep is left out, and its words stay", () => {
  const doc = fromEditor({
    type: "doc",
    content: [
      {
        type: "paragraph",
        attrs: { id: 7 },
        content: [
          {
            type: "text",
            text: "A",
            marks: [
              { type: "blink" },
              { type: "link", attrs: { href: "https://a.example", target: "_blank", class: "x" } },
            ],
          },
        ],
      },
      { type: "section", content: [{ type: "paragraph", content: [{ type: "text", text: "B" }] }] },
    ],
  });
  expect(doc.content).toEqual([
    {
      type: "paragraph",
      content: [{ type: "text", text: "A", marks: [{ type: "link", attrs: { href: "https://a.example" } }] }],
    },
    { type: "paragraph", content: [{ type: "text", text: "B" }] },
  ]);
});
