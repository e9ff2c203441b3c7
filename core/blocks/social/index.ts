import { z } from "zod";
import { linkRowHtml, linkText, withItemIds } from "../../markup";
import { address, drawing, held, list, type Properties, rowLook, text } from "../../properties";
import { declareBlock } from "../type";

const properties = {
  items: list(
    "link",
    {
      glyph: drawing("Drawing", { fresh: "globe", own: "picture" }),
      /** One of one's own in place of the drawing. */
      picture: held("Picture in place of the drawing", z.string().max(2000).optional()),
      label: text("Words", 80, { least: 1, fresh: "New link", stays: true }),
      href: address("Address", {
        fresh: "",
        of: ["label"],
        missing: "A social link leads nowhere. Give it an address.",
      }),
    },
    {
      most: 12,
      under: "Social links",
      fresh: [
        { glyph: "globe", label: "Website" },
        { glyph: "camera", label: "Pictures" },
        { glyph: "film", label: "Films" },
        { glyph: "talk", label: "Talk with us" },
      ],
    },
  ),
  ...rowLook(24),
} satisfies Properties;

export const social = declareBlock({
  type: "social",
  label: "Social links",
  group: "actions",
  words: "follow channels profiles",
  properties,
  html: (block, context) => linkRowHtml(block.items, block, context),
  text(block, context) {
    for (const item of block.items) linkText(item.label, item.href, context);
    context.out.raw("\n");
  },
  upgrades: { 2: (raw) => withItemIds(raw, "items") },
  title: (block) =>
    block.items
      .map((item) => item.label)
      .join(", ")
      .slice(0, 40) || "Social links",
});
