import { firstWords, headingLook, lineHtml, writeInline } from "../../markup";
import { align, choice, line, type Properties, wordLook } from "../../properties";
import { type BlockOf, declareBlock } from "../type";

const properties = {
  level: choice(
    "Level",
    [
      { value: 1, label: "1" },
      { value: 2, label: "2" },
      { value: 3, label: "3" },
    ],
    { fresh: 2, under: "Heading" },
  ),
  /** What screen readers are told; by its place when missing. `level` is the look. */
  outline: choice(
    "Read as",
    [
      { value: 1, label: "1" },
      { value: 2, label: "2" },
      { value: 3, label: "3" },
      { value: 4, label: "4" },
    ],
    { none: "By place", under: "Heading" },
  ),
  content: line("Words", { fresh: "A heading" }),
  align: align({ under: "Heading" }),
  ...wordLook({
    under: "Heading",
    size: ({ headings }, { level }) => headings[`h${level as 1 | 2 | 3}`].size,
    color: ({ light }) => light.heading,
    max: 140,
    offered: 80,
    phone: true,
  }),
} satisfies Properties;
export type HeadingBlock = BlockOf<"heading", typeof properties>;

export const heading = declareBlock({
  type: "heading",
  label: "Heading",
  group: "words",
  words: "title headline",
  properties,
  heading: (block) => block.level,
  outline: (block) => block.outline,
  html(block, context) {
    lineHtml(
      block.content,
      {
        element: `h${context.level}`,
        own: block.color,
        ...headingLook(block.level, context, block.size),
        align: block.align,
        key: "content",
      },
      context,
    );
  },
  text(block, context) {
    context.out.raw(block.level === 3 ? "" : block.level === 1 ? "== " : "-- ");
    writeInline(block.content, context);
    context.out.raw(block.level === 3 ? "\n\n" : block.level === 1 ? " ==\n\n" : " --\n\n");
  },
  title: (block) => firstWords(block.content) || "Empty heading",
});
