import {
  classAttribute,
  css,
  edge,
  firstProse,
  ground,
  proseHtml,
  proseText,
  TABLE,
  within,
} from "../../markup";
import { align, colour, corners, number, type Properties, prose, wordLook } from "../../properties";
import { declareBlock } from "../type";

const properties = {
  content: prose("Words", { fresh: "Something to set apart from the rest." }),
  align: align({ under: "Boxed text" }),
  ...wordLook({ under: "Boxed text", on: { box: "face" }, phone: true }),
  face: colour("Face", { fills: true, under: "Box", theme: ({ light }) => light.table }),
  edge: colour("Edge", { under: "Box", theme: ({ light }) => light.line }),
  edgeWidth: number("Edge width", { max: 10 }, { fresh: 1, look: true, under: "Box" }),
  radius: corners({ max: 60, under: "Box", theme: ({ shape }) => shape.box }),
  /** Between edge and words. */
  inside: number("Inside", { max: 80 }, { fresh: 20, look: true, under: "Box" }),
} satisfies Properties;

export const boxed = declareBlock({
  type: "boxed",
  label: "Boxed text",
  group: "words",
  words: "box note panel callout",
  properties,
  html(block, context) {
    const { out } = context;
    const { inside } = block;
    const { padding, width } = within(
      { top: inside, right: inside, bottom: inside, left: inside },
      context.width,
      2 * block.edgeWidth,
    );
    const behind = ground(block.face, "table", context);
    const around = edge(block.edge, "line", context);
    const style = css({
      "background-color": behind.color,
      border: block.edgeWidth > 0 && `${block.edgeWidth}px solid ${around.color}`,
      "border-radius": `${block.radius ?? context.theme.shape.box}px`,
      padding: `${inside}px ${padding.left}px`,
    });
    out.raw(
      `<table ${TABLE} width="100%"><tr><td${classAttribute(behind.tone, block.edgeWidth > 0 && around.tone)} bgcolor="${behind.color}" style="${style}">`,
    );
    proseHtml(block.content, block, { ...behind.inside, width });
    out.raw("</td></tr></table>");
  },
  text: (block, context) => proseText(block.content.content, context),
  title: (block) => firstProse(block.content) || "Empty box",
});
