import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";
import { createBlock, parseEmail } from "~/core/blocks";
import { commands } from "~/core/compose";
import { type Block, blocksOf, type Email, findNode } from "~/core/email";
import { sampleContact, sampleEmail } from "~/core/render/sample";
import type { Actions } from "./actions";
import { type Composer, selectedIds, TYPING } from "./store";
import { editedCell, growTable, shrinkTable } from "./table-actions";
import { openComposer } from "./test-composer";

const email = parseEmail(sampleEmail(20));
const ids = blocksOf(email).map(({ id }) => id);
let store: Composer;
let actions: Actions;
let complaints: string[];
let spoken: string[];

function open(of: Email = email, lock?: Parameters<typeof openComposer>[1]): void {
  ({ store, actions, complaints, spoken } = openComposer(of, lock));
}
beforeEach(() => {
  vi.stubGlobal("requestAnimationFrame", () => 0);
  open();
});

const now = () => store.getState();
const order = () => blocksOf(now().email).map(({ id }) => id);

describe("selecting", () => {
  test("a range begins at the selected one and is drawn anew from there", () => {
    now().select(ids[3]);
    now().selectTo(ids[6]);
    expect(selectedIds(now()).sort()).toEqual(ids.slice(3, 7).sort());
    now().selectTo(ids[1]);
    expect(selectedIds(now()).sort()).toEqual(ids.slice(1, 4).sort());
    expect(now().selection).toBe(ids[3]);
  });

  test("without a block selected a range is one block; one of several can be let go", () => {
    now().selectTo(ids[2]);
    expect(selectedIds(now())).toEqual([ids[2]]);
    now().toggle(ids[4]);
    now().toggle(ids[2]);
    expect(selectedIds(now())).toEqual([ids[4]]);
    now().toggle(ids[4]);
    expect(selectedIds(now())).toEqual([]);
  });
});

describe("what the panel shows", () => {
  const words = (text: string) => [{ type: "text" as const, text }];
  const heading = blocksOf(email).find(({ type }) => type === "heading") as Block;
  const type = (text: string) =>
    now().apply(
      commands.setAt(heading.id, "content", words(text)),
      "Typing",
      `${TYPING}${heading.id} content`,
    );
  const rested = () => JSON.stringify(findNode(now().resting, heading.id)?.node);

  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());

  test("follows typing a moment after the last sign, and anything else at once", () => {
    now().edit(heading.id);
    type("One");
    vi.advanceTimersByTime(100);
    type("One two");
    vi.advanceTimersByTime(100);
    expect(rested()).not.toContain("One");
    vi.advanceTimersByTime(100);
    expect(rested()).toContain("One two");
    type("Three");
    now().apply(commands.set(heading.id, { name: "Named" }), "Naming");
    expect(rested()).toContain("Three");
    expect(rested()).toContain("Named");
  });

  test("is all there when the writing ends, after undo, and with what others saved", () => {
    now().edit(heading.id);
    type("Four");
    now().edit(null);
    expect(rested()).toContain("Four");
    now().undo();
    expect(now().resting).toBe(now().email);
    const theirs = parseEmail(now().email);
    store.setState({ email: theirs });
    expect(now().resting).toBe(theirs);
  });
});

describe("undoing", () => {
  test("selects what comes back, and what was changed", () => {
    now().select(ids[4]);
    actions.remove();
    expect(order()).not.toContain(ids[4]);
    expect(spoken.at(-1)).toContain("Undo");
    now().select(ids[0]);
    now().undo();
    expect(now().selection).toBe(ids[4]);
    now().redo();
    expect(order()).not.toContain(ids[4]);
    expect(now().selection).not.toBe(ids[4]);
  });

  test("leaves what another window changed since, and says so", () => {
    now().apply(commands.set(ids[0], { name: "Mine" }), "Renaming");
    const theirs = parseEmail(now().email);
    for (const block of blocksOf(theirs)) if (block.id === ids[0]) block.name = "Theirs";
    store.setState({ email: theirs });
    now().undo();
    expect(findNode(now().email, ids[0])?.node).toMatchObject({ name: "Theirs" });
    expect(complaints.join()).toContain("another window");
  });
});

describe("a design that is held", () => {
  test.each(["scheduled", "sending", "sent"] as const)("(%s) takes no change and says why", (state) => {
    open(email, { state, dispatch: "d", when: null });
    expect(now().apply(commands.remove(ids[0]), "Deleting")).toBe(false);
    now().edit(ids[0]);
    actions.addAfterSelection({ kind: "block", type: "text" });
    expect(now().email).toBe(email);
    expect(now().editing).toBeNull();
    expect(complaints.length).toBeGreaterThan(2);
    expect(complaints[0]).toMatch(/Take it back|Make a copy/);
  });
});

