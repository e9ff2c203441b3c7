import { z } from "zod";
import { BlockBaseSchema } from "../../email";
import { css } from "../../markup";
import type { BlockType } from "../type";
import { type CleanHtml, cleanHtml } from "./clean";

const schema = BlockBaseSchema.extend({
  type: z.literal("code"),
  /** As it was written; what is not allowed is taken out whenever it is shown or sent. */
  html: z.string().max(400_000),
});
export type CodeBlock = z.infer<typeof schema>;

const OWN_PICTURE = /((?: src=| background=)"|url\((?:&quot;|&#39;)?)\/(?=(?:pictures|glyphs)\/)/g;

const cleaned = new WeakMap<object, CleanHtml>();

/** The block's HTML made harmless, once for each version of the block. */
export function cleanCode(block: CodeBlock): CleanHtml {
  let clean = cleaned.get(block);
  if (!clean) {
    clean = cleanHtml(block.html);
    cleaned.set(block, clean);
  }
  return clean;
}

export const code: BlockType<CodeBlock> = {
  type: "code",
  label: "Code",
  group: "layout",
  words: "html own source embed",
  schema,
  create: (id) => ({ id, type: "code", html: "" }),
  html(block, context) {
    const { out, theme } = context;
    if (block.html.trim() === "") {
      if (context.marks) out.raw('<div class="waiting">Write HTML of your own on the right</div>');
      return;
    }
    const look = css({
      "font-family": theme.fonts.body,
      "font-size": `${theme.text.size}px`,
      "line-height": `${Math.round(theme.text.size * theme.text.line)}px`,
      color: theme.light.text,
    });
    // Pictures of ours are named without the origin, which messages need.
    const html = cleanCode(block).html.replace(OWN_PICTURE, `$1${context.origin}/`);
    out.raw(`<div class="d-text" style="${look}">${html}</div>`);
  },
  text(block, { out }) {
    const { text } = cleanCode(block);
    if (text !== "") out.raw(`${text}\n\n`);
  },
  places: () => [],
  links: (block) =>
    [...cleanCode(block).html.matchAll(/<a [^>]*?href="([^"]*)"[^>]*>([\s\S]*?)<\/a>/g)].map(
      ([, href, words]) => ({
        path: null,
        words: words
          .replace(/<[^>]*>/g, " ")
          .replace(/\s+/g, " ")
          .trim(),
        href: href.replaceAll("&amp;", "&"),
        fixed: "Stands in the block’s HTML",
      }),
    ),
  title: (block) => {
    const { text } = cleanCode(block);
    const [line] = text.split("\n");
    return line === "" ? "Code" : line.length > 40 ? `${line.slice(0, 38).trimEnd()}…` : line;
  },
  unready: (block) =>
    block.html.trim() === "" ? ["A code block is empty. Write its HTML or delete it."] : [],
};
