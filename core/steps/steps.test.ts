import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { BLOCK_TYPES, createBlock, parseEmail, tableEdits, tableParts } from "../blocks";
import {
  type Block,
  blocksOf,
  type Email,
  findNode,
  type Inline,
  isRichDoc,
  linesOf,
  type Mark,
  paragraphOf,
  type RichDoc,
  type RichNode,
  richText,
  type Words,
  walk,
  wordSigns,
} from "../email";
import type { ListProperty } from "../properties";
import { sampleEmail } from "../render/sample";
import {
  bothReordered,
  difference,
  fingerprint,
  invert,
  joinSteps,
  longestRising,
  merge,
  mergeWords,
  pack,
  rebase,
  replay,
  StrayStep,
  spreadTo100,
  unpack,
} from ".";
import { mergeValue } from "./merge-value";
import type { InsertStep } from "./step";

const base = parseEmail(sampleEmail(20));
const textBlock = blocksOf(base).find(({ type }) => type === "text") as Block;
const [firstSection] = base.sections;

/** The document with a block changed. */
function withBlock(
  email: Email,
  id: string,
  change: (block: Block) => Block | null,
  add: Block[] = [],
): Email {
  return {
    ...email,
    sections: email.sections.map((section) => ({
      ...section,
      rows: section.rows.map((row) => ({
        ...row,
        columns: row.columns.map((column) => ({
          ...column,
          blocks: column.blocks.flatMap((block) => {
            if (block.id !== id) return [block];
            const changed = change(block);
            return changed ? [changed, ...add] : add;
          }),
        })),
      })),
    })),
  };
}
const said = (text: string): RichDoc => richText(text);
const saying = (email: Email, text: string) =>
  withBlock(email, textBlock.id, (block) => ({ ...block, content: said(text) }));
const wordsOfText = (email: Email) =>
  wordSigns((findNode(email, textBlock.id)!.node as Block).content as Words);

describe("the difference of two documents", () => {
  test("is nothing between equal ones, and one small step for one small change", () => {
    expect(difference(base, structuredClone(base))).toEqual([]);
    const next = withBlock(base, textBlock.id, (block) => ({
      ...block,
      padding: { top: 1, right: 2, bottom: 3, left: 4 },
    }));
    const more = withBlock(next, textBlock.id, (block) => ({
      ...block,
      padding: { top: 9, right: 2, bottom: 3, left: 4 },
    }));
    expect(difference(next, more)).toEqual([
      { op: "set", id: textBlock.id, path: "padding/top", before: 1, after: 9 },
    ]);
    expect(difference(base, { ...base, theme: "plum" })).toEqual([
      { op: "set", id: null, path: "theme", before: "plain", after: "plum" },
    ]);
  });

  test("enters lists by the ids of their items, and takes a list that changed its items as a whole", () => {
    const table = { ...createBlock("table", "t"), ...tableParts([[[{ type: "text", text: "a" }], []]]) };
    const before = withBlock(base, textBlock.id, (block) => block, [table as Block]);
    const cell = withBlock(before, "t", (block) => ({
      ...block,
      rows: [{ id: "1", cells: { "1": [{ type: "text", text: "b" }], "2": [] } }],
    }));
    expect(difference(before, cell)).toMatchObject([{ op: "set", id: "t", path: "rows/1/cells/1" }]);
    const grown = withBlock(before, "t", (block) => ({
      ...block,
      ...tableEdits.addRow(block as never, 1, "r2"),
    }));
    expect(difference(before, grown)).toMatchObject([{ op: "set", id: "t", path: "rows" }]);
  });

  test("takes what has a key with a slash in it as a whole", () => {
    const holding = (c: number) =>
      withBlock(base, textBlock.id, (block) => ({ ...block, kept: { "a/b": 1, c } }) as Block);
    const steps = difference(holding(1), holding(2));
    expect(steps).toMatchObject([{ op: "set", path: "kept", after: { "a/b": 1, c: 2 } }]);
    expect(unpack(holding(1), pack(steps)).email).toEqual(holding(2));
  });

  test("moves as few as can be", () => {
    const swapped = { ...base, sections: [base.sections[1], base.sections[0], ...base.sections.slice(2)] };
    expect(difference(base, swapped)).toHaveLength(1);
    fc.assert(
      fc.property(fc.shuffledSubarray(base.sections, { minLength: base.sections.length }), (sections) => {
        const next = { ...base, sections };
        const steps = difference(base, next);
        expect(replay(base, steps)).toEqual(next);
        expect(replay(next, invert(steps))).toEqual(base);
        const kept = longestRising(sections.map((section) => base.sections.indexOf(section))).length;
        expect(steps).toHaveLength(sections.length - kept);
      }),
    );
  });
});

