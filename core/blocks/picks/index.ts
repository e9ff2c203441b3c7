import { z } from "zod";
import type { Item } from "../../items";
import {
  classAttribute,
  css,
  headingLook,
  ink,
  type Level,
  lineStyle,
  type RenderContext,
} from "../../markup";
import { ItemRuleSchema, type ListAsk, WAYS, type WayName } from "../../picking";
import { escapeHtml } from "../../program";
import { choice, held, key, list, number, type Properties, text, toggle } from "../../properties";
import { ARRANGED, arrangedAsBefore, ITEM_PARTS, NO_PRODUCT_PARTS } from "../items/arranged";
import { gridHtml, itemHtml, itemText, nameColours } from "../items/item";
import { type BlockOf, declareBlock, shows } from "../type";

const WAY_OPTIONS = Object.entries(WAYS).map(([value, { label }]) => ({ value: value as WayName, label }));

const properties = {
  source: key("From", "source", {
    under: "Items",
    history: "Choosing the source",
    missing: "A block of items by rule has no source. Choose one.",
  }),
  filter: held("Which", ItemRuleSchema.optional(), { under: "Items" }),
  ways: list(
    "way",
    {
      by: choice("Order", WAY_OPTIONS, { fresh: "newest" }),
      filter: held("Which of them", ItemRuleSchema.optional()),
      days: held("In the last days", z.number().int().min(1).max(400).optional()),
      field: held("By the reader’s", z.string().max(60).optional()),
    },
    { least: 1, most: 6, under: "Items", fresh: [{ by: "newest" }] },
  ),
  count: number("How many", { min: 1, max: 12, unit: "" }, { fresh: 4, whole: true, under: "Items" }),
  sinceLast: toggle("Only what is new since the last one", { fresh: false, under: "Items" }),
  apart: toggle("Nothing that stands in this email already", { fresh: true, under: "What not" }),
  sold: toggle("Also what is sold out", { fresh: false, under: "What not" }),
  unsent: number(
    "Nothing from the last",
    { max: 12, unit: "campaigns" },
    { fresh: 0, whole: true, under: "What not" },
  ),
  unbought: number(
    "Nothing they bought in",
    { max: 400, unit: "days" },
    { fresh: 0, whole: true, under: "What not" },
  ),
  least: number(
    "At least",
    { min: 1, max: 12, unit: "" },
    { fresh: 1, whole: true, under: "Where there are too few" },
  ),
  instead: text("Words instead", 500, {
    fresh: "",
    long: true,
    under: "Where there are too few",
    stays: true,
    placeholder: "Without words the block is left out",
  }),
  title: text("Heading", 200, { fresh: "", under: "Words", stays: true }),
  ...ARRANGED,
} satisfies Properties;
export type PicksBlock = BlockOf<"picks", typeof properties>;

/** What the block asks of its source. */
export function askOf({ id, source, ways, filter, ...block }: PicksBlock): ListAsk {
  return {
    block: id,
    source,
    ways: ways.map(({ by, filter: which, days, field }) => ({
      by,
      ...(which && { filter: which }),
      ...(days !== undefined && { days }),
      ...(field !== undefined && { field }),
    })),
    ...(filter && { filter }),
    count: block.count,
    apart: block.apart,
    unsent: block.unsent,
    unbought: block.unbought,
    sold: block.sold,
    ...(block.sinceLast && { sinceLast: true }),
  };
}

/** More than are asked for is never too few. */
const leastOf = ({ least, count }: PicksBlock) => Math.min(least, count);

function line(words: string, context: RenderContext): string {
  const { color, tone } = ink(undefined, "text", context);
  const lineHeight = Math.round(16 * context.theme.text.line);
  const style = css({ margin: "0", ...lineStyle({ size: 16, lineHeight }, color, context) });
  return `<p${classAttribute(tone)} style="${style}">${escapeHtml(words)}</p>`;
}

function titleHtml(block: PicksBlock, context: RenderContext): void {
  const look = headingLook(2, context);
  const { color, tone } = ink(undefined, look.role, context);
  const style = css({ margin: "0 0 12px", ...lineStyle({ ...look, align: block.align }, color, context) });
  context.out.raw(
    `<h${context.level}${classAttribute(tone)} style="${style}">${escapeHtml(block.title)}</h${context.level}>`,
  );
}

export const picks = declareBlock({
  type: "picks",
  label: "Items by rule",
  group: "live",
  words: "list products articles newest cheapest recommendation filter reader own automatic",
  properties,
  fresh: { off: NO_PRODUCT_PARTS },
  parts: ITEM_PARTS,
  upgrades: { 3: (raw) => ({ sinceLast: false, ...arrangedAsBefore(raw) }) },
  heading: (block) => (block.title !== "" ? 2 : shows(block, "title") ? 3 : null),
  html(block, context) {
    const { out, marks, level } = context;
    if (block.source === "") {
      if (marks) out.raw('<div class="waiting live">Choose a source on the right</div>');
      return;
    }
    const list = out.pool.list(askOf(block));
    nameColours(block, context);
    const variants = new Map<string, number>();
    const variant = (width: number, itemLevel: Level) => {
      const known = variants.get(`${width} ${itemLevel}`);
      if (known !== undefined) return known;
      const made = out.pool.variant(list, "html", (item: Item, inner) =>
        itemHtml({ item, source: block.source }, block, { ...context, out: inner, width }, itemLevel),
      );
      variants.set(`${width} ${itemLevel}`, made);
      return made;
    };
    const below = block.title === "" ? level : (Math.min(6, level + 1) as Level);
    const write = () => {
      if (block.title !== "") titleHtml(block, context);
      gridHtml(
        block,
        { ...context, level: below },
        {
          count: block.count,
          row: (first, body) => out.having(list, first + 1, body),
          cell: (at, width, itemLevel) => out.item(list, at, variant(width, itemLevel)),
        },
      );
    };
    const otherwise = () => {
      if (block.instead !== "") out.raw(line(block.instead, context));
      else if (marks) out.raw('<div class="waiting live">Nothing is picked for this reader</div>');
    };
    out.having(list, leastOf(block), write, block.instead !== "" || marks ? otherwise : undefined);
  },
  text(block, context) {
    const { out } = context;
    if (block.source === "") return;
    const list = out.pool.list(askOf(block));
    const variant = out.pool.variant(list, "text", (item, inner) =>
      itemText({ item }, block, { ...context, out: inner }),
    );
    out.having(
      list,
      leastOf(block),
      () => {
        if (block.title !== "") out.raw(`${block.title}\n\n`);
        for (let at = 0; at < block.count; at++) out.item(list, at, variant);
      },
      block.instead === "" ? undefined : () => out.raw(`${block.instead}\n\n`),
    );
  },
  title: (block) => block.title || `${block.count} by rule`,
});
