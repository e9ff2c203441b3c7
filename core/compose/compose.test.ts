import fc from "fast-check";
import { expect, test } from "vitest";
import { BLOCK_TYPES, type BlockTypeName, createBlock, parseEmail } from "../blocks";
import { type Email, walk } from "../email";
import {
  blankEmail,
  type Command,
  CommandError,
  changeEmail,
  commands,
  fromClip,
  History,
  LAYOUTS,
  placeName,
  placesFor,
  toClip,
} from ".";

let next = 0;
const newId = () => `id${next++}`;
const start = (layout = 1) =>
  blankEmail(LAYOUTS[layout], { name: "Tansy Row", address: "a@b.example" }, "plain", newId);

/** A command chosen by numbers, among those that the document allows. */
function commandFor(email: Email, what: number, where: number, which: number): Command {
  const nodes = [...walk(email)];
  const node = nodes[which % nodes.length];
  const names = Object.keys(BLOCK_TYPES).filter((name) => name !== "footer") as BlockTypeName[];
  switch (what % 7) {
    case 0: {
      const places = placesFor(email, { kind: "block" });
      return commands.insert(
        createBlock(names[which % names.length], newId()),
        "block",
        places[where % places.length],
        newId,
      );
    }
    case 1: {
      if (node.kind === "column") return commands.set(node.node.id, { background: "#FFEEDD" });
      const places = placesFor(email, { kind: node.kind, id: node.node.id });
      return places.length === 0
        ? () => {}
        : commands.move(node.node.id, places[where % places.length], newId);
    }
    case 2:
      return commands.remove(node.node.id);
    case 3:
      return commands.duplicate(node.node.id, newId);
    case 4:
      return commands.set(
        node.node.id,
        node.kind === "column" ? { background: undefined } : { name: `Name ${where}` },
      );
    case 5:
      return node.kind === "row"
        ? commands.divide(node.node.id, [[100], [50, 50], [30, 40, 30]][where % 3], newId)
        : () => {};
    default:
      return commands.setEnvelope({ subject: [{ type: "text", text: `Subject ${where}` }] });
  }
}

test("undoing all gives the first document, redoing all the last, and the schema always holds", () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(), fc.nat(), fc.nat()), { maxLength: 40 }), (steps) => {
      const first = start();
      let email = first;
      let history = History.empty;
      for (const [index, [what, where, which]] of steps.entries()) {
        try {
          const change = changeEmail(email, commandFor(email, what, where, which));
          history = History.add(
            history,
            change,
            "a change",
            index * 100,
            what % 3 === 0 ? "merged" : undefined,
          );
          email = change.email;
        } catch (error) {
          if (!(error instanceof CommandError)) throw error;
        }
        expect(parseEmail(email)).toEqual(email);
        const ids = [...walk(email)].map((it) => it.node.id);
        expect(new Set(ids).size).toBe(ids.length);
        expect(
          [...walk(email)].filter((it) => it.kind === "block" && it.node.type === "footer"),
        ).toHaveLength(1);
      }
      const last = email;
      for (let step = History.undo(history, email); step; step = History.undo(history, email))
        ({ email, history } = step);
      expect(email).toEqual(first);
      for (let step = History.redo(history, email); step; step = History.redo(history, email))
        ({ email, history } = step);
      expect(email).toEqual(last);
    }),
    { numRuns: 150 },
  );
});

test("moving lands exactly at the place: where a new block put there would stand", () => {
  const email = start();
  const order = (it: Email) =>
    [...walk(it)].filter((node) => node.kind === "block").map((node) => node.node.id);
  const moved = order(email)[1];
  const places = placesFor(email, { kind: "block", id: moved });
  expect(places.length).toBeGreaterThan(8);
  for (const place of places) {
    const marked = changeEmail(
      email,
      commands.insert(createBlock("spacer", "marker"), "block", place, newId),
    ).email;
    const wanted = order(marked)
      .filter((id) => id !== moved)
      .map((id) => (id === "marker" ? moved : id));
    const after = changeEmail(email, commands.move(moved, place, newId)).email;
    expect(order(after)).toEqual(wanted);
    expect(after).not.toEqual(email);
  }
});

test("every place has a name of its own that says where", () => {
  const email = start();
  const names = placesFor(email, { kind: "block" }).map((place) => placeName(email, place));
  expect(names).toContain("after “First story”, in column 1");
  expect(names).toContain("below the row of “The news in a line”");
  expect(names.every((name) => name !== "here")).toBe(true);
});

test("the footer can be moved but not deleted or doubled", () => {
  const email = start();
  const footer = [...walk(email)].find((it) => it.kind === "block" && it.node.type === "footer")!;
  expect(() => changeEmail(email, commands.remove(footer.node.id))).toThrow("unsubscribe link");
  expect(() => changeEmail(email, commands.remove(email.sections.at(-1)!.id))).toThrow("unsubscribe link");
  expect(() => changeEmail(email, commands.duplicate(footer.node.id, newId))).toThrow("one footer");
  const [place] = placesFor(email, { kind: "block", id: footer.node.id });
  expect(changeEmail(email, commands.move(footer.node.id, place, newId)).forward.length).toBeGreaterThan(0);
});

test("typing that follows closely is one step to undo", () => {
  let email = start();
  let history = History.empty;
  for (const [index, text] of ["B", "Be", "Bean"].entries()) {
    const change = changeEmail(email, commands.setEnvelope({ subject: [{ type: "text", text }] }));
    history = History.add(history, change, "Typing", index * 200, "typing subject");
    email = change.email;
  }
  expect(history.done).toHaveLength(1);
  expect(History.undo(history, email)!.email.envelope.subject).toEqual([]);
});

test("fewer columns lose nothing", () => {
  const email = start();
  const row = email.sections[1].rows[1];
  const divided = changeEmail(email, commands.divide(row.id, [100], newId)).email;
  expect(divided.sections[1].rows[1].columns[0].blocks).toHaveLength(6);
});

test("what is copied comes back whole with new ids; what is no part of an email comes back as nothing", () => {
  const email = start();
  for (const it of walk(email)) {
    const clip = toClip(it);
    if (clip === null) {
      expect(it.kind).toBe("column");
      continue;
    }
    const back = fromClip(clip, newId);
    if (JSON.stringify(it.node).includes('"footer"')) {
      expect(JSON.stringify(back) ?? "").not.toContain('"footer"');
      continue;
    }
    const bare = (node: unknown) =>
      JSON.parse(JSON.stringify(node), (key, value) => (key === "id" ? undefined : value));
    expect(bare(back?.node)).toEqual(bare(it.node));
    expect(back?.node.id).not.toBe(it.node.id);
  }
  for (const text of [
    "",
    "words",
    "{}",
    '{"septima":1,"kind":"block","node":{"id":"x","type":"heading","level":9}}',
    '{"septima":1,"kind":"row","node":{"id":"x"}}',
  ]) {
    expect(fromClip(text, newId)).toBeNull();
  }
});
