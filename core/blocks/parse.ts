import { z } from "zod";
import {
  type AnyNode,
  type Block,
  BlockBaseSchema,
  CHILDREN,
  childNodes,
  type Email,
  EmailSchema,
  type Kind,
  MOST_COLUMNS,
  mapRawBlocks,
  OWN_SCHEMAS,
  ownOf,
  type Raw,
  SCHEMA_VERSION,
  same,
  upgraded,
  walk,
  withChildren,
} from "../email";
import { blockType, FORMER_TYPES } from "./registry";
import { type UnreadableBlock, unreadable, wrapUnreadable } from "./unreadable";

/**
 * Reads a document at a border, whichever schema it was written with. A block that cannot be read, because a newer
 * version made it or because it is broken, is kept as it is in an `unreadable` block, and tried again at every reading.
 * An id that comes twice is made another.
 * @throws ZodError naming the place when the document itself does not hold what it must
 * @throws UnreadableDesign when a newer version wrote it
 */
export function parseEmail(json: unknown): Email {
  const { email: raw, from } = upgraded(json);
  let lost = 0;
  const nameless = () => `unreadable-${++lost}`;
  const blocksRead = isRaw(raw) ? mapRawBlocks(raw, (block) => parseBlock(block, from, nameless)) : raw;
  return withUniqueIds(EmailSchema.parse(blocksRead));
}

/**
 * Reads a document again that was made of one that was read: looked at is what is not the very same there. What does not
 * belong in it is left out; where nothing is, the document itself comes back.
 * @throws ZodError as `parseEmail` does
 */
export function rereadEmail(email: Email, read: Email): Email {
  const known = new Set<object>([...walk(read)].map(({ node }) => node));
  const nameless = () => "unreadable";
  const block = (node: AnyNode): AnyNode => {
    const fresh = parseBlock(node, SCHEMA_VERSION, nameless);
    return same(fresh, node) ? node : fresh;
  };
  const again = <N extends object>(kind: Exclude<Kind, "block"> | "email", node: N): N => {
    const { kind: inside } = CHILDREN[kind];
    const [own, children] = [ownOf(kind, node), childNodes(kind, node)];
    const [ownAgain, childrenAgain] = [
      OWN_SCHEMAS[kind].parse(own),
      children.map((child) =>
        known.has(child) ? child : inside === "block" ? block(child) : again(inside, child),
      ),
    ];
    if (kind === "row") z.array(z.unknown()).min(1).max(MOST_COLUMNS).parse(children);
    const unchanged = same(own, ownAgain) && children.every((child, at) => child === childrenAgain[at]);
    return unchanged ? node : withChildren(kind, ownAgain as N, childrenAgain);
  };
  return again("email", email);
}

/** Reads one block that was written with a schema. */
function parseBlock(raw: unknown, schema: number, nameless: () => string): Block {
  const kept = unreadable.schema.safeParse(raw);
  if (kept.success) {
    const again = readable(kept.data.raw, kept.data.written);
    return "block" in again ? again.block : (kept.data satisfies UnreadableBlock);
  }
  const read = readable(raw, schema);
  return "block" in read ? read.block : wrapUnreadable(raw, schema, read.why, nameless);
}

function readable(given: unknown, schema: number): { block: Block } | { why: string } {
  if (!isRaw(given)) return { why: "It is no block at all." };
  const former = Object.hasOwn(FORMER_TYPES, String(given.type)) ? FORMER_TYPES[String(given.type)] : null;
  const raw = former?.bring(given) ?? given;
  const from = Math.max(schema, former?.schema ?? 0);
  const base = BlockBaseSchema.safeParse(raw);
  if (!base.success) return { why: whyOf(base.error.issues) };
  const type = raw.type === unreadable.type ? undefined : blockType(base.data.type);
  if (!type) return { why: "This version does not know its type." };
  let block = raw;
  try {
    for (let to = from + 1; to <= SCHEMA_VERSION; to++) block = type.upgrades?.[to]?.(block) ?? block;
  } catch (error) {
    if (error instanceof TypeError) return { why: "It is broken inside." };
    throw error;
  }
  const parsed = type.schema.safeParse(block);
  return parsed.success ? { block: parsed.data as Block } : { why: whyOf(parsed.error.issues) };
}

const isRaw = (it: unknown): it is Raw => typeof it === "object" && it !== null && !Array.isArray(it);

function whyOf(issues: readonly { path: readonly PropertyKey[]; message: string }[]): string {
  const [first] = issues;
  return first ? `“${first.path.join(" › ")}”: ${first.message}.` : "It is broken inside.";
}

/** Gives the second of two nodes with one id another, always the same one. */
function withUniqueIds(email: Email): Email {
  const taken = new Set<string>();
  for (const { node } of walk(email)) {
    let id = node.id;
    for (let n = 2; taken.has(id); n++) id = `${node.id}-${n}`;
    taken.add(id);
    // The document was made by parsing just now, so nobody else holds it.
    node.id = id;
  }
  return email;
}
