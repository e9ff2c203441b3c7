import { expect, test } from "vitest";
import { framed } from "./framed";

test("the policy stands in the head, so that the frame stays in the mode for pages of today", () => {
  const html = framed(
    "<!doctype html><html><head><title>a</title></head><body></body></html>",
    "img-src 'self'",
  );
  expect(html).toMatch(
    /^<!doctype html><html><head><meta http-equiv="content-security-policy" content="img-src 'self'">/,
  );
  expect(framed("<p>a</p>", "img-src *")).toMatch(/^<meta [^>]*><p>/);
});
