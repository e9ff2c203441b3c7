/**
 * One conversation with a mail relay (RFC 5321): greeting, encryption (RFC 3207), login (RFC 4954), then one message after the other,
 * with all that comes before a message said in one go where the relay takes that (PIPELINING, RFC 2920).
 *
 * Our own, since a sending lives by it: it says whether all of a message had left when a conversation broke, and gives the
 * octets of a message to the socket as they are.
 */
import net from "node:net";
import { hostname } from "node:os";
import tls from "node:tls";
import { domainToASCII } from "node:url";

/** Where in a conversation something went wrong. */
type Stage = "connect" | "encrypt" | "login" | "sender" | "reader" | "message" | "address";

/** What went wrong: what the relay said, or that it said nothing. */
export class SmtpFailure extends Error {
  constructor(
    message: string,
    readonly stage: Stage,
    /** Of the reply; missing where there was none. */
    readonly code?: number,
  ) {
    super(message);
    this.name = "SmtpFailure";
  }
}

export interface Relayed {
  host: string;
  port: number;
  /** Whether it is encrypted from the first octet on; otherwise as soon as the relay offers it. */
  secure: boolean;
  /** Only ever sent encrypted. */
  login: { user: string; password: string } | null;
  /** A certificate (PEM) that is trusted instead of the usual ones. */
  trust?: string;
}

interface Reply {
  code: number;
  /** All lines, as they were said. */
  said: string;
}

/** So many octets a reply may have: a relay that never comes to the end of one is not listened to. */
const LONGEST_REPLY = 64_000;
const CRLF = "\r\n";
/** From so many octets on a message is given piece by piece. */
const LARGE = 65_536;

/** What we call ourselves (RFC 5321, 4.1.3): the name of the machine where it is one of the net's. */
const NAME = hostname().includes(".") ? hostname() : "[127.0.0.1]";

/** An address as an envelope says it, with its domain as the net writes it. @throws SmtpFailure for one that cannot be said */
function onEnvelope(address: string, what: "sender" | "recipient", takesAll: boolean): string {
  const at = address.lastIndexOf("@");
  const written = at < 0 ? address : `${address.slice(0, at)}@${domainToASCII(address.slice(at + 1))}`;
  if (
    /[\s<>\u0000-\u001f\u007f]/.test(written) ||
    (/(^|@)$/.test(written) && !(what === "sender" && address === ""))
  )
    throw new SmtpFailure(`Invalid ${what} ${JSON.stringify(address)}`, "address");
  if (!takesAll && /[^\u0000-\u007f]/.test(written))
    throw new SmtpFailure(
      `Invalid ${what} ${JSON.stringify(address)}: the relay takes no addresses with such signs (SMTPUTF8)`,
      "address",
    );
  return `<${written}>`;
}

/** The message as it is sent: with a dot doubled at the beginning of a line (RFC 5321, 4.5.2). */
function* stuffed(message: Uint8Array): Generator<Uint8Array> {
  const octets = Buffer.from(message.buffer, message.byteOffset, message.byteLength);
  let from = 0;
  if (octets[0] === 0x2e) yield DOT;
  for (let at = octets.indexOf("\n."); at >= 0; at = octets.indexOf("\n.", from)) {
    yield octets.subarray(from, at + 1);
    yield DOT;
    from = at + 1;
  }
  yield octets.subarray(from);
}
const DOT = Buffer.from(".");
const END = Buffer.from(".\r\n");
const LINE_END = Buffer.from("\r\n.\r\n");

/** What ends a message: a dot on a line of its own. */
const endOf = (message: Uint8Array): Buffer => {
  const { length } = message;
  return length === 0 || (message[length - 2] === 0x0d && message[length - 1] === 0x0a) ? END : LINE_END;
};

export class Conversation {
  private heard = "";
  private lines: string[] = [];
  private readonly expected: { resolve(reply: Reply): void; reject(why: Error): void }[] = [];
  private ended: string | null = null;
  private offers = new Set<string>();
  private readonly whenEnded: (() => void)[] = [];
  /** Whether all of the message that is being given has left. */
  whole = false;

  private constructor(private socket: net.Socket) {
    this.listen();
  }

