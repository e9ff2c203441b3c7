import { blockType } from "../blocks";
import {
  type AnyNode,
  type Block,
  CHILDREN,
  type Column,
  childNodes,
  type Email,
  type Kind,
  ownOf,
  same,
  valueAt,
  withValueAt,
} from "../email";
import { difference } from "./difference";
import { Flat } from "./flat";
import { mergeValue } from "./merge-value";
import type { InsertStep, MoveStep, RemoveStep, SetStep, Spot, Step } from "./step";

/** Where steps contradict what somebody else did meanwhile. The document has what the other one did. */
export interface Clash {
  /** `changed`: both changed the same; `gone`: what I changed is no longer there; `kept`: I took out what they changed. */
  reason: "changed" | "gone" | "kept" | "moved";
  /** The node; null for the email itself. */
  id: string | null;
  /** Which of its properties; empty when the node as a whole. */
  path: string;
  mine: unknown;
  theirs: unknown;
}

/** Steps carried over to a document that went on meanwhile. */
export interface Rebased {
  email: Email;
  /** What they come to there. */
  steps: Step[];
  clashes: Clash[];
}

/**
 * Does steps on a document that is no longer the one they were made on. What the steps say things were is compared
 * with what they are: where both changed the same words they are merged word by word, where both changed the same
 * property the document keeps its own and the clash is reported. The result is in order: the widths of a row's columns
 * add up to 100, no row is without columns or has more than six.
 */
export function rebase(now: Email, steps: readonly Step[]): Rebased {
  if (steps.length === 0) return { email: now, steps: [], clashes: [] };
  const flat = new Flat(now);
  const clashes: Clash[] = [];
  const touched = new Set<string>();
  for (const step of steps) doStep(flat, step, clashes, touched);
  settle(flat, now, touched, clashes);
  const email = flat.toEmail();
  return { email, steps: difference(now, email), clashes };
}

/** Does steps on the document they were made on, or one near it; what no longer fits is left out. */
export function apply(email: Email, steps: readonly Step[]): Email {
  return rebase(email, steps).email;
}

/**
 * Brings two documents together that went on from the same one: mine over theirs.
 * @returns theirs with my changes; where both contradict it has theirs, and the clash is reported
 */
export function merge(base: Email, mine: Email, theirs: Email): Rebased {
  return rebase(theirs, difference(base, mine));
}

/** The parents whose children both sides put in another order, so that one can say so. */
export function bothReordered(mine: readonly Step[], theirs: readonly Step[]): (string | null)[] {
  const within = (steps: readonly Step[]) =>
    new Set(
      steps.flatMap((step) =>
        step.op === "move" && step.from.parent === step.to.parent ? [step.to.parent] : [],
      ),
    );
  const other = within(theirs);
  return [...within(mine)].filter((parent) => other.has(parent));
}

function doStep(flat: Flat, step: Step, clashes: Clash[], touched: Set<string>): void {
  switch (step.op) {
    case "insert":
      doInsert(flat, step, clashes, touched);
      break;
    case "remove":
      doRemove(flat, step, clashes, touched);
      break;
    case "move":
      doMove(flat, step, clashes, touched);
      break;
    case "set":
      doSet(flat, step, clashes, touched);
      break;
  }
}

function doInsert(flat: Flat, { kind, node, at }: InsertStep, clashes: Clash[], touched: Set<string>): void {
  if (flat.has(node.id) && flat.kind(node.id) !== kind) return;
  compareTwins(flat, kind, node, clashes);
  if (at.parent !== null) touched.add(at.parent);
  touched.add(node.id);
  if (flat.has(node.id) || flat.takes(at.parent, kind)) flat.insert(kind, node, at);
  else insertHomeless(flat, kind, node, touched);
}

/**
 * What is put in and is here already, as after a save that was not known to have arrived: it stays as it is here, and
 * what was different about it is reported.
 */
