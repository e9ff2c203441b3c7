import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { type MergeTag, MergeTagSchema, readTyped, TAG_FORMATS, typedTag, typedWords } from ".";

const one = (text: string) => readTyped(text).pieces[0];
const tag = (more: Partial<MergeTag>) => MergeTagSchema.parse({ field: "first_name", ...more });
const wrong = (text: string) => readTyped(text).mistakes.map((it) => it.text);

describe("tags that are typed", () => {
  test.each<[string, Partial<MergeTag>]>([
    ["{$first_name}", {}],
    ["{$first_name else=|friend|}", { fallback: "friend" }],
    ["{$first_name else=friend}", { fallback: "friend" }],
    [
      "{$first_name :text case=upper or=nick_name else=|my friend|}",
      { format: "upper", or: "nick_name", fallback: "my friend" },
    ],
    ["{$branch.phone}", { field: "branch.phone" }],
    ["{$birthday :date}", { field: "birthday", format: "dayMonth" }],
    ["{$date.today :date style=weekday days=14}", { field: "date.today", format: "weekday", days: 14 }],
    ["{$spent :currency currency=EUR}", { field: "spent", format: "money", currency: "EUR" }],
    ["{$interests :list}", { field: "interests", format: "list" }],
    ["{$x else=|a \\| b \\\\ } c|}", { field: "x", fallback: "a | b \\ } c" }],
  ])("%s", (text, meant) => {
    expect(one(text)).toEqual(tag(meant));
    expect(readTyped(text).mistakes).toEqual([]);
  });

  test("stand among words, which keep what is no tag", () => {
    const { pieces, mistakes } = readTyped("a{color:red} Hello {$first_name}, {not} \\{$this} {");
    expect(pieces).toEqual(["a{color:red} Hello ", tag({}), ", {not} {$this} {"]);
    expect(mistakes).toEqual([]);
  });

  test.each([
    ["{$}", "names nothing"],
    ["{$First}", "no name of reader data"],
    ["{$a", "has no end"],
    ["{$a :shout}", "called :shout"],
    ["{$a style=long}", "no option “style”"],
    ["{$a :date style=loud}", "not “loud”"],
    ["{$a else=|x| else=|y|}", "said twice"],
    ["{$a :date days=soon}", "whole number"],
    ["{$a :currency currency=euro}", "three capitals"],
    ["{$a else}", "cannot be read"],
    ["{$a :text :date}", "cannot be read"],
    [`{$a else=|${"x".repeat(201)}|}`, "longer than 200"],
  ])("%s is a mistake, and stays as it stands", (text, said) => {
    expect(wrong(text)[0]).toContain(said);
    expect(readTyped(text).pieces.join("")).toBe(text);
  });

  test("a mistake says where it is", () => {
    expect(readTyped("ab {$x} {$Y} z").mistakes).toMatchObject([{ at: 8, length: 4 }]);
  });

  test("whatever a tag is, it is read as it was typed; words around it stay", () => {
    const name = fc.stringMatching(/^[a-z][a-z0-9_]{0,8}(\.[a-z][a-z0-9_]{0,8})?$/);
    const tags = fc
      .record({
        field: name,
        format: fc.constantFrom(...TAG_FORMATS),
        fallback: fc.string({ maxLength: 30, unit: "grapheme" }),
        or: fc.option(name, { nil: undefined }),
        days: fc.integer({ min: -999, max: 999 }),
        currency: fc.stringMatching(/^[A-Z]{3}$/),
      })
      .map(({ days, currency, or, ...it }) => {
        const dated = /Date|Month|day|year/.test(it.format) && days !== 0;
        return tag({
          ...it,
          ...(or !== undefined && { or }),
          ...(dated && { days }),
          ...(it.format === "money" && { currency }),
        });
      });
    fc.assert(
      fc.property(fc.string(), tags, fc.string(), (before, it, after) => {
        const text = typedWords(before.replace(/\\+$/, "")) + typedTag(it) + typedWords(after);
        const { pieces, mistakes } = readTyped(text);
        expect(mistakes).toEqual([]);
        expect(pieces.filter((piece) => typeof piece !== "string")).toEqual([it]);
        expect(pieces.filter((piece) => typeof piece === "string").join("")).toBe(
          before.replace(/\\+$/, "") + after,
        );
      }),
    );
  });
});
