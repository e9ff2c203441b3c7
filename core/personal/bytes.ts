import { fieldValue } from "../audience";
import type { Code, Op, Slot } from "../program";
import type { Runnable } from "./bind";
import { isAlwaysThere } from "./editions";
import { listAt, skips } from "./personalise";
import { hasText, type Reader, slotText } from "./value";

/** Turns text into bytes. Joining the bytes of two texts must mean the same as the two texts joined. */
export type ByteEncoder = (text: string) => Uint8Array;

type ByteOp = { op: "static"; bytes: Uint8Array } | Exclude<Op, { op: "static" }>;

/** A part whose static text has been encoded once. */
export interface BytePart {
  ops: readonly ByteOp[];
  encode: ByteEncoder;
  /** By the place of a slot and by what it follows from: its bytes, where readers may share them. */
  known: (Map<unknown, Uint8Array> | null)[];
  /** What is written of items, by the code that writes it. */
  items: Map<Code, BytePart>;
}

/** So many values of one slot are kept. */
const KEPT = 4000;

/** Whether a slot's words follow from the contact's fields, so that readers who share these share them. */
const isShared = ({ field, given }: Slot) => given === undefined && !isAlwaysThere(field);

/** The bytes of a slot's words for a reader. */
function bytesOf(part: BytePart, at: number, slot: Slot, reader: Reader): Uint8Array {
  part.known[at] ??= isShared(slot) ? new Map() : null;
  const known = part.known[at];
  if (known === null) return part.encode(slotText(slot, reader));
  const { field, or, format } = slot;
  let basis: unknown = fieldValue(reader.contact, field);
  // Yes and no are said in a language, too.
  const plain = format === "asIs" && typeof basis !== "boolean" && or === undefined;
  if (!plain || typeof basis === "object")
    basis = `${plain ? "" : reader.language} ${JSON.stringify([basis, or === undefined ? null : fieldValue(reader.contact, or)])}`;
  let bytes = known.get(basis);
  if (!bytes) {
    bytes = part.encode(slotText(slot, reader));
    if (known.size >= KEPT) known.clear();
    known.set(basis, bytes);
  }
  return bytes;
}

/** Encodes the static text of a part. */
export function bytePart(code: Code, encode: ByteEncoder): BytePart {
  return {
    ops: code.map((op) => (op.op === "static" ? { op: "static", bytes: encode(op.text) } : op)),
    encode,
    known: [],
    items: new Map(),
  };
}

/** The same of what is written of an item, encoded when somebody gets it first. */
function itemPart({ items, encode }: BytePart, code: Code): BytePart {
  let part = items.get(code);
  if (!part) {
    part = bytePart(code, encode);
    items.set(code, part);
  }
  return part;
}

/** A buffer that grows; used again for the next message. */
export class ByteSink {
  private buffer = new Uint8Array(128 * 1024);
  private length = 0;

  write(bytes: Uint8Array): void {
    const end = this.length + bytes.length;
    if (end > this.buffer.length) {
      const larger = new Uint8Array(Math.max(end, this.buffer.length * 2));
      larger.set(this.buffer.subarray(0, this.length));
      this.buffer = larger;
    }
    this.buffer.set(bytes, this.length);
    this.length = end;
  }

  /** A copy of what was written, to be kept; empties the sink. */
  take(): Uint8Array {
    const bytes = this.buffer.slice(0, this.length);
    this.length = 0;
    return bytes;
  }

  /** What was written itself, to be read at once: what is written next takes its place. Empties the sink. */
  lend(): Uint8Array {
    const bytes = this.buffer.subarray(0, this.length);
    this.length = 0;
    return bytes;
  }
}

/** Runs a part for one reader straight into bytes: static parts are copied, only values are encoded. */
export function runBytes(part: BytePart, pool: Runnable, reader: Reader, out: ByteSink): void {
  const { ops } = part;
  for (let at = 0; at < ops.length; at++) {
    const op = ops[at];
    if (op.op === "static") out.write(op.bytes);
    else if (op.op === "value") out.write(bytesOf(part, op.slot, pool.slots[op.slot], reader));
    else if (op.op === "without") {
      if (!hasText(pool.slots[op.slot], reader)) at = op.to - 1;
    } else if (op.op === "item") {
      const list = listAt(pool, op.list);
      const picked = list.pick(reader.contact)[op.place];
      if (picked) runBytes(itemPart(part, list.code(op.variant, picked.at)), pool, reader, out);
    } else if (op.op === "fewer" || op.op === "enough") {
      if (skips(op, pool, reader)) at = op.to - 1;
    } else if (op.op === "jump" || !pool.rules[op.rule](reader.contact)) at = op.to - 1;
  }
}