  /**
   * Opens one and logs in. `opened` is told of it at once, so that it can be closed from outside while it goes on.
   * @throws SmtpFailure
   */
  static async open(relay: Relayed, opened: (conversation: Conversation) => void): Promise<Conversation> {
    const { host, port, secure, login } = relay;
    // By the name it was asked for it has to prove who it is; an address is none that could be said in the handshake (RFC 6066, 3).
    const proof = {
      host,
      ...(net.isIP(host) === 0 && { servername: host }),
      ...(relay.trust && { ca: relay.trust }),
    };
    const conversation = new Conversation(
      secure ? tls.connect({ port, ...proof }) : net.connect({ host, port }),
    );
    opened(conversation);
    await conversation.asked("connect", "", 220);
    await conversation.hello();
    if (!secure && (conversation.offers.has("STARTTLS") || login)) {
      await conversation.asked("encrypt", "STARTTLS", 220);
      await conversation.encrypt(proof);
      await conversation.hello();
    }
    if (login) await conversation.login(login);
    return conversation;
  }

  get encrypted(): boolean {
    return this.socket instanceof tls.TLSSocket;
  }

  onEnd(told: () => void): void {
    this.whenEnded.push(told);
  }

  /**
   * Gives one message. `whole` says, when it fails, whether all of it had left.
   * @throws SmtpFailure
   */
  async give({ from, to }: { from: string; to: string }, message: Uint8Array): Promise<void> {
    this.whole = false;
    const all = this.offers.has("SMTPUTF8");
    const sender = onEnvelope(from, "sender", all);
    const reader = onEnvelope(to, "recipient", all);
    const foreign = /[^\u0000-\u007f]/.test(sender + reader) ? " SMTPUTF8" : "";
    const size = this.offers.has("SIZE") ? ` SIZE=${message.byteLength}` : "";
    const mail = `MAIL FROM:${sender}${size}${foreign}`;
    const rcpt = `RCPT TO:${reader}`;
    if (this.offers.has("PIPELINING")) {
      const replies = [
        this.asked("sender", [mail, rcpt, "DATA"].join(CRLF), 2),
        this.asked("reader", null, 2),
        this.asked("message", null, 354),
      ];
      const [first, second, third] = await Promise.allSettled(replies);
      const refused = [first, second, third].find((it) => it.status === "rejected");
      if (refused) {
        // A relay that begins a message all the same is left: were it ended with nothing in it, as RFC 2920 has it (3.1), a
        // careless one might deliver nothing to somebody.
        if (third.status === "fulfilled") this.close("it began a message that nobody is to get");
        throw refused.reason;
      }
    } else {
      await this.asked("sender", mail, 2);
      await this.asked("reader", rcpt, 2);
      await this.asked("message", "DATA", 354);
    }
    await this.send(message);
    await this.asked("message", null, 2);
  }

  /** Begins anew after a refusal. @throws SmtpFailure */
  async reset(): Promise<void> {
    await this.asked("connect", "RSET", 2);
  }

  /** Says goodbye and ends. */
  quit(): void {
    if (this.ended === null) this.socket.end(`QUIT${CRLF}`);
    this.close("it was ended");
  }

  /** Ends at once; whoever waits for a reply is told why. */
  close(why: string): void {
    if (this.ended !== null) return;
    this.ended = why;
    // What was said last may still leave.
    if (!this.socket.writableEnded) this.socket.destroy();
    for (const { reject } of this.expected.splice(0)) reject(new Error(why));
    for (const told of this.whenEnded) told();
  }

  private listen(): void {
    this.socket.setNoDelay(true);
    for (const [event, told] of Object.entries(this.ears)) this.socket.on(event, told);
  }

  private readonly ears = {
    data: (chunk: Buffer) => this.hear(chunk),
    error: (error: Error) => this.close(error.message || "the connection broke"),
    close: () => this.close("it closed the connection"),
    end: () => this.close("it closed the connection"),
  };

  private hear(chunk: Buffer): void {
    this.heard += chunk.toString("latin1");
    for (let end = this.heard.indexOf("\n"); end >= 0; end = this.heard.indexOf("\n")) {
      const line = this.heard.slice(0, end).replace(/\r$/, "");
      this.heard = this.heard.slice(end + 1);
      this.lines.push(line);
      const [, code, more] = /^([2-5]\d\d)([ -]|$)/.exec(line) ?? [];
      if (code === undefined) {
        this.close(`it said “${line.slice(0, 200)}”, which is no reply`);
        return;
      }
      if (more === "-") continue;
      const said = Buffer.from(this.lines.splice(0).join("\n"), "latin1").toString();
      const waits = this.expected.shift();
      if (waits) waits.resolve({ code: Number(code), said });
      // Nobody asked: it says why it goes.
      else this.close(said);
    }
    if (this.heard.length + this.lines.length * 80 > LONGEST_REPLY) this.close("its reply has no end");
  }

