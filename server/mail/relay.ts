import { setTimeout as sleep } from "node:timers/promises";
import { Conversation, type Relayed, SmtpFailure } from "./conversation";

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

/** What a refused greeting or login, or a connection that is not there, says about every message. */
function readClosed({ message, stage, code = 0 }: SmtpFailure, address: string): RelayError {
  if (stage === "encrypt")
    return new RelayError(
      `The mail relay at ${address} could not be talked to encrypted (${message}). A name and a password are not sent in the clear: use a relay that offers encryption and proves who it is, or smtps:// where it speaks that.`,
      "closed",
    );
  if (stage === "login")
    return new RelayError(
      `The mail relay at ${address} refused the login (${message}). Check the name and the password in its address.`,
      "closed",
    );
  // Trying again is no use where it said no for good.
  return new RelayError(
    `The mail relay at ${address} cannot be reached (${message}).`,
    code >= 500 ? "closed" : "away",
  );
}

/**
 * What became of one message (RFC 5321, 4.2 and 4.3.2; enhanced codes by RFC 3463).
 * @param whole whether all of it had been given over
 */
function readRefusal(failure: SmtpFailure, address: string, whole: boolean): RelayError {
  const { code, stage, message } = failure;
  // An address that cannot be written on an envelope at all never reached the relay.
  if (stage === "address") return new RelayError(message, "refused");
  // 421: the relay closes the connection and says nothing about the reader (RFC 5321, 3.8); nor does it take the message.
  if (code === 421) return readClosed(failure, address);
  if (!code)
    return whole
      ? new RelayError(
          `The mail relay at ${address} closed the connection before it said whether it has the message.`,
          "unknown",
        )
      : readClosed(failure, address);
  if (stage === "sender" && code >= 500)
    return new RelayError(
      `The mail relay at ${address} does not take mail from this sender (${message}).`,
      "closed",
    );
  // In the words of whoever refused it.
  const words = message.replace(/\s+/g, " ").trim();
  if (code < 500) return new RelayError(words, "passing");
  return new RelayError(words, isGone(failure, code) ? "gone" : "refused");
}

/** Whether a refusal is about the mailbox: 5.1.x, or one of the codes for it without an enhanced code. */
function isGone({ stage, message }: SmtpFailure, code: number): boolean {
  if (stage !== "reader") return false;
  const enhanced = /\b5\.(\d{1,3})\.\d{1,3}\b/.exec(message)?.[1];
  return enhanced === undefined ? [550, 551, 553].includes(code) : enhanced === "1";
}

/** The first wait for a relay that is away, and the longest, in milliseconds. */
const WAIT = { first: 200, longest: 4000 };
/** A relay that takes nothing for so long stays away, in milliseconds. */
const PATIENCE = 12_000;

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
 * A relay by its address, `smtp://[user:password@]host:port` or `smtps://…`, with a pool of open connections. A name and a
 * password are never sent in the clear.
 */
export function openRelay(address: string, options: RelayOptions = {}): OpenRelay {
  const { connections = CONNECTIONS, patience = PATIENCE, slowest = SLOWEST, trust } = options;
  const url = new URL(address);
  const secure = url.protocol === "smtps:";
  const relayed: Relayed = {
    host: url.hostname.replace(/^\[|\]$/g, ""),
    port: Number(url.port || (secure ? 465 : 587)),
    secure,
    login: url.username
      ? { user: decodeURIComponent(url.username), password: decodeURIComponent(url.password) }
      : null,
    trust,
  };
  const shown = `${url.hostname}:${relayed.port}`;
  const idle: Conversation[] = [];
  const waiting: ((conversation: Conversation | null) => void)[] = [];
  const open = new Set<Conversation>();
  let count = 0;

  /** Gives up what takes longer than so many milliseconds. */
  const within = async <T>(
    ms: number,
    what: string,
    of: () => Conversation | undefined,
    work: Promise<T>,
  ) => {
    const late = setTimeout(() => of()?.close(`it took longer than ${ms / 1000} s ${what}`), ms);
    try {
      return await work;
    } finally {
      clearTimeout(late);
    }
  };

  /** @throws RelayError */
  const connect = async (): Promise<Conversation> => {
    let conversation: Conversation | undefined;
    const opening = Conversation.open(relayed, (opened) => {
      conversation = opened;
      open.add(opened);
      opened.onEnd(() => forget(opened));
    });
    try {
      return await within(slowest.connect, "to let us in", () => conversation, opening);
    } catch (error) {
      conversation?.close("it did not let us in");
      throw error instanceof SmtpFailure ? readClosed(error, shown) : error;
    }
  };

  const forget = (conversation: Conversation) => {
    if (!open.delete(conversation)) return;
    count--;
    const at = idle.indexOf(conversation);
    if (at >= 0) idle.splice(at, 1);
    waiting.shift()?.(null);
  };

  const acquire = async (): Promise<Conversation> => {
    for (;;) {
      const free = idle.pop();
      if (free) return free;
      if (count < connections) {
        count++;
        return connect();
      }
      const handed = await new Promise<Conversation | null>((resolve) => waiting.push(resolve));
      if (handed) return handed;
    }
  };

  const release = (conversation: Conversation) => {
    if (!open.has(conversation)) return;
    const next = waiting.shift();
    if (next) next(conversation);
    else idle.push(conversation);
  };

  /** Gives one message over in one conversation. @throws RelayError */
  const give = async (
    conversation: Conversation,
    envelope: { from: string; to: string },
    message: Uint8Array,
  ): Promise<void> => {
    const told = conversation.give(envelope, message);
    try {
      await within(slowest.message, "for one message", () => conversation, told);
      release(conversation);
    } catch (error) {
      if (!(error instanceof SmtpFailure)) throw error;
      const failure = readRefusal(error, shown, conversation.whole);
      if (["closed", "away", "unknown"].includes(failure.kind)) conversation.close(failure.message);
      else
        await within(slowest.message, "to begin anew", () => conversation, conversation.reset()).then(
          () => release(conversation),
          () => conversation.close("it did not begin anew"),
        );
      throw failure;
    }
  };

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
      const conversation = await acquire();
      release(conversation);
      return { encrypted: conversation.encrypted };
    },
    async close() {
      for (const conversation of [...open]) conversation.quit();
    },
  };
}
