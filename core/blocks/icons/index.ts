import {
  classAttribute,
  css,
  firstWords,
  glyphImg,
  ink,
  lineStyle,
  paddingOf,
  TABLE,
  withItemIds,
  wordsMark,
  writeInline,
} from "../../markup";
import { colour, drawing, line, list, number, type Properties, wordLook } from "../../properties";
import { declareBlock } from "../type";

const properties = {
  items: list(
    "item",
    { glyph: drawing("Drawing", { fresh: "check" }), content: line("Words", { fresh: "" }) },
    {
      most: 20,
      under: "Icon list",
      fresh: [
        { content: "The first good reason" },
        { content: "The second one" },
        { content: "And the third" },
      ],
      more: { content: "One more" },
      alike: ["glyph"],
    },
  ),
  iconSize: number("Icon size", { min: 14, max: 64 }, { fresh: 22, look: true, under: "Look" }),
  iconColor: colour("Icons", { under: "Look", theme: ({ light }) => light.accent }),
  /** Between items. */
  gap: number("Gap", { max: 60 }, { fresh: 10, look: true, under: "Look" }),
  ...wordLook({ under: "Look", phone: true }),
} satisfies Properties;

export const icons = declareBlock({
  type: "icons",
  label: "Icon list",
  group: "words",
  words: "list icons points checks benefits",
  properties,
  about: "Click the words in the email to edit them.",
  html(block, context) {
    const { out, theme } = context;
    const size = block.size ?? theme.text.size;
    const line = Math.max(block.iconSize, Math.round(size * theme.text.line));
    const { color, tone } = ink(block.color, "text", context);
    out.raw(`<table ${TABLE} width="100%">`);
    for (const [index, item] of block.items.entries()) {
      const below = index === block.items.length - 1 ? 0 : block.gap;
      const icon = css({
        padding: paddingOf([0, 12, below, 0], context),
        "font-size": "0",
        "line-height": `${line}px`,
      });
      const words = css({
        padding: paddingOf([0, 0, below, 0], context),
        ...lineStyle({ size, lineHeight: line }, color, context),
      });
      out.raw(`<tr><td width="${block.iconSize + 12}" valign="top" style="${icon}">`);
      out.raw(glyphImg({ name: item.glyph, own: block.iconColor, size: block.iconSize }, context));
      out.raw(
        `</td><td valign="top"${classAttribute(tone)}${wordsMark(context, "line", `items/${item.id}/content`)} style="${words}">`,
      );
      writeInline(item.content, context, { role: "text", own: block.color });
      out.raw("</td></tr>");
    }
    out.raw("</table>");
  },
  text(block, context) {
    for (const item of block.items) {
      context.out.raw("* ");
      writeInline(item.content, context);
      context.out.raw("\n");
    }
    context.out.raw("\n");
  },
  upgrades: { 2: (raw) => withItemIds(raw, "items") },
  title: (block) => firstWords(block.items[0]?.content ?? []) || "Icon list",
});
