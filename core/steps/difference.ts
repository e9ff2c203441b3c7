import {
  type AnyNode,
  CHILDREN,
  childNodes,
  type Email,
  isInline,
  isItemList,
  isRichDoc,
  type Kind,
  type Located,
  ownOf,
  same,
  walk,
  withChildren,
} from "../email";
import { Flat } from "./flat";
import type { Step } from "./step";

/** What is one thing, although it is made of several: taken as a whole, or not at all. */
const WHOLE = new Set(["show", "ownText", "natural", "raw"]);

/**
 * The steps that lead from one document to another: what came, what changed its place, what went, and what became
 * another, each as small as ids allow. A node that is in both must be of the same kind in both.
 */
export function difference(before: Email, after: Email): Step[] {
  if (before === after) return [];
  const was = index(before);
  const is = index(after);
  const steps: Step[] = [];
  if (before.sections !== after.sections) placeSteps(before, was, after, is, steps);
  sets(null, "", ownOf("email", before), ownOf("email", after), steps);
  for (const [id, { kind, node }] of is) {
    const old = was.get(id);
    if (old && old.node !== node) sets(id, "", ownOf(kind, old.node), ownOf(kind, node), steps);
  }
  return steps;
}

type Index = ReadonlyMap<string, Located>;
const index = (email: Email): Index => new Map([...walk(email)].map((it) => [it.node.id, it]));

function placeSteps(before: Email, was: Index, after: Email, is: Index, steps: Step[]): void {
  const work = new Flat(before);
  const only = (kind: Kind, node: AnyNode, keep: (id: string) => boolean): AnyNode =>
    withChildren(
      kind,
      node,
      childNodes(kind, node)
        .filter((child) => keep(child.id))
        .map((child) => only(CHILDREN[kind]?.kind as Kind, child, keep)),
    );
  for (const { kind, node, parent } of is.values()) {
    if (work.has(node.id)) continue;
    const siblings = childNodes(
      parent === null ? "email" : (is.get(parent)?.kind as Kind),
      parentOf(is, after, parent),
    );
    const at = siblings.findIndex((one) => one.id === node.id);
    const here = (one: AnyNode) => work.has(one.id) && work.parent(one.id) === parent;
    const spot = {
      parent,
      after: siblings.slice(0, at).findLast(here)?.id ?? null,
      before: siblings.slice(at + 1).find(here)?.id ?? null,
    };
    const fresh = only(kind, node, (id) => !was.has(id));
    steps.push({ op: "insert", kind, at: spot, node: fresh });
    work.insert(kind, fresh, spot);
  }
  moveSteps("email", null, after, work, steps);
  for (const it of is.values()) if (it.kind !== "block") moveSteps(it.kind, it.node.id, it.node, work, steps);
  for (const { kind, node } of [...was.values()].reverse()) {
    const gone = !is.has(node.id) && work.has(node.id);
    const parent = gone ? work.parent(node.id) : null;
    if (!gone || (parent !== null && !is.has(parent))) continue;
    steps.push({ op: "remove", kind, at: work.spot(node.id), node: only(kind, node, (id) => !is.has(id)) });
    work.remove(node.id);
  }
}

const parentOf = (is: Index, email: Email, id: string | null): object =>
  id === null ? email : (is.get(id) as Located).node;

/** Moves the children of one node into their order; those in the longest run that is in order already stay. */
function moveSteps(kind: Kind | "email", id: string | null, node: object, work: Flat, steps: Step[]): void {
  const wanted = childNodes(kind, node).map((child) => child.id);
  const place = new Map(wanted.map((child, at) => [child, at]));
  const here = work.children(id).filter((child) => place.has(child));
  if (here.length === wanted.length && here.every((child, at) => child === wanted[at])) return;
  const stay = new Set(longestRising(here.map((child) => place.get(child) as number)).map((at) => here[at]));
  for (const [at, child] of wanted.entries()) {
    if (stay.has(child)) continue;
    const from = work.spot(child);
    const next = wanted.slice(at + 1).find((one) => stay.has(one)) ?? null;
    const to = { parent: id, after: wanted[at - 1] ?? null, before: next };
    steps.push({ op: "move", id: child, from, to });
    work.move(child, to);
  }
}

/** The indices of a longest rising subsequence (patience sorting). */
export function longestRising(values: readonly number[]): number[] {
  const ends: number[] = [];
  const from: number[] = [];
  for (const [index, value] of values.entries()) {
    let low = 0;
    let high = ends.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (values[ends[middle]] < value) low = middle + 1;
      else high = middle;
    }
    from[index] = low === 0 ? -1 : ends[low - 1];
    ends[low] = index;
  }
  const run: number[] = [];
  for (let at = ends.at(-1) ?? -1; at >= 0; at = from[at]) run.unshift(at);
  return run;
}

type Json = Record<string, unknown>;

/** Whether a value is made of properties that can be changed one by one. */
export function isOpen(value: unknown): value is Json {
  return typeof value === "object" && value !== null && !Array.isArray(value) && !isRichDoc(value);
}

/** Whether two lists hold items of the same ids in the same order. */
function sameItems(a: unknown, b: unknown): boolean {
  return isItems(a) && isItems(b) && a.length === b.length && a.every((item, at) => item.id === b[at].id);
}

/** A list of items with ids that is no piece of words. */
export function isItems(value: unknown): value is ({ id: string } & Json)[] {
  return isItemList(value) && !value.some(isInline);
}

/** The steps that make one property of a node another value. */
export function setSteps(id: string | null, key: string, before: unknown, after: unknown): Step[] {
  const steps: Step[] = [];
  setsAt(id, key, key, before, after, steps);
  return steps;
}

function sets(id: string | null, path: string, before: Json, after: Json, steps: Step[]): void {
  for (const key of new Set([...Object.keys(before), ...Object.keys(after)])) {
    const at = path === "" ? key : `${path}/${key}`;
    setsAt(id, at, key, before[key], after[key], steps);
  }
}

function setsAt(
  id: string | null,
  path: string,
  key: string,
  from: unknown,
  to: unknown,
  steps: Step[],
): void {
  if (from === to || same(from, to)) return;
  // A key with a slash in it cannot be named in a path.
  const named = !key.includes("/") && key !== "";
  if (named && isOpen(from) && isOpen(to) && !WHOLE.has(key) && !hasOddKey(from) && !hasOddKey(to))
    sets(id, path, from, to, steps);
  else if (named && sameItems(from, to))
    for (const [at, item] of (from as Json[]).entries())
      sets(id, `${path}/${item.id}`, item, (to as Json[])[at], steps);
  else steps.push({ op: "set", id, path, before: from, after: to });
}

const hasOddKey = (value: Json) => Object.keys(value).some((key) => key === "" || key.includes("/"));
