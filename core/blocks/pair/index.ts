import { z } from "zod";
import { BlockBaseSchema, ColorSchema, InlineSchema, inlineText } from "../../email";
import type { RenderContext } from "../../markup";
import { columnsHtml, firstWords } from "../../markup";
import { buttonHtml, buttonText } from "../button";
import type { BlockType } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("pair"),
  content: z.array(InlineSchema),
  href: z.string().max(2000),
  second: z.array(InlineSchema),
  secondHref: z.string().max(2000),
  face: ColorSchema.optional(),
  color: ColorSchema.optional(),
  secondFace: ColorSchema.optional(),
  secondColor: ColorSchema.optional(),
  radius: z.number().min(0).max(60).optional(),
});
export type PairBlock = z.infer<typeof schema>;

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

export const pair: BlockType<PairBlock> = {
  type: "pair",
  label: "Pair",
  group: "actions",
  words: "two buttons choice",
  schema,
  create: (id) => ({
    id,
    type: "pair",
    content: [{ type: "text", text: "Yes, please" }],
    href: "",
    second: [{ type: "text", text: "Tell me more" }],
    secondHref: "",
  }),
  look: ["face", "color", "secondFace", "secondColor", "radius"],
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
  places: () => [
    { path: "content", kind: "line" },
    { path: "second", kind: "line" },
  ],
  links: (block) => [
    { path: "href", words: inlineText(block.content), href: block.href },
    { path: "secondHref", words: inlineText(block.second), href: block.secondHref },
  ],
  title: (block) => `${firstWords(block.content)} / ${firstWords(block.second)}`,
  unready: (block) =>
    block.href === "" || block.secondHref === "" ? ["A button leads nowhere. Give it an address."] : [],
};
