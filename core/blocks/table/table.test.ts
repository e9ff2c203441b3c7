import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { type Block, type Email, valueAt, wordSigns } from "../../email";
import { bind, personalise, previewAddresses, readerOf } from "../../personal";
import { compile } from "../../render";
import { SAMPLE_OPTIONS, sampleContact, sampleEmail, sampleWorld } from "../../render/sample";
import {
  cellOf,
  cellPath,
  createBlock,
  placedLinksOf,
  type TableBlock,
  tableEdits,
  tableParts,
  wordsOf,
} from "..";
import { table } from ".";
import { upgradeTable } from "./upgrades";

const words = (text: string) => [{ type: "text" as const, text }];
const fresh = createBlock("table", "t");
function done(block: TableBlock, ...edits: ((it: TableBlock) => Partial<TableBlock>)[]): TableBlock {
  let now = block;
  for (const edit of edits) now = { ...now, ...edit(now) };
  return now;
}
const said = (block: TableBlock) =>
  block.rows.map((row) => block.columns.map((column) => wordSigns(cellOf(row, column))));
const sum = (block: TableBlock) => block.columns.reduce((total, { width }) => total + width, 0);

describe("rows and columns", () => {
  test("come where they are wanted, empty, and go again without a trace", () => {
    const grown = done(
      fresh,
      (it) => tableEdits.addRow(it, 1, "new-row"),
      (it) => tableEdits.addColumn(it, 3, "new-column"),
    );
    expect(said(grown)).toEqual([
      ["What", "When", "Where", ""],
      ["", "", "", ""],
      ["First", "Monday", "Here", ""],
      ["Second", "Tuesday", "There", ""],
    ]);
    const back = done(
      grown,
      (it) => tableEdits.removeRow(it, "new-row"),
      (it) => tableEdits.removeColumn(it, "new-column"),
    );
    expect(said(back)).toEqual(said(fresh));
    expect(back.columns.map(({ id }) => id)).toEqual(fresh.columns.map(({ id }) => id));
  });

  test("take their words along when they move", () => {
    const moved = done(
      fresh,
      (it) => tableEdits.moveRow(it, 1, 2),
      (it) => tableEdits.moveColumn(it, 0, 2),
    );
    expect(said(moved)).toEqual([
      ["When", "Where", "What"],
      ["Tuesday", "There", "Second"],
      ["Monday", "Here", "First"],
    ]);
    expect(valueAt(moved, cellPath(fresh.rows[1], fresh.columns[0]))).toEqual(words("First"));
  });

  test("the last of them stays", () => {
    const one = { ...fresh, ...tableParts([[words("Alone")]]) };
    expect(tableEdits.removeRow(one, "1")).toEqual({});
    expect(tableEdits.removeColumn(one, "1")).toEqual({});
    expect(tableEdits.setWidth(one, "1", 30)).toEqual({});
  });
});

test("whatever is done to them, the widths add up to a hundred and the schema holds", () => {
  const edit = fc.tuple(fc.nat(4), fc.nat(20), fc.integer({ min: -50, max: 150 }));
  let next = 0;
  fc.assert(
    fc.property(fc.array(edit, { maxLength: 12 }), (edits) => {
      let now: TableBlock = fresh;
      for (const [what, which, width] of edits) {
        const column = now.columns[which % now.columns.length].id;
        now = done(now, (it) =>
          [
            () =>
              it.columns.length < 10
                ? tableEdits.addColumn(it, which % (it.columns.length + 1), `c${next++}`)
                : {},
            () => tableEdits.removeColumn(it, column),
            () => tableEdits.setWidth(it, column, width),
            () => tableEdits.alignColumn(it, column, "right"),
            () => tableEdits.addRow(it, 0, `r${next++}`),
          ][what](),
        );
        expect(Math.abs(sum(now) - 100)).toBeLessThan(0.2);
        expect(table.schema.parse(now)).toEqual(now);
      }
    }),
  );
});

test("what two people left in disorder is tidied: widths, and cells of columns that are gone", () => {
  const odd: TableBlock = {
    ...fresh,
    columns: fresh.columns.map((column) => ({ ...column, width: 50 })).slice(0, 3),
    rows: [{ id: "1", cells: { "1": words("Kept"), gone: words("Of a column that went") } }],
  };
  const tidied = table.tidy?.(odd) as TableBlock;
  expect(sum(tidied)).toBeCloseTo(100, 1);
  expect(tidied.rows[0].cells).toEqual({ "1": words("Kept") });
  expect(table.tidy?.(fresh)).toBe(fresh);
});

test("a table of the first schema keeps every word in its place", () => {
  const old = {
    id: "t",
    type: "table",
    columns: [
      { width: 60, align: "left" },
      { width: 40, align: "right" },
    ],
    rows: [
      [words("a"), words("b")],
      [words("c"), []],
    ],
    header: true,
    zebra: false,
    lines: "rows",
  };
  const block = table.schema.parse(upgradeTable(old));
  expect(said(block)).toEqual([
    ["a", "b"],
    ["c", ""],
  ]);
  expect(block.columns.map(({ width, align }) => [width, align])).toEqual([
    [60, "left"],
    [40, "right"],
  ]);
  expect(wordsOf(block as Block)).toHaveLength(4);
});

describe("a picture in a cell", () => {
  const picture = {
    src: "/pictures/a.png",
    alt: "A leek",
    decorative: false,
    natural: { width: 40, height: 20 },
  };
  const [row, column] = [fresh.rows[1].id, fresh.columns[1].id];
  const shown = done(fresh, (it) => tableEdits.setPicture(it, row, column, picture));

  test("stands above its words, as wide as the cell, and is said in the text part", () => {
    const email = { ...sampleEmail(1), sections: [sectionOf(shown)] };
    const { html, text } = messageOf(email);
    const cell =
      /<td[^>]*><table[^>]*>.*?<img src="[^"]*\/pictures\/a.png" alt="A leek" width="(\d+)".*?<div>Monday<\/div><\/td>/.exec(
        html,
      );
    expect(Number(cell?.[1])).toBeGreaterThan(100);
    expect(Number(cell?.[1])).toBeLessThan(200);
    expect(text).toContain("[A leek] Monday");
  });

  test("its link is among the links", () => {
    const linked = done(shown, (it) =>
      tableEdits.setPicture(it, row, column, { ...picture, href: "https://a.example" }),
    );
    expect(placedLinksOf(linked as Block)).toEqual([
      { path: `rows/${row}/pictures/${column}/href`, words: "A leek", href: "https://a.example" },
    ]);
    expect(valueAt(linked, `rows/${row}/pictures/${column}/href`)).toBe("https://a.example");
  });

  test("goes with its column, and by itself without a trace", () => {
    expect(JSON.stringify(done(shown, (it) => tableEdits.removeColumn(it, column)))).not.toContain("a.png");
    expect(done(shown, (it) => tableEdits.setPicture(it, row, column, undefined))).toEqual(fresh);
    const stray = { ...shown, columns: shown.columns.filter(({ id }) => id !== column) };
    expect(JSON.stringify(table.tidy?.(stray as TableBlock))).not.toContain("a.png");
  });
});

function sectionOf(block: TableBlock) {
  return { id: "s", rows: [{ id: "r", columns: [{ id: "c", width: 100, blocks: [block] }] }] };
}

function messageOf(email: Email) {
  const world = sampleWorld("2026-11-23");
  const reader = readerOf(sampleContact(1, {}), "en", previewAddresses("https://s.example"));
  return personalise(bind(compile(email, SAMPLE_OPTIONS), world), reader);
}
