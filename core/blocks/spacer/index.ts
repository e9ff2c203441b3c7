import { css } from "../../markup";
import { number, type Properties } from "../../properties";
import { declareBlock } from "../type";

const properties = {
  height: number("Height", { min: 1, max: 200 }, { fresh: 24, look: true, under: "Space" }),
} satisfies Properties;

export const spacer = declareBlock({
  type: "spacer",
  label: "Space",
  group: "layout",
  words: "gap spacer room",
  properties,
  fresh: { padding: { top: 0, right: 0, bottom: 0, left: 0 } },
  html(block, { out }) {
    const height = `${block.height}px`;
    out.raw(`<div style="${css({ height, "line-height": height, "font-size": "1px" })}">&nbsp;</div>`);
  },
  text() {},
  title: (block) => `Space, ${block.height} px`,
});
