import SMTPConnection from "nodemailer/lib/smtp-connection";

/**
 * Why a message was not taken. `closed` concerns every message: the relay is not there, does not let us in or does not
 * take this sender. `passing` troubles of one reader are worth another try, `refused` ones are not, and `gone` says that
 * the address itself takes no mail.
 */
export class RelayError extends Error {
  constructor(
    message: string,
    readonly kind: "closed" | "passing" | "refused" | "gone",
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
   * Hands one message over; resolves once the relay has taken responsibility for it.
   * @throws RelayError
   */
  send(envelope: { from: string; to: string }, message: Uint8Array): Promise<void>;
  close(): Promise<void>;
}

interface NodemailerFailure extends Error {
  code?: string;
  /** The verb that failed, as `RCPT TO`; `CONN` for the greeting, `AUTH …` for the login. */
  command?: string;
  responseCode?: number;
}

/** What a refused greeting or login says about every message. */
function readClosed(error: NodemailerFailure, address: string): RelayError {
  const login = error.code === "EAUTH" || error.command?.startsWith("AUTH");
  return new RelayError(
    login
      ? `The mail relay at ${address} refused the login (${error.message}). Check the name and the password in its address.`
      : `The mail relay at ${address} cannot be reached (${error.message}).`,
    "closed",
  );
}

/** What became of one message (RFC 5321, 4.2 and 4.3.2; enhanced codes by RFC 3463). */
function readRefusal(error: NodemailerFailure, address: string): RelayError {
  const code = error.responseCode;
  // An address that cannot be written on an envelope at all never reached the relay.
  if (error.code === "EENVELOPE" && error.command === "API" && error.message.startsWith("Invalid recipient"))
    return new RelayError(error.message, "refused");
  // 421: the relay closes the connection and says nothing about the reader (RFC 5321, 3.8).
  if (!code || code === 421) return readClosed(error, address);
  const atReader = error.command === "RCPT TO" || error.command === "DATA";
  if (!atReader && code >= 500) {
    return new RelayError(
      `The mail relay at ${address} does not take mail from this sender (${error.message}).`,
      "closed",
    );
  }
  if (code < 500) return new RelayError(error.message, "passing");
  return new RelayError(error.message, isGone(error, code) ? "gone" : "refused");
}

/** Whether a refusal is about the mailbox: 5.1.x, or one of the codes for it without an enhanced code. */
function isGone({ command, message }: NodemailerFailure, code: number): boolean {
  if (command !== "RCPT TO") return false;
  const enhanced = /\b5\.(\d{1,3})\.\d{1,3}\b/.exec(message)?.[1];
  return enhanced === undefined ? [550, 551, 553].includes(code) : enhanced === "1";
}

/**
 * A relay by its address, `smtp://[user:password@]host:port` or `smtps://…`, with a pool of open connections.
 */
export function openRelay(address: string, connections = 6): Relay {
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
        connectionTimeout: 10_000,
        greetingTimeout: 10_000,
        socketTimeout: 60_000,
      });
      let settled = false;
      const fail = (error: NodemailerFailure) => {
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

  return {
    connections,
    async send(envelope, message) {
      const connection = await acquire();
      await new Promise<void>((resolve, reject) => {
        const lost = () =>
          reject(new RelayError(`The mail relay at ${shown} closed the connection.`, "closed"));
        connection.once("end", lost);
        const bytes = Buffer.from(message.buffer, message.byteOffset, message.byteLength);
        connection.send({ from: envelope.from, to: [envelope.to] }, bytes, (error) => {
          connection.removeListener("end", lost);
          if (!error) {
            release(connection);
            return resolve();
          }
          const failure = readRefusal(error, shown);
          if (failure.kind === "closed") {
            forget(connection);
            connection.close();
            return reject(failure);
          }
          connection.reset((unset) => {
            if (unset) {
              forget(connection);
              connection.close();
            } else release(connection);
            reject(failure);
          });
        });
      });
    },
    async close() {
      for (const connection of [...open]) connection.quit();
    },
  };
}