  /**
   * Says something and hears the reply to it; nothing is said where it was already.
   * @param expected the code, or its first digit; 0 for any
   */
  private async asked(stage: Stage, words: string | null, expected: number): Promise<Reply> {
    if (this.ended !== null) throw new SmtpFailure(this.ended, "connect");
    const reply = new Promise<Reply>((resolve, reject) => this.expected.push({ resolve, reject }));
    if (words) this.socket.write(words + CRLF);
    const { code, said } = await reply.catch((error: Error) => {
      throw new SmtpFailure(error.message, stage === "encrypt" || stage === "login" ? "connect" : stage);
    });
    const fits = expected === 0 || (expected < 10 ? Math.floor(code / 100) === expected : code === expected);
    if (!fits) throw new SmtpFailure(said, stage, code);
    return { code, said };
  }

  private async hello(): Promise<void> {
    const { said } = await this.asked("connect", `EHLO ${NAME}`, 2).catch((error: SmtpFailure) => {
      // Who does not know the word is asked in the old one, which offers nothing.
      if (error.code !== 500 && error.code !== 502) throw error;
      return this.asked("connect", `HELO ${NAME}`, 2);
    });
    const offered = said.split("\n").map((line) => line.slice(4).trim().toUpperCase());
    this.offers = new Set(offered.flatMap((line) => [line, line.split(/[ =]/)[0]]));
  }

  private async encrypt(proof: tls.ConnectionOptions): Promise<void> {
    // What was said before encryption began is not heard after it (RFC 3207, 6).
    if (this.heard !== "" || this.lines.length > 0) this.close("it spoke before it was encrypted");
    if (this.ended !== null) throw new SmtpFailure(this.ended, "connect");
    const plain = this.socket;
    for (const [event, told] of Object.entries(this.ears)) plain.off(event, told);
    // What breaks below breaks above, where it is heard.
    plain.on("error", () => undefined);
    const secret = tls.connect({ socket: plain, ...proof });
    this.socket = secret;
    this.listen();
    await new Promise<void>((resolve, reject) => {
      this.expected.push({ resolve: () => resolve(), reject });
      secret.once("secureConnect", () => {
        this.expected.length = 0;
        resolve();
      });
    }).catch((error: Error) => {
      throw new SmtpFailure(
        error.message,
        /certificate|altname/i.test(error.message) ? "encrypt" : "connect",
      );
    });
  }

  private async login({ user, password }: NonNullable<Relayed["login"]>): Promise<void> {
    const ways = [...this.offers].find((line) => /^AUTH[ =]/.test(line))?.split(/[ =]/) ?? [];
    const coded = (text: string) => Buffer.from(text).toString("base64");
    if (ways.includes("PLAIN") || !ways.includes("LOGIN")) {
      await this.asked("login", `AUTH PLAIN ${coded(`\0${user}\0${password}`)}`, 2);
      return;
    }
    await this.asked("login", "AUTH LOGIN", 334);
    await this.asked("login", coded(user), 334);
    await this.asked("login", coded(password), 2);
  }

  /** Gives the octets of a message to the socket: the last of a large one once what is before it has left. */
  private async send(message: Uint8Array): Promise<void> {
    const { socket } = this;
    const pieces = [...stuffed(message)];
    if (message.byteLength > LARGE) {
      for (const piece of pieces.splice(0))
        for (let at = 0; at < piece.length; at += LARGE)
          if (!socket.write(piece.subarray(at, at + LARGE))) await this.drained();
    }
    // From here on all of it may be there.
    this.whole = true;
    socket.cork();
    for (const piece of pieces) socket.write(piece);
    socket.write(endOf(message));
    socket.uncork();
  }

  private drained(): Promise<void> {
    return new Promise((resolve, reject) => {
      if (this.ended !== null) return reject(new SmtpFailure(this.ended, "message"));
      this.socket.once("drain", resolve);
      this.whenEnded.push(() => reject(new SmtpFailure(this.ended ?? "", "message")));
    });
  }
}
