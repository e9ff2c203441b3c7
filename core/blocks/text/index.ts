import { firstProse, proseHtml, proseText } from "../../markup";
import { align, number, type Properties, prose, toggle, wordLook } from "../../properties";
import { declareBlock } from "../type";

const properties = {
  content: prose("Words", { fresh: "Write something worth opening." }),
  align: align({ under: "Text" }),
  ...wordLook({ under: "Text", phone: true }),
  /** Space between paragraphs. */
  gap: number(
    "Paragraphs",
    { max: 80, unit: "px apart" },
    { look: true, under: "Text", theme: ({ text }) => text.gap },
  ),
  /** Set in two columns where there is room for both. */
  twoColumns: toggle("In two columns", { look: true, under: "Text" }),
} satisfies Properties;

export const text = declareBlock({
  type: "text",
  label: "Text",
  group: "words",
  words: "paragraph list words",
  properties,
  html: (block, context) => proseHtml(block.content, block, context),
  text: (block, context) => proseText(block.content.content, context),
  title: (block) => firstProse(block.content) || "Empty text",
});
