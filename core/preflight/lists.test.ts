import { expect, test } from "vitest";
import { createBlock } from "../blocks";
import type { Block, Email } from "../email";
import { sampleEmail } from "../render/sample";
import { fewerWords } from ".";
import { listsShort } from "./checks/lists";
import { failingSources } from "./checks/sources";

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

test("a source that cannot be read stops it, or is to be looked at, by what was chosen and how old its copy is", () => {
  const design = {
    ...email,
    sections: [
      {
        ...email.sections[0],
        rows: [
          {
            id: "r",
            columns: [
              { id: "c", width: 100, blocks: [{ ...createBlock("picks", "list"), source: "shop" } as Block] },
            ],
          },
        ],
      },
    ],
  } as Email;
  const HOUR = 3_600_000;
  const found = (age: number | null, stopsAfter: number | null, id = "shop") =>
    failingSources(design, { failing: [{ id, name: "Shop", why: "It answers 503.", age, stopsAfter }] }).map(
      ({ weight, text }) => `${weight}: ${text}`,
    );
  expect(found(HOUR, null)).toEqual([
    "look: “Shop” cannot be read, and its last good copy is an hour old: It answers 503. It goes with that copy. Under Sources you can have it stop.",
  ]);
  expect(found(50 * HOUR, 24)).toEqual([
    "stops: “Shop” cannot be read, and its last good copy is 2 days old: It answers 503. Mend it under Sources, or say there that sendings go all the same.",
  ]);
  expect(found(23 * HOUR, 24)[0]).toMatch(/^look: .*23 hours old/);
  expect(found(0, 0)[0]).toMatch(/^stops: .*less than an hour old/);
  expect(found(null, 24)[0]).toMatch(/^stops: .*there is no copy of it/);
  // One that the design does not show does not matter.
  expect(found(HOUR, 0, "another")).toEqual([]);
});
