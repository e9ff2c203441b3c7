import { z } from "zod";
import { AlignSchema, BlockBaseSchema, InlineSchema, inlineText } from "../../email";
import {
  firstWords,
  linkText,
  NO_PICTURE,
  phrases,
  pictureHtml,
  pictureShape,
  smallWords,
  writeInline,
} from "../../markup";
import { type BlockType, shows } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("video"),
  ...pictureShape,
  href: z.string().max(2000),
  content: z.array(InlineSchema),
  align: AlignSchema,
});
export type VideoBlock = z.infer<typeof schema>;

/** The address of a picture of ours with a play mark drawn on it; others stay as they are. */
export function playing(src: string): string {
  return /^\/pictures\/[^/]+$/.test(src) ? `${src}/play` : src;
}

export const video: BlockType<VideoBlock> = {
  type: "video",
  label: "Video",
  group: "pictures",
  words: "film movie still play",
  schema,
  create: (id) => ({
    id,
    type: "video",
    ...NO_PICTURE,
    href: "",
    content: [{ type: "text", text: "Watch the film" }],
    align: "center",
  }),
  parts: [{ key: "caption", label: "Words below" }],
  look: ["align", "radius"],
  html(block, context) {
    const say = phrases(context.language);
    pictureHtml(
      {
        ...block,
        src: playing(block.src),
        alt: block.alt === "" ? say.film : say.play(block.alt),
        decorative: false,
      },
      context,
    );
    if (shows(block, "caption")) smallWords(block.content, "content", block.align, context);
  },
  text(block, context) {
    const { out } = context;
    if (shows(block, "caption")) {
      writeInline(block.content, context);
      out.raw("\n");
    }
    linkText(block.alt === "" ? "Film" : block.alt, block.href, context);
    out.raw("\n");
  },
  places: () => [{ path: "content", kind: "line" }],
  links: (block) => [{ path: "href", words: block.alt || inlineText(block.content), href: block.href }],
  needs: ({ src, href }) => ({ src, href }),
  title: (block) => block.alt || firstWords(block.content) || "Video",
  unready: (block) => [
    ...(block.src === "" ? ["A video has no still. Choose one or take it from its address."] : []),
    ...(block.href === "" ? ["A video leads nowhere. Give it the address of the film."] : []),
  ],
};
