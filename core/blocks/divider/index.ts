import { classAttribute, css, edge, TABLE } from "../../markup";
import { choice, colour, number, type Properties } from "../../properties";
import { declareBlock } from "../type";

const properties = {
  style: choice(
    "Style",
    [
      { value: "solid", label: "Solid" },
      { value: "dashed", label: "Dashed" },
      { value: "dotted", label: "Dotted" },
    ],
    { fresh: "solid", look: true, under: "Divider" },
  ),
  thickness: number("Thickness", { min: 1, max: 20 }, { fresh: 1, look: true, under: "Divider" }),
  /** Share of the room there is. */
  width: number("Width", { min: 5, max: 100, unit: "%" }, { fresh: 100, look: true, under: "Divider" }),
  color: colour("Colour", { under: "Divider", theme: ({ light }) => light.line }),
} satisfies Properties;

export const divider = declareBlock({
  type: "divider",
  label: "Divider",
  group: "layout",
  words: "line rule separator",
  properties,
  html(block, context) {
    const line = edge(block.color, "line", context);
    const style = css({
      "border-top": `${block.thickness}px ${block.style} ${line.color}`,
      "font-size": "0",
      "line-height": "0",
    });
    context.out.raw(
      `<table ${TABLE} width="${block.width}%" align="center"><tr><td${classAttribute(line.tone)} style="${style}">&nbsp;</td></tr></table>`,
    );
  },
  text(_, { out }) {
    out.raw("----------------------------------------\n\n");
  },
  title: () => "Divider",
});