describe("doing", () => {
  test("adds after the selection, in its column, and says where", () => {
    now().select(ids[2]);
    actions.addAfterSelection({ kind: "block", type: "quote" });
    const added = now().selection as string;
    expect(order()[order().indexOf(ids[2]) + 1]).toBe(added);
    expect(findNode(now().email, added)?.parent).toBe(findNode(email, ids[2])?.parent);
    expect(spoken.at(-1)).toMatch(/^Added after “/);
  });

  test("a block that goes by the clock begins with the clock of who composes", () => {
    actions.addAfterSelection({ kind: "block", type: "countdown" });
    const block = findNode(now().email, now().selection as string)?.node as Block;
    expect(block.zone).toBe(Intl.DateTimeFormat().resolvedOptions().timeZone);
  });

  test("several are doubled, moved and deleted together", () => {
    now().select(ids[1]);
    now().selectTo(ids[3]);
    actions.duplicate();
    expect(order()).toHaveLength(ids.length + 3);
    now().undo();
    now().select(ids[1]);
    now().selectTo(ids[3]);
    const [before, stood] = [order(), now().email];
    actions.step(1);
    expect(now().email).not.toEqual(stood);
    expect(order().sort()).toEqual([...before].sort());
    now().select(ids[1]);
    now().selectTo(ids[3]);
    actions.remove();
    expect(order().filter((id) => ids.slice(1, 4).includes(id))).toEqual([]);
  });

  test("what is copied is pasted after the selection with new ids", () => {
    now().select(ids[0]);
    const clip = actions.copied() as string;
    now().select(ids[5]);
    expect(actions.paste(clip)).toBe(true);
    const pasted = findNode(now().email, now().selection as string)?.node as Block;
    expect(pasted.id).not.toBe(ids[0]);
    expect(pasted.type).toBe(blocksOf(email)[0].type);
    expect(actions.paste("no part of an email")).toBe(false);
  });

  test("editions go round, and a part is shown to a reader who gets it", async () => {
    // The reader of the page is in the first: before it stands the last, and after that the first.
    expect(now().reader.id).toBe(1);
    actions.stepEdition(-1);
    expect(now().reader.id).toBe(2);
    actions.stepEdition(1);
    expect(now().reader.id).toBe(1);
    now().apply(
      commands.set(ids[0], { show: { kind: "field", field: "zone", op: "is", value: "mild" } }),
      "A rule",
    );
    store.setState({ reader: sampleContact(1, { zone: "cool" }) });
    await actions.showTo(ids[0]);
    expect(now().reader.id).toBe(2);
    expect(now().selection).toBe(ids[0]);
  });
});

describe("a table being written in", () => {
  const at = (block: Block) => ({ ...block, id: "table" });
  beforeEach(() => {
    now().apply(
      commands.insertBlocks(
        [at(createBlock("table", "table") as Block)],
        { parent: findNode(email, ids[0])?.parent as string, index: 0, wants: "block" },
        () => "x",
      ),
      "Adding",
    );
    now().edit("table", "rows/2/cells/2");
  });

  test("grows beside the cell and goes on in what is new", () => {
    expect(editedCell(store)?.row.id).toBe("2");
    growTable(store, "row", "after");
    const row = editedCell(store)?.row.id;
    expect(editedCell(store)?.block.rows.map(({ id }) => id)).toEqual(["1", "2", row, "3"]);
    expect(editedCell(store)?.column.id).toBe("1");
    growTable(store, "column", "before");
    expect(editedCell(store)?.block.columns).toHaveLength(4);
    expect(editedCell(store)?.block.columns[0].id).toBe(editedCell(store)?.column.id);
  });

  test("shrinks and goes on in the cell beside it; one undo each brings it back", () => {
    shrinkTable(store, "column");
    expect(editedCell(store)?.block.columns.map(({ id }) => id)).toEqual(["1", "3"]);
    expect(editedCell(store)?.column.id).toBe("1");
    shrinkTable(store, "row");
    expect(editedCell(store)?.row.id).toBe("1");
    now().undo();
    now().undo();
    const block = findNode(now().email, "table")?.node as unknown as { columns: unknown[]; rows: unknown[] };
    expect([block.columns.length, block.rows.length]).toEqual([3, 3]);
  });
});

test("what a field puts right when it is left goes with what was written in it, however long ago", () => {
  vi.useFakeTimers();
  try {
    const button = blocksOf(email).find(({ type }) => type === "button") as Block;
    const write = (href: string) =>
      now().apply(commands.set(button.id, { href }), "Changing the link", `set ${button.id} href`);
    write("tansyrow.example");
    vi.advanceTimersByTime(60_000);
    now().closing(() => write("https://tansyrow.example"));
    expect(findNode(now().email, button.id)?.node).toMatchObject({ href: "https://tansyrow.example" });
    now().undo();
    expect(now().email).toEqual(email);
    // What is done next is a deed of its own again, however soon.
    now().redo();
    write("https://tansyrow.example/shop");
    now().undo();
    expect(findNode(now().email, button.id)?.node).toMatchObject({ href: "https://tansyrow.example" });
  } finally {
    vi.useRealTimers();
  }
});
