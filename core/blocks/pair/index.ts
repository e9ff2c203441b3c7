import type { RenderContext } from "../../markup";
import { columnsHtml, firstWords } from "../../markup";
import { address, colour, corners, faceLook, line, type Properties } from "../../properties";
import { buttonHtml, buttonText } from "../button";
import { type BlockOf, declareBlock } from "../type";

const NOWHERE = "A button leads nowhere. Give it an address.";

const properties = {
  content: line("Words on the first button", { fresh: "Yes, please", stays: true }),
  href: address("First button leads to", {
    fresh: "",
    of: ["content"],
    under: "First button",
    missing: NOWHERE,
  }),
  ...faceLook({ under: "First button" }),
  second: line("Words on the second button", { fresh: "Tell me more", stays: true }),
  secondHref: address("Second button leads to", {
    fresh: "",
    of: ["second"],
    under: "Second button",
    missing: NOWHERE,
  }),
  secondFace: colour("Face", { fills: true, under: "Second button", theme: ({ light }) => light.accent }),
  secondColor: colour("Words", {
    under: "Second button",
    theme: ({ light }) => light.onAccent,
    on: { face: "secondFace" },
  }),
  radius: corners({ max: 60, theme: ({ button }) => button.radius }),
} satisfies Properties;
export type PairBlock = BlockOf<"pair", typeof properties>;

/** The two buttons of a pair, each as a button by itself. */
function halves(block: PairBlock) {
  const look = { align: "center" as const, full: true, radius: block.radius };
  return [
    {
      key: "content",
      ...look,
      content: block.content,
      href: block.href,
      face: block.face,
      color: block.color,
    },
    {
      key: "second",
      ...look,
      content: block.second,
      href: block.secondHref,
      face: block.secondFace,
      color: block.secondColor,
    },
  ];
}

export const pair = declareBlock({
  type: "pair",
  label: "Pair",
  group: "actions",
  words: "two buttons choice",
  properties,
  html(block, context) {
    const cells = halves(block).map((half) => ({
      share: 50,
      write: (width: number) => buttonHtml(half, { ...context, width }, half.key),
    }));
    columnsHtml(context, cells, { gap: 12, onPhones: "stack" });
  },
  text(block, context: RenderContext) {
    for (const half of halves(block)) buttonText(half, context);
    context.out.raw("\n");
  },
  title: (block) => `${firstWords(block.content)} / ${firstWords(block.second)}`,
});
