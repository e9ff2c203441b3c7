import { type Block, type Column, type Email, type Located, type Row, type Section, walk } from "../email";

/** Two people's changes to one design, brought together. */
export interface Merged {
  email: Email;
  /** The ids of parts of which both changed the same thing to something else; `email` has the preferred side's. */
  clashes: readonly string[];
}

type Side = "mine" | "theirs";
interface Flat {
  own: Map<string, Record<string, unknown>>;
  parent: Map<string, string | null>;
  children: Map<string | null, string[]>;
  kind: Map<string, Located["kind"]>;
}

const CHILDREN = new Set(["rows", "columns", "blocks"]);
const LISTS = { section: "rows", row: "columns", column: "blocks" } as const;
const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

function flatten(email: Email): Flat {
  const flat: Flat = { own: new Map(), parent: new Map(), children: new Map([[null, []]]), kind: new Map() };
  for (const it of walk(email)) {
    const { id } = it.node;
    flat.own.set(id, Object.fromEntries(Object.entries(it.node).filter(([key]) => !CHILDREN.has(key))));
    flat.parent.set(id, it.parent);
    flat.kind.set(id, it.kind);
    flat.children.set(id, []);
    flat.children.get(it.parent)?.push(id);
  }
  return flat;
}

/**
 * Merges two designs that went on from the same one, property by property and part by part: what only one side
 * changed is taken from it. Where both changed the same, `prefer` decides. A part that one side removed stays when
 * the other changed it.
 */
export function mergeEmails(base: Email, mine: Email, theirs: Email, prefer: Side): Merged {
  const clashes = new Set<string>();
  const pick = <T>(id: string, from: T, left: T, right: T): T => {
    if (same(left, right) || same(right, from)) return left;
    if (same(left, from)) return right;
    clashes.add(id);
    return prefer === "mine" ? left : right;
  };
  const [was, my, their] = [base, mine, theirs].map(flatten);

  /** Whether a part is there in the end: not when a side removed it and the other left it as it was. */
  const stays = (id: string): boolean => {
    const [inBase, inMine, inTheirs] = [was, my, their].map((flat) => flat.own.has(id));
    if (!inBase || (inMine && inTheirs)) return true;
    const other = inMine ? my : inTheirs ? their : null;
    if (!other || same(other.own.get(id), was.own.get(id))) return false;
    clashes.add(id);
    return true;
  };
  const ids = [...new Set([...their.own.keys(), ...my.own.keys()])].filter(stays);

  const own = (id: string): Record<string, unknown> => {
    const [from, left, right] = [was.own.get(id), my.own.get(id), their.own.get(id)];
    if (!left || !right) return (left ?? right) as Record<string, unknown>;
    const merged: Record<string, unknown> = {};
    for (const key of new Set([...Object.keys(right), ...Object.keys(left)])) {
      const value = pick(id, from?.[key], left[key], right[key]);
      if (value !== undefined) merged[key] = value;
    }
    return merged;
  };
  const parentOf = (id: string): string | null => {
    const [from, left, right] = [was, my, their].map((flat) => flat.parent.get(id));
    if (left === undefined || right === undefined)
      return (left === undefined ? right : left) as string | null;
    return pick(id, from, left, right) ?? null;
  };

  // What stays needs its place: rows and sections that a side removed come back around what the other put in them.
  const parents = new Map<string, string | null>();
  const settle = (id: string) => {
    if (parents.has(id)) return;
    const parent = parentOf(id);
    parents.set(id, parent);
    if (parent !== null) settle(parent);
  };
  for (const id of ids) settle(id);
  const lists = new Map<string | null, string[]>([[null, []]]);
  for (const [id, parent] of parents) lists.set(parent, [...(lists.get(parent) ?? []), id]);
  for (const [parent, list] of lists) {
    const orders = { mine: my.children.get(parent) ?? [], theirs: their.children.get(parent) ?? [] };
    const changed = !same(orders.mine, was.children.get(parent) ?? []);
    lists.set(
      parent,
      ordered(list, changed ? orders.mine : orders.theirs, changed ? orders.theirs : orders.mine),
    );
  }

  const build = (id: string): Record<string, unknown> => {
    const kind = (my.kind.get(id) ?? their.kind.get(id)) as Located["kind"];
    const children = lists.get(id) ?? [];
    return kind === "block" ? own(id) : { ...own(id), [LISTS[kind]]: children.map(build) };
  };
  const whole = Object.fromEntries(
    [...new Set([...Object.keys(theirs), ...Object.keys(mine)])]
      .filter((key) => key !== "sections" && key !== "envelope")
      .map((key) => [key, pick("email", at(base, key), at(mine, key), at(theirs, key))])
      .filter(([, value]) => value !== undefined),
  );
  const envelope = Object.fromEntries(
    (["subject", "preheader", "sender"] as const).map((key) => [
      key,
      pick("envelope", base.envelope[key], mine.envelope[key], theirs.envelope[key]),
    ]),
  );
  const sections = (lists.get(null) ?? []).map((id) => build(id) as unknown as Section);
  const email = { ...whole, envelope, sections: sections.map(withoutEmptyRows) } as unknown as Email;
  return { email, clashes: [...clashes] };
}

const at = (email: Email, key: string) => (email as unknown as Record<string, unknown>)[key];

/** Orders parts as the first side has them; those it does not know follow what they follow on the other side. */
function ordered(list: readonly string[], first: readonly string[], second: readonly string[]): string[] {
  const wanted = new Set(list);
  const result = first.filter((id) => wanted.has(id));
  for (const [index, id] of second.entries()) {
    if (!wanted.has(id) || result.includes(id)) continue;
    const before = second.slice(0, index).findLast((other) => result.includes(other));
    result.splice(before === undefined ? 0 : result.indexOf(before) + 1, 0, id);
  }
  return [...result, ...list.filter((id) => !result.includes(id))];
}

/** A row has a column at least; rows that lost all of theirs go. */
function withoutEmptyRows(section: Section): Section {
  const rows = section.rows.filter((row: Row) => row.columns.length > 0);
  return {
    ...section,
    rows: rows.map((row) => ({
      ...row,
      columns: row.columns.slice(0, 6).map((column: Column, index) => ({
        ...column,
        // Columns beyond the sixth give their blocks to the last that stays.
        blocks: index === 5 ? row.columns.slice(5).flatMap((one): Block[] => one.blocks) : column.blocks,
      })),
    })),
  };
}
