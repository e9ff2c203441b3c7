import {
  appendFileSync,
  closeSync,
  ftruncateSync,
  mkdirSync,
  openSync,
  readFileSync,
  readSync,
} from "node:fs";
import path from "node:path";
import { Says } from "./smtp";

/** What is known of a message without opening it. */
export interface Entry {
  id: string;
  to: string;
  from: string;
  subject: string;
  messageId: string;
  at: number;
  offset: number;
  size: number;
}

/**
 * The mailboxes on disk: messages one after the other in `messages`, a line of JSON about each in `index`. A message
 * counts as kept once its line is written; half-written ends are cut off at the next start.
 */
export class MailStore {
  private readonly byMessageId = new Set<string>();
  /** What was asked for and had not come: whoever asked takes it as lost. */
  private readonly never = new Set<string>();
  private closed = false;

  private constructor(
    private readonly messages: number,
    private readonly index: number,
    private entries: Entry[],
    private end: number,
    private indexEnd: number,
  ) {
    for (const entry of entries) this.byMessageId.add(entry.messageId);
  }

  static open(folder: string): MailStore {
    mkdirSync(folder, { recursive: true });
    const [messages, index] = ["messages", "index.jsonl"].map((name) =>
      openSync(path.join(folder, name), "a+"),
    );
    const text = readFileSync(index, "utf8");
    const whole = text.slice(0, text.lastIndexOf("\n") + 1);
    const entries = whole
      .split("\n")
      .filter(Boolean)
      .map((line) => JSON.parse(line) as Entry);
    const end = entries.reduce((most, entry) => Math.max(most, entry.offset + entry.size), 0);
    const store = new MailStore(messages, index, entries, end, Buffer.byteLength(whole));
    store.cut();
    return store;
  }

  /** Cuts off what was half written. */
  private cut(): void {
    ftruncateSync(this.messages, this.end);
    ftruncateSync(this.index, this.indexEnd);
  }

  /**
   * Keeps a message; it and its line are written when this returns. At once, since whoever waits for it waits for nothing else,
   * and asking another thread to write costs more than writing.
   * @returns the id under which it is kept
   * @throws Says for one of which it was said that it has not come, and when it is closed
   */
  add(about: Omit<Entry, "id" | "offset" | "size">, source: Buffer): string {
    // A file that is closed may be another one by now.
    if (this.closed) throw new Says("421 4.3.2 The postroom closes");
    if (this.never.has(about.messageId)) throw new Says("554 5.6.0 This message was given up");
    const offset = this.end;
    const entry: Entry = { ...about, id: `m${offset.toString(36)}`, offset, size: source.length };
    const line = Buffer.from(`${JSON.stringify(entry)}\n`);
    try {
      appendFileSync(this.messages, source);
      appendFileSync(this.index, line);
    } catch (error) {
      // What follows is not to stand behind the half of something.
      this.cut();
      throw error;
    }
    this.end += source.length;
    this.indexEnd += line.length;
    this.entries.push(entry);
    this.byMessageId.add(entry.messageId);
    return entry.id;
  }

  search(text: string, offset: number, limit: number): { total: number; messages: Entry[] } {
    const words = text.toLowerCase().split(/\s+/).filter(Boolean);
    const found = this.entries.filter((entry) => {
      const haystack = `${entry.to} ${entry.subject}`.toLowerCase();
      return words.every((word) => haystack.includes(word));
    });
    const newestFirst = found.reverse();
    return { total: newestFirst.length, messages: newestFirst.slice(offset, offset + limit) };
  }

  source(id: string): Buffer | null {
    const entry = this.entry(id);
    if (!entry) return null;
    const buffer = Buffer.alloc(entry.size);
    readSync(this.messages, buffer, 0, entry.size, entry.offset);
    return buffer;
  }

  /** Messages stand in the order of their ids. */
  private entry(id: string): Entry | null {
    const offset = Number.parseInt(id.slice(1), 36);
    let [from, to] = [0, this.entries.length];
    while (from < to) {
      const middle = (from + to) >> 1;
      if (this.entries[middle].offset < offset) from = middle + 1;
      else to = middle;
    }
    const found = this.entries[from];
    return found?.id === id ? found : null;
  }

  /** Which of these have come; from now on none of the others is taken. */
  arrivedOrNever(messageIds: readonly string[]): Set<string> {
    for (const id of messageIds) if (!this.byMessageId.has(id)) this.never.add(id);
    return new Set(messageIds.filter((id) => this.byMessageId.has(id)));
  }

  empty(): void {
    this.entries = [];
    this.byMessageId.clear();
    this.end = 0;
    this.indexEnd = 0;
    this.cut();
  }

  close(): void {
    this.closed = true;
    closeSync(this.messages);
    closeSync(this.index);
  }
}
