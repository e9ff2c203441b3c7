import { columnsHtml, css, pictureHtml, pictureText, withItemIds } from "../../markup";
import { choice, corners, list, number, type Properties, pictureProperties } from "../../properties";
import { type BlockOf, declareBlock } from "../type";

const properties = {
  /** How many stand side by side; a strip has all of them in one line. */
  across: number(
    "Side by side",
    { min: 1, max: 6, unit: "pictures" },
    { fresh: 2, whole: true, look: true, under: "Image set" },
  ),
  gap: number("Gap", { max: 60 }, { fresh: 12, look: true, under: "Image set" }),
  radius: corners({ under: "Image set" }),
  onPhones: choice(
    "On phones",
    [
      { value: "beside", label: "The same" },
      { value: "stack", label: "Stacked" },
    ],
    { fresh: "beside", look: true, under: "Image set" },
  ),
  pictures: list("picture", pictureProperties(), { most: 12, under: "Pictures", fresh: [{}, {}, {}, {}] }),
} satisfies Properties;
export type ImageSetBlock = BlockOf<"imageSet", typeof properties>;

export const imageSet = declareBlock({
  type: "imageSet",
  label: "Image set",
  group: "pictures",
  words: "gallery grid strip pictures several",
  properties,
  html(block, context) {
    const { out } = context;
    const { pictures, across, gap } = block;
    if (pictures.length === 0 && context.marks)
      out.raw('<div class="waiting">Add pictures on the right</div>');
    for (let from = 0; from < pictures.length; from += across) {
      const line = pictures.slice(from, from + across);
      const share = Math.floor(10_000 / across) / 100;
      const cells = Array.from({ length: across }, (_, index) => ({
        share,
        write(width: number) {
          if (line[index])
            pictureHtml(
              { ...line[index], radius: block.radius },
              { ...context, width },
              undefined,
              `pictures/${line[index].id}`,
            );
          else out.raw("&nbsp;");
        },
      }));
      if (from > 0)
        out.raw(
          `<div style="${css({ height: `${gap}px`, "line-height": `${gap}px`, "font-size": "1px" })}">&nbsp;</div>`,
        );
      columnsHtml(context, cells, { gap, onPhones: block.onPhones });
    }
  },
  text(block, context) {
    for (const picture of block.pictures) pictureText(picture, context);
  },
  upgrades: { 2: (raw) => withItemIds(raw, "pictures") },
  title: (block) =>
    block.pictures
      .map((picture) => picture.alt)
      .filter((alt) => alt !== "")
      .join(", ")
      .slice(0, 40) || `Set of ${block.pictures.length} pictures`,
  unready(block) {
    const missing = block.pictures.filter((picture) => picture.src === "").length;
    return missing === 0
      ? []
      : [
          `An image set waits for ${missing === 1 ? "a picture" : `${missing} pictures`}. Choose or remove them.`,
        ];
  },
});
