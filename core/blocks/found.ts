/** What blocks hold, found by the properties that their types declare. */
import { type Block, inlineText, linesOf, remembered, richText, same, type Words } from "../email";
import type { PlacedLink } from "../markup";
import { type Holder, oneMore, type Placed, placedIn } from "../properties";
import { blockType } from "./registry";

/**
 * The properties of a block with what they hold, in the order of their declaration. Left out is what does not count: parts
 * that are switched off, and what other properties leave no use for.
 */
export const propertiesOf: (block: Block) => readonly Placed[] = remembered((block) => {
  const type = blockType(block.type);
  return type ? [...placedIn(type.properties, block)] : [];
});

/** Words of a block: where they stand in it, what they are, and what they are called. */
export interface PlacedWords {
  path: string;
  kind: "prose" | "line";
  label: string;
  words: Words;
  /** Whether what they come with may well stay. */
  stays: boolean;
}

/** The words of a block by their places, in reading order; where there are none yet they are empty. */
export function wordsOf(block: Block): PlacedWords[] {
  return propertiesOf(block).flatMap(({ path, property, value, label }) => {
    const { kind, stays = false } = property;
    if (kind !== "line" && kind !== "prose") return [];
    const words = (value as Words | undefined) ?? (kind === "prose" ? richText() : []);
    return [{ path, kind, label, words, stays }];
  });
}

/** The plain texts of a block that readers see or hear, by their places. */
export function textsOf(block: Block): { path: string; label: string; text: string; stays: boolean }[] {
  return propertiesOf(block).flatMap(({ path, property, value, label }) =>
    property.kind === "text" && property.said && typeof value === "string"
      ? [{ path, label, text: value, stays: property.stays ?? false }]
      : [],
  );
}

/** The pictures of a block: what holds the address of each, with the path that leads there. */
export function picturesOf(
  block: Block,
): { path: string; picture: Holder & { src: string }; label: string }[] {
  return propertiesOf(block).flatMap(({ path, key, property, holder, label }) =>
    property.kind === "picture"
      ? [{ path: path.slice(0, -key.length), picture: holder as Holder & { src: string }, label }]
      : [],
  );
}

/** What a property says, as the words of a link: its first line. */
function saidBy(value: unknown): string {
  if (typeof value === "string") return value;
  const [first] = value ? linesOf(value as Words) : [];
  return first ? inlineText(first) : "";
}

/** The links of a block besides those within its words, those without an address yet among them. */
export function placedLinksOf(block: Block): PlacedLink[] {
  const held = propertiesOf(block).flatMap(({ path, property, value, holder }): PlacedLink[] => {
    if (property.kind !== "address" || typeof value !== "string") return [];
    const { of = [], otherwise = "" } = property;
    const words = of.map((key) => saidBy(holder[key])).find((said) => said !== "") ?? otherwise;
    return [{ path, words, href: value }];
  });
  return [...held, ...(blockType(block.type)?.links?.(block) ?? [])];
}

/** The addresses without which there is nothing to show: for readers for whom one is an empty tag it is left out. */
export function needsOf(block: Block): { src?: string; href?: string } {
  const needed = propertiesOf(block).flatMap(({ property, value }): [string, unknown][] => {
    if (property.kind === "picture" && property.needed) return [["src", value]];
    return property.kind === "address" && property.needed ? [["href", value]] : [];
  });
  return Object.fromEntries(needed);
}

/** What still has to be done before a block can be sent, each as a sentence. */
export function unreadyIn(block: Block): string[] {
  const missing = propertiesOf(block).flatMap(({ property, value }) =>
    property.missing !== undefined && value === "" ? [property.missing] : [],
  );
  return [...new Set([...missing, ...(blockType(block.type)?.unready?.(block) ?? [])])];
}

/**
 * One more item of the list whose last words stand at a path: what is to be set for it, and where its first words stand;
 * null where these are no such words, where no more may be, and where nobody has written into the last item yet.
 * @param id of the new item
 */
export function grownAt(
  block: Block,
  path: string,
  id: string,
): { set: Record<string, unknown>; path: string; noun: string } | null {
  const [key, within] = path.split("/");
  const property = blockType(block.type)?.properties[key];
  if (property?.kind !== "list") return null;
  const items = block[key] as readonly { id: string }[];
  if (items.at(-1)?.id !== within || items.length >= property.most) return null;
  if (wordsOf(block).findLast((words) => words.path.startsWith(`${key}/`))?.path !== path) return null;
  if (same(items.at(-1), oneMore(property, items.slice(0, -1), within))) return null;
  const set = { [key]: [...items, oneMore(property, items, id)] };
  const first = wordsOf({ ...block, ...set }).find((words) => words.path.startsWith(`${key}/${id}/`));
  return first ? { set, path: first.path, noun: property.noun } : null;
}
