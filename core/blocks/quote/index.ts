import {
  classAttribute,
  css,
  edge,
  firstProse,
  paddingOf,
  proseHtml,
  proseText,
  sideOf,
  smallWords,
  TABLE,
  writeInline,
} from "../../markup";
import { colour, line, type Properties, prose, wordLook } from "../../properties";
import { declareBlock, shows } from "../type";

const properties = {
  content: prose("Words", { fresh: "What somebody said, in their words." }),
  /** Empty leaves the line out. */
  source: line("Who said it", { fresh: "Who said it", part: "source" }),
  ...wordLook({ under: "Quote", size: ({ text }) => Math.round(text.size * 1.2), phone: true }),
  /** Beside the words. */
  bar: colour("Bar", { under: "Quote", theme: ({ light }) => light.accent }),
} satisfies Properties;

export const quote = declareBlock({
  type: "quote",
  label: "Quote",
  group: "words",
  words: "citation testimonial said",
  properties,
  about: "Click the words or the name below them to edit either where it stands.",
  parts: [{ key: "source", label: "Who said it" }],
  html(block, context) {
    const { out, theme } = context;
    const size = block.size ?? Math.round(theme.text.size * 1.2);
    const line = edge(block.bar, "accent", context);
    const side = sideOf("left", context);
    const bar = css({
      [`border-${side}`]: `4px solid ${line.color}`,
      padding: paddingOf([4, 0, 4, 18], context),
    });
    out.raw(`<table ${TABLE} width="100%"><tr><td${classAttribute(line.tone)} style="${bar}">`);
    proseHtml(block.content, { size, color: block.color }, context);
    if (shows(block, "source") && (block.source.length > 0 || context.marks))
      smallWords(block.source, "source", "left", context);
    out.raw("</td></tr></table>");
  },
  text(block, context) {
    context.out.raw("“");
    proseText(block.content.content, context, () => {
      context.out.raw("”");
      if (!shows(block, "source") || block.source.length === 0) return;
      context.out.raw(" - ");
      writeInline(block.source, context);
    });
  },
  title: (block) => firstProse(block.content) || "Empty quote",
});
