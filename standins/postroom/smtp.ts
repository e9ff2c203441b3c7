/**
 * What speaks SMTP for the postroom (RFC 5321): plain, with all that is said in one go answered in one go (PIPELINING, RFC 2920),
 * so that a sending to it is not held up by it.
 */
import net, { type AddressInfo } from "node:net";
import { domainToUnicode } from "node:url";

/** What is said at a step instead of the usual. A reply of 421 ends the conversation. */
export class Says extends Error {
  constructor(readonly reply: string) {
    super(reply);
  }
}

/** The connection is closed at this step, without a word. */
export class Cut extends Error {}

/** Who decides at each step. What throws is said: `Says` its reply, `Cut` nothing, anything else that it is our fault. */
export interface Decides {
  greeting(): Promise<void>;
  sender(address: string): Promise<void>;
  reader(address: string): Promise<void>;
  /** @param octets the message as it came, without what the wire added */
  message(from: string, to: readonly string[], octets: Buffer): Promise<void>;
}

const NAME = "postroom.septima.test";
/** Octets a message may have. */
const LARGEST = 30_000_000;
const MOST_READERS = 1000;
/** Octets a command may have (RFC 5321, 4.5.3.1.4, with room for what extensions add). */
const LONGEST_LINE = 4096;
/** So long nothing need be said, in milliseconds, and so long goodbye is waited for. */
const PATIENCE = 300_000;
const LAST_WORDS = 10_000;

const CRLF = "\r\n";
const END = Buffer.from("\r\n.\r\n");
const HELLO = [NAME, "PIPELINING", "8BITMIME", "SMTPUTF8", `SIZE ${LARGEST}`];

/** Starts it on a free port of this machine. */
export async function openSmtp(decides: Decides): Promise<{ port: number; close(): Promise<void> }> {
  const open = new Set<net.Socket>();
  const server = net.createServer((socket) => {
    open.add(socket);
    socket.on("close", () => open.delete(socket));
    new Served(socket, decides);
  });
  await new Promise<void>((resolve, reject) => {
    server.once("error", reject);
    server.listen(0, "127.0.0.1", resolve);
  });
  return {
    port: (server.address() as AddressInfo).port,
    async close() {
      const closed = new Promise((resolve) => server.close(resolve));
      for (const socket of open) socket.end(`421 4.3.2 ${NAME} closes${CRLF}`, () => socket.destroy());
      await closed;
    },
  };
}

/** The octets of a message as they were before the wire: a doubled dot at the beginning of a line is one (RFC 5321, 4.5.2). */
function unstuffed(octets: Buffer): Buffer {
  const pieces: Buffer[] = [];
  let from = octets[0] === 0x2e ? 1 : 0;
  for (let at = octets.indexOf("\r\n.", from); at >= 0; at = octets.indexOf("\r\n.", from)) {
    pieces.push(octets.subarray(from, at + 2));
    from = at + 3;
  }
  return pieces.length === 0 ? octets.subarray(from) : Buffer.concat([...pieces, octets.subarray(from)]);
}

/** A message that is coming in: what has come of it, as long as it is not too much. */
class Incoming {
  private pieces: Buffer[] = [];
  private size = 0;
  /** What came last: the end may be in two pieces. A message may end before its first line. */
  private tail: Buffer = Buffer.from(CRLF);

  /** @returns what came after its end; null while that has not come */
  take(chunk: Buffer): Buffer | null {
    const seam = Buffer.concat([this.tail, chunk.subarray(0, END.length - 1)]);
    const across = seam.indexOf(END);
    const end = across < 0 ? chunk.indexOf(END) : across - this.tail.length;
    if (end < 0 && across < 0) {
      this.add(chunk);
      this.tail = (chunk.length < END.length ? seam : chunk).subarray(1 - END.length);
      return null;
    }
    // The line end before the dot is the message's own.
    const own = end + 2;
    if (own >= 0) this.add(chunk.subarray(0, own));
    // Of an end that began in the piece before, the dot is taken back.
    else this.pieces = [Buffer.concat(this.pieces).subarray(0, own)];
    return chunk.subarray(end + END.length);
  }

  private add(piece: Buffer): void {
    this.size += piece.length;
    if (this.size > LARGEST) this.pieces = [];
    else this.pieces.push(piece);
  }

  /** The whole message; null of one that is too large. */
  get octets(): Buffer | null {
    if (this.size > LARGEST) return null;
    return unstuffed(this.pieces.length === 1 ? this.pieces[0] : Buffer.concat(this.pieces));
  }
}

/** One conversation with whoever sends. */
class Served {
  private rest: Buffer = Buffer.alloc(0);
  private said = "";
  private ended = false;
  private greeted = false;
  private from: string | null = null;
  private to: string[] = [];
  private incoming: Incoming | null = null;
  /** Whatever comes is heard in its order, one after the other. */
  private hearing: Promise<void>;

  constructor(
    private readonly socket: net.Socket,
    private readonly decides: Decides,
  ) {
    socket.setNoDelay(true);
    // A connection that breaks is the sender's to deal with.
    socket.on("error", () => this.end());
    socket.on("close", () => this.end());
    socket.setTimeout(PATIENCE, () => this.bye("421 4.4.2 Nothing was said for too long"));
    this.hearing = this.greet();
    socket.on("data", (chunk: Buffer) => {
      socket.pause();
      this.hearing = this.hearing
        .then(() => this.hear(chunk))
        // Whatever is wrong with us ends this conversation, and no other.
        .catch((error: Error) => this.bye(fault(error)))
        .finally(() => socket.resume());
    });
  }

