import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { createBlock, parseEmail } from "../blocks";
import {
  type AnyNode,
  type Block,
  blocksOf,
  type Email,
  findNode,
  mapLines,
  mapNodes,
  paragraphOf,
  type Words,
  walk,
} from "../email";
import { bind, personalise, previewAddresses, readerOf } from "../personal";
import { canvasBody, messageBody } from "../personal/test-canvas";
import { compile } from "../render";
import { SAMPLE_OPTIONS, sampleContact, sampleEmail, sampleWorld } from "../render/sample";
import { invert, merge, type Packed, PackedStepsSchema, pack, replay, unpack } from "../steps";
import {
  blankEmail,
  CommandError,
  changeEmail,
  commands,
  compareEmails,
  fromClip,
  History,
  LAYOUTS,
  placeName,
  placesFor,
  toClip,
} from ".";
import { commandBy, everyBlock } from "./arbitrary";

let next = 0;
const newId = () => `id${next++}`;
const start = (layout = 1) =>
  blankEmail(LAYOUTS[layout], { name: "Tansy Row", address: "a@b.example" }, "plain", newId);

const world = sampleWorld("2026-11-23");
const reader = readerOf(sampleContact(1, {}), "en", previewAddresses("https://septima.example"));

const messageHtml = (email: Email) => personalise(bind(compile(email, SAMPLE_OPTIONS), world), reader).html;
test("of all block types and commands: the schema holds, undo gives the first, redo the last, canvas and message agree", () => {
  const numbers = fc.tuple(fc.nat(1000), fc.nat(1000), fc.nat(1000));
  fc.assert(
    fc.property(fc.array(numbers, { maxLength: 30 }), (list) => {
      const first = parseEmail(everyBlock(newId));
      let email = first;
      let history = History.empty;
      for (const [index, choice] of list.entries()) {
        try {
          const change = changeEmail(email, commandBy(email, choice, newId));
          expect(unpack(email, wire(pack(change.steps))).email).toEqual(change.email);
          expect(replay(change.email, invert(change.steps))).toEqual(email);
          const merge = choice[0] % 3 === 0 ? "merged" : undefined;
          history = History.add(history, change, "a change", index * 100, merge);
          email = change.email;
        } catch (error) {
          if (!(error instanceof CommandError)) throw error;
        }
        whole(email);
      }
      const last = email;
      const shown = withoutWaiting(last);
      expect(canvasBody(shown, SAMPLE_OPTIONS, world, reader)).toBe(messageBody(messageHtml(shown)));
      expect(merge(first, last, first)).toMatchObject({ email: last, clashes: [] });
      expect(merge(first, first, last)).toMatchObject({ email: last, clashes: [] });
      expect(merge(first, last, last).email).toEqual(last);
      const restored = changeEmail(last, commands.replaceDesign(first, newId));
      expect(restored.email).toEqual(first);
      for (let step = History.undo(history, email); step; step = History.undo(history, email)) {
        expect(step.clashes).toEqual([]);
        ({ email, history } = step);
      }
      expect(email).toEqual(first);
      for (let step = History.redo(history, email); step; step = History.redo(history, email))
        ({ email, history } = step);
      expect(email).toEqual(last);
    }),
    { numRuns: 100 },
  );
});

/** The same with what the canvas alone has a place for: a picture to be chosen, a name to be written. */
function withoutWaiting(email: Email): Email {
  const filled = (node: AnyNode): AnyNode => {
    if (!("type" in node)) return node;
    if (node.type === "signature" && node.src === "") return { ...node, src: "/pictures/x.png" };
    if (node.type === "quote" && (node.source as unknown[]).length === 0)
      return { ...node, source: [{ type: "text", text: "Somebody" }] };
    return node;
  };
  return { ...email, sections: email.sections.map((section) => mapNodes("section", section, filled)) };
}

/** What crosses the wire is JSON. */
const wire = (packed: Packed[]): Packed[] => PackedStepsSchema.parse(JSON.parse(JSON.stringify(packed)));

/** The document is sound: as its schema wants it, no id twice, one footer, rows as wide as they are. */
function whole(email: Email): void {
  expect(parseEmail(email)).toEqual(email);
  const nodes = [...walk(email)];
  expect(new Set(nodes.map((it) => it.node.id)).size).toBe(nodes.length);
  expect(nodes.filter((it) => it.kind === "block" && it.node.type === "footer")).toHaveLength(1);
  for (const it of nodes) {
    if (it.kind !== "row") continue;
    const total = it.node.columns.reduce((sum, column) => sum + column.width, 0);
    expect(Math.abs(total - 100)).toBeLessThan(0.5);
  }
}

