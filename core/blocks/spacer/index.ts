import { z } from "zod";
import { BlockBaseSchema } from "../../email";
import { css } from "../../markup";
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
    const height = `${block.height}px`;
    out.raw(`<div style="${css({ height, "line-height": height, "font-size": "1px" })}">&nbsp;</div>`);
  },
  text() {},
  places: () => [],
  title: (block) => `Space, ${block.height} px`,
};
