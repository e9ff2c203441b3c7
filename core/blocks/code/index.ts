import { z } from "zod";
import { remembered } from "../../email";
import { classAttribute, css, fixedGround, ink, TABLE } from "../../markup";
import { escapeHtml } from "../../program";
import { held, type Properties, text } from "../../properties";
import { type BlockOf, declareBlock } from "../type";
import { type CleanHtml, cleanHtml } from "./clean";
import { ownClass, ownRules, scopeOf, withinPhones } from "./rules";
import { textWithTags, withTags } from "./tags";

const properties = {
  /** As it was written; what is not allowed is taken out whenever it is shown or sent. */
  html: text("HTML", 400_000, { fresh: "", long: true, typed: true, under: "HTML", history: "Writing HTML" }),
  /**
   * Style sheets of a letter that is kept whole. Of them its rules for phones and for dark are used, for this block
   * alone; and on phones it is kept within the window.
   */
  sheets: held("Style sheets", z.string().max(100_000).optional()),
} satisfies Properties;
export type CodeBlock = BlockOf<"code", typeof properties>;

const OWN_PICTURE = /((?: src=| background=)"|url\((?:&quot;|&#39;)?)\/(?=(?:pictures|glyphs)\/)/g;

/** Whether the HTML says what colours its words or grounds have. */
const OWN_COLOR = /(?:[\s";]color|background(?:-color)?|bgcolor)\s*[:=]/i;

/** A block's HTML made harmless, with the rules that go into the style block of the message. */
export interface CleanCode extends CleanHtml {
  /** For narrow windows, at the width where the theme's own rules for them begin. */
  phones: string;
  /** With conditions of their own. */
  rules: string;
}

/** The same, once for each version of the block. */
export const cleanCode: (block: CodeBlock) => CleanCode = remembered(({ id, html, sheets }) => {
  if (sheets === undefined) return { ...cleanHtml(html), phones: "", rules: "" };
  const noted = new Map<string, number>();
  const scope = scopeOf(id);
  const { css, classes, narrow } = ownRules(sheets, scope, (what) =>
    noted.set(what, (noted.get(what) ?? 0) + 1),
  );
  const clean = cleanHtml(html, new Map([...classes].map((name) => [name, ownClass(name)])));
  // Names that no rule speaks of are of no use once the styles stand in the elements.
  const removed = [...clean.removed, ...[...noted].map(([what, count]) => ({ what, count }))].filter(
    ({ what }) => what !== "class and id names" && what !== "comments",
  );
  const widths = [...clean.html.matchAll(/<img\b[^>]*? width="(\d{3,4})"/g)].map(([, width]) =>
    Number(width),
  );
  return { ...clean, removed, phones: withinPhones(scope, narrow, widths), rules: css };
});

/** In a frame of the canvas the width of the window is that of the frame. */
const framedCss = (phones: string, rules: string) =>
  phones === "" ? "" : `@media (max-width:480px){${phones}}${rules}`;

export const code = declareBlock({
  type: "code",
  label: "Code",
  group: "layout",
  words: "html own source embed",
  properties,
  html(block, context) {
    const { out, theme } = context;
    if (block.html.trim() === "") {
      if (context.marks) out.raw('<div class="waiting">Write HTML of your own on the right</div>');
      return;
    }
    // Colours of its own were chosen for light ground, and keep it in dark.
    const html = cleanCode(block).html;
    const colored = OWN_COLOR.test(html);
    const inside = colored ? fixedGround(context.ground.light, context) : context;
    const { color, tone } = ink(undefined, "text", inside);
    const look = css({
      "font-family": theme.fonts.body,
      "font-size": `${theme.text.size}px`,
      "line-height": `${Math.round(theme.text.size * theme.text.line)}px`,
      color,
    });
    if (colored) {
      const { light } = context.ground;
      out.raw(`<table ${TABLE} width="100%"><tr><td bgcolor="${light}" style="background-color:${light};">`);
    }
    // Pictures of ours are named without the origin, which messages need.
    const whole = withTags(html.replace(OWN_PICTURE, `$1${context.origin}/`), context);
    // While one composes, it stands in a frame of its own: the mark says which element that is.
    const { phones, rules } = cleanCode(block);
    const mark = context.marks ? ` data-framed="${escapeHtml(framedCss(phones, rules))}"` : "";
    const scope = block.sheets !== undefined && scopeOf(block.id);
    out.raw(`<div${mark}${classAttribute(tone, scope)} style="${look}">${whole}</div>`);
    if (colored) out.raw("</td></tr></table>");
  },
  text(block, context) {
    const { text } = cleanCode(block);
    if (text !== "") context.out.raw(`${textWithTags(text, context)}\n\n`);
  },
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
});
