import type { Rule } from "../audience";
import type { Item } from "../items";
import type { ListAsk } from "../picking";
import { textOf } from "../values";
import { escapeHtml, type Sink } from "./escape";
import { INSERT, insertMark } from "./text-marks";

/** A value that differs from reader to reader. */
export interface Slot {
  /** A contact field, or `system.unsubscribe`. */
  field: string;
  /** Another field, for readers who lack this. */
  or?: string;
  fallback: string;
  format: string;
  /** Of money: its code (ISO 4217). */
  currency?: string;
  /** A date is so many days later. */
  days?: number;
  sink: Sink;
  /** In which the words around it are; the reader's own when missing. */
  language?: string;
  /** Of a picture: what stands before an address of ours. */
  origin?: string;
  /** Of a code: what looks and proofs show. */
  example?: string;
  /** The value itself, where it is known before the reader is. */
  given?: string;
  /** Of `system.link`: which of the links that are counted. */
  link?: number;
}

/** What stands for the address of a counted link, and for that of the picture whose fetching counts an opening. */
export const COUNTED_LINK = "system.link";
export const COUNTED_OPENING = "system.opening";

/** A link that is counted: in which block it stands, and where it leads; its own address takes its place in a message. */
export interface CountedLink<T> {
  block: string | null;
  to: T;
}

/** What a writer collects: labels are gone after `resolve`. */
export type Instruction =
  | { op: "static"; text: string }
  | { op: "value"; slot: number }
  | { op: "unless"; rule: number; label: number }
  | { op: "without"; slot: number; label: number }
  | { op: "jump"; label: number }
  | { op: "label"; label: number }
  | { op: "item"; list: number; place: number; variant: number }
  | { op: "fewer"; list: number; than: number; label: number }
  | { op: "enough"; list: number; than: number; label: number };

/**
 * What is run per reader. `unless` jumps to an index when the rule does not hold, `without` when there is nothing to
 * write for a slot, `jump` always, `fewer` when a list has fewer items for the reader than that, `enough` when it has not;
 * all only ahead. `item` writes the one at a place of a list, in one of the ways it is written.
 */
export type Op =
  | { op: "static"; text: string }
  | { op: "value"; slot: number }
  | { op: "unless"; rule: number; to: number }
  | { op: "without"; slot: number; to: number }
  | { op: "jump"; to: number }
  | { op: "item"; list: number; place: number; variant: number }
  | { op: "fewer"; list: number; than: number; to: number }
  | { op: "enough"; list: number; than: number; to: number };

/** How an item of a list is written in one place: rendered once for each item, and copied for each reader. */
export interface Variant {
  list: number;
  part: "html" | "text";
  fill(item: Item, out: Writer): void;
}

export type Code = readonly Op[];

/** The rules and values that all parts of one program share; equal ones stand once. */
export class Pool {
  readonly rules: Rule[] = [];
  readonly slots: Slot[] = [];
  readonly links: CountedLink<Instruction[]>[] = [];
  readonly lists: ListAsk[] = [];
  readonly variants: Variant[] = [];
  private readonly listKeys = new Map<string, number>();
  private readonly linkKeys = new Map<string, number>();
  private readonly ruleKeys = new Map<string, number>();
  private readonly slotKeys = new Map<string, number>();
  private labels = 0;
  /** What stands at the marks in raw text. */
  private readonly inserts: ((out: Writer) => void)[] = [];
  private readonly open = new Set<number>();

  /** A mark for raw text; where it stands, a writer writes what `write` does. */
  insert(write: (out: Writer) => void): string {
    return insertMark(this.inserts.push(write) - 1);
  }

  /** Writes what stands at a mark; nothing for one that nobody made, or that stands in what it stands for. */
  writeInsert(index: number, out: Writer): void {
    if (this.open.has(index)) return;
    this.open.add(index);
    this.inserts[index]?.(out);
    this.open.delete(index);
  }

  rule(rule: Rule): number {
    return intern(this.rules, this.ruleKeys, rule, textOf(rule));
  }

