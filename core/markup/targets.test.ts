import { expect, test } from "vitest";
import { numberedMark } from "../program";
import { sampleContext } from "../render/sample";
import { targetOf, textTarget } from "./targets";

const links = {
  parameters: [
    { name: "from", value: "spring letter" },
    { name: "", value: "nothing" },
  ],
  untracked: ["https://a.example/plain"],
};
const context = sampleContext({ part: "text" });

test.each([
  ["https://a.example/", "https://a.example/?from=spring%20letter"],
  ["https://a.example/?b=1", "https://a.example/?b=1&from=spring%20letter"],
  ["https://a.example/?", "https://a.example/?from=spring%20letter"],
  ["https://a.example/x#part", "https://a.example/x?from=spring%20letter#part"],
  ["https://a.example/plain", "https://a.example/plain"],
  ["mailto:a@b.example", "mailto:a@b.example"],
  ["javascript:x()", "#"],
  ["", "#"],
])("%s leads to %s", (href, target) => {
  expect(targetOf(href, { ...context, links })).toBe(target);
});

test("without parameters an address stays as it is", () => {
  expect(targetOf(" https://a.example/ ", context)).toBe("https://a.example/");
});

test("in the text part an address stands in place, or a mark for its number", () => {
  expect(textTarget("https://a.example/", context, "colon")).toBe(": https://a.example/");
  expect(textTarget("https://a.example/", context, "brackets")).toBe(" (https://a.example/)");
  expect(textTarget("", context, "colon")).toBe("");
  const numbered = { ...context, numbered: true };
  expect(textTarget("https://a.example/", numbered, "colon")).toBe(` ${numberedMark("https://a.example/")}`);
  expect(textTarget("", numbered, "colon")).toBe("");
});
