import fc from "fast-check";
import { expect, test } from "vitest";
import { BLOCK_TYPES, type BlockTypeName, createBlock, parseEmail } from "../blocks";
import { type Block, type Email, walk } from "../email";
import { bind, bindPart, personalise, previewAddresses, readerOf, run } from "../personal";
import { compile, compileBlock, compileFrame } from "../render";
import { SAMPLE_CONTENT, SAMPLE_OPTIONS, sampleContact } from "../render/sample";
import {
  blankEmail,
  type Command,
  CommandError,
  changeEmail,
  commands,
  fromClip,
  fromShelf,
  History,
  LAYOUTS,
  linksOf,
  placeName,
  placesFor,
  setLinks,
  spreadLook,
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
  const fresh = (): Block => ({
    ...createBlock(names[which % names.length], newId()),
    // With a picture, the canvas has no more places that wait than the message.
    ...(names[which % names.length] === "signature" && { src: "/pictures/x.png" }),
  });
  const blocks = nodes.flatMap((it) => (it.kind === "block" ? [it.node] : []));
  const some = blocks.filter((block, index) => block.type !== "footer" && (index + which) % 3 === 0);
  const places = placesFor(email, { kind: "block" });
  const place = places[where % places.length];
  switch (what % 15) {
    case 7:
      return commands.insertBlocks([fresh(), fresh()], place, newId);
    case 8:
      return commands.moveMany(
        some.map((block) => block.id),
        place,
        newId,
      );
    case 9:
      return commands.duplicateMany(
        some.map((block) => block.id),
        newId,
      );
    case 10:
      return commands.removeMany(some.slice(0, 2).map((block) => block.id));
    case 11:
      return spreadLook(blocks[which % blocks.length].id);
    case 12:
      return fromShelf(blocks[which % blocks.length].id, where % 2 ? "look" : "everything");
    case 13:
      return setLinks(linksOf(email).map((link) => ({ link, href: `https://a.example/${where}` })));
    case 14: {
      const block = blocks[which % blocks.length];
      return commands.set(block.id, {
        phone: { padding: { top: where % 40, right: 0, bottom: 0, left: 0 } },
      });
    }
    case 0: {
      return commands.insert(fresh(), "block", place, newId);
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

const world = { content: SAMPLE_CONTENT, audience: { today: "2026-11-23", segments: new Map() } };
const reader = readerOf(sampleContact(1, {}), "en", previewAddresses("https://septima.example"));

/** The canvas as it is put together: the frame, and each block in its slot. */
function canvasHtml(email: Email): string {
  const { widths, ...frame } = compileFrame(email, SAMPLE_OPTIONS);
  const bound = bindPart(frame, world);
  const pieces = new Map(
    [...walk(email)].flatMap((it) => {
      if (it.kind !== "block") return [];
      const piece = bindPart(compileBlock(it.node, widths.get(it.node.id)!, email, SAMPLE_OPTIONS), world);
      return [[it.node.id, run(piece.code, piece, reader)] as const];
    }),
  );
  return run(bound.code, bound, reader).replace(
    /<tr data-slot="([^"]*)"><\/tr>/g,
    (_, id) => pieces.get(id) ?? "lost",
  );
}

const withoutMarks = (html: string) =>
  html
    .replaceAll('<div class="waiting">Drop a block here</div>', "&nbsp;")
    .replace(/<div class="waiting[^>]*>[^<]*<\/div>/g, "")
    .replace(/ data-(node|kind|edit-kind|edit|conditional|field)(="[^"]*")?/g, "")
    .replace(/<span class="reader-value">(.*?)<\/span>/g, "$1");

const messageHtml = (email: Email) => personalise(bind(compile(email, SAMPLE_OPTIONS), world), reader).html;
const bodyOf = (html: string) =>
  html.slice(
    html.indexOf("<table", html.indexOf('aria-roledescription="email"')),
    html.indexOf("</div></body>"),
  );

test("undoing all gives the first document, redoing all the last, the schema always holds, canvas and message agree", () => {
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
      expect(withoutMarks(canvasHtml(last))).toBe(bodyOf(messageHtml(last)));
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