  slot(slot: Slot): number {
    // Many, and made anew each time: those that say the same in another order may count as two, to no harm.
    return intern(this.slots, this.slotKeys, slot, JSON.stringify(slot));
  }

  /** The place of a counted link; one that leads to the same from the same block is the same. */
  link(link: CountedLink<Instruction[]>): number {
    return intern(this.links, this.linkKeys, link, JSON.stringify(link));
  }

  /** The place of a list that is picked for each reader; the same list in several parts is one. */
  list(ask: ListAsk): number {
    return intern(this.lists, this.listKeys, ask, JSON.stringify(ask));
  }

  /** A way in which items of a list are written. */
  variant(list: number, part: Variant["part"], fill: Variant["fill"]): number {
    return this.variants.push({ list, part, fill }) - 1;
  }

  label(): number {
    return this.labels++;
  }

  /** Another with the same in it, for what only some content adds. */
  copy(): Pool {
    const copy = new Pool();
    for (const rule of this.rules) copy.rule(rule);
    copy.slots.push(...this.slots);
    copy.links.push(...this.links);
    copy.lists.push(...this.lists);
    copy.variants.push(...this.variants);
    for (const [key, index] of this.linkKeys) copy.linkKeys.set(key, index);
    for (const [key, index] of this.listKeys) copy.listKeys.set(key, index);
    for (const [key, index] of this.slotKeys) copy.slotKeys.set(key, index);
    copy.labels = this.labels;
    copy.inserts.push(...this.inserts);
    return copy;
  }
}

function intern<T>(values: T[], keys: Map<string, number>, value: T, key: string): number {
  let index = keys.get(key);
  if (index === undefined) {
    index = values.push(value) - 1;
    keys.set(key, index);
  }
  return index;
}

/** Collects the instructions of one part of a message. */
export class Writer {
  readonly instructions: Instruction[] = [];
  private pending: string[] = [];

  constructor(readonly pool: Pool) {}

  /** Adds text as it is: markup in the HTML part, words in the others; what marks in it stand for in their place. */
  raw(text: string): this {
    if (text.includes(INSERT)) {
      for (const [index, piece] of text.split(INSERT).entries()) {
        if (index % 2 === 1) this.pool.writeInsert(Number(piece), this);
        else if (piece !== "") this.pending.push(piece);
      }
    } else if (text !== "") this.pending.push(text);
    return this;
  }

  /** Adds words to an HTML part. */
  escaped(text: string): this {
    return this.raw(escapeHtml(text));
  }

  value(slot: Slot): this {
    this.push({ op: "value", slot: this.pool.slot(slot) });
    return this;
  }

  /** Adds what `body` writes for the readers who meet the rule; for everyone when there is none. */
  when(rule: Rule | undefined, body: () => void): this {
    if (!rule) {
      body();
      return this;
    }
    const label = this.pool.label();
    this.push({ op: "unless", rule: this.pool.rule(rule), label });
    body();
    return this.mark(label);
  }

  /**
   * Adds what `body` writes, once, for the readers of whom the first case whose rule they meet says yes, and what
   * `otherwise` writes for the rest. A slot says yes where there is something to write for it.
   * @param cases the last has no rule
   */
  whether(
    cases: readonly { when?: Rule; there: boolean | Slot }[],
    body: () => void,
    otherwise?: () => void,
  ): this {
    if (cases.every(({ there }) => there === true)) body();
    else if (cases.every(({ there }) => there === false)) otherwise?.();
    else this.decide(cases, body, otherwise);
    return this;
  }

  private decide(
    cases: readonly { when?: Rule; there: boolean | Slot }[],
    body: () => void,
    otherwise: (() => void) | undefined,
  ) {
    const [yes, no, end] = [this.pool.label(), this.pool.label(), this.pool.label()];
    for (const { when, there } of cases) {
      const next = this.pool.label();
      if (when) this.push({ op: "unless", rule: this.pool.rule(when), label: next });
      if (typeof there !== "boolean") this.push({ op: "without", slot: this.pool.slot(there), label: no });
      this.push({ op: "jump", label: there === false ? no : yes });
      this.mark(next);
    }
    this.mark(yes);
    body();
    if (otherwise) this.push({ op: "jump", label: end });
    this.mark(no);
    otherwise?.();
    this.mark(end);
  }

