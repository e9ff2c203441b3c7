/** However narrow a place is, widths are those of boxes: above zero, and no wider than it. */
import fc from "fast-check";
import { expect, test } from "vitest";
import { BLOCK_TYPES, type BlockTypeName, createBlock } from "../blocks";
import type { Block, Column, Email } from "../email";
import { columnsHtml, within } from "../markup";
import { bind, personalise, previewAddresses, readerOf } from "../personal";
import { compile } from ".";
import { SAMPLE_OPTIONS, sampleContact, sampleContext, sampleEmail, sampleWorld } from "./sample";

const world = sampleWorld("2026-11-23");
const reader = readerOf(sampleContact(1, {}), "en", previewAddresses("https://s.example"));
const read = (email: Email) => personalise(bind(compile(email, SAMPLE_OPTIONS), world), reader);

const TYPES = Object.keys(BLOCK_TYPES) as BlockTypeName[];
const filled = (type: BlockTypeName): Block =>
  ({
    ...createBlock(type, `b-${type}`),
    ...("src" in createBlock(type, "x") && {
      src: "/pictures/x.png",
      natural: { width: 800, height: 500 },
      href: "https://a.example/",
    }),
    ...(type === "picks" && { source: "journal" }),
    ...(type === "countdown" && { until: "2026-12-24T18:00" }),
    ...(type === "coupon" && { batch: "k" }),
  }) as Block;

const side = fc.integer({ min: 0, max: 200 });
const padding = fc.option(fc.record({ top: side, right: side, bottom: side, left: side }), {
  nil: undefined,
});
const column = fc.record({
  padding,
  block: fc.record({ type: fc.constantFrom(...TYPES), padding }),
});

test("widths stay above zero and add up to no more than the place, whatever space is asked for", () => {
  fc.assert(
    fc.property(
      fc.array(column, { minLength: 1, maxLength: 6 }),
      padding,
      padding,
      fc.integer({ min: 320, max: 640 }),
      fc.integer({ min: 0, max: 60 }),
      (columns, ofRow, ofSection, width, gap) => {
        const email: Email = {
          ...sampleEmail(1),
          sections: [
            {
              id: "s",
              width,
              ...(ofSection && { padding: ofSection }),
              rows: [
                {
                  id: "r",
                  gap,
                  ...(ofRow && { padding: ofRow }),
                  columns: columns.map(
                    ({ padding: inside, block }, at): Column => ({
                      id: `c${at}`,
                      width: 100 / columns.length,
                      ...(inside && { padding: inside }),
                      blocks: [{ ...filled(block.type), ...(block.padding && { padding: block.padding }) }],
                    }),
                  ),
                },
              ],
            },
          ],
        };
        const all = read(email).html;
        const html = all.slice(all.indexOf('role="article"'));
        expect(html.match(/width="-|width="0[%"]|(width|padding|height)[a-z-]*:[^;"]*-\d/)).toBeNull();
        for (const [, px] of html.matchAll(/(?:width="|max-width:)(\d+)(?:"|px)/g))
          expect(Number(px)).toBeLessThanOrEqual(width);
      },
    ),
    { numRuns: 150 },
  );
});

test("the sides of a place give way evenly, and what is left is never below one, whatever its borders take", () => {
  const sides = (left: number, right: number) => ({ top: 8, right, bottom: 8, left });
  expect(within(sides(30, 10), 600)).toEqual({ padding: sides(30, 10), width: 560 });
  expect(within(sides(60, 20), 80)).toEqual({ padding: sides(30, 10), width: 40 });
  expect(within(sides(20, 20), 30)).toEqual({ padding: sides(0, 0), width: 30 });
  expect(within(sides(20, 20), 10, 24).width).toBe(1);
});

test("columns and the gaps between them are as wide as their row at most", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 640 }),
      fc.integer({ min: 2, max: 6 }),
      fc.integer({ min: 0, max: 80 }),
      (width, count, gap) => {
        const context = sampleContext({ width });
        const cells = Array.from({ length: count }, () => ({ share: 100 / count, write: () => {} }));
        columnsHtml(context, cells, { gap, onPhones: "stack" });
        const [written] = context.out.finish();
        const html = written.op === "static" ? written.text : "";
        const wide = [...html.matchAll(/<td width="(\d+)"/g)].map(([, px]) => Number(px));
        expect(Math.min(...wide)).toBeGreaterThan(0);
        if (width >= 2 * count) expect(wide.reduce((sum, one) => sum + one, 0)).toBeLessThanOrEqual(width);
      },
    ),
  );
});

test.each([0, 1])("the answers of a survey from %i to 10 fill their row and no more", (from) => {
  for (const share of [20, 50, 100]) {
    const survey = { ...createBlock("survey", "b"), from, to: 10 } as Block;
    const columns: Column[] = [
      { id: "c", width: share, blocks: [survey] },
      ...(share < 100 ? [{ id: "d", width: 100 - share, blocks: [] }] : []),
    ];
    const { html } = read({ ...sampleEmail(1), sections: [{ id: "s", rows: [{ id: "r", columns }] }] });
    const row = html.slice(html.indexOf("table-layout:fixed"));
    const cells = [...row.slice(0, row.indexOf("</table>")).matchAll(/<td width="([\d.]+)%"/g)];
    expect(cells).toHaveLength(2 * (11 - from) - 1);
    const sum = cells.reduce((all, [, percent]) => all + Number(percent), 0);
    expect(Math.round(sum * 10) / 10).toBeLessThanOrEqual(100);
    expect(sum).toBeGreaterThan(98);
  }
});
