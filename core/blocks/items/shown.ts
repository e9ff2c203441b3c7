/** An item as a block shows it: what was typed over it, and its picture as it is cut. */
import { typedWords } from "../../email";
import type { Item } from "../../items";
import type { RenderContext } from "../../markup";
import { CUT_RATIOS, pictureFileOf, shapedAddress, variantAddress } from "../../pictures";
import { absolute, numberFormat, yesNo } from "../../program";
import { shows } from "../type";
import type { Arranged } from "./arranged";

/** An item with what was typed over what its source says. */
export interface Shown {
  item: Item;
  /** Where it is from; empty or missing for what is written by hand. */
  source?: string;
  title?: string;
  text?: string;
  /** What it costs instead, in whole units of its currency. */
  price?: number;
  /** By their keys; also those that its source does not give. */
  own?: Readonly<Record<string, string>>;
}

/** The address of an item's picture, cut to its shape where it has one, and how high it stands; empty where none is shown. */
export function pictureOf(
  { item, source = "" }: Shown,
  block: Arranged,
  { width, origin }: RenderContext,
): { picture: string; height: number | undefined } {
  const { picture, size, id } = item;
  const { ratio } = block;
  if (!shows(block, "picture") || !picture) return { picture: "", height: undefined };
  if (ratio && (source !== "" || pictureFileOf(picture) !== null))
    return {
      picture: absolute(shapedAddress({ source, id, picture }, ratio, width), origin),
      height: Math.round(width / CUT_RATIOS[ratio]),
    };
  return {
    picture: absolute(variantAddress(picture, width, size?.width), origin),
    height: size && Math.max(1, Math.round((width * size.height) / size.width)),
  };
}

/**
 * A fact of an item: in words, with what it is called, or as a link that is called so where it is an address. Both empty
 * where the item has none.
 */
export function factOf(
  { item, own }: Shown,
  { fact, label }: Arranged["facts"][number],
  locale: string,
): { words: string; href: string } {
  const value = own?.[fact] ?? item.facts[fact];
  const words =
    typeof value === "number"
      ? numberFormat(locale).format(value)
      : typeof value === "boolean"
        ? yesNo(locale, value)
        : Array.isArray(value)
          ? value.join(", ")
          : (value ?? "").trim();
  if (/^https?:\/\/\S+$/i.test(words))
    return { words: label || words.replace(/^https?:\/\//i, ""), href: typedWords(words) };
  return { words: words === "" || label === "" ? words : `${label}: ${words}`, href: "" };
}
