/** Tags that lead to a thing as what it is: an item's page, an address among its facts, or its entry for a calendar. */
import { type Item, SOURCE_KINDS, type SourceKind } from "../../items";
import { remembered } from "../../values";
import { calendarAddress, calendarEntryOf } from "../calendar";
import type { MergeTag } from "./tag";
import { readTyped, tagsIn, typedTag } from "./typed";

/** An item that a tag names, as its source has it. */
export interface NamedItem {
  source: string;
  item: Item;
}

/** What of an item is led to: its page, its film, its entry for a calendar, or an address among its facts, `fact.<key>`. */
export type ItemTarget = "link" | "film" | "calendar" | `fact.${string}`;

const PREFIX = "item.";

/** The tag that leads to an item, as it is typed; with it goes where that is now, for where nobody knows the item. */
export function itemTag(source: string, item: Item, target: ItemTarget): string {
  const address = target === "calendar" ? "" : addressOf(item, target, "");
  return typedTag({
    field: PREFIX + target,
    of: { source, item: item.id },
    fallback: address.length <= 200 ? address : "",
    format: "asIs",
  });
}

/** The tag that a whole address is, where it leads to an item; null otherwise. */
export function itemTagOf(href: string): (MergeTag & { of: NonNullable<MergeTag["of"]> }) | null {
  if (!href.includes(`{$${PREFIX}`)) return null;
  const [tag, ...more] = readTyped(href.trim()).pieces;
  return more.length > 0 || typeof tag === "string" || !tag?.of ? null : { ...tag, of: tag.of };
}

/** What of an item a tag leads to; null where it asks something else. */
export const targetOfTag = ({ field, of }: MergeTag): ItemTarget | null =>
  of && field.startsWith(PREFIX) ? (field.slice(PREFIX.length) as ItemTarget) : null;

/** What of an item can be led to. */
export function targetsOf(item: Item): ItemTarget[] {
  const facts = Object.keys(item.facts).map((key) => `fact.${key}` as const);
  return (["link", "film", ...facts, "calendar"] as ItemTarget[]).filter(
    (target) => addressOf(item, target, "") !== "",
  );
}

/** What a target is, beside the title of its item: the kind of thing, or which of its addresses. */
export function targetWords(
  target: ItemTarget,
  kind: SourceKind,
  facts: readonly { key: string; label: string }[],
) {
  if (target === "calendar") return "calendar file";
  if (target === "film") return "film";
  if (target === "link") return kind === "calendar" ? "event" : SOURCE_KINDS[kind].item;
  const key = target.slice("fact.".length);
  return facts.find((fact) => fact.key === key)?.label ?? key.replaceAll("_", " ");
}

/** Where a target leads; empty where the item has no such address. Of a calendar file the address is one of ours. */
export function addressOf(item: Item, target: ItemTarget, origin: string): string {
  if (target === "link") return item.link;
  if (target === "film") return item.film ?? "";
  if (target === "calendar") {
    const entry = calendarEntryOf(item);
    // Where there is no origin nobody follows it either.
    return entry ? calendarAddress(entry, origin || "https://septima.example") : "";
  }
  const value = item.facts[target.slice("fact.".length)];
  return typeof value === "string" && /^https?:\/\/\S+$/i.test(value.trim()) ? value.trim() : "";
}

/** Where a tag leads; empty where its item is gone or has no such address any more. */
export function targetAddress(tag: MergeTag, items: readonly NamedItem[], origin: string): string {
  const { of } = tag;
  const target = targetOfTag(tag);
  const found = of && items.find(({ source, item }) => source === of.source && item.id === of.item);
  return found && target ? addressOf(found.item, target, origin) : "";
}

const within = remembered((it: object): readonly NonNullable<MergeTag["of"]>[] =>
  Object.values(it).flatMap(inAny),
);

function inAny(it: unknown): readonly NonNullable<MergeTag["of"]>[] {
  if (typeof it === "object" && it !== null) return within(it);
  if (typeof it !== "string" || !it.includes(`{$${PREFIX}`)) return [];
  return tagsIn(it).flatMap(({ of }) => of ?? []);
}

/** The items that the tags of a design or of a part of it name: source and id, each once. */
export function itemsNamed(it: object): (readonly [source: string, id: string])[] {
  const all = new Map(within(it).map(({ source, item }) => [`${source}\n${item}`, [source, item] as const]));
  return [...all.values()];
}
