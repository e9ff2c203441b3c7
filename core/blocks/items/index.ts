import { z } from "zod";
import { ItemSchema, itemOf } from "../../items";
import type { PlacedLink } from "../../markup";
import { held, list, type Properties, text, toggle } from "../../properties";
import { type BlockOf, declareBlock, shows } from "../type";
import { ARRANGED, arrangedAsBefore, ITEM_PARTS, NO_PRODUCT_PARTS } from "./arranged";
import { gridHtml, itemHtml, itemText, titleOf } from "./item";

const properties = {
  items: list(
    "item",
    {
      /** Where it is from; empty for one that is written by hand. */
      source: held("Source", z.string().max(60), { fresh: "" }),
      item: held("As it was placed", ItemSchema, { fresh: itemOf({ id: "new" }) }),
      title: text("Title", 500, { optional: true, part: "title" }),
      text: text("Text", 3000, { optional: true, part: "text", long: true }),
      price: held("Price", z.number().nonnegative().max(1e9).optional(), { part: "price" }),
      own: held("Own facts", z.record(z.string(), z.string().max(200)).optional(), { part: "facts" }),
    },
    { most: 24, under: "Items", fresh: [] },
  ),
  follow: toggle("Take over what changes when it is sent", { fresh: false, under: "Items" }),
  ...ARRANGED,
} satisfies Properties;
export type ItemsBlock = BlockOf<"items", typeof properties>;
export type PlacedItem = ItemsBlock["items"][number];

export const items = declareBlock({
  type: "items",
  label: "Items",
  group: "live",
  words: "product products article shop catalogue appointment event record house price grid set",
  properties,
  fresh: { off: NO_PRODUCT_PARTS },
  parts: ITEM_PARTS,
  upgrades: { 3: (raw) => ({ follow: false, ...arrangedAsBefore(raw) }) },
  heading: (block) => (shows(block, "title") && block.items.length > 0 ? 3 : null),
  html(block, context) {
    const { out, marks } = context;
    if (block.items.length === 0 && marks)
      out.raw('<div class="waiting live">Choose items on the right</div>');
    gridHtml(block, context, {
      count: block.items.length,
      cell: (at, width, level) => itemHtml(block.items[at], block, { ...context, width }, level),
    });
  },
  text(block, context) {
    for (const placed of block.items) itemText(placed, block, context);
  },
  links: (block) =>
    block.items.flatMap((placed): PlacedLink[] => {
      const { id, source, item } = placed;
      const link = { words: titleOf(placed), href: item.link };
      if (source === "") return [{ ...link, path: `items/${id}/item/link` }];
      return item.link === "" ? [] : [{ ...link, path: null, fixed: "Led to by its source" }];
    }),
  title: (block) => block.items.map(titleOf).join(", ").slice(0, 60) || "Items",
  unready: (block) => {
    if (block.items.length === 0) return ["A block of items has none. Choose some, or delete it."];
    const empty = block.items.findIndex(
      (placed) => placed.source === "" && `${titleOf(placed)}${placed.text ?? ""}`.trim() === "",
    );
    return empty < 0 ? [] : [`Item ${empty + 1} of a block says nothing. Write its title, or take it out.`];
  },
});