  private mark(label: number): this {
    this.push({ op: "label", label });
    return this;
  }

  /** Adds what the first case writes whose rule a reader meets, else what `otherwise` writes. */
  either(cases: readonly { when: Rule; body: () => void }[], otherwise: () => void): this {
    const end = this.pool.label();
    for (const { when, body } of cases) {
      const next = this.pool.label();
      this.push({ op: "unless", rule: this.pool.rule(when), label: next });
      body();
      this.push({ op: "jump", label: end });
      this.mark(next);
    }
    otherwise();
    return this.mark(end);
  }

  /** Adds the item that a reader gets at a place of a list, as a variant writes it; nothing where they get none there. */
  item(list: number, place: number, variant: number): this {
    this.push({ op: "item", list, place, variant });
    return this;
  }

  /**
   * Adds what `body` writes for the readers who get at least so many items of a list, and what `otherwise` writes for the
   * rest. How many they get makes no edition, so both count as read by all.
   */
  having(list: number, than: number, body: () => void, otherwise?: () => void): this {
    const none = this.pool.label();
    this.push({ op: "fewer", list, than, label: none });
    body();
    this.mark(none);
    if (!otherwise) return this;
    const end = this.pool.label();
    this.push({ op: "enough", list, than, label: end });
    otherwise();
    return this.mark(end);
  }

  /** Adds what another writer from the same pool has collected. */
  append(instructions: readonly Instruction[]): this {
    for (const it of instructions) {
      if (it.op === "static") this.raw(it.text);
      else this.push(it);
    }
    return this;
  }

  finish(): Instruction[] {
    this.flush();
    return this.instructions;
  }

  private push(instruction: Instruction) {
    this.flush();
    this.instructions.push(instruction);
  }

  private flush() {
    if (this.pending.length > 0) {
      this.instructions.push({ op: "static", text: this.pending.join("") });
      this.pending = [];
    }
  }
}

/** Joins neighbouring static text and turns labels into indices. */
export function resolve(instructions: readonly Instruction[]): Code {
  const ops: Op[] = [];
  const jumps = new Map<number, (Op & { to: number })[]>();
  let joined = false;
  for (const it of instructions) {
    switch (it.op) {
      case "static": {
        const last = ops.at(-1);
        if (joined && last?.op === "static")
          ops[ops.length - 1] = { op: "static", text: last.text + it.text };
        else ops.push(it);
        joined = true;
        break;
      }
      case "value":
      case "item":
        ops.push(it);
        break;
      case "unless":
      case "without":
      case "fewer":
      case "enough":
      case "jump": {
        const { label, ...rest } = it;
        const jump: Op & { to: number } = { ...rest, to: -1 };
        jumps.set(label, [...(jumps.get(label) ?? []), jump]);
        ops.push(jump);
        break;
      }
      case "label":
        for (const jump of jumps.get(it.label) ?? []) jump.to = ops.length;
        joined = false;
        break;
    }
  }
  return ops;
}

/** A message before live content and reader: one list of instructions for each part, from one pool. */
export interface Program {
  pool: Pool;
  /** Whether the message is its text and nothing else. */
  only?: "text";
  /** As a language tag. */
  language: string;
  subject: Instruction[];
  preheader: Instruction[];
  senderName: Instruction[];
  /** Addresses (RFC 5322, addr-spec); an empty `replyTo` is none. */
  senderAddress: Instruction[];
  replyTo: Instruction[];
  /** What stands before the reader's own address; their name when there is nothing. */
  recipient: Instruction[];
  html: Instruction[];
  text: Instruction[];
  /** Greatest length of a line of the text part in characters; 0 leaves them. */
  textWidth: number;
  /** How many octets its style block has. */
  styleBytes: number;
}
