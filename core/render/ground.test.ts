import fc from "fast-check";
import { expect, test } from "vitest";
import { contrast } from "../color";
import { commandBy } from "../compose/arbitrary";
import { CommandError, changeEmail } from "../compose/commands";
import { type Email, type Fill, THEMES, walk } from "../email";
import { everySurroundings, groundAt } from ".";
import { SAMPLE_OPTIONS, sampleEmail } from "./sample";

const fills: readonly (Fill | undefined)[] = [
  undefined,
  "table",
  "accent",
  "heading",
  "#24463C",
  "#FFF6E0",
  "#808080",
];
const fill = fc.constantFrom(...fills);

/** A design after some commands, with all its parts on grounds of their own or none. */
function grounded(
  numbers: readonly [number, number, number][],
  grounds: readonly (Fill | undefined)[],
): Email {
  let next = 0;
  const design = numbers.reduce((email, three) => {
    try {
      return changeEmail(
        email,
        commandBy(email, three, () => `new${++next}`),
      ).email;
    } catch (error) {
      if (error instanceof CommandError) return email;
      throw error;
    }
  }, sampleEmail(8));
  const email = structuredClone(design);
  let at = 0;
  const one = () => grounds[at++ % grounds.length];
  for (const it of walk(email)) {
    if (it.kind === "section") {
      Object.assign(it.node, { background: one(), contentBackground: one() });
      if (at % 5 === 0)
        Object.assign(it.node, {
          picture: { src: "/pictures/x.jpg", position: "center", tile: false, open: at % 2 === 0 },
        });
    } else Object.assign(it.node, { background: one() });
  }
  return email;
}

test("what the panel says stands behind a block is what the renderer wrote it on, whatever the design and the theme", () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.nat(200), fc.nat(200), fc.nat(200)), { maxLength: 8 }),
      fc.array(fill, { minLength: 3, maxLength: 11 }),
      fc.constantFrom(...THEMES),
      (numbers, grounds, theme) => {
        const email = grounded(numbers, grounds);
        const surroundings = everySurroundings(email, { ...SAMPLE_OPTIONS, theme });
        for (const it of walk(email)) {
          if (it.kind !== "block") continue;
          const around = surroundings.get(it.node.id);
          if (!around) continue;
          // The frame says what the block stands on in its column; a ground of its own lies above that.
          const bare = { ...it.node, background: undefined };
          const without = structuredClone(email);
          for (const other of walk(without)) if (other.node.id === bare.id) Object.assign(other.node, bare);
          expect(groundAt(without, bare.id, theme)).toEqual(around.ground);
        }
      },
    ),
    { numRuns: 40 },
  );
});

test("whatever a part stands on, the theme’s words for dark can be read on it in dark", () => {
  fc.assert(
    fc.property(fill, fc.constantFrom(...THEMES), (ground, theme) => {
      const email = sampleEmail(1);
      Object.assign(email.sections[0], { contentBackground: ground });
      const [block] = email.sections[0].rows[0].columns[0].blocks;
      expect(contrast(theme.dark.text, groundAt(email, block.id, theme).dark)).toBeGreaterThanOrEqual(4.5);
    }),
  );
});
