import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { parseEmail } from "../blocks";
import { type Email, findNode, type Located, type Section, walk } from "../email";
import { sampleEmail } from "../render/sample";
import { difference, rebase } from "../steps";
import { CLIPPINGS } from "../templates";
import { commandBy } from "./arbitrary";
import {
  type Clipping,
  changesLinked,
  cutLoose,
  heldBy,
  keptPart,
  linkedAround,
  linkedParts,
  linkTo,
  placedClipping,
  withClipping,
} from "./clippings";
import { CommandError, changeEmail, commands } from "./commands";
import { translate } from "./translations";

const base = sampleEmail(12);
const first = (kind: Located["kind"], email: Email = base) =>
  [...walk(email)].find(
    (it) => it.kind === kind && !(it.kind === "block" && it.node.type === "footer"),
  ) as Located;
const clippingOf = (it: Located, id = "k"): Clipping => ({ id, name: "Kept", ...keptPart(it) });
const plainOf = (email: Email) => JSON.parse(JSON.stringify(email)) as Email;

/** A design in which the first part of a kind is linked to what was kept of it. */
function linked(kind: "section" | "row" | "block") {
  const it = first(kind);
  const clipping = clippingOf(it);
  return { clipping, id: it.node.id, email: changeEmail(base, linkTo(it.node.id, clipping)).email };
}

describe.each(["section", "row", "block"] as const)("a %s", (kind) => {
  test("linked where it stands looks as before, and is kept again as the same", () => {
    const { clipping, id, email } = linked(kind);
    expect(linkedParts(email)).toEqual([{ id, clipping: "k" }]);
    const again = keptPart(findNode(email, id) as Located);
    expect(again).toEqual({ part: kind, node: clipping.node });
    expect(parseEmail(plainOf(email))).toEqual(email);
  });

  test("follows its clipping, and keeps its show rule and its own id", () => {
    const { clipping, id, email } = linked(kind);
    const ruled = changeEmail(email, commands.set(id, { show: { kind: "all", of: [] } })).email;
    const changed: Clipping = {
      ...clipping,
      node: { ...clipping.node, padding: { top: 1, right: 2, bottom: 3, left: 4 } },
    };
    const after = withClipping(ruled, changed);
    expect(findNode(after, id)?.node).toMatchObject({
      id,
      clipping: "k",
      show: { kind: "all", of: [] },
      padding: { top: 1, right: 2, bottom: 3, left: 4 },
    });
    // One property and nothing else: parts inside are found again by their ids.
    expect(difference(ruled, after)).toHaveLength(1);
  });

  test("cut loose stays as it is and follows no more", () => {
    const { clipping, id, email } = linked(kind);
    const loose = changeEmail(email, cutLoose(id)).email;
    expect(linkedParts(loose)).toEqual([]);
    expect(withClipping(loose, { ...clipping, node: { ...clipping.node, name: "Another" } })).toEqual(loose);
  });
});

test("the same clipping can stand twice in one email", () => {
  const { clipping, email } = linked("section");
  const twice = {
    ...email,
    sections: [placedClipping(clipping, "second", true) as Section, ...email.sections],
  };
  const ids = [...walk(twice)].map(({ node }) => node.id);
  expect(new Set(ids).size).toBe(ids.length);
  const after = withClipping(twice, {
    ...clipping,
    node: { ...clipping.node, background: "#ABCDEF" } as Section,
  });
  expect(after.sections.filter(({ background }) => background === "#ABCDEF")).toHaveLength(2);
});

test("the footer is not kept, nor a column by itself", () => {
  const footer = [...walk(base)].find((it) => it.kind === "block" && it.node.type === "footer") as Located;
  expect(() => keptPart(footer)).toThrow(CommandError);
  expect(() => keptPart(first("column"))).toThrow("Select the row");
  const section = findNode(base, base.sections.at(-1)?.id as string) as Located;
  expect(JSON.stringify(keptPart(section))).not.toContain('"footer"');
});

