import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { createBlock, parseEmail } from "../blocks";
import { type Email, findNode, walk } from "../email";
import { sampleEmail } from "../render/sample";
import { type Command, changeEmail, commands, compareEmails, mergeEmails, placesFor } from ".";

const base = parseEmail(sampleEmail(24));
const blocks = [...walk(base)].flatMap((it) => (it.kind === "block" ? [it.node] : []));
const sections = base.sections.slice(0, -1).map((section) => section.id);
const movable = blocks.filter((block) => block.type !== "footer");

/** Does a few things to a design, chosen by numbers; what cannot be done is left out. */
function worked(email: Email, choices: readonly [number, number, number][], side: string): Email {
  let fresh = 0;
  const newId = () => `${side}${fresh++}`;
  let now = email;
  for (const [what, which, where] of choices) {
    const { id } = movable[which % movable.length];
    if (!findNode(now, id) || !findNode(now, sections[which % sections.length])) continue;
    const places = placesFor(now, { kind: "block", id });
    const command: Command = [
      commands.set(id, { name: `${side} ${where}` }),
      commands.set(id, { background: where % 2 ? "#FF0000" : "#00FF00" }),
      commands.remove(id),
      commands.move(id, places[where % places.length], newId),
      commands.insert(createBlock("divider", newId()), "block", places[where % places.length], newId),
      commands.setTheme(side),
      commands.remove(sections[which % sections.length]),
    ][what % 7];
    now = changeEmail(now, command).email;
  }
  return now;
}

const choices = fc.array(fc.tuple(fc.nat(6), fc.nat(40), fc.nat(60)), { maxLength: 6 });
const side = fc.constantFrom("mine" as const, "theirs" as const);

test("with only one side's changes, the result is that side", () => {
  fc.assert(
    fc.property(choices, side, (list, prefer) => {
      const changed = worked(base, list, "x");
      expect(mergeEmails(base, changed, base, prefer)).toEqual({ email: changed, clashes: [] });
      expect(mergeEmails(base, base, changed, prefer)).toEqual({ email: changed, clashes: [] });
      expect(mergeEmails(base, changed, changed, prefer).email).toEqual(changed);
    }),
    { numRuns: 200 },
  );
});

test("with both sides' changes the design is whole, has one footer, no part twice, and nothing new is lost", () => {
  fc.assert(
    fc.property(choices, choices, side, (left, right, prefer) => {
      const mine = worked(base, left, "m");
      const theirs = worked(base, right, "t");
      const { email } = mergeEmails(base, mine, theirs, prefer);
      expect(parseEmail(email)).toEqual(email);
      const ids = [...walk(email)].map((it) => it.node.id);
      expect(new Set(ids).size).toBe(ids.length);
      expect([...walk(email)].filter((it) => it.kind === "block" && it.node.type === "footer")).toHaveLength(
        1,
      );
      for (const from of [mine, theirs])
        for (const it of walk(from))
          if (it.kind === "block" && !findNode(base, it.node.id)) expect(ids).toContain(it.node.id);
    }),
    { numRuns: 300 },
  );
});

describe("one part changed on both sides", () => {
  const { id } = movable[0];
  const mine = changeEmail(base, commands.set(id, { name: "A", background: "#112233" })).email;
  const theirs = changeEmail(base, commands.set(id, { name: "B", hideOn: "phone" })).email;

  test("is a clash where both changed the same thing; the rest comes together", () => {
    const merged = mergeEmails(base, mine, theirs, "theirs");
    expect(merged.clashes).toEqual([id]);
    expect(findNode(merged.email, id)?.node).toMatchObject({
      name: "B",
      background: "#112233",
      hideOn: "phone",
    });
    expect(findNode(mergeEmails(base, mine, theirs, "mine").email, id)?.node).toMatchObject({ name: "A" });
  });

  test("is kept when one side removed it", () => {
    const removed = changeEmail(base, commands.remove(id)).email;
    const merged = mergeEmails(base, mine, removed, "theirs");
    expect(findNode(merged.email, id)?.node).toMatchObject({ name: "A" });
    expect(merged.clashes).toEqual([id]);
  });
});

test("a comparison says what became of each part", () => {
  const [first, second, third] = movable;
  let fresh = 0;
  const newId = () => `n-${fresh++}`;
  const places = placesFor(base, { kind: "block", id: third.id });
  const steps = [
    commands.set(first.id, { name: "New name" }),
    commands.remove(second.id),
    commands.move(third.id, places.at(-3)!, newId),
    commands.setTheme("plum"),
  ];
  let after = base;
  for (const step of steps) after = changeEmail(after, step).email;
  const found = compareEmails(base, after);
  expect(found.parts.get(first.id)).toBe("changed");
  expect(found.parts.get(second.id)).toBe("removed");
  expect(found.parts.get(third.id)).toBe("moved");
  expect(found.whole).toEqual(["the theme"]);
  expect(compareEmails(base, base)).toMatchObject({ words: [], whole: [] });
  expect(compareEmails(after, base).parts.get(second.id)).toBe("added");
});
