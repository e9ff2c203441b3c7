import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { sampleEmail } from "../render/sample";
import {
  type Block,
  blocksOf,
  canonical,
  childIds,
  childIndex,
  DEEPEST,
  eachPiece,
  findNode,
  type Inline,
  InlineSchema,
  idsOf,
  inlineSigns,
  inlineText,
  isInline,
  linesOf,
  mapLines,
  mapNodes,
  notTooDeep,
  ownOf,
  pathTo,
  richText,
  same,
  sharing,
  valueAt,
  walk,
  withValueAt,
  wordSigns,
} from ".";

const json = fc.jsonValue({ maxDepth: 4 });

describe("equality by structure", () => {
  test("agrees with the canonical text, whatever the order of keys", () => {
    fc.assert(
      fc.property(json, json, (a, b) => {
        expect(same(a, b)).toBe(canonical(a) === canonical(b));
        expect(same(a, JSON.parse(canonical(a)))).toBe(true);
      }),
      { numRuns: 300 },
    );
  });

  test("a property that is undefined is one that is missing; a list is no object", () => {
    expect(same({ a: 1, b: undefined }, { a: 1 })).toBe(true);
    expect(same({ a: 1 }, { a: 1, b: undefined })).toBe(true);
    expect(same([], {})).toBe(false);
    expect(same(null, undefined)).toBe(false);
  });

  test("a value that shares parts with an older one says the same", () => {
    fc.assert(
      fc.property(json, json, (old, value) => {
        expect(sharing(old, value)).toEqual(value);
        if (same(old, value)) expect(sharing(old, value)).toBe(old);
      }),
      { numRuns: 300 },
    );
    const old = { list: [{ id: 1 }, { id: 2 }, { id: 3 }], other: { deep: true } };
    const next = sharing(old, { list: [{ id: 1 }, { id: 9 }, { id: 2 }, { id: 3 }], other: { deep: true } });
    expect(next.other).toBe(old.other);
    expect(next.list[0]).toBe(old.list[0]);
    expect(next.list[3]).toBe(old.list[2]);
  });
});

describe("paths go through the ids of items", () => {
  const node = {
    id: "n",
    items: [
      { id: "a", label: "A" },
      { id: "b", label: "B", deep: { x: 1 } },
    ],
    plain: [1, 2],
  };

  test("reading and writing", () => {
    expect(valueAt(node, "items/b/deep/x")).toBe(1);
    expect(valueAt(node, "")).toBe(node);
    expect(valueAt(node, "items/c")).toBeUndefined();
    expect(valueAt(node, "plain/0")).toBeUndefined();
    expect(valueAt(node, "__proto__/x")).toBeUndefined();
    expect(withValueAt(node, "items/b/label", "C").items[1].label).toBe("C");
    expect(node.items[1].label).toBe("B");
    expect(withValueAt(node, "items/a", undefined).items).toHaveLength(1);
    expect(withValueAt(node, "items/b/deep", undefined).items[1]).not.toHaveProperty("deep");
    expect(withValueAt(node, "gone/further", 1)).toEqual(node);
  });

  test("what was written is read again; nothing else changes", () => {
    fc.assert(
      fc.property(fc.constantFrom("items/a/label", "items/b/deep/x", "id", "fresh"), json, (path, value) => {
        const next = withValueAt(node, path, value);
        expect(valueAt(next, path)).toEqual(value);
        expect(withValueAt(next, path, valueAt(node, path))).toEqual(node);
      }),
    );
  });
});

describe("the tree", () => {
  const email = sampleEmail(20);

  test("is walked parents first, and every node knows where it stands", () => {
    const index = childIndex(email);
    const seen = new Set<string | null>([null]);
    for (const { node, parent, index: at } of walk(email)) {
      expect(seen.has(parent)).toBe(true);
      seen.add(node.id);
      expect(childIds(email, parent)[at]).toBe(node.id);
      expect(index.get(parent)?.[at]).toBe(node.id);
      const path = pathTo(email, node.id);
      expect(path.at(-1)?.node).toBe(node);
      expect(path[0].kind).toBe("section");
      expect(findNode(email, node.id)?.node).toBe(node);
    }
    expect(pathTo(email, "nothing")).toEqual([]);
    expect(childIds(email, "nothing")).toEqual([]);
  });

  test("a property that is named as the children of another kind is a property", () => {
    const table = { id: "t", type: "table", rows: [{ id: "r" }], columns: [{ id: "c" }] } as Block;
    expect(ownOf("block", table)).toEqual(table);
    expect(idsOf({ kind: "block", node: table })).toEqual(["t"]);
    expect(ownOf("row", { id: "r", columns: [], gap: 3 })).toEqual({ id: "r", gap: 3 });
  });

  test("a copy goes through every node, and only through nodes", () => {
    const [section] = email.sections;
    const copy = mapNodes("section", section, (node) => ({ ...node, id: `copy of ${node.id}` }));
    const ids = [...idsOf({ kind: "section", node: copy })];
    expect(ids).toHaveLength(idsOf({ kind: "section", node: section }).length);
    expect(ids.every((id) => id.startsWith("copy of "))).toBe(true);
    expect(blocksOf(email).some(({ id }) => id.startsWith("copy of "))).toBe(false);
  });
});

describe("words", () => {
  const tag = (fallback: string): Inline => ({
    type: "mergeTag",
    attrs: { field: "first_name", fallback, format: "asIs" },
  });

  test("each kind of thing in words reads as words, and counts one sign where it cannot be cut", () => {
    const line: Inline[] = [{ type: "text", text: "Dear " }, tag("gardener"), { type: "hardBreak" }, tag("")];
    expect(inlineText(line)).toBe("Dear gardener ‹first name›");
    expect(inlineSigns(line)).toHaveLength("Dear ".length + 3);
    expect(line.every(isInline)).toBe(true);
    expect([null, {}, { type: "paragraph" }, "text"].some(isInline)).toBe(false);
  });

  test("wordings that stand too deep in others become what everybody else gets", () => {
    const nested = (deep: number): Inline => ({
      type: "either",
      attrs: {
        cases: [
          { when: { kind: "list", list: "club", in: true }, words: [{ type: "text", text: `case ${deep}` }] },
        ],
        otherwise: deep === 1 ? [{ type: "text", text: "end" }] : [nested(deep - 1)],
      },
    });
    expect(notTooDeep([nested(DEEPEST)])).toEqual([nested(DEEPEST)]);
    const six = nested(DEEPEST + 2);
    expect(InlineSchema.safeParse(six).success).toBe(false);
    const [kept] = notTooDeep([six]);
    expect(InlineSchema.parse(kept)).toEqual(kept);
    expect([...eachPiece([kept])].flatMap((it) => (it.type === "text" ? [it.text] : []))).toEqual([
      "case 6",
      "case 5",
      "case 4",
      "case 3",
      "end",
    ]);
  });

  test("going through lines changes only what it is told to", () => {
    const doc = richText("One", "Two");
    expect(mapLines(doc, (line) => line)).toEqual(doc);
    const changed = mapLines(doc, (line, at) => (at === 1 ? [...line, tag("x")] : line));
    expect(linesOf(changed)).toHaveLength(2);
    expect(wordSigns(changed)).toBe("One\nTwo\ufffc");
    expect(wordSigns(mapLines([{ type: "text", text: "A" }], () => []))).toBe("");
  });
});