describe("a linked part is not changed by the way", () => {
  const { id, email } = linked("row");
  const inside = [...walk(email)].find(
    (it) => it.kind === "block" && linkedAround(email, it.node.id)?.node.id === id,
  ) as Located;
  const stands = (command: ReturnType<typeof commands.set>, opened: string | null = null) =>
    changesLinked(email, changeEmail(email, command).steps, opened)?.node.id;
  let next = 0;
  const newId = () => `n${++next}`;

  test.each([
    ["words inside", commands.set(inside.node.id, { name: "Another" })],
    [
      "what it says in another language",
      translate([
        {
          unit: { block: inside.node.id, path: "content" },
          language: "de",
          there: { value: "Laub", of: "Leaf" },
        },
      ]),
    ],
    ["its own look", commands.set(id, { padding: { top: 0, right: 0, bottom: 0, left: 0 } })],
    ["taking out of it", commands.remove(inside.node.id)],
    ["putting into it", commands.duplicate(inside.node.id, newId)],
    ["dividing it", commands.divide(id, [50, 50], newId)],
  ])("%s", (_what, command) => {
    expect(stands(command)).toBe(id);
    expect(stands(command, id)).toBeUndefined();
  });

  test("and so it is known beforehand of each part whether it may be changed", () => {
    for (const it of walk(email)) {
      const around = linkedAround(email, it.node.id)?.node.id;
      expect(heldBy(email, it.node.id, null)?.node.id).toBe(around);
      expect(heldBy(email, it.node.id, id)).toBeUndefined();
      expect(heldBy(email, it.node.id, "every")).toBeUndefined();
      expect(heldBy(email, it.node.id, "another")?.node.id).toBe(around);
    }
  });

  test.each([
    ["who gets it", commands.set(id, { show: { kind: "all", of: [] } })],
    ["taking it out", commands.remove(id)],
    ["cutting it loose", cutLoose(id)],
    ["another part", commands.set(first("section").node.id, { background: "#ABCDEF" })],
  ])("but %s is free", (_what, command) => expect(stands(command)).toBeUndefined());
});

test("whatever was done to a design, its linked parts come to be as the clipping is, and nothing else changes", () => {
  fc.assert(
    fc.property(
      fc.constantFrom("section", "row", "block"),
      fc.array(fc.tuple(fc.nat(200), fc.nat(200), fc.nat(200)), { maxLength: 10 }),
      (kind, numbers) => {
        const { clipping, email } = linked(kind as "row");
        let next = 0;
        let draft = email;
        for (const three of numbers) {
          try {
            const change = changeEmail(
              draft,
              commandBy(draft, three, () => `d${++next}`),
            );
            if (!changesLinked(draft, change.steps, null)) draft = change.email;
          } catch (error) {
            if (!(error instanceof CommandError)) throw error;
          }
        }
        const changed = { ...clipping, node: { ...clipping.node, name: "As it is now" } };
        const after = withClipping(draft, changed);
        for (const { id } of linkedParts(after)) {
          const it = findNode(after, id) as Located;
          expect(keptPart(it).node).toEqual(changed.node);
        }
        // By steps, as it is saved, it comes to the same.
        expect(rebase(draft, difference(draft, after)).email).toEqual(after);
        const loose = (one: Email) =>
          [...walk(one)].filter(({ node }) => !linkedAround(one, node.id)).map(({ node }) => node.id);
        expect(loose(after)).toEqual(loose(draft));
      },
    ),
    { numRuns: 200 },
  );
});

test("each that comes with the program is a whole part", () => {
  expect(CLIPPINGS.length).toBeGreaterThanOrEqual(12);
  expect(new Set(CLIPPINGS.map(({ id }) => id)).size).toBe(CLIPPINGS.length);
  for (const clipping of CLIPPINGS) {
    const row = { id: "r", columns: [{ id: "c", width: 100, blocks: [] as unknown[] }] };
    const node = placedClipping(clipping, "x", false);
    const section =
      clipping.part === "section"
        ? node
        : {
            id: "s",
            rows: [
              clipping.part === "row" ? node : { ...row, columns: [{ ...row.columns[0], blocks: [node] }] },
            ],
          };
    const email = { ...base, sections: [section, ...base.sections] };
    expect(parseEmail(plainOf(email as Email))).toEqual(email);
  }
});
