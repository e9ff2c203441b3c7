import {
  type AnyNode,
  CHILDREN,
  childNodes,
  type Email,
  type Kind,
  ownOf,
  walk,
  withChildren,
} from "../email";
import type { Spot } from "./step";

type Own = Record<string, unknown>;
interface Entry {
  kind: Kind;
  own: Own;
  parent: string | null;
  children: string[];
  /** The node it was made of, given back as it is when nothing in it changed. */
  origin?: AnyNode;
}

/**
 * A document with its nodes by id, to be changed step by step. `toEmail` puts it together again and gives back the very
 * objects of what did not change, so that whoever draws them need not draw them again.
 */
export class Flat {
  private readonly entries = new Map<string, Entry>();
  private readonly top: string[] = [];
  private readonly origin: Email;
  own: Own;

  constructor(email: Email) {
    this.origin = email;
    this.own = ownOf("email", email);
    for (const { kind, node, parent } of walk(email)) this.add(kind, node, parent);
  }

  private add(kind: Kind, node: AnyNode, parent: string | null): void {
    this.entries.set(node.id, { kind, own: ownOf(kind, node), parent, children: [], origin: node });
    this.children(parent).push(node.id);
  }

  private entry(id: string): Entry {
    const entry = this.entries.get(id);
    if (!entry) throw new Error(`There is no node ${id}.`);
    return entry;
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
    return id === null ? this.own : this.entry(id).own;
  }

  setOwn(id: string | null, own: Own): void {
    if (id === null) this.own = own;
    else this.entry(id).own = own;
  }

  parent(id: string): string | null {
    return this.entry(id).parent;
  }

  children(id: string | null): string[] {
    return id === null ? this.top : this.entry(id).children;
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

  spot(id: string): Spot {
    const parent = this.parent(id);
    const siblings = this.children(parent);
    const at = siblings.indexOf(id);
    return { parent, after: siblings[at - 1] ?? null, before: siblings[at + 1] ?? null };
  }

  /** Puts a node in, with those in it that are not here already. */
  insert(kind: Kind, node: AnyNode, at: Spot): void {
    if (!this.has(node.id)) {
      this.children(at.parent).splice(this.index(at), 0, node.id);
      this.entries.set(node.id, { kind, own: ownOf(kind, node), parent: at.parent, children: [] });
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
    const siblings = this.children(this.parent(id));
    siblings.splice(siblings.indexOf(id), 1);
    this.children(to.parent).splice(this.index(to), 0, id);
    this.entry(id).parent = to.parent;
  }

  /** Takes a node out, with all that is in it. */
  remove(id: string): void {
    for (const child of [...this.children(id)]) this.remove(child);
    const siblings = this.children(this.parent(id));
    siblings.splice(siblings.indexOf(id), 1);
    this.entries.delete(id);
  }

  node(id: string): AnyNode {
    const { kind, own, children, origin } = this.entry(id);
    const nodes = children.map((child) => this.node(child));
    if (origin && unchanged(kind, origin, own, nodes)) return origin;
    return withChildren(kind, own as AnyNode, nodes);
  }

  toEmail(): Email {
    const sections = this.top.map((id) => this.node(id));
    if (unchanged("email", this.origin, this.own, sections)) return this.origin;
    return withChildren("email", this.own, sections) as unknown as Email;
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