test("the longest rising run rises, and none is longer", () => {
  fc.assert(
    fc.property(fc.uniqueArray(fc.nat(30), { maxLength: 9 }), (values) => {
      const run = longestRising(values).map((at) => values[at]);
      expect(run).toEqual([...run].sort((a, b) => a - b));
      let longest = 0;
      for (let mask = 0; mask < 1 << values.length; mask++) {
        const chosen = values.filter((_, at) => mask & (1 << at));
        if (chosen.every((value, at) => at === 0 || chosen[at - 1] < value))
          longest = Math.max(longest, chosen.length);
      }
      expect(run).toHaveLength(longest);
    }),
    { numRuns: 60 },
  );
});

describe("words that two people changed", () => {
  const words = (...texts: string[]) => richText(...texts);
  const signs = (merged: Words | null) => merged && wordSigns(merged);

  test.each([
    ["one two three", "one 2 three", "one two 3", "one 2 3"],
    ["one two", "zero one two", "one two three", "zero one two three"],
    ["one two", "one and two", "one two", "one and two"],
    ["a b c d", "a c d", "a b c d e", "a c d e"],
    ["hello", "hello there", "hello, you", "hello there, you"],
    ["same words", "other words", "other words", "other words"],
    ["keep this", "keep", "keep this and that", "keep and that"],
    ["one.", "uno.", "one!", "uno!"],
  ])("%j: %j and %j make %j", (from, mine, theirs, both) => {
    expect(signs(mergeWords(words(from), words(mine), words(theirs)))).toBe(both);
  });

  test.each([
    ["one two", "one 2", "one zwei"],
    ["", "mine", "theirs"],
    ["Hold your beans", "Sow your beans", "Plant your beans"],
  ])("%j: %j and %j contradict", (from, mine, theirs) => {
    expect(mergeWords(words(from), words(mine), words(theirs))).toBeNull();
  });

  test("paragraphs and lists come and go beside each other", () => {
    const list: RichNode = {
      type: "bulletList",
      content: ["Peas", "Beans"].map((text) => ({ type: "listItem", content: [paragraphOf(text)] })),
    };
    const from: RichDoc = { type: "doc", content: [paragraphOf("Sow now:"), list, paragraphOf("And wait.")] };
    const mine: RichDoc = { ...from, content: [...from.content, paragraphOf("Until May.")] };
    const longer: RichNode = {
      type: "bulletList",
      content: [...list.content, { type: "listItem", content: [paragraphOf("Leeks")] }],
    } as RichNode;
    const theirs: RichDoc = {
      ...from,
      content: [paragraphOf("Sow this week:"), longer, paragraphOf("And wait.")],
    };
    const merged = mergeWords(from, mine, theirs) as RichDoc;
    expect(linesOf(merged).map((line) => wordSigns(line))).toEqual([
      "Sow this week:",
      "Peas",
      "Beans",
      "Leeks",
      "And wait.",
      "Until May.",
    ]);
    expect((merged.content[1] as { content: unknown[] }).content).toHaveLength(3);
  });

  test("with one side unchanged the other's words come out exactly, whatever they are", () => {
    const text = fc.constantFrom("Peas", " and ", "beans", ", ", "ä", "1", "  ", "…");
    const mark = fc.constantFrom<(Mark[] | undefined)[]>(
      undefined,
      [{ type: "bold" }],
      [{ type: "link", attrs: { href: "https://a.example/" } }],
    );
    const inline: fc.Arbitrary<Inline> = fc
      .record({ type: fc.constant("text" as const), text, marks: mark })
      .map(({ marks, ...it }) => (marks ? { ...it, marks } : it));
    const paragraph: fc.Arbitrary<RichNode> = fc
      .array(inline, { maxLength: 4 })
      .map((content) => ({ type: "paragraph", content }));
    const node: fc.Arbitrary<RichNode> = fc.oneof(
      paragraph,
      fc.record({
        type: fc.constantFrom("bulletList" as const, "orderedList" as const),
        content: fc.array(
          fc.record({
            type: fc.constant("listItem" as const),
            content: fc.array(paragraph, { minLength: 1, maxLength: 2 }),
          }),
          { minLength: 1, maxLength: 3 },
        ),
      }),
    );
    const doc = fc
      .array(node, { minLength: 1, maxLength: 4 })
      .map((content): RichDoc => ({ type: "doc", content }));
    let compared = 0;
    fc.assert(
      fc.property(doc, doc, (from, to) => {
        const shape = (merged: Words | null) =>
          merged && isRichDoc(merged) && linesOf(merged).map((line) => wordSigns(line));
        const wanted = linesOf(to).map((line) => wordSigns(line));
        const hasWords = linesOf(from).flat().length > 0;
        for (const merged of [mergeWords(from, to, from), mergeWords(from, from, to)])
          if (hasWords && merged) {
            compared++;
            expect(shape(merged)).toEqual(wanted);
          }
      }),
      { numRuns: 300 },
    );
    expect(compared).toBeGreaterThan(200);
  });
});

