/**
 * The postroom: a real SMTP server on loopback with mailboxes behind it, standing in for the mail system of the world.
 *
 * `openPostroom` starts it; it answers to SMTP on `address` and shows its mailboxes through the other methods.
 */
import type { AddressInfo } from "node:net";
import { SMTPServer } from "smtp-server";
import { readHeaders } from "./headers";
import { type Entry, MailStore } from "./store";

export interface Postroom {
  /** `smtp://127.0.0.1:port` */
  address: string;
  search(query: {
    text: string;
    offset: number;
    limit: number;
  }): Promise<{ total: number; messages: Entry[] }>;
  source(id: string): Promise<Buffer | null>;
  arrivedOrNever(messageIds: readonly string[]): Promise<Set<string>>;
  empty(): Promise<void>;
  close(): Promise<void>;
}

/**
 * Starts the postroom with its messages in a folder.
 * @param now milliseconds since 1970
 */
export async function openPostroom(folder: string, now: () => number): Promise<Postroom> {
  const store = await MailStore.open(folder);
  const server = new SMTPServer({
    disabledCommands: ["AUTH", "STARTTLS"],
    disableReverseLookup: true,
    logger: false,
    size: 30_000_000,
    banner: "Septima postroom",
    onData(stream, session, done) {
      const chunks: Buffer[] = [];
      stream.on("data", (chunk: Buffer) => chunks.push(chunk));
      stream.on("error", done);
      stream.on("end", () => {
        if (stream.sizeExceeded) {
          done(Object.assign(new Error("The message is too large"), { responseCode: 552 }));
          return;
        }
        const source = Buffer.concat(chunks);
        const from = session.envelope.mailFrom === false ? "" : session.envelope.mailFrom.address;
        const keep = async () => {
          for (const { address } of session.envelope.rcptTo) {
            await store.add({ ...readHeaders(source), to: address, from, at: now() }, source);
          }
        };
        keep().then(() => done(null, "Kept"), done);
      });
    },
  });
  await new Promise<void>((resolve, reject) => {
    server.once("error", reject);
    server.listen(0, "127.0.0.1", () => {
      server.removeListener("error", reject);
      resolve();
    });
  });
  // A connection that breaks is the sender's to deal with; the server goes on.
  server.on("error", () => undefined);
  const { port } = server.server.address() as AddressInfo;
  return {
    address: `smtp://127.0.0.1:${port}`,
    search: async ({ text, offset, limit }) => store.search(text, offset, limit),
    source: (id) => store.source(id),
    arrivedOrNever: (messageIds) => store.arrivedOrNever(messageIds),
    empty: () => store.empty(),
    async close() {
      await new Promise<void>((resolve) => server.close(() => resolve()));
      await store.close();
    },
  };
}
