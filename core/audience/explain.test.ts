/** Why somebody meets a rule: right for whoever it is, and said with what is known of them. */
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { explainRule, predicate, type Rule } from ".";
import { anyContact, anyRule, SEGMENTS } from "./arbitrary";
import type { Contact } from "./contact";

const context = { today: "2026-11-23", zone: "Europe/London", segments: SEGMENTS };
const names = {
  fields: [
    {
      key: "zone",
      label: "Growing zone",
      kind: "choice" as const,
      options: [
        { value: "cool", label: "Cool" },
        { value: "mild", label: "Mild" },
      ],
    },
    { key: "born", label: "Birthday", kind: "date" as const },
    { key: "plants", label: "Interests", kind: "set" as const },
  ],
  lists: new Map([["letter", "Monthly letter"]]),
  segments: new Map([["members", "Members"]]),
};
const said = (rule: Rule, contact: Contact, around = context) => {
  const { met, facts } = explainRule(rule, contact, around, names);
  return { met, facts: facts.map((fact) => fact.map(({ text }) => text).join("")) };
};
const ORDERED = Date.parse("2026-03-03T12:00:00Z");
const ines: Contact = {
  id: 1,
  email: "ines@mail.example",
  fields: { zone: "cool", born: "1988-02-29", plants: ["beans", "peas"] },
  lists: ["letter"],
  history: {
    events: [
      { what: "opened", at: ORDERED, campaign: "spring" },
      { what: "opened", at: ORDERED + 5, campaign: "spring" },
    ],
    orders: [{ at: ORDERED, lines: [{ product: "p", category: "Seeds" }] }],
  },
};
const COOL: Rule = { kind: "field", field: "zone", op: "is", value: "cool" };
const MILD: Rule = { kind: "field", field: "zone", op: "is", value: "mild" };
const SEEDS: Rule = { kind: "did", what: "bought", category: "Seeds", often: "atLeast", times: 1 };
const LETTER: Rule = { kind: "list", list: "letter", in: true };

describe("why", () => {
  test.each<[string, Rule, boolean, string[]]>([
    ["a field", COOL, true, ["growing zone is Cool"]],
    ["a field that says otherwise", MILD, false, ["growing zone is Cool"]],
    ["a field that is empty", { kind: "field", field: "gone", op: "known" }, false, ["gone is not known"]],
    ["a day", { kind: "field", field: "born", op: "known" }, true, ["birthday is 29 February 1988"]],
    [
      "a set",
      { kind: "field", field: "plants", op: "includes", value: "leeks" },
      false,
      ["interests is beans, peas"],
    ],
    ["an order", SEEDS, true, ["ordered something from Seeds once, last on 3 March 2026"]],
    [
      "nothing done in time",
      { ...SEEDS, within: 30 } as Rule,
      false,
      ["never ordered something from Seeds in the last 30 days"],
    ],
    [
      "what was opened, by campaigns",
      { kind: "did", what: "opened", often: "atLeast", times: 2 },
      false,
      ["opened 1 campaign, last on 3 March 2026"],
    ],
    [
      "all of some",
      { kind: "all", of: [COOL, SEEDS] },
      true,
      ["growing zone is Cool", "ordered something from Seeds once, last on 3 March 2026"],
    ],
    ["what breaks all of some", { kind: "all", of: [LETTER, MILD, SEEDS] }, false, ["growing zone is Cool"]],
    ["the first of any", { kind: "any", of: [MILD, LETTER] }, true, ["is on the list Monthly letter"]],
    [
      "none of any, said once",
      { kind: "any", of: [MILD, { kind: "none", of: [COOL] }] },
      false,
      ["growing zone is Cool"],
    ],
    ["what breaks none", { kind: "none", of: [MILD, LETTER] }, false, ["is on the list Monthly letter"]],
  ])("%s", (_, rule, met, facts) => {
    expect(said(rule, ines)).toEqual({ met, facts });
  });

  test("a segment is explained by what it asks", () => {
    const around = {
      ...context,
      segments: new Map<string, Rule>([["members", { kind: "all", of: [COOL, LETTER] }]]),
    };
    const inside: Rule = { kind: "segment", segment: "members", in: true };
    expect(said(inside, ines, around)).toEqual({
      met: true,
      facts: ["growing zone is Cool", "is on the list Monthly letter"],
    });
    expect(said({ ...inside, in: false }, { ...ines, lists: [] }, around)).toEqual({
      met: true,
      facts: ["is not on the list Monthly letter"],
    });
  });

  test("whatever the rule and whoever the reader, it says whether the rule is met, and why", () => {
    fc.assert(
      fc.property(anyRule, anyContact, (rule, contact) => {
        const whole = { ...contact, id: 1 } as unknown as Contact;
        const { met, facts } = explainRule(rule, whole, context, names);
        expect(met).toBe(predicate(rule, context)(whole));
        for (const fact of facts)
          expect(
            fact
              .map(({ text }) => text)
              .join("")
              .trim(),
          ).not.toBe("");
      }),
      { numRuns: 400 },
    );
  });

  test("for 200 readers and rules it agrees with the rule worked out by hand, and names what decides", () => {
    const readers = fc.record({
      zone: fc.constantFrom("cool", "mild", undefined),
      letter: fc.boolean(),
      orders: fc.array(fc.constantFrom(-400, -40, -4), { maxLength: 3 }),
    });
    const now = Date.parse("2026-11-23T09:00:00Z");
    const bought: Rule = { kind: "did", what: "bought", often: "atLeast", times: 2, within: 90 };
    fc.assert(
      fc.property(readers, fc.constantFrom("all", "any", "none"), ({ zone, letter, orders }, kind) => {
        const reader: Contact = {
          ...ines,
          fields: zone === undefined ? {} : { zone },
          lists: letter ? ["letter"] : [],
          history: { events: [], orders: orders.map((days) => ({ at: now + days * 86_400_000, lines: [] })) },
        };
        const lines = [zone === "cool", letter, orders.filter((days) => days > -90).length >= 2];
        const byHand =
          kind === "all"
            ? lines[0] && lines[1] && lines[2]
            : kind === "any"
              ? lines[0] || lines[1] || lines[2]
              : !(lines[0] || lines[1] || lines[2]);
        const { met, facts } = said({ kind, of: [COOL, LETTER, bought] }, reader);
        expect(met).toBe(byHand);
        // Where one line decides, it alone is named.
        const alone = kind === "any" ? met : !met;
        expect(facts).toHaveLength(alone ? 1 : 3);
        if (alone) {
          const decides = lines.indexOf(kind !== "all");
          const starts = ["growing zone is", "is on the list", ""][decides];
          const otherwise = ["growing zone is", "is not on the list", ""][decides];
          expect(facts[0].startsWith(starts) || facts[0].startsWith(otherwise)).toBe(true);
        }
      }),
      { numRuns: 200 },
    );
  });
});
