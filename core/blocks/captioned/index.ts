import { firstWords, pictureHtml, pictureText, smallWords, writeInline } from "../../markup";
import { align, line, NO_PICTURE_YET, type Properties, pictureProperties } from "../../properties";
import { declareBlock, shows } from "../type";

const properties = {
  ...pictureProperties({ missing: NO_PICTURE_YET, needed: true }),
  content: line("Caption", { fresh: "What the picture shows", part: "caption" }),
  align: align({ fresh: "left", under: "Look" }),
} satisfies Properties;

export const captioned = declareBlock({
  type: "captioned",
  label: "Captioned",
  group: "pictures",
  words: "image picture caption below",
  properties,
  parts: [{ key: "caption", label: "Caption" }],
  html(block, context) {
    pictureHtml(block, context);
    if (shows(block, "caption")) smallWords(block.content, "content", block.align, context);
  },
  text(block, context) {
    pictureText(block, context);
    if (!shows(block, "caption")) return;
    writeInline(block.content, context);
    context.out.raw("\n\n");
  },
  title: (block) => firstWords(block.content) || "Picture with caption",
});
