import { expect, test } from "vitest";
import { completeHref, isSafeHref } from ".";

test.each([
  ["tansyrow.example", "https://tansyrow.example"],
  [" tansyrow.example/seeds?a=1#b ", "https://tansyrow.example/seeds?a=1#b"],
  ["shop.tansyrow.example:8080/x", "https://shop.tansyrow.example:8080/x"],
  ["localhost:7077/x", "https://localhost:7077/x"],
  ["ines@mail.example", "mailto:ines@mail.example"],
  ["ines@mail.example?subject=Hello", "mailto:ines@mail.example?subject=Hello"],
  ["+44 20 7946 0000", "tel:+442079460000"],
  ["https://a.example/", "https://a.example/"],
  ["MAILTO:a@b.example", "MAILTO:a@b.example"],
  ["javascript:alert(1)", "javascript:alert(1)"],
  ["#top", "#top"],
  ["{address}", "{address}"],
  ["somewhere", "somewhere"],
  ["two words", "two words"],
  ["", ""],
])("“%s” is completed to “%s”", (text, href) => {
  expect(completeHref(text)).toBe(href);
  expect(completeHref(href)).toBe(href);
});

test("what is completed can be followed, and nothing harmful becomes so", () => {
  expect(isSafeHref(completeHref("tansyrow.example"))).toBe(true);
  for (const bad of ["javascript:alert(1)", "data:text/html,x", "vbscript:x", "file:///etc/passwd"])
    expect(isSafeHref(completeHref(bad))).toBe(false);
});
