import { Editor } from "@tiptap/core";
import fc from "fast-check";
import { expect, test } from "vitest";
import { type Inline, paragraphOf, type RichDoc } from "~/core/email";
import { fromEditor, partsAround, toEditor } from "./convert";
import { textExtensions } from "./extensions";
import { QUIET_HOST } from "./test-host";

const edit = (doc: RichDoc) =>
  new Editor({ element: null, extensions: textExtensions(QUIET_HOST, "prose"), content: toEditor(doc) });

const words = fc.stringMatching(/^[a-zäé ]{1,12}$/).filter((text) => text.trim() !== "");
const tag: Inline = { type: "mergeTag", attrs: { field: "first_name", fallback: "you", format: "asIs" } };
const inline: fc.Arbitrary<Inline> = fc.oneof(
  words.map((text): Inline => ({ type: "text", text })),
  words.map(
    (text): Inline => ({
      type: "text",
      text,
      marks: [{ type: "link", attrs: { href: "https://a.example/" } }],
    }),
  ),
  fc.constant<Inline>({ type: "hardBreak" }),
  fc.constant(tag),
);
const document: fc.Arbitrary<RichDoc> = fc
  .array(fc.array(inline, { maxLength: 4 }), { minLength: 1, maxLength: 4 })
  .map((lines) => ({ type: "doc", content: lines.map((line) => paragraphOf(...line)) }));

const TOGGLES = {
  bold: (editor: Editor) => editor.chain().toggleBold().run(),
  italic: (editor: Editor) => editor.chain().toggleItalic().run(),
  underline: (editor: Editor) => editor.chain().toggleUnderline().run(),
  strike: (editor: Editor) => editor.chain().toggleStrike().run(),
  list: (editor: Editor) => editor.chain().toggleBulletList().run(),
  "numbered list": (editor: Editor) => editor.chain().toggleOrderedList().run(),
};

test.each(Object.entries(TOGGLES))("%s on and off gives the text back as it was", (_name, toggle) => {
  fc.assert(
    fc.property(document, fc.nat(), fc.nat(), (doc, a, b) => {
      const editor = edit(doc);
      const before = fromEditor(editor.getJSON());
      const { doc: whole } = editor.state;
      const places = Array.from({ length: whole.content.size }, (_, at) => at).filter(
        (at) => whole.resolve(at).parent.inlineContent,
      );
      const [from, to] = [places[a % places.length], places[b % places.length]].sort((x, y) => x - y);
      editor.commands.setTextSelection({ from, to });
      toggle(editor);
      toggle(editor);
      expect(fromEditor(editor.getJSON())).toEqual(before);
      editor.destroy();
    }),
    { numRuns: 150 },
  );
});

test("setting a look of words and giving each part back leaves no trace", () => {
  let styledOnes = 0;
  fc.assert(
    fc.property(document, (doc) => {
      const editor = edit(doc);
      const before = fromEditor(editor.getJSON());
      editor.commands.selectAll();
      editor.chain().setWordStyle({ color: "#7D2248" }).run();
      editor.chain().setWordStyle({ size: 22 }).run();
      const styled = JSON.stringify(fromEditor(editor.getJSON()));
      if (/"text":/.test(styled)) {
        styledOnes++;
        expect(styled).toContain('"color":"#7D2248","size":22');
      }
      editor.chain().setWordStyle({ color: undefined }).run();
      editor.chain().setWordStyle({ size: undefined }).run();
      expect(fromEditor(editor.getJSON())).toEqual(before);
      editor.destroy();
    }),
    { numRuns: 100 },
  );
  expect(styledOnes).toBeGreaterThan(50);
});

test("a text split at any place loses no words", () => {
  fc.assert(
    fc.property(document, fc.nat(), (doc, place) => {
      const editor = edit(doc);
      const { doc: whole } = editor.state;
      const { before, after } = partsAround(whole, 1 + (place % (whole.content.size - 1)));
      const said = (part: RichDoc | null) =>
        JSON.stringify(part)
          .match(/"text":"[^"]*"/g)
          ?.map((it) => it.slice(8, -1))
          .join("") ?? "";
      expect(said(before) + (after ? said(after) : "")).toBe(said(doc));
      editor.destroy();
    }),
    { numRuns: 150 },
  );
});

test("a link is made of safe addresses only, and typing behind it does not lengthen it", () => {
  const editor = edit({ type: "doc", content: [paragraphOf({ type: "text", text: "seeds" })] });
  editor.commands.selectAll();
  expect(editor.commands.setLink({ href: "javascript:alert(1)" })).toBe(false);
  expect(editor.commands.setLink({ href: "https://shop.example/" })).toBe(true);
  editor.commands.command(({ tr }) => tr.insertText(" and more", 6) !== null);
  const [linked, after] = editor.getJSON().content?.[0].content ?? [];
  expect(linked).toMatchObject({
    text: "seeds",
    marks: [{ type: "link", attrs: { href: "https://shop.example/" } }],
  });
  expect(after).toEqual({ type: "text", text: " and more" });
  editor.commands.selectAll();
  editor.commands.unsetLink();
  expect(JSON.stringify(editor.getJSON())).not.toContain("link");
});