describe("steps on a document that went on", () => {
  test("different properties of one part come together; the same property is a clash, and theirs stays", () => {
    const mine = withBlock(base, textBlock.id, (block) => ({
      ...block,
      name: "Mine",
      background: "#112233",
    }));
    const theirs = withBlock(base, textBlock.id, (block) => ({ ...block, name: "Theirs", hideOn: "phone" }));
    const { email, clashes } = merge(base, mine, theirs);
    expect(findNode(email, textBlock.id)?.node).toMatchObject({
      name: "Theirs",
      background: "#112233",
      hideOn: "phone",
    });
    expect(clashes).toEqual([
      { reason: "changed", id: textBlock.id, path: "name", mine: "Mine", theirs: "Theirs" },
    ]);
  });

  test("each property in which both contradict is asked about, and what both add to one comes together", () => {
    const of = (part: object) => withBlock(base, textBlock.id, (block) => ({ ...block, ...part }));
    const { email, clashes } = merge(
      base,
      of({ name: "Mine", background: "#111111", phone: { align: "left" } }),
      of({ name: "Theirs", background: "#222222", phone: { size: 12 } }),
    );
    expect(clashes.map(({ path }) => path).sort()).toEqual(["background", "name"]);
    expect(findNode(email, textBlock.id)?.node).toMatchObject({ phone: { align: "left", size: 12 } });
  });

  test("what is put behind something stands there, though what stood behind is gone", () => {
    const quote = (id: string) => createBlock("quote", id) as Block;
    const three = withBlock(base, textBlock.id, (block) => block, [quote("two"), quote("three")]);
    const mine = withBlock(base, textBlock.id, (block) => block, [
      quote("new"),
      quote("two"),
      quote("three"),
    ]);
    const { email } = merge(
      three,
      mine,
      withBlock(three, "two", () => null),
    );
    const ids = blocksOf(email).map(({ id }) => id);
    const at = ids.indexOf(textBlock.id);
    expect(ids.slice(at, at + 3)).toEqual([textBlock.id, "new", "three"]);
  });

  test("steps come together where they set the same, and not past one of another kind", () => {
    const set = (before: string, after: string) =>
      ({ op: "set", id: textBlock.id, path: "name", before, after }) as const;
    const other = { op: "set", id: firstSection.id, path: "name", before: undefined, after: "x" } as const;
    expect(joinSteps([set("a", "b"), other], [set("b", "c")])).toEqual([set("a", "c"), other]);
    const spot = { parent: null, after: null, before: null };
    const move = { op: "move", id: firstSection.id, from: spot, to: spot } as const;
    expect(joinSteps([set("a", "b"), move], [set("b", "c")])).toEqual([set("a", "b"), move, set("b", "c")]);
  });

  test("a part that is gone for me and changed for them stays, and the other way round is asked about too", () => {
    const removed = withBlock(base, textBlock.id, () => null);
    const changed = saying(base, "Still wanted");
    const kept = merge(base, removed, changed);
    expect(wordsOfText(kept.email)).toBe("Still wanted");
    expect(kept.clashes).toMatchObject([{ reason: "kept", id: textBlock.id }]);
    const gone = merge(base, changed, removed);
    expect(findNode(gone.email, textBlock.id)).toBeUndefined();
    expect(gone.clashes).toMatchObject([{ reason: "gone", id: textBlock.id, mine: said("Still wanted") }]);
  });

  test("what was put into a section that has gone finds a place of its own", () => {
    const added = withBlock(base, firstSection.rows[0].columns[0].blocks[0].id, (block) => block, [
      createBlock("quote", "new") as Block,
    ]);
    const { email } = merge(base, added, { ...base, sections: base.sections.slice(1) });
    expect(findNode(email, "new")).toBeDefined();
    expect(parseEmail(email)).toEqual(email);
    expect(email.sections.at(-1)?.id).toBe(base.sections.at(-1)?.id);
  });

  test("a row whose columns both changed is as wide as it is, and no row has more than six", () => {
    const row = firstSection.rows[1];
    const columns = (count: number, side: string) =>
      Array.from({ length: count }, (_, at) => ({ id: `${side}${at}`, width: 100 / count, blocks: [] }));
    const add = (side: string, count: number): Email => ({
      ...base,
      sections: [
        {
          ...firstSection,
          rows: [firstSection.rows[0], { ...row, columns: [...row.columns, ...columns(count, side)] }],
        },
        ...base.sections.slice(1),
      ],
    });
    const { email } = merge(base, add("m", 2), add("t", 3));
    const found = findNode(email, row.id)?.node as typeof row;
    expect(found.columns).toHaveLength(6);
    expect(found.columns.reduce((sum, column) => sum + column.width, 0)).toBeCloseTo(100, 1);
    expect(blocksOf(email)).toHaveLength(blocksOf(base).length);
  });

  test("what stands in columns beyond the sixth goes to the sixth", () => {
    const row = firstSection.rows[1];
    const holding = (id: string) => [{ ...createBlock("quote", `quote ${id}`) } as Block];
    const add = (side: string): Email => ({
      ...base,
      sections: [
        {
          ...firstSection,
          rows: [
            firstSection.rows[0],
            {
              ...row,
              columns: [
                ...row.columns,
                ...[0, 1, 2].map((at) => ({
                  id: `${side}${at}`,
                  width: 10,
                  blocks: holding(`${side}${at}`),
                })),
              ],
            },
          ],
        },
        ...base.sections.slice(1),
      ],
    });
    const { email } = merge(base, add("m"), add("t"));
    const { columns } = findNode(email, row.id)!.node as typeof row;
    const over = row.columns.length;
    expect(columns.map(({ blocks }) => blocks.length).slice(over, 5)).toEqual(Array(5 - over).fill(1));
    expect(columns[5].blocks).toHaveLength(over + 1);
  });

  test("a section whose look somebody changed stays when it is taken out elsewhere, and is asked about", () => {
    const [first, ...rest] = base.sections;
    const { email, clashes } = merge(
      base,
      { ...base, sections: rest },
      { ...base, sections: [{ ...first, background: "#112233" }, ...rest] },
    );
    expect(findNode(email, first.id)?.node).toMatchObject({ background: "#112233" });
    expect(clashes).toMatchObject([{ reason: "kept", id: first.id, theirs: { background: "#112233" } }]);
  });

  test("a list that is too long only with what both put in is theirs, and is asked about", () => {
    const items = (side: string, count: number) =>
      Array.from({ length: count }, (_, at) => ({ id: `${side}${at}`, label: "A", href: "" }));
    const { most } = BLOCK_TYPES.menu.properties.items as ListProperty;
    const menu = (more: ReturnType<typeof items>) =>
      withBlock(base, textBlock.id, (block) => block, [
        { ...createBlock("menu", "menu"), items: [...items("", 1), ...more] } as Block,
      ]);
    const { email, clashes } = merge(menu([]), menu(items("m", most - 1)), menu(items("t", most - 1)));
    const kept = (findNode(email, "menu")!.node as unknown as { items: unknown[] }).items;
    expect(kept).toHaveLength(most);
    expect(clashes).toMatchObject([{ reason: "changed", id: "menu", path: "", theirs: { items: kept } }]);
  });

  test("there and back, every part is the very one it was", () => {
    const steps = difference(base, saying({ ...base, theme: "plum" }, "Once"));
    const again = rebase(base, [...steps, ...invert(steps)]);
    expect(again.email.sections).toEqual(base.sections);
    for (const [at, section] of again.email.sections.entries()) expect(section).toBe(base.sections[at]);
  });

  test("doing the same steps again changes nothing, as when an answer got lost", () => {
    const mine = saying({ ...base, theme: "plum" }, "Once");
    const steps = difference(base, mine);
    const once = rebase(base, steps);
    const twice = rebase(once.email, steps);
    expect(twice.email).toBe(once.email);
    expect(twice.clashes).toEqual([]);
  });

  test("both sides' new order is noticed", () => {
    const turned = (email: Email): Email => ({ ...email, sections: [...email.sections].reverse() });
    expect(bothReordered(difference(base, turned(base)), difference(base, turned(base)))).toEqual([null]);
    expect(bothReordered(difference(base, turned(base)), difference(base, saying(base, "x")))).toEqual([]);
  });

  test("lists of items: added, taken out, moved and changed on both sides", () => {
    const item = (id: string, label = id) => ({ id, label, href: "" });
    const menu = (...items: ReturnType<typeof item>[]) =>
      withBlock(base, textBlock.id, (block) => block, [{ ...createBlock("menu", "menu"), items } as Block]);
    const from = menu(item("a"), item("b"), item("c"));
    const mine = menu(item("b"), item("a", "A"), item("c"), item("d"));
    const theirs = menu(item("a"), item("e"), item("b", "B"));
    const { email, clashes } = merge(from, mine, theirs);
    const { items } = findNode(email, "menu")!.node as unknown as { items: { id: string; label: string }[] };
    expect(items.map(({ id }) => id).sort()).toEqual(["a", "b", "d", "e"]);
    expect(items.find(({ id }) => id === "a")?.label).toBe("A");
    expect(items.find(({ id }) => id === "b")?.label).toBe("B");
    // Mine was put in another order: what only theirs has stands behind its neighbour there.
    expect(items.map(({ id }) => id)).toEqual(["b", "a", "e", "d"]);
    expect(clashes).toEqual([]);
    const added = merge(
      from,
      menu(item("a"), item("x"), item("b"), item("c")),
      menu(item("y"), item("a"), item("b"), item("z"), item("c")),
    );
    const order = (email: Email) =>
      (findNode(email, "menu")!.node as unknown as { items: { id: string }[] }).items.map(({ id }) => id);
    expect(order(added.email)).toEqual(["y", "a", "x", "b", "z", "c"]);
    // What I only added goes with the order that they gave the rest.
    const turned = merge(
      from,
      menu(item("a"), item("b"), item("c"), item("d")),
      menu(item("c"), item("b"), item("a")),
    );
    expect(order(turned.email)).toEqual(["c", "d", "b", "a"]);
  });

  test("values of which only one side has a list, or words, stand as a contradiction", () => {
    const asked: { path: string; mine: unknown; theirs: unknown }[] = [];
    const merged = (from: unknown, mine: unknown, theirs: unknown) =>
      mergeValue(from, mine, theirs, "it", (one) => asked.push(one));
    const list = [{ id: "a" }];
    for (const [mine, theirs] of [
      ["y", list],
      [list, "y"],
      [7, list],
    ])
      expect(merged("x", mine, theirs)).toBe(theirs);
    expect(asked.map(({ mine, theirs }) => [mine, theirs])).toEqual([
      ["y", list],
      [list, "y"],
      [7, list],
    ]);
  });

  test("each part that is gone is asked about once, and every one of them", () => {
    const [one, other] = blocksOf(base).filter(({ type }) => type !== "footer");
    const changed = [one, other].reduce(
      (email, { id }) => withBlock(email, id, (block) => ({ ...block, name: "Mine", hideOn: "phone" })),
      base,
    );
    const removed = [one, other].reduce((email, { id }) => withBlock(email, id, () => null), base);
    const { clashes } = merge(base, changed, removed);
    expect(clashes.map(({ reason, id }) => [reason, id])).toEqual([
      ["gone", one.id],
      ["gone", other.id],
    ]);
  });

  test("what is put in again where its own place was made is put there, last", () => {
    const column = firstSection.rows[0].columns[0];
    const added = withBlock(base, column.blocks[0].id, (block) => block, [
      createBlock("quote", "new") as Block,
    ]);
    const steps = difference(base, added);
    const without: Email = { ...base, sections: base.sections.slice(1) };
    const placed = rebase(without, steps).email;
    const home = findNode(placed, "new-column")!;
    expect(home.kind).toBe("column");
    // The other window took it away again and wrote something else there.
    const emptied = withBlock(placed, "new", () => null, [createBlock("text", "theirs") as Block]);
    const again = rebase(emptied, steps).email;
    const blocks = (findNode(again, "new-column")!.node as { blocks: Block[] }).blocks;
    expect(blocks.map(({ id }) => id)).toEqual(["theirs", "new"]);
  });
});