describe("two people in one design", () => {
  const numbers = fc.array(fc.tuple(fc.nat(1000), fc.nat(1000), fc.nat(1000)), { maxLength: 6 });
  const base = parseEmail(everyBlock(newId));

  function worked(list: readonly [number, number, number][], side: string): Email {
    let fresh = 0;
    let now = base;
    for (const choice of list) {
      try {
        now = changeEmail(
          now,
          commandBy(now, choice, () => `${side}${fresh++}`),
        ).email;
      } catch (error) {
        if (!(error instanceof CommandError)) throw error;
      }
    }
    return now;
  }

  test("what comes together is sound, and no new part is lost", () => {
    fc.assert(
      fc.property(numbers, numbers, (left, right) => {
        const [mine, theirs] = [worked(left, "m"), worked(right, "t")];
        const merged = merge(base, mine, theirs);
        whole(merged.email);
        for (const from of [mine, theirs])
          for (const it of walk(from))
            if (it.kind === "block" && !findNode(base, it.node.id))
              expect(findNode(merged.email, it.node.id)).toBeDefined();
      }),
      { numRuns: 250 },
    );
  });

  test("words that both wrote stand there, or are asked about", () => {
    const write = fc.array(fc.tuple(fc.nat(30), fc.nat(1000)), { minLength: 1, maxLength: 6 });
    const typed = (
      email: Email,
      list: readonly [number, number][],
      side: string,
    ): { email: Email; words: string[] } => {
      let now = email;
      const words: string[] = [];
      const blocks = blocksOf(email).filter((block) => block.type === "text" || block.type === "heading");
      for (const [which, n] of list) {
        const { id } = blocks[which % blocks.length];
        const node = findNode(now, id)?.node as Block;
        const word = `${side}${words.length}x`;
        words.push(word);
        const content = mapLines(node.content as Words, (line, at) =>
          at > 0
            ? line
            : [
                ...line.slice(0, n % (line.length + 1)),
                { type: "text", text: ` ${word} ` },
                ...line.slice(n % (line.length + 1)),
              ],
        );
        now = changeEmail(now, commands.setAt(id, "content", content)).email;
      }
      return { email: now, words };
    };
    fc.assert(
      fc.property(write, write, (left, right) => {
        const [mine, theirs] = [typed(base, left, "m"), typed(base, right, "t")];
        const merged = merge(base, mine.email, theirs.email);
        const [there, asked] = [JSON.stringify(merged.email), JSON.stringify(merged.clashes)];
        for (const word of theirs.words) expect(there).toContain(word);
        for (const word of mine.words) expect(there + asked).toContain(word);
        // Both only added words, so nothing contradicts.
        expect(merged.clashes).toEqual([]);
      }),
      { numRuns: 200 },
    );
  });
});

test("500 key strokes in a block of 200 KB take less than 1 MB to undo", () => {
  const paragraph = {
    type: "paragraph" as const,
    content: [{ type: "text" as const, text: "words ".repeat(400) }],
  };
  let email = start(0);
  const text = blocksOf(email).find((block) => block.type === "text") as Block;
  const doc = (last: string) => ({
    type: "doc" as const,
    content: [...Array.from({ length: 84 }, () => structuredClone(paragraph)), paragraphOf(last)],
  });
  email = changeEmail(email, commands.setAt(text.id, "content", doc("-"))).email;
  expect(JSON.stringify(email).length).toBeGreaterThan(200_000);
  const before = email;
  let history = History.empty;
  let typed = "";
  for (let at = 0; at < 500; at++) {
    typed += String.fromCharCode(97 + (at % 26));
    const change = changeEmail(email, commands.setAt(text.id, "content", doc(typed)));
    // Slowly, so that every ten strokes are undone by themselves.
    history = History.add(history, change, "Typing", at * 10 + Math.floor(at / 10) * 5000, "typing");
    email = change.email;
  }
  expect(history.done).toHaveLength(50);
  const own = new Set<unknown>();
  const size = (value: unknown): number => {
    if (typeof value === "string") return value.length;
    if (typeof value !== "object" || value === null || own.has(value)) return 8;
    own.add(value);
    return Object.entries(value).reduce((sum, [key, one]) => sum + key.length + size(one), 0);
  };
  size(before);
  expect(size(history)).toBeLessThan(1_000_000);
  for (let step = History.undo(history, email); step; step = History.undo(history, email))
    ({ email, history } = step);
  expect(email).toEqual(before);
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
  expect(changeEmail(email, commands.move(footer.node.id, place, newId)).steps.length).toBeGreaterThan(0);
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
      // One footer is there already, and columns go with their rows.
      expect(it.kind === "column" || (it.kind === "block" && it.node.type === "footer")).toBe(true);
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

test("a comparison says what became of each part", () => {
  const base = parseEmail(sampleEmail(24));
  const [first, second, third] = blocksOf(base).filter((block) => block.type !== "footer");
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
