/** Quoted-printable against a decoder written from RFC 2045 alone. */
import fc from "fast-check";
import { expect, test } from "vitest";
import { quotedPrintable } from "./quoted-printable";

/** Decodes as the RFC says (6.7), and refuses what it forbids. */
function decoded(octets: Uint8Array): string {
  const lines = Buffer.from(octets).toString("latin1").split("\r\n");
  const out: number[] = [];
  for (const [at, line] of lines.entries()) {
    expect(line).toMatch(/^[\t\x20-\x7e]*$/);
    expect(line).not.toMatch(/[\t ]$/);
    expect(line.length).toBeLessThanOrEqual(76);
    const soft = line.endsWith("=");
    const text = soft ? line.slice(0, -1) : line;
    for (let from = 0; from < text.length; from++) {
      if (text[from] !== "=") out.push(text.charCodeAt(from));
      else {
        expect(text.slice(from + 1, from + 3)).toMatch(/^[0-9A-F]{2}$/);
        out.push(Number.parseInt(text.slice(from + 1, from + 3), 16));
        from += 2;
      }
    }
    if (!soft && at < lines.length - 1) out.push(10);
  }
  return Buffer.from(out).toString("utf8");
}

const texts = fc
  .array(
    fc.oneof(
      { weight: 6, arbitrary: fc.string({ unit: "grapheme", maxLength: 30 }) },
      { weight: 2, arbitrary: fc.constantFrom("\n", " \n", "\t\n", "\r\n", "\r", "  ", "=", "=3D") },
      { weight: 2, arbitrary: fc.integer({ min: 60, max: 90 }).map((length) => "x".repeat(length)) },
      { weight: 1, arbitrary: fc.integer({ min: 60, max: 90 }).map((length) => `${"y ".repeat(length)}é`) },
    ),
    { maxLength: 12 },
  )
  .map((pieces) =>
    pieces.join("").replace(/[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g, "?"),
  );
const ends = (text: string) => text.replace(/\r\n?/g, "\n");

test("what a mail program decodes is what was written, in lines that none may be longer than", () => {
  fc.assert(
    fc.property(texts, (text) => {
      expect(decoded(quotedPrintable(text))).toBe(ends(text));
    }),
    { numRuns: 500 },
  );
});

test("pieces that are encoded one by one can be put together", () => {
  fc.assert(
    fc.property(fc.array(texts, { maxLength: 5 }), (pieces) => {
      const whole = Buffer.concat(pieces.map(quotedPrintable));
      expect(decoded(whole)).toBe(pieces.map(ends).join(""));
    }),
    { numRuns: 300 },
  );
});

test("only what must be is written as numbers, and lines are broken only when they are full", () => {
  const words = "“Käse” = a\tb ";
  const written = Buffer.from(quotedPrintable(words)).toString("latin1");
  expect(written).toBe("=E2=80=9CK=C3=A4se=E2=80=9D =3D a\tb=20=\r\n");
  expect(Buffer.from(quotedPrintable("~ !\n")).toString("latin1")).toBe("~ !\r\n");
  const long = Buffer.from(quotedPrintable("x".repeat(1000)))
    .toString("latin1")
    .split("\r\n");
  for (const line of long.slice(0, -2)) expect(line.length).toBeGreaterThanOrEqual(70);
  const accents = Buffer.from(quotedPrintable("é".repeat(500)))
    .toString("latin1")
    .split("\r\n");
  for (const line of accents.slice(0, -2)) expect(line.length).toBeGreaterThanOrEqual(70);
  expect(quotedPrintable("")).toHaveLength(0);
});
