import { describe, expect, test } from "vitest";
import type { Rule } from "../audience";
import { createBlock, parseEmail } from "../blocks";
import { type Block, blocksOf, type Email, type Inline, paragraphOf } from "../email";
import { sampleEmail } from "../render/sample";
import { namedKey, namesIn, renamed } from ".";
import { everyBlock } from "./arbitrary";

const tag = (field: string, fallback = ""): Inline => ({
  type: "mergeTag",
  attrs: { field, fallback, format: "asIs" },
});
const list = (id: string): Rule => ({ kind: "list", list: id, in: true });
const segment: Rule = { kind: "segment", segment: "s1", in: true };

function design(): Email {
  const block = (type: Parameters<typeof createBlock>[0], id: string, more: object): Block =>
    ({ ...createBlock(type, id), ...more }) as Block;
  const email = sampleEmail(1);
  const blocks = [
    block("text", "t", {
      content: {
        type: "doc",
        content: [
          paragraphOf(
            "Hello ",
            tag("nick", "friend"),
            ", by ",
            tag("lookup.map.address"),
            { type: "text", text: "{$nick}" },
            {
              type: "either",
              attrs: {
                cases: [
                  { when: segment, words: [{ type: "text", text: "for some" }] },
                  { when: list("l1"), words: [{ type: "text", text: "for a list" }] },
                ],
                otherwise: [{ type: "text", text: "for the rest" }],
              },
            },
          ),
        ],
      },
    }),
    block("button", "b", {
      href: "https://a.example/?k={$code.spring}&n={$nick else=|you|}",
      show: { kind: "all", of: [segment, list("l2")] },
    }),
    block("picks", "a", { source: "feed" }),
    block("coupon", "c", { batch: "spring" }),
  ];
  email.sections.unshift({
    id: "s",
    rows: [{ id: "r", columns: [{ id: "k", width: 100, blocks }] }],
  });
  return parseEmail(email);
}
const keys = (email: Email) =>
  namesIn(email)
    .map(({ kind, key, count }) => `${kind} ${key} ${count}`)
    .sort();

describe("what a design names", () => {
  test("is found wherever it stands: in words, addresses, rules and blocks", () => {
    expect(keys(design())).toEqual(
      [
        "code spring 2",
        "field first_name 1",
        "field branch 1",
        "field nick 2",
        "list l1 1",
        "list l2 1",
        "lookup map 1",
        "segment s1 2",
        "source feed 1",
      ].sort(),
    );
  });

  test("is called otherwise everywhere, and words that look like it stay words", () => {
    const to = new Map([
      ["field nick", "first_name"],
      ["segment s1", "s9"],
      ["list l1", "l9"],
      ["lookup map", "place"],
      ["code spring", "autumn"],
      ["source feed", "journal"],
    ]);
    const next = renamed(design(), to);
    expect(keys(next)).toEqual(
      [
        "code autumn 2",
        "field branch 1",
        "field first_name 3",
        "list l2 1",
        "list l9 1",
        "lookup place 1",
        "segment s9 2",
        "source journal 1",
      ].sort(),
    );
    const text = JSON.stringify(next);
    expect(text).toContain('"text":"{$nick}"');
    expect(text).toContain("https://a.example/?k={$code.autumn}&n={$first_name else=|you|}");
    expect(text).toContain("lookup.place.address");
  });

  test("is left out with what it decides about; a tag says its fallback", () => {
    const next = renamed(
      design(),
      new Map([
        ["field nick", null],
        ["segment s1", null],
        ["source feed", null],
        ["code spring", null],
      ]),
    );
    const [words, ...others] = blocksOf(next);
    expect(others.map(({ type }) => type)).toEqual(["picks", "coupon", "footer"]);
    expect(others[0].source).toBe("");
    expect(others[1].batch).toBe("");
    const said = JSON.stringify(words);
    expect(said).toContain('"text":"friend"');
    expect(said).not.toContain("for some");
    expect(said).toContain("for a list");
  });

  test("the footer stays, whatever its rule named", () => {
    const email = sampleEmail(1);
    email.sections[0].show = list("gone");
    const next = renamed(email, new Map([["list gone", null]]));
    expect(blocksOf(next).map(({ type }) => type)).toEqual(["footer"]);
    expect(next.sections[0].show).toBeUndefined();
  });

  test("stays as it is where nothing is renamed, and is gone where all is left out", () => {
    let next = 0;
    for (const email of [design(), everyBlock(() => `n${next++}`), sampleEmail(60)]) {
      expect(renamed(email, new Map([["field no-such", null]]))).toEqual(email);
      const to = new Map(namesIn(email).map((one) => [namedKey(one), null]));
      expect(namesIn(parseEmail(renamed(email, to)))).toEqual([]);
    }
  });
});
