/** A design that was changed is read again where it was: it holds what the same design read from its text would hold. */
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { blankEmail, changeEmail, LAYOUTS } from "../compose";
import { commandBy, everyBlock } from "../compose/arbitrary";
import { type Email, mapEmail } from "../email";
import { createBlock, parseEmail, rereadEmail } from ".";

let next = 0;
const newId = () => `id${next++}`;
const read = parseEmail(everyBlock(newId));
const again = (email: Email) => parseEmail(JSON.parse(JSON.stringify(email)));

test("what commands make of a design stands as it is, and is what its text is read as", () => {
  const numbers = fc.tuple(fc.nat(1000), fc.nat(1000), fc.nat(1000));
  fc.assert(
    fc.property(numbers, (choice) => {
      let email = read;
      try {
        email = changeEmail(read, commandBy(read, choice, newId)).email;
      } catch {
        return;
      }
      expect(rereadEmail(email, read)).toBe(email);
      expect(again(email)).toEqual(email);
    }),
    { numRuns: 300 },
  );
});

describe("what does not belong in it", () => {
  const first = { section: read.sections[1].id, row: read.sections[1].rows[0].id };
  const changed = (id: string, more: object) =>
    mapEmail(read, (node) => (node.id === id ? ({ ...node, ...more } as typeof node) : node));
  const odd = { nothing: { of: "this" } };

  test.each([
    ["section", first.section],
    ["row", first.row],
    ["column", read.sections[1].rows[0].columns[0].id],
    ["block", read.sections[1].rows[0].columns[0].blocks[0].id],
  ])("is left out of a %s", (_, id) => {
    expect(rereadEmail(changed(id, odd), read)).toEqual(read);
  });

  test("is left out of the email itself", () => {
    expect(rereadEmail({ ...read, ...odd } as Email, read)).toEqual(read);
  });

  test.each([
    ["a width of a section", changed(first.section, { width: 12 })],
    ["a gap of a row", changed(first.row, { gap: "wide" })],
    [
      "seven columns",
      changed(first.row, {
        columns: Array.from({ length: 7 }, (_, at) => ({ id: `c${at}`, width: 14, blocks: [] })),
      }),
    ],
    ["no column", changed(first.row, { columns: [] })],
    ["a subject that is no words", { ...read, envelope: { ...read.envelope, subject: 3 } }],
  ])("is refused: %s", (_, email) => {
    expect(() => rereadEmail(email as Email, read)).toThrow();
    expect(() => again(email as Email)).toThrow();
  });

  test("a block that is broken is kept apart, the others are the very same", () => {
    const [one, other] = read.sections[1].rows[0].columns[0].blocks;
    const broken = rereadEmail(changed(one.id, { content: 3, padding: "much" }), read);
    const [mended, same] = broken.sections[1].rows[0].columns[0].blocks;
    expect(mended.type).toBe("unreadable");
    expect(same).toBe(other);
  });
});

test("parts that were read are taken as they are", () => {
  // Nobody looks at it again: it would not stand.
  const odd = { ...createBlock("text", "odd"), content: 3 };
  const blank = blankEmail(LAYOUTS[1], { name: "Tansy Row", address: "a@b.example" }, "plain", newId);
  const [section] = blank.sections;
  const known = {
    ...blank,
    sections: [{ ...section, rows: [{ id: "r", columns: [{ id: "c", width: 100, blocks: [odd] }] }] }],
  } as Email;
  expect(rereadEmail({ ...known, theme: "plum" }, known).sections[0]).toBe(known.sections[0]);
});
