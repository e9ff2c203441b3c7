import { expect, test } from "vitest";
import type { Rule } from "~/core/audience";
import { asGroup, nextLine, ruleOf } from "./groups";

const option = (value: string) => ({ value, label: value });
const words = {
  fields: [
    { key: "email", label: "Address", kind: "text" },
    { key: "zone", label: "Zone", kind: "choice", options: ["cool", "mild", "warm"].map(option) },
    { key: "plot", label: "Plot", kind: "text" },
  ],
  today: "2026-11-25",
} as unknown as Parameters<typeof nextLine>[0];
const zone = (value: string): Rule => ({ kind: "field", field: "zone", op: "is", value });

test("a further case asks what none of the others does: another value first, then another field", () => {
  expect(nextLine(words, [zone("cool")])).toEqual(zone("mild"));
  expect(nextLine(words, [zone("mild"), zone("cool")])).toEqual(zone("warm"));
  const all = [zone("warm"), zone("mild"), zone("cool")];
  expect(nextLine(words, all)).toEqual({ kind: "field", field: "zone", op: "known" });
  const more = [...all, nextLine(words, all)];
  expect(nextLine(words, more)).toEqual({ kind: "field", field: "plot", op: "known" });
});

test("a group of one line is that line, unless it says that it is not met; without a line there is no rule", () => {
  const line = { kind: "status", status: "subscribed" } as const;
  expect(ruleOf({ kind: "all", of: [line] })).toBe(line);
  expect(ruleOf({ kind: "any", of: [line] })).toBe(line);
  expect(ruleOf({ kind: "none", of: [line] })).toEqual({ kind: "none", of: [line] });
  expect(ruleOf({ kind: "all", of: [line, line] })).toEqual({ kind: "all", of: [line, line] });
  expect(ruleOf({ kind: "all", of: [] })).toBeUndefined();
  expect(ruleOf(asGroup(line))).toBe(line);
});
