import fc from "fast-check";
import { describe, expect, test } from "vitest";
import type { Rule } from "../audience";
import { Pool, resolve, shortened, Writer } from ".";

const rule = (value: string): Rule => ({ kind: "field", field: "zone", op: "is", value });
const slot = (field: string) => ({ field, fallback: "", format: "asIs", sink: "html" as const });

describe("a writer", () => {
  test("joins what is static, and keeps equal rules and values once", () => {
    const pool = new Pool();
    const out = new Writer(pool);
    out.raw("a").raw("").escaped("<b>").value(slot("x")).value(slot("x"));
    out.when(rule("cool"), () => out.raw("c"));
    out.when(rule("cool"), () => out.raw("d"));
    out.when(undefined, () => out.raw("e"));
    const list = out.finish();
    expect(list[0]).toEqual({ op: "static", text: "a&lt;b&gt;" });
    expect(pool.slots).toHaveLength(1);
    expect(pool.rules).toEqual([rule("cool")]);
    expect(list.filter(({ op }) => op === "unless")).toHaveLength(2);
  });
});

describe("resolving", () => {
  test("joins what stands side by side, and turns labels into places", () => {
    const pool = new Pool();
    const out = new Writer(pool);
    out.raw("before ");
    const inner = new Writer(pool);
    inner.raw("Beans ");
    out.append(inner.finish());
    out.raw("after ");
    out.when(rule("cool"), () => out.raw("cool "));
    out.raw("end");
    const code = resolve(out.finish());
    expect(code).toEqual([
      { op: "static", text: "before Beans after " },
      { op: "unless", rule: 0, to: 3 },
      { op: "static", text: "cool " },
      { op: "static", text: "end" },
    ]);
  });

  test("whatever rules hold, exactly what stands under them is run", () => {
    // A tree of words and rules, written and run, says what walking the tree says.
    type Piece =
      | { words: string }
      | { value: string; inside: Piece[] }
      | { cases: { value: string; inside: Piece[] }[]; otherwise: Piece[] };
    const { piece } = fc.letrec<{ piece: Piece }>((tie) => ({
      piece: fc.oneof(
        { depthSize: "small" },
        fc.record({ words: fc.string({ maxLength: 4 }) }),
        fc.record({
          value: fc.constantFrom("a", "b", "c"),
          inside: fc.array(tie("piece"), { maxLength: 3 }),
        }),
        fc.record({
          cases: fc.array(
            fc.record({
              value: fc.constantFrom("a", "b", "c"),
              inside: fc.array(tie("piece"), { maxLength: 2 }),
            }),
            { maxLength: 3 },
          ),
          otherwise: fc.array(tie("piece"), { maxLength: 2 }),
        }),
      ),
    }));
    const all = (pieces: readonly Piece[], one: (it: Piece) => string) => pieces.map(one).join("");
    const write = (out: Writer, it: Piece): void => {
      const inside = (pieces: readonly Piece[]) => {
        for (const one of pieces) write(out, one);
      };
      if ("words" in it) out.raw(it.words);
      else if ("value" in it) out.when(rule(it.value), () => inside(it.inside));
      else
        out.either(
          it.cases.map((one) => ({ when: rule(one.value), body: () => inside(one.inside) })),
          () => inside(it.otherwise),
        );
    };
    const walk = (it: Piece, holds: ReadonlySet<string>): string => {
      const within = (pieces: readonly Piece[]) => all(pieces, (one) => walk(one, holds));
      if ("words" in it) return it.words;
      if ("value" in it) return holds.has(it.value) ? within(it.inside) : "";
      return within(it.cases.find(({ value }) => holds.has(value))?.inside ?? it.otherwise);
    };
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 5 }), fc.subarray(["a", "b", "c"]), (pieces, subset) => {
        const pool = new Pool();
        const out = new Writer(pool);
        for (const one of pieces) write(out, one);
        const code = resolve(out.finish());
        const holds = new Set(subset);
        let said = "";
        for (let at = 0; at < code.length; at++) {
          const op = code[at];
          if (op.op === "static") said += op.text;
          else if (op.op === "unless" && !holds.has((pool.rules[op.rule] as { value: string }).value))
            at = op.to - 1;
          else if (op.op === "jump") at = op.to - 1;
        }
        expect(said).toBe(pieces.map((one) => walk(one, holds)).join(""));
      }),
    );
  });
});

test("words are shortened to whole ones, as they always were", () => {
  expect(
    ["Runner beans climb", "Runner beans", "Beans and peas, with more"].map((it) => shortened(it, 12)),
  ).toEqual(["Runner beans…", "Runner beans", "Beans and…"]);
  expect(shortened("Donaudampfschiff", 6)).toBe("Donaud…");
});
