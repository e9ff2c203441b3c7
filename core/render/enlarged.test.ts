import { expect, test } from "vitest";
import { createBlock } from "../blocks";
import type { Block, Column, Email } from "../email";
import { enlargedPictures } from ".";
import { SAMPLE_OPTIONS, sampleEmail } from "./sample";

const picture = (
  type: "image" | "overlaid" | "imageSet",
  id: string,
  width: number,
  more: object = {},
): Block => {
  const shown = { src: `/pictures/${id}.png`, alt: id, natural: { width, height: width / 2 } };
  return {
    ...createBlock(type, id),
    ...(type === "imageSet" ? { pictures: [{ id: "1", decorative: false, ...shown }], across: 1 } : shown),
    ...more,
  } as Block;
};
const emailOf = (...columns: Column[]): Email => ({
  ...sampleEmail(1),
  sections: [{ id: "s", rows: [{ id: "r", columns }] }],
});
const column = (width: number, ...blocks: Block[]): Column => ({ id: `c${blocks[0].id}`, width, blocks });

test("pictures that are shown larger than they are are told with both widths, and no others", () => {
  const email = emailOf(
    column(
      50,
      picture("image", "small", 240),
      picture("image", "fits", 250),
      picture("image", "half", 130, { width: 50 }),
    ),
    column(
      50,
      picture("imageSet", "set", 100),
      picture("overlaid", "behind", 200),
      picture("image", "large", 800),
    ),
  );
  const found = enlargedPictures(email, SAMPLE_OPTIONS);
  expect(found.map(({ block, own, shown }) => [block, own, shown])).toEqual([
    ["small", 240, 250],
    ["set", 100, 250],
    ["behind", 200, 250],
  ]);
  expect(enlargedPictures(email, SAMPLE_OPTIONS, "set")).toHaveLength(1);
  // Shown smaller, it is sharp.
  expect(
    enlargedPictures(emailOf(column(100, picture("image", "one", 240, { width: 40 }))), SAMPLE_OPTIONS),
  ).toEqual([]);
});
