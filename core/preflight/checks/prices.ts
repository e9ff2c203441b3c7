/** Prices that are not those of the catalogue. */
import { type ItemsBlock, shows } from "../../blocks";
import { commands } from "../../compose";
import { type Block, blocksOf, type Email } from "../../email";
import { costs, type Item } from "../../items";
import { itemKey } from "../../picking";
import { sumWords } from "../../program";
import type { Check } from "../check";
import { type Circumstances, type Finding, mendBy } from "../finding";
import { short } from "../said";

type Placed = ItemsBlock["items"][number];

/** As its source has it, with what was typed over the rest. */
const asNow = ({ price: _, ...placed }: Placed, item: Item): Placed => ({ ...placed, item });

function differing(email: Email, { catalogue = [] }: Circumstances): Finding[] {
  const now = new Map(catalogue.map(({ source, item }) => [itemKey(source, item.id), item]));
  return (blocksOf(email) as Block[]).flatMap((node): Finding[] => {
    if (node.type !== "items" || !shows(node as ItemsBlock, "price")) return [];
    const block = node as ItemsBlock;
    return block.items.flatMap((placed, at): Finding[] => {
      const item = now.get(itemKey(placed.source, placed.item.id));
      if (!item) return [];
      const here = placed.price ?? costs(block.follow ? item : placed.item);
      const there = costs(item);
      if (here === null || there === null || here === there) return [];
      const sum = (price: number) => sumWords(email.language, price, item.currency);
      const items = block.items.map((one, place) => (place === at ? asNow(placed, item) : one));
      return [
        {
          weight: "look",
          text: `“${short(placed.title ?? item.title)}” costs ${sum(here)} here, and ${sum(there)} at its source. Take over what it costs there, or leave it where that is meant.`,
          block: block.id,
          mend: mendBy(`Take over ${sum(there)}`, email, commands.set(block.id, { items })),
        },
      ];
    });
  });
}

export const pricesCheck: Check = {
  name: "prices",
  group: "content",
  label: "prices as in the catalogue",
  why: "Who comes for a price that is not the shop’s is turned away, or has to be given it.",
  design: differing,
};