describe("what is put in and is there already", () => {
  const column = [...walk(base)].find(({ node }) => node.id === textBlock.id)?.parent ?? null;
  const own = (text: string): Block =>
    ({ ...createBlock("heading", "twin"), content: [{ type: "text", text }] }) as Block;
  const step = (text: string) => ({
    op: "insert" as const,
    kind: "block" as const,
    at: { parent: column, after: null, before: null },
    node: own(text),
  });
  const once = rebase(base, [step("First words")]).email;

  test("is not put in twice, and asks nothing when it is the same", () => {
    const twice = rebase(once, [step("First words")]);
    expect(twice.clashes).toEqual([]);
    expect(twice.email).toBe(once);
  });

  test("is asked about when it says something else", () => {
    const { email, clashes } = rebase(once, [step("Other words")]);
    expect(email).toBe(once);
    expect(clashes).toMatchObject([{ reason: "changed", id: "twin", path: "content" }]);
    expect(JSON.stringify(clashes[0].mine)).toContain("Other words");
  });

  test("is asked about for each part within it", () => {
    const section = (text: string): InsertStep["node"] => ({
      id: "twins",
      rows: [{ id: "twins row", columns: [{ id: "twins column", width: 100, blocks: [own(text)] }] }],
    });
    const put = (text: string) =>
      ({
        op: "insert",
        kind: "section",
        at: { parent: null, after: null, before: null },
        node: section(text),
      }) as const;
    const { clashes } = rebase(rebase(base, [put("First words")]).email, [put("Other words")]);
    expect(clashes).toMatchObject([{ id: "twin", path: "content" }]);
  });
});

