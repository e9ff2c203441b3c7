import type { Contact } from "../audience";
import type { Code, Slot } from "../program";
import type { Bound } from "./bind";
import { finishText } from "./finish";
import { type Reader, slotText } from "./value";

/** One reader's message, in words. */
export interface Message {
  senderName: string;
  subject: string;
  preheader: string;
  html: string;
  text: string;
}

/** Runs one part for one reader. */
export function run(
  code: Code,
  tables: { slots: readonly Slot[]; rules: readonly ((contact: Contact) => boolean)[] },
  reader: Reader,
): string {
  let text = "";
  for (let at = 0; at < code.length; at++) {
    const op = code[at];
    switch (op.op) {
      case "static":
        text += op.text;
        break;
      case "value":
        text += slotText(tables.slots[op.slot], reader);
        break;
      case "unless":
        if (!tables.rules[op.rule](reader.contact)) at = op.to - 1;
        break;
    }
  }
  return text;
}

/** One reader's message. */
export function personalise(bound: Bound, reader: Reader): Message {
  const part = (code: Code) => run(code, bound, reader);
  return {
    senderName: part(bound.senderName).trim(),
    subject: part(bound.subject).trim(),
    preheader: part(bound.preheader).trim(),
    html: part(bound.html),
    text: textOf(bound, reader),
  };
}

/** One reader's text part. */
export function textOf(bound: Bound, reader: Reader): string {
  const text = run(bound.text, bound, reader);
  return bound.finish ? finishText(text, bound.textWidth) : text;
}
