import type { Contact } from "../audience";
import type { Code, Slot } from "../program";
import { type Reader, slotText } from "./value";

/** Turns text into bytes. Joining the bytes of two texts must mean the same as the two texts joined. */
export type ByteEncoder = (text: string) => Uint8Array;

type ByteOp =
  | { op: "static"; bytes: Uint8Array }
  | { op: "value"; slot: number }
  | { op: "unless"; rule: number; to: number }
  | { op: "jump"; to: number };

/** A part whose static text has been encoded once. */
export interface BytePart {
  ops: readonly ByteOp[];
  encode: ByteEncoder;
}

/** Encodes the static text of a part. */
export function bytePart(code: Code, encode: ByteEncoder): BytePart {
  return {
    ops: code.map((op) => (op.op === "static" ? { op: "static", bytes: encode(op.text) } : op)),
    encode,
  };
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

  /** A copy of what was written; empties the sink. */
  take(): Uint8Array {
    const bytes = this.buffer.slice(0, this.length);
    this.length = 0;
    return bytes;
  }
}

/** Runs a part for one reader straight into bytes: static parts are copied, only values are encoded. */
export function runBytes(
  part: BytePart,
  tables: { slots: readonly Slot[]; rules: readonly ((contact: Contact) => boolean)[] },
  reader: Reader,
  out: ByteSink,
): void {
  const { ops } = part;
  for (let at = 0; at < ops.length; at++) {
    const op = ops[at];
    if (op.op === "static") out.write(op.bytes);
    else if (op.op === "value") out.write(part.encode(slotText(tables.slots[op.slot], reader)));
    else if (op.op === "jump" || !tables.rules[op.rule](reader.contact)) at = op.to - 1;
  }
}
