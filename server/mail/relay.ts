import type { Readable, Writable } from "node:stream";
import { setTimeout as sleep } from "node:timers/promises";
import SMTPConnection from "nodemailer/lib/smtp-connection";

/**
 * Why a message was not taken. `closed` concerns every message: the relay does not let us in or does not take this
 * sender; `away` as well: it is not there, or goes away again and again. In both cases it does not have the message.
 * `unknown` is the one case in which it may: the connection ended after the whole message and before the answer.
 * `passing` troubles of one reader are worth another try, `refused` ones are not, and `gone` says that the address itself
 * takes no mail.
 */
export class RelayError extends Error {
  constructor(
    message: string,
    readonly kind: "closed" | "away" | "unknown" | "passing" | "refused" | "gone",
  ) {
    super(message);
    this.name = "RelayError";
  }
}

/** Where mail leaves. */
export interface Relay {
  /** How many messages can be handed over side by side. */
  readonly connections: number;
  /**
   * Hands one message over; resolves once the relay has taken responsibility for it. While the relay is away it is tried
   * again, more and more slowly, until patience ends.
   * @param given no more is tried once it is aborted
   * @throws RelayError
   */
  send(envelope: { from: string; to: string }, message: Uint8Array, given?: AbortSignal): Promise<void>;
  close(): Promise<void>;
}

/** A relay at one address. */
export interface OpenRelay extends Relay {
  /** Says hello and logs in, no more. @throws RelayError */
  greet(): Promise<{ encrypted: boolean }>;
}

/** How many connections are used side by side. */
export const CONNECTIONS = 6;

interface NodemailerFailure extends Error {
  code?: string;
  /** The verb that failed, as `RCPT TO`; `CONN` for the greeting, `AUTH …` for the login. */
  command?: string;
  responseCode?: number;
  /** What the relay said, all of it. */
  response?: string;
}

/** What a refused greeting or login, or a connection that is not there, says about every message. */
function readClosed(error: NodemailerFailure, address: string): RelayError {
  if (isUnproven(error))
    return new RelayError(
      `The mail relay at ${address} could not be talked to encrypted (${error.message}). A name and a password are not sent in the clear: use a relay that offers encryption and proves who it is, or smtps:// where it speaks that.`,
      "closed",
    );
  if (error.code === "EAUTH" || error.command?.startsWith("AUTH"))
    return new RelayError(
      `The mail relay at ${address} refused the login (${error.message}). Check the name and the password in its address.`,
      "closed",
    );
  return new RelayError(
    `The mail relay at ${address} cannot be reached (${error.message}).`,
    needsHand(error) ? "closed" : "away",
  );
}

/** Whether it cannot be talked to encrypted, or does not prove to be who it should be: of that the library tells in words only. */
const isUnproven = ({ code, message }: NodemailerFailure) =>
  code === "ETLS" || (code === "ESOCKET" && /certificate/i.test(message));

/** Whether trying again is no use: it said no for good. */
const needsHand = ({ responseCode = 0 }: NodemailerFailure) => responseCode >= 500;

/**
 * What became of one message (RFC 5321, 4.2 and 4.3.2; enhanced codes by RFC 3463).
 * @param whole whether all of it had been given over
 */
function readRefusal(error: NodemailerFailure, address: string, whole: boolean): RelayError {
  const code = error.responseCode;
  // An address that cannot be written on an envelope at all never reached the relay.
  if (error.code === "EENVELOPE" && error.command === "API" && error.message.startsWith("Invalid recipient"))
    return new RelayError(error.message, "refused");
  // 421: the relay closes the connection and says nothing about the reader (RFC 5321, 3.8); nor does it take the message.
  if (code === 421) return readClosed(error, address);
  if (!code)
    return whole
      ? new RelayError(
          `The mail relay at ${address} closed the connection before it said whether it has the message.`,
          "unknown",
        )
      : readClosed(error, address);
  const atReader = error.command === "RCPT TO" || error.command === "DATA";
  if (!atReader && code >= 500) {
    return new RelayError(
      `The mail relay at ${address} does not take mail from this sender (${error.message}).`,
      "closed",
    );
  }
  // In the words of whoever refused it.
  const words = error.response?.replace(/\s+/g, " ").trim() || error.message;
  if (code < 500) return new RelayError(words, "passing");
  return new RelayError(words, isGone(error, code) ? "gone" : "refused");
}

/** Whether a refusal is about the mailbox: 5.1.x, or one of the codes for it without an enhanced code. */
function isGone({ command, message }: NodemailerFailure, code: number): boolean {
  if (command !== "RCPT TO") return false;
  const enhanced = /\b5\.(\d{1,3})\.\d{1,3}\b/.exec(message)?.[1];
  return enhanced === undefined ? [550, 551, 553].includes(code) : enhanced === "1";
}

/** The first wait for a relay that is away, and the longest, in milliseconds. */
const WAIT = { first: 200, longest: 4000 };
/** A relay that takes nothing for so long stays away, in milliseconds. */
const PATIENCE = 12_000;

/**
 * A message as the connection reads it, which tells when all of it has left: before the connection asked for it, or while
 * some of it is still here, nobody can have taken it.
 */
class Given {
  whole = false;
  constructor(private readonly bytes: Uint8Array) {}
  on() {
    return this;
  }
  destroy() {}
  removeListener() {
    return this;
  }
  pipe(to: Writable) {
    to.once("end", () => {
      this.whole = true;
    });
    to.end(this.bytes);
    return to;
  }
}

/** Waits, but not longer than the signal. */
const pause = (milliseconds: number, signal?: AbortSignal) =>
  sleep(milliseconds, undefined, { signal }).catch(() => undefined);

