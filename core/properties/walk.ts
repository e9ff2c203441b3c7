import type { Holder, Properties, Property, When } from "./property";

/** A property of a block where it stands in it. */
export interface Placed {
  /** From the block; lists are entered by the ids of their items. */
  path: string;
  /** Its last step. */
  key: string;
  property: Property;
  value: unknown;
  /** The block, or the item of a list. */
  holder: Holder;
  /** What it is called among all: "Words, link 2". */
  label: string;
}

const isProperty = (of: Property | Properties): of is Property => typeof of.kind === "string";

/** Whether a condition holds. */
const holds = (when: When | undefined, holder: Holder): boolean =>
  Object.entries(when ?? {}).every(([key, wanted]) => {
    const is = holder[key] ?? false;
    return Array.isArray(wanted) ? wanted.includes(is) : is === wanted;
  });

/** Whether a property counts in a block: not where its part is switched off, nor where others leave no use for it. */
export function counts({ part, when }: Property, holder: Holder, off: readonly string[] = []): boolean {
  return !(part !== undefined && off.includes(part)) && holds(when, holder);
}

interface Walk {
  block: Holder;
  properties: Properties;
  off: readonly string[];
  /** Also what does not count. */
  all: boolean;
}

/** The items of a list that have ids. */
const itemsOf = (value: unknown): (Holder & { id: string })[] =>
  Array.isArray(value) ? value.filter((item) => typeof item?.id === "string") : [];

function* placed(
  properties: Properties,
  holder: Holder,
  at: { path: string; aside: string },
  walk: Walk,
): Generator<Placed> {
  for (const [key, property] of Object.entries(properties)) {
    if (!walk.all && !counts(property, holder, walk.off)) continue;
    const path = `${at.path}${key}`;
    const value = holder[key];
    yield { path, key, property, value, holder, label: `${property.label}${at.aside}` };
    if (property.kind === "list")
      for (const [index, item] of itemsOf(value).entries()) {
        const aside = `${at.aside}, ${property.noun} ${index + 1}`;
        yield* placed(property.item, item, { path: `${path}/${item.id}/`, aside }, walk);
      }
    if (property.kind === "each") {
      const { by, of } = property;
      const values = (value ?? {}) as Holder;
      const across = walk.properties[by];
      const noun = across?.kind === "list" ? across.noun : "";
      for (const [index, { id }] of itemsOf(walk.block[by]).entries()) {
        const aside = `${at.aside}, ${noun} ${index + 1}`;
        const each = { path: `${path}/${id}`, aside };
        if (isProperty(of)) {
          const label = `${of.label}${aside}`;
          yield { path: each.path, key: id, property: of, value: values[id], holder: values, label };
        } else if (values[id] !== undefined)
          yield* placed(of, values[id] as Holder, { path: `${each.path}/`, aside }, walk);
      }
    }
  }
}

/**
 * The properties of a block with what they hold, in the order of their declaration, those within lists after the list.
 * What does not count is left out: parts that are switched off, and what other properties leave no use for.
 */
export function placedIn(
  properties: Properties,
  block: Holder & { off?: readonly string[] },
): Generator<Placed> {
  const walk = { block, properties, off: block.off ?? [], all: false };
  return placed(properties, block, { path: "", aside: "" }, walk);
}

/** The same with what does not count. */
export function allPlacedIn(properties: Properties, block: Holder): Generator<Placed> {
  return placed(properties, block, { path: "", aside: "" }, { block, properties, off: [], all: true });
}

/** All properties that are declared, those of items too, each once, with the path of keys that leads to it. */
export function* declared(
  properties: Properties,
  path = "",
): Generator<{ path: string; key: string; property: Property; among: Properties }> {
  for (const [key, property] of Object.entries(properties)) {
    yield { path: `${path}${key}`, key, property, among: properties };
    if (property.kind === "list") yield* declared(property.item, `${path}${key}/`);
    if (property.kind === "each") {
      const { of } = property;
      if (isProperty(of)) yield { path: `${path}${key}/*`, key: "*", property: of, among: {} };
      else yield* declared(of, `${path}${key}/*/`);
    }
  }
}

/** The keys of those that are look rather than content. */
export const looksOf = (properties: Properties): string[] =>
  Object.keys(properties).filter((key) => properties[key].look);

/** Whether a property may be missing. */
export const mayBeMissing = ({ schema }: Property): boolean => schema.safeParse(undefined).success;