function compareTwins(flat: Flat, kind: Kind, node: AnyNode, clashes: Clash[]): void {
  if (flat.has(node.id) && flat.kind(node.id) === kind) {
    const [mine, theirs] = [ownOf(kind, node), flat.ownOf(node.id)];
    // Widths are brought in order afterwards.
    for (const key of new Set([...Object.keys(theirs), ...Object.keys(mine)]))
      if (kind !== "column" || key !== "width")
        mergeValue(undefined, mine[key], theirs[key], key, (it) =>
          clashes.push({ reason: "changed", id: node.id, ...it }),
        );
  }
  const down = CHILDREN[kind];
  if (down) for (const child of childNodes(kind, node)) compareTwins(flat, down.kind, child, clashes);
}

const WRAPPER = { block: "column", column: "row", row: "section", section: "section" } as const;

/**
 * Puts in a node whose place is gone: in a row, and at last in a section, of its own before the last section. The ids
 * of what is put around it follow from its own, so that everybody who does this does the same.
 */
function insertHomeless(flat: Flat, kind: Kind, node: AnyNode, touched: Set<string>): void {
  const sections = flat.children(null);
  if (kind === "section") {
    flat.insert(kind, node, {
      parent: null,
      after: sections.at(-2) ?? null,
      before: sections.at(-1) ?? null,
    });
    return;
  }
  const outer = WRAPPER[kind];
  const own = outer === "column" ? { width: 100 } : {};
  const list = CHILDREN[outer].list;
  const around = { id: `${node.id}-${outer}`, ...own, [list]: [node] } as unknown as AnyNode;
  touched.add(around.id);
  if (flat.has(around.id))
    flat.insert(kind, node, {
      parent: around.id,
      after: flat.children(around.id).at(-1) ?? null,
      before: null,
    });
  else insertHomeless(flat, outer, around, touched);
}

/** Takes out what is still as it was when it was taken out; what somebody changed or put in meanwhile stays. */
function doRemove(flat: Flat, { kind, node }: RemoveStep, clashes: Clash[], touched: Set<string>): void {
  const visit = (at: Kind, one: AnyNode): void => {
    const down = CHILDREN[at];
    if (down) for (const child of childNodes(at, one)) visit(down.kind, child);
    if (!flat.has(one.id) || flat.kind(one.id) !== at) return;
    const changed = !same(flat.ownOf(one.id), ownOf(at, one));
    if (changed && (at === "block" || worthKeeping(flat.ownOf(one.id), ownOf(at, one))))
      clashes.push({ reason: "kept", id: one.id, path: "", mine: undefined, theirs: flat.node(one.id) });
    else if (flat.children(one.id).length === 0) {
      const parent = flat.parent(one.id);
      if (parent !== null) touched.add(parent);
      flat.remove(one.id);
    }
  };
  visit(kind, node);
}

/** A column whose width alone changed, as when its neighbour went, is not one that somebody worked on. */
function worthKeeping(now: Record<string, unknown>, then: Record<string, unknown>): boolean {
  return !same({ ...now, width: 0 }, { ...then, width: 0 });
}

function doMove(flat: Flat, { id, from, to }: MoveStep, clashes: Clash[], touched: Set<string>): void {
  if (!flat.has(id) || !flat.takes(to.parent, flat.kind(id) as Kind)) return;
  const here = flat.parent(id);
  if (here !== from.parent && here !== to.parent) {
    clashes.push({ reason: "moved", id, path: "", mine: to, theirs: flat.spot(id) });
    return;
  }
  for (const parent of [here, to.parent]) if (parent !== null) touched.add(parent);
  flat.move(id, withoutItself(to, id));
}

const withoutItself = (spot: Spot, id: string): Spot =>
  spot.after === id ? { ...spot, after: spot.before } : spot;

