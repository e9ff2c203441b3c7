/** A hand at the composer that does anything in any order: what is selected is there, the design holds, undo leads back. */
import fc from "fast-check";
import { beforeEach, expect, test, vi } from "vitest";
import { BLOCK_TYPES, type BlockTypeName, parseEmail } from "~/core/blocks";
import { placesFor, readingOrder } from "~/core/compose";
import { everyBlock } from "~/core/compose/arbitrary";
import { blocksOf, type Email, findNode, walk } from "~/core/email";
import { selectedIds } from "./store";
import { openComposer, type TestComposer } from "./test-composer";

beforeEach(() => void vi.stubGlobal("requestAnimationFrame", () => 0));

let ids = 0;
const first = parseEmail(everyBlock(() => `e${ids++}`));
const TYPES = (Object.keys(BLOCK_TYPES) as BlockTypeName[]).filter((type) => !BLOCK_TYPES[type].fixed);

type Deed = (composer: TestComposer, one: number, other: number) => void;

const nth = <T>(list: readonly T[], at: number): T => list[at % list.length];
const now = ({ store }: TestComposer) => store.getState();
const anyNode = (composer: TestComposer, at: number) => nth([...walk(now(composer).email)], at).node.id;
const anyBlock = (composer: TestComposer, at: number) => nth(readingOrder(now(composer).email), at);

/** What a hand can do, each with numbers that say where. */
const DEEDS: Record<string, Deed> = {
  select: (it, one) => now(it).select(anyNode(it, one)),
  selectNothing: (it) => now(it).select(null),
  selectTo: (it, one) => now(it).selectTo(anyBlock(it, one)),
  toggle: (it, one) => now(it).toggle(anyBlock(it, one)),
  up: (it) => it.actions.up(),
  stepOn: (it) => it.actions.step(1),
  stepBack: (it) => it.actions.step(-1),
  duplicate: (it) => it.actions.duplicate(),
  remove: (it) => it.actions.remove(),
  addBlock: (it, one) => it.actions.addAfterSelection({ kind: "block", type: nth(TYPES, one) }),
  addRow: (it, one) => it.actions.addAfterSelection({ kind: "row", columns: 1 + (one % 6) }),
  addSection: (it) => it.actions.addAfterSelection({ kind: "section" }),
  copyPaste: (it, one) => {
    const clip = it.actions.copied();
    if (clip === null) return;
    now(it).select(anyNode(it, one));
    expect(it.actions.paste(clip)).toBe(true);
  },
  pasteWriting: (it) => void it.actions.pasteWriting("<h2>Words</h2><p>More <b>words</b>.</p>", ""),
  drag: (it, one, other) => {
    const id = anyNode(it, one);
    const found = findNode(now(it).email, id);
    if (!found || found.kind === "column") return;
    const places = placesFor(now(it).email, { kind: found.kind, id });
    if (places.length > 0) it.actions.move(id, nth(places, other));
  },
  edit: (it, one) => now(it).edit(anyBlock(it, one)),
  endEditing: (it) => now(it).edit(null),
  undo: (it) => now(it).undo(),
  redo: (it) => now(it).redo(),
};

/** What is true after anything. */
function holds(composer: TestComposer): void {
  const state = now(composer);
  const { email } = state;
  for (const id of [...selectedIds(state), ...(state.editing ? [state.editing] : [])])
    expect(findNode(email, id), `${id} is selected and is not there`).toBeDefined();
  expect(parseEmail(JSON.parse(JSON.stringify(email)))).toEqual(JSON.parse(JSON.stringify(email)));
  const all = [...walk(email)].map(({ node }) => node.id);
  expect(new Set(all).size).toBe(all.length);
  expect(blocksOf(email).filter(({ type }) => type === "footer")).toHaveLength(1);
  for (const section of email.sections)
    for (const row of section.rows) {
      expect(row.columns.length).toBeGreaterThan(0);
      expect(row.columns.length).toBeLessThanOrEqual(6);
      expect(row.columns.reduce((sum, { width }) => sum + width, 0)).toBeCloseTo(100, 0);
    }
}

const deeds = fc.array(fc.tuple(fc.constantFrom(...Object.keys(DEEDS)), fc.nat(500), fc.nat(500)), {
  minLength: 5,
  maxLength: 30,
});

test("whatever a hand does: what is selected is there, and the design holds", { timeout: 120_000 }, () => {
  fc.assert(
    fc.property(deeds, (list) => {
      const composer = openComposer(first);
      for (const [name, one, other] of list) {
        DEEDS[name](composer, one, other);
        holds(composer);
      }
      // What cannot be done is said in a sentence.
      for (const said of composer.complaints) expect(said).toMatch(/^[A-Z].*\.$/);
    }),
    { numRuns: 150 },
  );
});

test("the footer alone is not copied: it could not come back", () => {
  const composer = openComposer(first);
  now(composer).select(blocksOf(first).find(({ type }) => type === "footer")?.id ?? null);
  expect(composer.actions.copied()).toBeNull();
});

test("undo leads back to the first design, step by step, and redo to the last", { timeout: 120_000 }, () => {
  const undone = (composer: TestComposer, how: "undo" | "redo"): Email[] => {
    const passed: Email[] = [];
    for (let turn = 0; turn < 100; turn++) {
      const { email } = now(composer);
      now(composer)[how]();
      if (now(composer).email === email) return passed;
      passed.push(now(composer).email);
    }
    throw new Error(`${how} does not end`);
  };
  fc.assert(
    fc.property(deeds, (list) => {
      const composer = openComposer(first);
      for (const [name, one, other] of list)
        if (name !== "undo" && name !== "redo") DEEDS[name](composer, one, other);
      const last = now(composer).email;
      const back = undone(composer, "undo");
      expect(now(composer).email).toEqual(first);
      const on = undone(composer, "redo");
      expect(now(composer).email).toEqual(last);
      expect(on.length).toBe(back.length);
    }),
    { numRuns: 100 },
  );
});
