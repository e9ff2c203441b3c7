import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { WEB_FONTS } from "~/core/email";
import { readWoff2 } from "./woff2";

const packages = createRequire(import.meta.url);
const shipped = (file: string) =>
  readFileSync(packages.resolve(`@fontsource-variable/${file}/files/${file}-latin-wght-normal.woff2`));

describe("a font file", () => {
  test.each(WEB_FONTS.map((font) => [font.family, font] as const))(
    "%s says its name and weights",
    (family, font) => {
      const facts = readWoff2(shipped(font.file));
      expect(
        facts?.family.replace(/ (Variable|Thin|ExtraLight|Light|Regular|Text|Display|\d+pt).*$/, ""),
      ).toBe(family);
      expect(facts?.weights).toEqual(font.weights);
    },
  );

  test("that is none, cut short or longer than it says is not taken", () => {
    const whole = shipped("fraunces");
    for (const bad of [
      Buffer.alloc(0),
      Buffer.from("wOF2"),
      Buffer.from("not a font at all, but long enough to have a header of forty-eight octets"),
      whole.subarray(0, whole.length - 1),
      whole.subarray(0, 60),
      Buffer.concat([whole, Buffer.from("<script>")]),
    ])
      expect(readWoff2(bad)).toBeNull();
  });

  test("with any octets changed is read or refused, and never throws", () => {
    const whole = shipped("newsreader");
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(400), fc.nat(255)), { minLength: 1, maxLength: 6 }), (changes) => {
        const file = Buffer.from(whole);
        for (const [at, octet] of changes) file[at] = octet;
        const facts = readWoff2(file);
        if (facts) expect(facts.family).not.toBe("");
      }),
      { numRuns: 60 },
    );
  });
});
