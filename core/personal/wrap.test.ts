import fc from "fast-check";
import { expect, test } from "vitest";
import type { Code } from "../program";
import { wrapCode } from "./wrap";

const text = fc.stringMatching(/^[a-z .\n-]{0,120}$/);
const code: fc.Arbitrary<Code> = fc.array(
  fc.oneof(
    text.map((it) => ({ op: "static" as const, text: it })),
    fc.constant({ op: "value" as const, slot: 0 }),
  ),
  { maxLength: 8 },
);
/** What a reader with ten letters in place of each value sees. */
const shown = (ops: Code) => ops.map((op) => (op.op === "static" ? op.text : "x".repeat(10))).join("");

test("wrapping changes nothing but spaces into line ends, and no line that could be shorter is too long", () => {
  fc.assert(
    fc.property(code, fc.integer({ min: 20, max: 60 }), (ops, width) => {
      const wrapped = wrapCode(ops, width);
      expect(wrapped.map((op) => op.op)).toEqual(ops.map((op) => op.op));
      expect(shown(wrapped).replace(/\s+/g, " ")).toBe(shown(ops).replace(/\s+/g, " "));
      for (const line of shown(wrapped).split("\n")) {
        // Right after the mark of a list there is no place to break.
        const words = line
          .replace(/^ *([-*]|\d{1,3}\.) +/, "")
          .trim()
          .split(/ +/);
        if (words.length > 2) expect(line.trimEnd().length).toBeLessThanOrEqual(width + 1);
      }
      expect(wrapCode(ops, 0)).toEqual(ops);
    }),
    { numRuns: 400 },
  );
});

test("lists go on below their words, addresses stay whole, jumps stay where they were", () => {
  const address = `https://a.example/${"long/".repeat(12)}`;
  const ops: Code = [
    { op: "static", text: "- one two three four five six\n" },
    { op: "unless", rule: 0, to: 3 },
    { op: "static", text: `See ${address} now and then some more` },
  ];
  const wrapped = wrapCode(ops, 20);
  expect(wrapped[0]).toEqual({ op: "static", text: "- one two three four\n  five six\n" });
  expect(wrapped[1]).toEqual(ops[1]);
  expect((wrapped[2] as { text: string }).text).toBe(`See\n${address}\nnow and then some\nmore`);
});
