import { describe, expect, test } from "vitest";
import type { FieldDef, Rule, RuleNames } from "../audience";
import { blankEmail, LAYOUTS } from "../compose";
import { versionsOf } from "../translation";
import { editionWords } from "./traits";

const field = (key: string, label: string, options?: FieldDef["options"]): FieldDef => ({
  key,
  label,
  kind: options ? "choice" : "text",
  ...(options && { options }),
});
const NAMES: RuleNames = {
  fields: [
    field("zone", "Growing zone", [
      { value: "mild", label: "Mild" },
      { value: "cool", label: "Cool" },
    ]),
    field("first_name", "First name"),
    field("language", "Language"),
  ],
  lists: new Map([["club", "Seed club"]]),
  segments: new Map(),
};
const is = (of: string, value: string): Rule => ({ kind: "field", field: of, op: "is", value });
const edition = (
  met: string,
  more: Partial<Parameters<ReturnType<typeof editionWords>["traits"]>[0]> = {},
) => ({
  met,
  fallbacks: [],
  language: null,
  codes: [],
  ...more,
});

/** What makes each of the editions, and what splits them. */
function told(asked: Rule[], editions: ReturnType<typeof edition>[], own = "en") {
  const words = editionWords(asked, editions, NAMES, own);
  return {
    splits: words.splits.map(({ label, ways }) => `${label} ×${ways}`),
    traits: editions.map((one) => words.traits(one).join("; ")),
  };
}

describe("what makes an edition, in words", () => {
  test("rules on one field are one split; who meets none of them has another value", () => {
    const asked = [is("zone", "mild"), is("zone", "cool")];
    expect(told(asked, [edition("20"), edition("12"), edition("11")])).toEqual({
      splits: ["Growing zone ×3"],
      traits: ["Mild", "Cool", "another growing zone"],
    });
  });

  test("a rule that stands alone is said for those who meet it, and turned round for the others", () => {
    const asked: Rule[] = [{ kind: "list", list: "club", in: true }, is("first_name", "Ada")];
    const { splits, traits } = told(asked, [edition("22"), edition("11")]);
    expect(splits).toEqual(["on the list Seed club ×2", "First name ×2"]);
    expect(traits[0]).toMatch(/^on the list Seed club; .*Ada$/);
    expect(traits[1]).toMatch(/^not on the list Seed club; .*not.*Ada$/);
  });

  test("what all answer alike, and what is not asked of somebody, makes no edition", () => {
    const asked = [is("zone", "mild"), is("first_name", "Ada")];
    expect(told(asked, [edition("20"), edition("21"), edition("22")])).toEqual({
      splits: ["First name ×3"],
      traits: [
        expect.not.stringContaining("Mild"),
        expect.stringContaining("Ada"),
        expect.stringContaining("Ada"),
      ],
    });
    expect(told(asked, [edition("20"), edition("22")]).traits[0]).toBe("");
  });

  test("the language comes first, as a rule or as that of dates; without one it is the design's own", () => {
    const email = blankEmail(LAYOUTS[0], { name: "Us", address: "us@a.example" }, "plain", () => "n");
    const inGerman = { ...email, translations: { de: {} } };
    const german = versionsOf(inGerman).find(({ language }) => language === "de")?.when as Rule;
    const asked = [is("zone", "mild"), german];
    const { splits, traits } = told(asked, [edition("22"), edition("11")]);
    expect(splits[1]).toBe("Growing zone ×2");
    expect(traits[0]).toMatch(/^German; Mild$/);
    expect(traits[1]).toMatch(/^English; /);
    const local = told([], [edition("", { language: "fr" }), edition("", { language: "en" })]);
    expect(local).toEqual({ splits: ["Language ×2"], traits: ["French", "English"] });
  });

  test("what is missing splits where some have it, and a code is said", () => {
    const some = [
      edition("", { fallbacks: ["first_name"], codes: ["gift"] }),
      edition("", { codes: ["gift"] }),
    ];
    expect(told([], some)).toEqual({
      splits: ["First name missing ×2"],
      traits: ["no first name; a code", "a code"],
    });
    expect(told([], [edition("", { fallbacks: ["plot.size_m"] })])).toEqual({
      splits: [],
      traits: ["no plot size m"],
    });
  });
});
