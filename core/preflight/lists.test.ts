import { expect, test } from "vitest";
import { createBlock } from "../blocks";
import type { Block, Email } from "../email";
import { sampleEmail } from "../render/sample";
import { fewerWords, listsShort } from "./lists";

const email = {
  ...sampleEmail(1),
  sections: [
    {
      id: "s",
      rows: [
        {
          id: "r",
          columns: [
            { id: "c", width: 100, blocks: [{ ...createBlock("picks", "list"), title: "For you" } as Block] },
          ],
        },
      ],
    },
  ],
} as Email;
const numbers = { block: "list", asked: 4, readers: 1200, none: 0, fewer: 0 };

test("a list that gives some readers nothing is to be looked at; one that gives some fewer is not", () => {
  const found = (more: object) => listsShort(email, { lists: [{ ...numbers, ...more }] });
  expect(found({})).toEqual([]);
  expect(found({ fewer: 7 })).toEqual([]);
  expect(found({ none: 30, fewer: 7 })).toEqual([
    {
      weight: "look",
      text: "“For you” is filled for each reader. Of 1,200 readers, 30 get none. Widen its rule, add a way, or leave it at that.",
      block: "list",
    },
  ]);
  // Of a block that is gone nothing is said.
  expect(listsShort(email, { lists: [{ ...numbers, block: "gone", none: 3 }] })).toEqual([]);
});

test.each([
  [{}, null],
  [{ readers: 0, none: 0 }, null],
  [{ none: 1200 }, "None of 1,200 readers gets any."],
  [{ none: 1 }, "Of 1,200 readers, 1 gets none."],
  [{ fewer: 1 }, "Of 1,200 readers, 1 reader gets fewer than 4."],
  [{ fewer: 20, none: 3 }, "Of 1,200 readers, 20 readers get fewer than 4 and 3 get none."],
])("how many get less: %j is %j", (more, said) => {
  expect(fewerWords({ ...numbers, ...more })).toBe(said);
});
