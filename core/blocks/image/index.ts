import { pictureHtml, pictureText } from "../../markup";
import { align, NO_PICTURE_YET, number, type Properties, pictureProperties } from "../../properties";
import { declareBlock } from "../type";

const { radius, ...picture } = pictureProperties({ missing: NO_PICTURE_YET, needed: true });
const properties = {
  ...picture,
  /** Share of the room there is. */
  width: number(
    "Width",
    { min: 5, max: 100, unit: "%" },
    { fresh: 100, look: true, phone: true, under: "Look" },
  ),
  align: align({ fresh: "center", under: "Look" }),
  radius,
} satisfies Properties;

export const image = declareBlock({
  type: "image",
  label: "Picture",
  group: "pictures",
  words: "image photo",
  properties,
  html: (block, context) => pictureHtml(block, context, block),
  text: (block, context) => pictureText(block, context),
  title: (block) => block.alt || (block.src === "" ? "Empty picture" : "Picture"),
});
