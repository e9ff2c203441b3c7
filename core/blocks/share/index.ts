import { z } from "zod";
import { BlockBaseSchema } from "../../email";
import {
  encodeTyped,
  GlyphSchema,
  itemShape,
  leads,
  linkRowHtml,
  linkRowShape,
  linkText,
  numbered,
  type RowLink,
  withItemIds,
} from "../../markup";
import type { BlockType } from "../type";

const schema = BlockBaseSchema.extend({
  type: z.literal("share"),
  ...linkRowShape,
  /** What is shared. */
  href: z.string().max(2000),
  /** What is written along with it. */
  words: z.string().max(300),
  ways: z
    .array(
      z.object({
        ...itemShape,
        /** By an email of their own, or on a page that takes `{address}` and `{words}` in its address. */
        by: z.enum(["email", "page"]),
        glyph: GlyphSchema,
        label: z.string().min(1).max(80),
        pattern: z.string().max(2000),
      }),
    )
    .max(8),
});
export type ShareBlock = z.infer<typeof schema>;

/** An address that opens a new email with subject and words (RFC 6068). */
export function mailto(subject: string, body: string): string {
  return `mailto:?subject=${encodeTyped(subject)}&body=${encodeTyped(body.replace(/\r?\n/g, "\r\n"))}`;
}

/** Where each way of sharing leads. */
function links(block: ShareBlock): RowLink[] {
  return block.ways.map((way) => ({
    glyph: way.glyph,
    label: way.label,
    href: !leads(block.href)
      ? ""
      : way.by === "email"
        ? mailto(block.words, `${block.words}\n\n${block.href.trim()}`)
        : way.pattern
            .replaceAll("{address}", encodeTyped(block.href.trim()))
            .replaceAll("{words}", encodeTyped(block.words)),
  }));
}

export const share: BlockType<ShareBlock> = {
  type: "share",
  label: "Share",
  group: "actions",
  words: "forward pass on friend",
  schema,
  create: (id) => ({
    id,
    type: "share",
    href: "",
    words: "I thought you would like this",
    ways: numbered([{ by: "email", glyph: "letter", label: "Forward to a friend", pattern: "" }]),
    display: "both",
    align: "center",
    size: 20,
  }),
  look: ["display", "align", "size", "color"],
  html: (block, context) => linkRowHtml(links(block), block, context),
  text(block, context) {
    for (const link of links(block)) {
      // Nobody can follow a prepared email from plain text: the address itself is what can be passed on.
      linkText(link.label, link.href.startsWith("mailto:") ? block.href : link.href, context);
    }
    context.out.raw("\n");
  },
  upgrades: { 2: (raw) => withItemIds(raw, "ways") },
  texts: ({ ways }) => [
    { path: "words", label: "Words to share" },
    ...ways.map(({ id }) => ({ path: `ways/${id}/label`, label: "Words of the link" })),
  ],
  places: () => [],
  links: (block) => [{ path: "href", words: block.words, href: block.href }],
  title: (block) =>
    block.ways
      .map((way) => way.label)
      .join(", ")
      .slice(0, 40) || "Share",
  unready: (block) => [
    ...(block.href === "" ? ["Sharing has nothing to share. Give the address of a page."] : []),
    ...(block.ways.some((way) => way.by === "page" && !/\{address\}/.test(way.pattern))
      ? ["A way of sharing does not pass the page on. Write {address} where it belongs."]
      : []),
  ],
};
