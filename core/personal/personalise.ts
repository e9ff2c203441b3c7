import { type Code, escapeHtml, type Op, type Slot } from "../program";
import type { Bound, Runnable } from "./bind";
import { finishText } from "./finish";
import { hasText, type Reader, slotText } from "./value";

/** One reader's message, in words. */
export interface Message {
  senderName: string;
  senderAddress: string;
  /** Where answers go; the sender when empty. */
  replyTo: string;
  /** What stands before the reader's address; their own name when empty. */
  recipient: string;
  subject: string;
  preheader: string;
  html: string;
  text: string;
}

/** Runs one part for one reader. @param write what stands for each value, where it is not the value itself */
export function run(
  code: Code,
  pool: Runnable,
  reader: Reader,
  write: (slot: Slot, reader: Reader) => string = slotText,
): string {
  let text = "";
  for (let at = 0; at < code.length; at++) {
    const op = code[at];
    switch (op.op) {
      case "static":
        text += op.text;
        break;
      case "value":
        text += write(pool.slots[op.slot], reader);
        break;
      case "unless":
        if (!pool.rules[op.rule](reader.contact)) at = op.to - 1;
        break;
      case "without":
        if (!hasText(pool.slots[op.slot], reader)) at = op.to - 1;
        break;
      case "jump":
        at = op.to - 1;
        break;
      case "item": {
        const list = listAt(pool, op.list);
        const picked = list.pick(reader.contact)[op.place];
        if (picked) text += run(list.code(op.variant, picked.at), pool, reader, write);
        break;
      }
      case "fewer":
      case "enough":
        if (skips(op, pool, reader)) at = op.to - 1;
        break;
    }
  }
  return text;
}

/** A list that code names. */
export const listAt = ({ lists }: Runnable, at: number) => (lists as NonNullable<typeof lists>)[at];

/** Whether what follows is for readers who get more items of a list, or fewer. */
export function skips(
  { op, list, than }: Extract<Op, { op: "fewer" | "enough" }>,
  pool: Runnable,
  { contact }: Reader,
): boolean {
  return listAt(pool, list).pick(contact).length < than === (op === "fewer");
}

/** One reader's message. */
export function personalise(bound: Bound, reader: Reader): Message {
  const part = (code: Code) => run(code, bound, reader);
  const text = textOf(bound, reader);
  return {
    senderName: part(bound.senderName).trim(),
    senderAddress: part(bound.senderAddress).trim(),
    replyTo: part(bound.replyTo).trim(),
    recipient: part(bound.recipient).trim(),
    subject: part(bound.subject).trim(),
    preheader: part(bound.preheader).trim(),
    html: bound.only ? textPage(text, bound.language) : part(bound.html),
    text,
  };
}

/** Text as a page, for where a message is looked at: as mail programs show one that is text only. */
function textPage(text: string, language: string): string {
  return `<!doctype html><html lang="${escapeHtml(language)}"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><title></title></head><body style="margin:0;background-color:#ffffff;"><pre style="margin:0;padding:24px;font:14px/21px ui-monospace,Consolas,monospace;color:#1e1b24;white-space:pre-wrap;overflow-wrap:anywhere;">${escapeHtml(text)}</pre></body></html>`;
}

/** One reader's text part. */
export function textOf(bound: Bound, reader: Reader): string {
  const text = run(bound.text, bound, reader);
  return bound.finish ? finishText(text, bound.textWidth) : text;
}