/** What may be otherwise than usual, as in tests. */
export interface RelayOptions {
  connections?: number;
  /** How long one that is away is tried again, in milliseconds. */
  patience?: number;
  /** How long greeting, encryption and login may take together, and one message, however busily octets come; in milliseconds. */
  slowest?: { connect: number; message: number };
  /** A certificate (PEM) that is trusted besides the usual ones. */
  trust?: string;
}

/** However slowly it speaks: after so long a relay counts as away. */
const SLOWEST = { connect: 30_000, message: 180_000 };

/**
 * A relay by its address, `smtp://[user:password@]host:port` or `smtps://…`, with a pool of open connections: of the mail
 * library, but not its pool, which does not tell a message that had left as a whole from one that had not. A name and a
 * password are never sent in the clear.
 */
export function openRelay(address: string, options: RelayOptions = {}): OpenRelay {
  const { connections = CONNECTIONS, patience = PATIENCE, slowest = SLOWEST, trust } = options;
  const url = new URL(address);
  const secure = url.protocol === "smtps:";
  const port = Number(url.port || (secure ? 465 : 587));
  const shown = `${url.hostname}:${port}`;
  const idle: SMTPConnection[] = [];
  const waiting: ((connection: SMTPConnection | null) => void)[] = [];
  const open = new Set<SMTPConnection>();
  let count = 0;

  const connect = () =>
    new Promise<SMTPConnection>((resolve, reject) => {
      const connection = new SMTPConnection({
        host: url.hostname,
        port,
        secure,
        requireTLS: !secure && url.username !== "",
        ...(trust !== undefined && { tls: { ca: trust } }),
        connectionTimeout: 10_000,
        greetingTimeout: 10_000,
        socketTimeout: 60_000,
      });
      let settled = false;
      const late = setTimeout(
        () => fail(new Error(`it took longer than ${slowest.connect / 1000} s to let us in`)),
        slowest.connect,
      );
      const fail = (error: NodemailerFailure) => {
        clearTimeout(late);
        forget(connection);
        connection.close();
        if (!settled) {
          settled = true;
          reject(readClosed(error, shown));
        }
      };
      connection.on("error", fail);
      connection.on("end", () => forget(connection));
      open.add(connection);
      connection.connect((error) => {
        if (error) return fail(error);
        const ready = () => {
          clearTimeout(late);
          settled = true;
          resolve(connection);
        };
        if (!url.username) return ready();
        const credentials = {
          user: decodeURIComponent(url.username),
          pass: decodeURIComponent(url.password),
        };
        connection.login({ credentials }, (refused) => (refused ? fail(refused) : ready()));
      });
    });

  const forget = (connection: SMTPConnection) => {
    if (!open.delete(connection)) return;
    count--;
    const at = idle.indexOf(connection);
    if (at >= 0) idle.splice(at, 1);
    waiting.shift()?.(null);
  };

  const acquire = async (): Promise<SMTPConnection> => {
    for (;;) {
      const free = idle.pop();
      if (free) return free;
      if (count < connections) {
        count++;
        return connect();
      }
      const handed = await new Promise<SMTPConnection | null>((resolve) => waiting.push(resolve));
      if (handed) return handed;
    }
  };

  const release = (connection: SMTPConnection) => {
    if (!open.has(connection)) return;
    const next = waiting.shift();
    if (next) next(connection);
    else idle.push(connection);
  };

  /** Gives one message to one connection. @throws RelayError */
  const give = (connection: SMTPConnection, envelope: { from: string; to: string }, message: Uint8Array) =>
    new Promise<void>((resolve, reject) => {
      const given = new Given(message);
      const drop = () => {
        forget(connection);
        connection.close();
      };
      const lose = (why: string) => {
        clearTimeout(late);
        reject(readRefusal(new Error(why), shown, given.whole));
      };
      const lost = () => lose("it closed the connection");
      const late = setTimeout(() => {
        lose(`it took longer than ${slowest.message / 1000} s for one message`);
        drop();
      }, slowest.message);
      connection.once("end", lost);
      connection.send(
        { from: envelope.from, to: [envelope.to] },
        given as unknown as Readable,
        (error: NodemailerFailure | null) => {
          clearTimeout(late);
          connection.removeListener("end", lost);
          if (!error) {
            release(connection);
            return resolve();
          }
          const failure = readRefusal(error, shown, given.whole);
          if (["closed", "away", "unknown"].includes(failure.kind)) {
            drop();
            return reject(failure);
          }
          connection.reset((unset) => {
            if (unset) drop();
            else release(connection);
            reject(failure);
          });
        },
      );
    });

  /** Since when nothing was taken, and how often in a row a connection could not be had or went away. */
  let away: { since: number; times: number } | null = null;
  return {
    connections,
    async send(envelope, message, until) {
      for (;;) {
        try {
          await give(await acquire(), envelope, message);
          away = null;
          return;
        } catch (error) {
          if (!(error instanceof RelayError) || error.kind !== "away") throw error;
          away ??= { since: Date.now(), times: 0 };
          away.times++;
          if (until?.aborted || Date.now() - away.since >= patience) throw error;
          await pause(Math.min(WAIT.first * 2 ** Math.min(away.times, 10), WAIT.longest, patience), until);
          if (until?.aborted) throw error;
        }
      }
    },
    async greet() {
      const connection = await acquire();
      release(connection);
      return { encrypted: Boolean((connection as { secure?: boolean }).secure) };
    },
    async close() {
      for (const connection of [...open]) connection.quit();
    },
  };
}
