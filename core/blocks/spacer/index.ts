import { z } from "zod";
import { BlockBaseSchema } from "../../email";
import type { BlockType } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("spacer"),
  /** Height in px. */
  height: z.number().min(1).max(200),
});
export type SpacerBlock = z.infer<typeof schema>;

export const spacer: BlockType<SpacerBlock> = {
  type: "spacer",
  label: "Space",
  group: "layout",
  words: "gap spacer room",
  schema,
  create: (id) => ({ id, type: "spacer", height: 24, padding: { top: 0, right: 0, bottom: 0, left: 0 } }),
  look: ["height"],
  html(block, { out }) {
    out.raw(
      `<div style="height:${block.height}px;line-height:${block.height}px;font-size:1px;mso-line-height-rule:exactly;">&nbsp;</div>`,
    );
  },
  text() {},
  places: () => [],
  title: (block) => `Space, ${block.height} px`,
};
