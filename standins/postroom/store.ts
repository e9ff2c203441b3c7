import { type FileHandle, mkdir, open, readFile, truncate } from "node:fs/promises";
import path from "node:path";

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

  private constructor(
    private readonly messages: FileHandle,
    private readonly index: FileHandle,
    private entries: Entry[],
    private end: number,
  ) {
    for (const entry of entries) this.byMessageId.add(entry.messageId);
  }

  static async open(folder: string): Promise<MailStore> {
    await mkdir(folder, { recursive: true });
    const indexPath = path.join(folder, "index.jsonl");
    const text = await readFile(indexPath, "utf8").catch((error: NodeJS.ErrnoException) => {
      if (error.code === "ENOENT") return "";
      throw error;
    });
    const whole = text.slice(0, text.lastIndexOf("\n") + 1);
    if (whole.length < text.length) await truncate(indexPath, Buffer.byteLength(whole));
    const entries = whole
      .split("\n")
      .filter(Boolean)
      .map((line) => JSON.parse(line) as Entry);
    const end = entries.reduce((most, entry) => Math.max(most, entry.offset + entry.size), 0);
    const messages = await open(path.join(folder, "messages"), "a+");
    await messages.truncate(end);
    return new MailStore(messages, await open(indexPath, "a+"), entries, end);
  }

  private writing: Promise<unknown> = Promise.resolve();
  private waiting: { about: Omit<Entry, "id" | "offset" | "size">; source: Buffer }[] = [];
  private nextRound: Promise<void> | null = null;

  /**
   * Keeps a message; resolves once it and its line are written. Messages that come while others are being written
   * go together in the next round, so that a hundred connections do not wait for each other one by one.
   * @throws Error for one of which it was said that it has not come
   */
  async add(about: Omit<Entry, "id" | "offset" | "size">, source: Buffer): Promise<void> {
    if (this.never.has(about.messageId))
      throw Object.assign(new Error("This message was given up"), { responseCode: 554 });
    this.waiting.push({ about, source });
    this.nextRound ??= this.inTurn(() => {
      this.nextRound = null;
      return this.write(this.waiting.splice(0));
    });
    return this.nextRound;
  }

  private inTurn(work: () => Promise<void>): Promise<void> {
    const turn = this.writing.then(work);
    this.writing = turn.catch(() => undefined);
    return turn;
  }

  private async write(round: typeof this.waiting): Promise<void> {
    let { end } = this;
    const entries = round.map(({ about, source }): Entry => {
      const offset = end;
      end += source.length;
      return { ...about, id: `m${offset.toString(36)}`, offset, size: source.length };
    });
    await this.messages.appendFile(Buffer.concat(round.map(({ source }) => source)));
    await this.index.appendFile(entries.map((entry) => `${JSON.stringify(entry)}\n`).join(""));
    this.end = end;
    for (const entry of entries) {
      this.entries.push(entry);
      this.byMessageId.add(entry.messageId);
    }
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

  async source(id: string): Promise<Buffer | null> {
    const entry = this.entries.find((one) => one.id === id);
    if (!entry) return null;
    const buffer = Buffer.alloc(entry.size);
    await this.messages.read(buffer, 0, entry.size, entry.offset);
    return buffer;
  }

  /** Which of these have come; from now on none of the others is taken. */
  async arrivedOrNever(messageIds: readonly string[]): Promise<Set<string>> {
    for (const id of messageIds) this.never.add(id);
    // What is being written is there in a moment.
    await this.nextRound;
    await this.writing;
    for (const id of messageIds) if (this.byMessageId.has(id)) this.never.delete(id);
    return new Set(messageIds.filter((id) => this.byMessageId.has(id)));
  }

  empty(): Promise<void> {
    return this.inTurn(async () => {
      await this.messages.truncate(0);
      await this.index.truncate(0);
      this.entries = [];
      this.byMessageId.clear();
      this.end = 0;
    });
  }

  async close(): Promise<void> {
    await this.writing;
    await this.messages.close();
    await this.index.close();
  }
}