describe("on the wire", () => {
  test("a step that does not belong to the document is refused", () => {
    for (const step of [
      { op: "remove" as const, id: "nothing" },
      { op: "move" as const, id: textBlock.id, to: { parent: firstSection.id, after: null, before: null } },
      {
        op: "insert" as const,
        kind: "block" as const,
        at: { parent: null, after: null, before: null },
        node: { id: "x" },
      },
      { op: "set" as const, id: firstSection.id, path: "rows", after: [] },
      { op: "set" as const, id: textBlock.id, path: "id", after: "other" },
      { op: "splice" as const, id: textBlock.id, path: "content", from: 3, cut: 900_000, put: "}{" },
    ])
      expect(() => unpack(base, [step]), JSON.stringify(step)).toThrow(StrayStep);
  });

  test("of a long text that changed a little only the change is sent", () => {
    const long = saying(base, "words ".repeat(5000));
    const next = saying(base, `${"words ".repeat(2500)}more ${"words ".repeat(2500)}`);
    const packed = pack(difference(long, next));
    expect(JSON.stringify(packed).length).toBeLessThan(300);
    expect(unpack(long, packed).email).toEqual(next);
  });

  test("equal documents have equal fingerprints, whatever the order of their keys", () => {
    const turned = JSON.parse(JSON.stringify(base), (_, it) =>
      it && typeof it === "object" && !Array.isArray(it)
        ? Object.fromEntries(Object.entries(it).reverse())
        : it,
    );
    expect(fingerprint(turned)).toBe(fingerprint(base));
    expect(fingerprint(saying(base, "x"))).not.toBe(fingerprint(base));
  });
});

test("widths keep their proportions and add up to a hundred", () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 5, max: 100 }), { minLength: 1, maxLength: 6 }), (widths) => {
      const spread = spreadTo100(widths, 5);
      expect(spread.reduce((sum, width) => sum + width, 0)).toBeCloseTo(100, 1);
      expect(Math.min(...spread)).toBeGreaterThanOrEqual(5);
    }),
  );
  expect(spreadTo100([30, 90], 5)).toEqual([25, 75]);
  expect(spreadTo100([1, 1, 1], 5)).toEqual([33.34, 33.33, 33.33]);
});
