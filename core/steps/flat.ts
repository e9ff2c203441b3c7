import {
  type AnyNode,
  CHILDREN,
  childNodes,
  type Email,
  type Kind,
  type Located,
  ownOf,
  walk,
  withChildren,
} from "../email";
import type { Spot } from "./step";

type Own = Record<string, unknown>;
interface Entry {
  kind: Kind;
  parent: string | null;
  /** The node it was made of: it is the node as long as nothing in it is changed. */
  origin?: AnyNode;
  /** Both are read off the origin when they are asked for. */
  own?: Own;
  children?: string[];
  /** Whether it, or anything in it, was changed. */
  changed: boolean;
}

/**
 * A document with its nodes by id, to be changed step by step. `toEmail` puts it together again and gives back the very
 * objects of what did not change, so that whoever draws them need not draw them again.
 */
export class Flat {
  private readonly entries = new Map<string, Entry>();
  private origin: Email;
  private top: string[];
  private ownOfEmail: Own | null = null;
  private changed = false;

  constructor(email: Email) {
    this.origin = email;
    this.top = email.sections.map(({ id }) => id);
    for (const { kind, node, parent } of walk(email))
      this.entries.set(node.id, { kind, parent, origin: node, changed: false });
  }

  private entry(id: string): Entry {
    const entry = this.entries.get(id);
    if (!entry) throw new Error(`There is no node ${id}.`);
    return entry;
  }

  /** Notes that a node, and with it all around it, is no longer what it was made of. */
  private touch(id: string | null): void {
    this.changed = true;
    for (let at = id; at !== null; ) {
      const entry = this.entry(at);
      if (entry.changed) return;
      entry.changed = true;
      at = entry.parent;
    }
  }

  /** The ids of a node's children, to be changed in place by whoever notes that they are. */
  private list(id: string | null): string[] {
    if (id === null) return this.top;
    const entry = this.entry(id);
    entry.children ??= entry.origin ? childNodes(entry.kind, entry.origin).map((child) => child.id) : [];
    return entry.children;
  }

  has(id: string): boolean {
    return this.entries.has(id);
  }

  ids(): Iterable<string> {
    return this.entries.keys();
  }

  kind(id: string | null): Kind | "email" {
    return id === null ? "email" : this.entry(id).kind;
  }

  ownOf(id: string | null): Own {
    if (id === null) {
      this.ownOfEmail ??= ownOf("email", this.origin);
      return this.ownOfEmail;
    }
    const entry = this.entry(id);
    entry.own ??= ownOf(entry.kind, entry.origin as AnyNode);
    return entry.own;
  }

  setOwn(id: string | null, own: Own): void {
    if (id === null) this.ownOfEmail = own;
    else this.entry(id).own = own;
    this.touch(id);
  }

  parent(id: string): string | null {
    return this.entry(id).parent;
  }

  children(id: string | null): readonly string[] {
    return this.list(id);
  }

  /** Whether a node of that kind can stand in there. */
  takes(parent: string | null, kind: Kind): boolean {
    return (parent === null || this.has(parent)) && CHILDREN[this.kind(parent)]?.kind === kind;
  }

  /** The index among the children of a spot's parent: by the sibling before, the one behind, or the end. */
  index({ parent, after, before }: Spot): number {
    const siblings = this.children(parent);
    if (after === null) return 0;
    const at = siblings.indexOf(after);
    if (at >= 0) return at + 1;
    const behind = before === null ? -1 : siblings.indexOf(before);
    return behind >= 0 ? behind : siblings.length;
  }

  /** Where a node stands. */
  spot(id: string): Spot {
    const parent = this.parent(id);
    const siblings = this.children(parent);
    const at = siblings.indexOf(id);
    return { parent, after: siblings[at - 1] ?? null, before: siblings[at + 1] ?? null };
  }

  /** The place at an index among the children of a node, without counting one of them. */
  spotAt(parent: string | null, index: number, without?: string): Spot {
    const siblings = this.children(parent).filter((id) => id !== without);
    return { parent, after: siblings[index - 1] ?? null, before: siblings[index] ?? null };
  }

  /** Puts a node in, with those in it that are not here already. */
  insert(kind: Kind, node: AnyNode, at: Spot): void {
    if (!this.has(node.id)) {
      this.list(at.parent).splice(this.index(at), 0, node.id);
      this.entries.set(node.id, {
        kind,
        parent: at.parent,
        own: ownOf(kind, node),
        children: [],
        changed: true,
      });
      this.touch(at.parent);
    }
    let after: string | null = null;
    for (const child of childNodes(kind, node)) {
      const down = CHILDREN[kind];
      if (down === null || (this.has(child.id) && this.kind(child.id) !== down.kind)) continue;
      this.insert(down.kind, child, { parent: node.id, after, before: null });
      if (this.parent(child.id) === node.id) after = child.id;
    }
  }

  move(id: string, to: Spot): void {
    const from = this.parent(id);
    const siblings = this.list(from);
    siblings.splice(siblings.indexOf(id), 1);
    this.list(to.parent).splice(this.index(to), 0, id);
    this.entry(id).parent = to.parent;
    this.touch(from);
    this.touch(to.parent);
  }

  /** Takes a node out, with all that is in it. */
  remove(id: string): void {
    for (const child of [...this.children(id)]) this.remove(child);
    const parent = this.parent(id);
    const siblings = this.list(parent);
    siblings.splice(siblings.indexOf(id), 1);
    this.entries.delete(id);
    this.touch(parent);
  }

  node(id: string): AnyNode {
    const entry = this.entry(id);
    const { kind, origin } = entry;
    if (origin && !entry.changed) return origin;
    const nodes = this.list(id).map((child) => this.node(child));
    const own = this.ownOf(id);
    entry.origin =
      origin && unchanged(kind, origin, own, nodes) ? origin : withChildren(kind, own as AnyNode, nodes);
    entry.changed = false;
    return entry.origin;
  }

  /** A node with where it stands; undefined when there is none. */
  located(id: string): Located | undefined {
    if (!this.has(id)) return undefined;
    const parent = this.parent(id);
    const index = this.children(parent).indexOf(id);
    return { kind: this.kind(id), node: this.node(id), parent, index } as Located;
  }

  toEmail(): Email {
    if (!this.changed) return this.origin;
    const sections = this.top.map((id) => this.node(id));
    const own = this.ownOf(null);
    if (!unchanged("email", this.origin, own, sections))
      this.origin = withChildren("email", own, sections) as unknown as Email;
    this.changed = false;
    return this.origin;
  }
}

function unchanged(kind: Kind | "email", origin: object, own: Own, children: readonly AnyNode[]): boolean {
  const before = childNodes(kind, origin);
  if (before.length !== children.length || before.some((node, index) => node !== children[index]))
    return false;
  const from = ownOf(kind, origin);
  const keys = Object.keys(own);
  return keys.length === Object.keys(from).length && keys.every((key) => own[key] === from[key]);
}
