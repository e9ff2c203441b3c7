import SMTPConnection from "nodemailer/lib/smtp-connection";

/** Why a message was not taken. `passing` troubles are worth another try; `unreachable` ones concern every message. */
export class RelayError extends Error {
  constructor(
    message: string,
    readonly kind: "refused" | "passing" | "unreachable",
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
  responseCode?: number;
}

function readFailure(error: NodemailerFailure, address: string): RelayError {
  if (error.responseCode && error.responseCode >= 500) return new RelayError(error.message, "refused");
  if (error.responseCode && error.responseCode >= 400) return new RelayError(error.message, "passing");
  if (error.code === "EENVELOPE") return new RelayError(error.message, "refused");
  return new RelayError(`The mail relay at ${address} cannot be reached (${error.message}).`, "unreachable");
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
        if (!settled) {
          settled = true;
          reject(readFailure(error, shown));
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
        try {
          return await connect();
        } catch (error) {
          throw error instanceof RelayError ? error : readFailure(error as NodemailerFailure, shown);
        }
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
          reject(new RelayError(`The mail relay at ${shown} closed the connection.`, "unreachable"));
        connection.once("end", lost);
        const bytes = Buffer.from(message.buffer, message.byteOffset, message.byteLength);
        connection.send({ from: envelope.from, to: [envelope.to] }, bytes, (error) => {
          connection.removeListener("end", lost);
          if (!error) {
            release(connection);
            return resolve();
          }
          const failure = readFailure(error, shown);
          if (failure.kind === "unreachable") {
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
