/** A mail relay for tests that says whatever it is told to, over a real connection. */

import { readFileSync } from "node:fs";
import type { AddressInfo } from "node:net";
import net from "node:net";
import path from "node:path";
import tls from "node:tls";

/** What it says at each point instead of the usual; `null` cuts the connection, `421 …` is said and then cut. */
export interface Script {
  greeting?: string | null;
  ehlo?: string | null;
  starttls?: string | null;
  auth?: string | null;
  mail?: string | null;
  rcpt?: string | null | ((address: string) => string | null | undefined);
  data?: string | null;
  end?: string | null;
  /** At this point it says nothing any more, or an octet at a time without an end, so many milliseconds apart. */
  silent?: "greeting" | "ehlo" | "mail" | "rcpt" | "data" | "end";
  drip?: number;
}

export interface HostileRelay {
  address: string;
  /** Who it has taken mail for, in order. */
  taken: string[];
  /** What it has taken, each with its Message-ID. */
  messages: { to: string; messageId: string }[];
  /** The names and passwords it was given, and whether they came encrypted. */
  logins: { said: string; encrypted: boolean }[];
  /** How long it takes to say that it has a message, in milliseconds. */
  pace: number;
  /** Lines that came of messages to nobody. */
  strays: number;
  /** How often somebody has come. */
  connected: number;
  script: Script;
  close(): Promise<void>;
}

const fixture = (name: string) =>
  readFileSync(path.join(process.cwd(), "server/mail/fixtures", name), "utf8");
/** What the relay shows to prove that it is who it should be: nobody trusts it who is not told to. */
export const RELAY_CERTIFICATE = fixture("relay.crt");

interface Offers {
  tls: boolean;
  pipelining: boolean;
  careless: boolean;
}

/** One connection: what is said on it, before and after it is encrypted. */
class Conversation {
  private reader = "";
  private messageId = "";
  private inData = false;
  private mute = false;
  private sender = false;
  private rest = "";
  private dripping: ReturnType<typeof setInterval> | undefined;

  constructor(
    private readonly relay: HostileRelay,
    private stream: net.Socket,
    private readonly offers: Offers,
  ) {
    this.listen();
    this.say("greeting", relay.script.greeting, "220 relay.example ready");
  }

  private listen(): void {
    this.stream.on("error", () => undefined);
    this.stream.on("close", () => clearInterval(this.dripping));
    this.stream.on("data", (bytes) => this.hear(bytes.toString("latin1")));
  }

  private get encrypted(): boolean {
    return this.stream instanceof tls.TLSSocket;
  }

  private say(at: string, own: string | null | undefined, usual: string): boolean {
    const { silent, drip } = this.relay.script;
    // Who says nothing to one thing says nothing to the next.
    if (this.mute) return false;
    if (silent === at) {
      this.mute = true;
      if (drip) this.dripping = setInterval(() => this.stream.write("2"), drip);
      return false;
    }
    if (own === null) {
      this.stream.destroy();
      return false;
    }
    const words = own ?? usual;
    this.stream.write(`${words}\r\n`);
    if (words.startsWith("421")) this.stream.end();
    return !/^[45]/.test(words);
  }

  private hear(text: string): void {
    this.rest += text;
    for (;;) {
      const end = this.rest.indexOf("\r\n");
      if (end < 0) return;
      const line = this.rest.slice(0, end);
      this.rest = this.rest.slice(end + 2);
      if (this.inData) this.take(line);
      else this.answer(line);
    }
  }

  private take(line: string): void {
    const { relay } = this;
    if (this.reader === "") relay.strays++;
    this.messageId ||= /^Message-ID: <([^>]*)>/.exec(line)?.[1] ?? "";
    if (line !== ".") return;
    this.inData = false;
    const message = { to: this.reader, messageId: this.messageId };
    this.messageId = "";
    this.reader = "";
    if (message.to === "") {
      this.stream.write("554 No valid readers\r\n");
      return;
    }
    const take = () => {
      if (!this.say("end", relay.script.end, "250 Taken")) return;
      relay.taken.push(message.to);
      relay.messages.push(message);
    };
    if (relay.pace > 0) setTimeout(take, relay.pace);
    else take();
  }

  private answer(line: string): void {
    const { script, logins } = this.relay;
    const verb = line.slice(0, 4).toUpperCase();
    switch (verb) {
      case "EHLO": {
        const offer =
          (this.offers.tls && !this.encrypted ? "250-STARTTLS\r\n" : "") +
          (this.offers.pipelining ? "250-PIPELINING\r\n" : "");
        this.say("ehlo", script.ehlo, `250-relay.example\r\n${offer}250 AUTH PLAIN LOGIN`);
        return;
      }
      case "STAR":
        if (this.say("starttls", script.starttls, this.offers.tls ? "220 Go on" : "502 What?"))
          this.encrypt();
        return;
      case "AUTH":
        logins.push({ said: line, encrypted: this.encrypted });
        this.say("auth", script.auth, "235 Welcome");
        return;
      case "MAIL":
        this.sender = this.say("mail", script.mail, "250 Sender noted");
        return;
      case "RCPT": {
        if (!this.sender && !this.mute) {
          this.stream.write("503 No sender\r\n");
          return;
        }
        this.reader = /<([^>]*)>/.exec(line)?.[1] ?? "";
        const { rcpt } = script;
        const noted = this.say(
          "rcpt",
          typeof rcpt === "function" ? rcpt(this.reader) : rcpt,
          "250 Reader noted",
        );
        if (!noted) this.reader = "";
        return;
      }
      case "DATA":
        // To nobody nothing is sent (RFC 5321, 4.1.1.4), unless it is a careless one.
        if (this.reader === "" && !this.offers.careless && !this.mute)
          this.stream.write("503 No readers\r\n");
        else this.inData = this.say("data", script.data, "354 Go on");
        return;
      case "QUIT":
        this.stream.end("221 Goodbye\r\n");
        return;
      default:
        if (!this.mute) this.stream.write("250 Fine\r\n");
    }
  }

  private encrypt(): void {
    this.stream.removeAllListeners("data");
    this.stream = new tls.TLSSocket(this.stream, {
      isServer: true,
      key: fixture("relay.key"),
      cert: RELAY_CERTIFICATE,
    });
    this.listen();
  }
}

/**
 * @param login `name:password@`, for the address
 * @param offers whether it can be talked to encrypted, takes several commands in one go, and begins a message to nobody
 */
export async function openHostileRelay(
  script: Script,
  login = "",
  offers: Partial<Offers> = {},
): Promise<HostileRelay> {
  const sockets = new Set<net.Socket>();
  const server = net.createServer((socket) => {
    sockets.add(socket);
    socket.on("close", () => sockets.delete(socket));
    relay.connected++;
    new Conversation(relay, socket, { tls: login !== "", pipelining: false, careless: false, ...offers });
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const relay: HostileRelay = {
    address: `smtp://${login}127.0.0.1:${(server.address() as AddressInfo).port}`,
    taken: [],
    messages: [],
    logins: [],
    pace: 0,
    strays: 0,
    connected: 0,
    script,
    close: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
        for (const socket of sockets) socket.destroy();
      }),
  };
  return relay;
}