function doSet(
  flat: Flat,
  { id, path, before, after }: SetStep,
  clashes: Clash[],
  touched: Set<string>,
): void {
  const clash = (reason: Clash["reason"], at: string, mine: unknown, theirs: unknown) => {
    // One question about one part: a part that is gone is asked about once.
    const asked = clashes.find(
      (it) => it.reason === reason && it.id === id && (reason === "gone" || it.path === at),
    );
    if (asked) asked.mine = reason === "gone" ? asked.mine : mine;
    else clashes.push({ reason, id, path: at, mine, theirs });
  };
  if (id !== null && !flat.has(id)) {
    clash("gone", path, after, undefined);
    return;
  }
  const own = flat.ownOf(id);
  const current = valueAt(own, path);
  if (same(current, after)) return;
  let value = after;
  if (!same(current, before))
    value = mergeValue(before, after, current, path, (it) => clash("changed", it.path, it.mine, it.theirs));
  if (same(current, value)) return;
  const next = withValueAt(own, path, value);
  // The way there is gone: an item of a list that the other side took out.
  if (!same(valueAt(next, path), value)) {
    clash("gone", path, after, undefined);
    return;
  }
  flat.setOwn(id, next);
  if (id !== null) touched.add(id);
}

/** Brings what the steps touched back in order. */
function settle(flat: Flat, now: Email, touched: ReadonlySet<string>, clashes: Clash[]): void {
  const before = new Flat(now);
  const rows = new Set<string>();
  for (const id of touched) {
    if (!flat.has(id)) continue;
    const kind = flat.kind(id);
    if (kind === "block") settleBlock(flat, before, id, clashes);
    if (kind === "row") rows.add(id);
    if (kind === "column" && flat.parent(id) !== null) rows.add(flat.parent(id) as string);
    if (kind === "section") for (const row of flat.children(id)) rows.add(row);
  }
  for (const id of rows) settleRow(flat, id);
}

function settleBlock(flat: Flat, before: Flat, id: string, clashes: Clash[]): void {
  const block = flat.node(id) as Block;
  const type = blockType(block.type);
  if (!type) return;
  const tidied = type.tidy?.(block) ?? block;
  if (type.schema.safeParse(tidied).success) {
    if (tidied !== block) flat.setOwn(id, ownOf("block", tidied));
    return;
  }
  // What two people did is each allowed, but not both together, as a list that grew too long.
  if (!before.has(id)) return;
  flat.setOwn(id, before.ownOf(id));
  clashes.push({ reason: "changed", id, path: "", mine: block, theirs: before.node(id) });
}

const MOST_COLUMNS = 6;

function settleRow(flat: Flat, id: string): void {
  if (!flat.has(id)) return;
  const columns = flat.children(id);
  if (columns.length === 0) {
    flat.remove(id);
    return;
  }
  for (const extra of columns.slice(MOST_COLUMNS)) {
    const last = columns[MOST_COLUMNS - 1];
    for (const block of [...flat.children(extra)])
      flat.move(block, { parent: last, after: flat.children(last).at(-1) ?? null, before: null });
    flat.remove(extra);
  }
  const widthOf = (column: string) => flat.ownOf(column).width as Column["width"];
  const widths = columns.map(widthOf);
  const total = widths.reduce((sum, width) => sum + width, 0);
  if (Math.abs(total - 100) < 0.5) return;
  for (const [index, width] of spreadTo100(widths, 5).entries())
    flat.setOwn(columns[index], { ...flat.ownOf(columns[index]), width });
}

/** Widths that keep their proportions as far as the least allows, and add up to 100. */
export function spreadTo100(widths: readonly number[], least: number): number[] {
  const total = widths.reduce((sum, width) => sum + width, 0);
  const out = widths.map((width) => Math.max(least, Math.round((width / total) * 10_000) / 100));
  const off = out.reduce((sum, width) => sum + width, 0) - 100;
  const widest = out.indexOf(Math.max(...out));
  out[widest] = Math.round((out[widest] - off) * 100) / 100;
  return out;
}
