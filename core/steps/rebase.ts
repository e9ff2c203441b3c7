import { blockType } from "../blocks";
import { type Block, type Column, type Email, MOST_COLUMNS, ownOf } from "../email";
import { difference } from "./difference";
import { Flat } from "./flat";
import { type Ground, rebaseStep } from "./kinds";
import type { Clash, Step } from "./step";

/** What steps made of a document that went on meanwhile. */
export interface Rebased {
  email: Email;
  clashes: Clash[];
}

/**
 * Does steps on a document that is no longer the one they were made on. What the steps say things were is compared
 * with what they are: where both changed the same words they are merged word by word, where both changed the same
 * property the document keeps its own and the clash is reported. The result is in order: the widths of a row's columns
 * add up to 100, no row is without columns or has more than six.
 */
export function rebase(now: Email, steps: readonly Step[]): Rebased {
  if (steps.length === 0) return { email: now, clashes: [] };
  const ground: Ground = { flat: new Flat(now), clashes: [], touched: new Set() };
  for (const step of steps) rebaseStep(ground, step);
  settle(ground, now);
  return { email: ground.flat.toEmail(), clashes: ground.clashes };
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

/** Brings what the steps touched back in order. */
function settle({ flat, clashes, touched }: Ground, now: Email): void {
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
