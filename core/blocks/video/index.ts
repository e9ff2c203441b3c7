import { firstWords, linkText, phrases, pictureHtml, smallWords, writeInline } from "../../markup";
import { address, align, line, type Properties, pictureProperties } from "../../properties";
import { type BlockOf, declareBlock, shows } from "../type";

const { href: _, ...still } = pictureProperties({
  leads: false,
  decorates: false,
  under: "Still",
  missing: "A video has no still. Choose one or take it from its address.",
  needed: true,
});
const properties = {
  href: address("Leads to", {
    fresh: "",
    of: ["alt", "content"],
    under: "Video",
    missing: "A video leads nowhere. Give it the address of the film.",
    needed: true,
  }),
  ...still,
  content: line("Words below", { fresh: "Watch the film", part: "caption", stays: true }),
  align: align({ fresh: "center", under: "Look" }),
} satisfies Properties;
export type VideoBlock = BlockOf<"video", typeof properties>;

/** The address of a picture of ours with a play mark drawn on it; others stay as they are. */
function playing(src: string): string {
  return /^\/pictures\/[^/]+$/.test(src) ? `${src}/play` : src;
}

export const video = declareBlock({
  type: "video",
  label: "Video",
  group: "pictures",
  words: "film movie still play",
  properties,
  about:
    "Mail programs play no films: readers see the still with a play mark, and a press opens the address.",
  parts: [{ key: "caption", label: "Words below" }],
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
  title: (block) => block.alt || firstWords(block.content) || "Video",
});
