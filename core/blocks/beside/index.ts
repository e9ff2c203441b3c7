import { columnsHtml, firstProse, pictureHtml, pictureText, proseHtml, proseText } from "../../markup";
import {
  choice,
  NO_PICTURE_YET,
  number,
  type Properties,
  pictureProperties,
  prose,
  valign,
  wordLook,
} from "../../properties";
import { declareBlock } from "../type";

const properties = {
  side: choice(
    "Picture",
    [
      { value: "left", label: "Left" },
      { value: "right", label: "Right" },
    ],
    { fresh: "left", look: true, under: "Picture beside text", spoken: "Picture stands" },
  ),
  /** Of the picture. */
  share: number(
    "Its share",
    { min: 15, max: 80, unit: "%" },
    { fresh: 40, look: true, under: "Picture beside text" },
  ),
  valign: valign("Picture and words stand at", { fresh: "middle", under: "Picture beside text" }),
  ...pictureProperties({ missing: NO_PICTURE_YET, corners: { under: "Picture beside text" } }),
  content: prose("Words", { fresh: "The words beside the picture." }),
  ...wordLook({ under: "Words" }),
} satisfies Properties;

export const beside = declareBlock({
  type: "beside",
  label: "Beside text",
  group: "pictures",
  words: "image picture next to text left right",
  properties,
  html(block, context) {
    const picture = {
      share: block.share,
      write: (width: number) => pictureHtml(block, { ...context, width }),
    };
    const words = {
      share: 100 - block.share,
      write: (width: number) => proseHtml(block.content, block, { ...context, width }),
    };
    // Stacked on phones, the picture always comes first.
    const right = block.side === "right";
    columnsHtml(context, right ? [words, picture] : [picture, words], {
      gap: context.theme.space.gap,
      valign: block.valign,
      onPhones: right ? "reverse" : "stack",
    });
  },
  text(block, context) {
    pictureText(block, context);
    proseText(block.content.content, context);
  },
  title: (block) => firstProse(block.content) || "Picture beside text",
});
