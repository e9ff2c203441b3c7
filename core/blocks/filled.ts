import { type Block, withValueAt } from "../email";
import { itemOf } from "../items";
import { allPlacedIn, oneMore, type Placed } from "../properties";
import { BLOCK_TYPES, type BlockTypeName, createBlock } from "./registry";

/** An item that says all there is to say. */
const PLACED = itemOf({
  id: "1",
  title: "Beans",
  text: "Climb to eight feet.",
  link: "https://shop.example/beans",
  picture: "https://shop.example/beans.png",
  price: 4,
  sale: 3,
  currency: "EUR",
});

/** What stands for something that nobody has chosen yet; undefined where what there is will do. */
function chosen({ key, property, value, label }: Placed): unknown {
  if (property.kind === "list" && Array.isArray(value) && value.length === 0)
    return [oneMore(property, [], "1")];
  if (property.kind === "day" && value === undefined) return "2026-12-31";
  if (property.kind === "held" && key === "item") return PLACED;
  // What may be typed over an item's own is.
  if (property.kind === "text" && value === undefined) return label;
  if (value !== "") return undefined;
  switch (property.kind) {
    case "picture":
      return "/pictures/x.jpg";
    case "address":
      return "https://shop.example/";
    case "moment":
      return key === "end" ? "2026-12-03T20:00" : "2026-12-03T18:00";
    case "key":
      return property.of === "source" ? "journal" : "spring";
    case "text":
      return property.said ? label : undefined;
    default:
      return undefined;
  }
}

/** For tests: a block of a type as it comes from the shelf, with everything chosen that has to be and no part switched off. */
export function filledBlock(name: BlockTypeName, id: string): Block {
  const { off: _, ...fresh } = createBlock(name, id) as Block;
  let block = fresh as Block;
  // Twice: what stands in a list that was empty is chosen as well.
  for (const found of [block, undefined])
    for (const placed of allPlacedIn(BLOCK_TYPES[name].properties, found ?? block)) {
      const value = chosen(placed);
      if (value !== undefined) block = withValueAt(block, placed.path, value) as Block;
    }
  return block;
}