  private async greet(): Promise<void> {
    const refused = await this.decided(this.decides.greeting());
    if (refused === null) this.say(`220 ${NAME} Septima postroom`);
    else this.bye(refused);
    this.flush();
  }

  /** What is said instead of the usual; null where it is the usual. */
  private async decided(decision: Promise<void>): Promise<string | null> {
    try {
      await decision;
      return null;
    } catch (error) {
      if (error instanceof Says) return error.reply;
      if (error instanceof Cut) {
        this.flush();
        this.end();
        this.socket.destroy();
        return "";
      }
      return fault(error as Error);
    }
  }

  private async hear(chunk: Buffer): Promise<void> {
    let next = chunk;
    while (!this.ended) {
      if (this.incoming) {
        const after = this.incoming.take(next);
        if (!after) return;
        await this.message(this.incoming.octets);
        next = after;
        continue;
      }
      if (this.rest.length > 0) next = Buffer.concat([this.rest, next]);
      const end = next.indexOf(CRLF);
      if (end < 0) {
        if (next.length > LONGEST_LINE) this.bye("500 5.5.2 Too long a line");
        this.rest = next;
        break;
      }
      this.rest = Buffer.alloc(0);
      await this.command(next.toString("utf8", 0, end));
      next = next.subarray(end + 2);
    }
    this.flush();
  }

  private async command(line: string): Promise<void> {
    const [, word, words] = /^(\S*)\s?(.*)$/s.exec(line)!;
    switch (word.toUpperCase()) {
      case "EHLO":
        this.forget();
        this.greeted = true;
        for (const [at, offer] of HELLO.entries())
          this.say(`250${at < HELLO.length - 1 ? "-" : " "}${offer}`);
        break;
      case "HELO":
        this.forget();
        this.greeted = true;
        this.say(`250 ${NAME}`);
        break;
      case "MAIL":
        await this.mail(words);
        break;
      case "RCPT":
        await this.rcpt(words);
        break;
      case "DATA":
        if (this.to.length === 0) this.say("503 5.5.1 Nobody is to get it");
        else {
          this.incoming = new Incoming();
          this.say("354 Go on");
        }
        this.flush();
        break;
      case "RSET":
        this.forget();
        this.say("250 2.0.0 Forgotten");
        break;
      case "NOOP":
        this.say("250 2.0.0 Nothing done");
        break;
      case "VRFY":
        this.say("252 2.5.0 Send it, and see");
        break;
      case "QUIT":
        this.bye("221 2.0.0 Goodbye");
        break;
      default:
        this.say("502 5.5.1 This is not understood here");
    }
  }

  private async mail(words: string): Promise<void> {
    const [, address, parameters] = /^FROM: ?<([^<>\s]*)>(.*)$/i.exec(words) ?? [];
    if (!this.greeted || this.from !== null) this.say("503 5.5.1 Not now");
    else if (address === undefined) this.say("501 5.1.7 No address of a sender");
    else if (Number(/\bSIZE=(\d+)/i.exec(parameters)?.[1] ?? 0) > LARGEST) this.say("552 5.3.4 Too large");
    else {
      const refused = await this.decided(this.decides.sender(readable(address)));
      if (refused !== null) return this.refuse(refused);
      this.from = readable(address);
      this.say("250 2.1.0 Go on");
    }
  }

  private async rcpt(words: string): Promise<void> {
    const [, address] = /^TO: ?<([^<>\s@]+@[^<>\s@]+)>/i.exec(words) ?? [];
    if (this.from === null) this.say("503 5.5.1 Who sends it?");
    else if (address === undefined) this.say("501 5.1.3 No address of a reader");
    else if (this.to.length >= MOST_READERS) this.say("452 4.5.3 Too many readers");
    else {
      const refused = await this.decided(this.decides.reader(readable(address)));
      if (refused !== null) return this.refuse(refused);
      this.to.push(readable(address));
      this.say("250 2.1.5 Go on");
    }
  }

  private async message(octets: Buffer | null): Promise<void> {
    const { from, to } = this;
    this.forget();
    if (!octets) return this.say(`552 5.3.4 Too large: at most ${LARGEST} octets`);
    const refused = await this.decided(this.decides.message(from!, to, octets));
    if (refused !== null) return this.refuse(refused);
    this.say("250 2.0.0 Kept");
  }

  private forget(): void {
    this.from = null;
    this.to = [];
    this.incoming = null;
  }

  private refuse(reply: string): void {
    if (reply.startsWith("421")) this.bye(reply);
    else this.say(reply);
  }

  /** Is said when there is nothing more to be heard for the moment. */
  private say(reply: string): void {
    if (!this.ended) this.said += reply + CRLF;
  }

  private bye(reply: string): void {
    this.say(reply);
    this.flush();
    this.end();
    this.socket.end();
    this.socket.setTimeout(LAST_WORDS, () => this.socket.destroy());
  }

  private flush(): void {
    if (this.said !== "" && !this.socket.destroyed) this.socket.write(this.said);
    this.said = "";
  }

  private end(): void {
    this.ended = true;
  }
}

const fault = ({ message }: Error) => `451 4.3.0 ${message.replace(/[^\x20-\x7e]+/g, " ")}`;

/** An address as people read it: its domain in its own letters (RFC 5891), if it has any. */
function readable(address: string): string {
  const domain = address.slice(address.lastIndexOf("@") + 1);
  if (!domain.includes("xn--")) return address;
  return address.slice(0, -domain.length) + (domainToUnicode(domain) || domain);
}
