import { css, ink, linkText, rowHtml, withItemIds } from "../../markup";
import { address, align, colour, list, number, type Properties, text } from "../../properties";
import { declareBlock } from "../type";

const properties = {
  items: list(
    "link",
    {
      label: text("Words", 80, { least: 1, fresh: "New link", stays: true }),
      href: address("Address", {
        fresh: "",
        of: ["label"],
        missing: "A link of a menu leads nowhere. Give it an address.",
      }),
    },
    {
      most: 12,
      under: "Menu",
      fresh: [{ label: "Shop" }, { label: "Journal" }, { label: "Visit us" }],
    },
  ),
  align: align({ fresh: "center", under: "Look" }),
  size: number("Size", { min: 10, max: 24 }, { fresh: 14, look: true, phone: true, under: "Look" }),
  color: colour("Colour", { under: "Look", theme: ({ light }) => light.link, on: "around" }),
} satisfies Properties;

export const menu = declareBlock({
  type: "menu",
  label: "Menu",
  group: "actions",
  words: "links navigation row",
  properties,
  html(block, context) {
    const { theme } = context;
    const { color, tone } = ink(block.color, "link", context);
    const style = css({
      display: "inline-block",
      padding: "8px 10px",
      "font-family": theme.fonts.body,
      "font-size": `${block.size}px`,
      "line-height": "28px",
      color,
      "text-decoration": "none",
    });
    rowHtml(
      block.items.map(({ href, label }) => ({
        href,
        tone,
        style,
        write: () => void context.out.escaped(label),
      })),
      block.align,
      context,
    );
  },
  text(block, context) {
    for (const item of block.items) linkText(item.label, item.href, context);
    context.out.raw("\n");
  },
  upgrades: { 2: (raw) => withItemIds(raw, "items") },
  title: (block) => block.items.map((item) => item.label).join(", ") || "Empty menu",
});
