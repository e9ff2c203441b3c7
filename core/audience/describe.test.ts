/** Rules in the words a designer reads before they send by them. */
import { expect, test } from "vitest";
import { describeRule, type Rule } from ".";

const names = {
  fields: [
    { key: "zone", label: "Zone", kind: "text" as const, options: [{ value: "cool", label: "Cool" }] },
    { key: "orders", label: "Orders", kind: "number" as const },
    { key: "joined", label: "Joined", kind: "date" as const },
  ],
  lists: new Map([["letter", "Monthly letter"]]),
  segments: new Map([["members", "Members"]]),
  campaigns: new Map([["c1", "Winter workshops"]]),
  products: new Map([["p1", "Broad beans"]]),
};
const said = (rule: Rule) =>
  describeRule(rule, names)
    .map(({ text }) => text)
    .join("");
type Did = Extract<Rule, { kind: "did" }>;
type Rest<R> = R extends Did ? Omit<R, "kind"> : never;
const did = (rule: Rest<Did>) => ({ kind: "did", ...rule }) as Did;
const zone: Rule = { kind: "field", field: "zone", op: "is", value: "cool" };
const list = (on: boolean): Rule => ({ kind: "list", list: "letter", in: on });

test.each<[Rule, string]>([
  [list(true), "on the list Monthly letter"],
  [list(false), "not on the list Monthly letter"],
  [{ kind: "list", list: "gone", in: true }, "on the list (deleted list)"],
  [{ kind: "segment", segment: "members", in: true }, "in Members"],
  [{ kind: "segment", segment: "members", in: false }, "not in Members"],
  [zone, "whose zone is Cool"],
  [{ kind: "all", of: [list(true), zone] }, "on the list Monthly letter and whose zone is Cool"],
  [{ kind: "any", of: [list(true), zone] }, "on the list Monthly letter or whose zone is Cool"],
  [{ kind: "none", of: [zone] }, "not: whose zone is Cool"],
  [did({ what: "opened", often: "atLeast", times: 1 }), "who opened a campaign"],
  [did({ what: "opened", often: "atMost", times: 0 }), "who never opened any campaign"],
  [did({ what: "opened", often: "atLeast", times: 2 }), "who opened at least 2 campaigns"],
  [
    did({ what: "opened", often: "atMost", times: 1, within: 30 }),
    "who opened at most 1 campaign in the last 30 days",
  ],
  [did({ what: "opened", often: "atLeast", times: 1, campaign: "c1" }), "who opened Winter workshops"],
  [
    did({ what: "clicked", often: "atLeast", times: 1, link: "https://a.example/" }),
    "who clicked in the link https://a.example/",
  ],
  [
    did({ what: "clicked", often: "atLeast", times: 3, link: "https://a.example/", campaign: "c1" }),
    "who clicked in the link https://a.example/ of Winter workshops at least 3 times",
  ],
  [
    did({ what: "bought", often: "atLeast", times: 1, within: { months: 12 } }),
    "who ordered at least once in the last year",
  ],
  [did({ what: "bought", often: "atLeast", times: 1, product: "p1" }), "who ordered Broad beans"],
  [
    did({ what: "bought", often: "atMost", times: 1, category: "Seeds" }),
    "who ordered something from Seeds at most once",
  ],
  [
    { kind: "field", field: "joined", op: "withinLast", value: { months: 24 } },
    "whose joined was in the last 2 years",
  ],
])("%j reads as it works", (rule, words) => {
  expect(said(rule)).toBe(words);
});
