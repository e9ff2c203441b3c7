/**
 * The postroom: a real SMTP server on loopback with mailboxes behind it, standing in for the mail system of the world.
 *
 * `openPostroom` starts it; it answers to SMTP on `address` and shows its mailboxes through the other methods. Its mailboxes
 * take what comes, unless they are told other manners; what they send back goes to a door that is told by address.
 */
import { readFile, rename, writeFile } from "node:fs/promises";
import type { AddressInfo } from "node:net";
import path from "node:path";
import { setTimeout as sleep } from "node:timers/promises";
import nodemailer from "nodemailer";
import { SMTPServer, type SMTPServerSession } from "smtp-server";
import { type Manner, MannersSchema, mannersFor, type STEPS } from "~/core/sending";
import { readHeaders } from "./headers";
import { type About, answer, type Back, bounce, complaint } from "./reports";
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
  /** How its mailboxes behave. */
  manners(): readonly Manner[];
  /** Lets them behave otherwise from now on. */
  behave(manners: readonly Manner[]): Promise<void>;
  close(): Promise<void>;
}

export interface PostroomOptions {
  /** Milliseconds since 1970. */
  now(): number;
  /** Where what is sent back goes, `smtp://host:port`; without, it is thrown away. */
  door?: string;
}

type Step = (typeof STEPS)[number];

/** Starts the postroom with its messages in a folder. */
export async function openPostroom(folder: string, { now, door }: PostroomOptions): Promise<Postroom> {
  const store = await MailStore.open(folder);
  const kept = path.join(folder, "manners.json");
  let manners: readonly Manner[] = await readManners(kept);
  /** How often a reply was given to an address that is given only so many times. */
  const given = new Map<string, number>();
  const outgoing = door ? nodemailer.createTransport({ ...smtpAt(door), pool: true }) : null;
  const underWay = new Set<Promise<unknown>>();
  const sendBack = ({ from, to, source }: Back) => {
    const sent = outgoing?.sendMail({ envelope: { from, to: [to] }, raw: source }).catch(() => undefined);
    if (!sent) return;
    underWay.add(sent);
    void sent.finally(() => underWay.delete(sent));
  };

  /** Behaves as whoever is at a step is told to. @throws what is said instead of the usual */
  const behaves = async (step: Step, address: string, session: SMTPServerSession) => {
    for (const { who, does } of mannersFor(manners, address)) {
      if (does.kind === "slow" && step === "reader") await sleep(does.seconds * 1000);
      if (does.kind === "closes" && does.at === step) {
        cut(server, session);
        throw Object.assign(new Error("Cut"), { responseCode: 421 });
      }
      if (does.kind !== "says" || does.at !== step) continue;
      const key = `${who} ${step} ${does.reply} ${address.toLowerCase()}`;
      const times = given.get(key) ?? 0;
      if (does.times !== null && times >= does.times) continue;
      given.set(key, times + 1);
      throw Object.assign(new Error(does.reply.slice(4)), { responseCode: Number(does.reply.slice(0, 3)) });
    }
  };
  const afterwards = (about: About) => {
    for (const { does } of mannersFor(manners, about.reader)) {
      if (does.kind === "returns") sendBack(bounce(about, does));
      if (does.kind === "complains") sendBack(complaint(about));
      if (does.kind === "answers") sendBack(answer(about, does.words));
    }
  };
  const stepped = (work: Promise<void>, done: (error?: Error) => void) => {
    work.then(
      () => done(),
      (error) => done(error),
    );
  };
  const server: SMTPServer = new SMTPServer({
    disabledCommands: ["AUTH", "STARTTLS"],
    disableReverseLookup: true,
    logger: false,
    size: 30_000_000,
    banner: "Septima postroom",
    onConnect: (session, done) => stepped(behaves("greeting", "", session), done),
    onMailFrom: ({ address }, session, done) => stepped(behaves("sender", address, session), done),
    onRcptTo: ({ address }, session, done) => stepped(behaves("reader", address, session), done),
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
          for (const { address } of session.envelope.rcptTo) await behaves("message", address, session);
          for (const { address } of session.envelope.rcptTo) {
            await store.add({ ...readHeaders(source), to: address, from, at: now() }, source);
            afterwards({ returnPath: from, reader: address, source, at: now() });
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
    manners: () => manners,
    async behave(next) {
      manners = MannersSchema.parse(next);
      given.clear();
      await writeFile(`${kept}.part`, JSON.stringify(manners));
      await rename(`${kept}.part`, kept);
    },
    async close() {
      await new Promise<void>((resolve) => server.close(() => resolve()));
      await Promise.all(underWay);
      outgoing?.close();
      await store.close();
    },
  };
}

function smtpAt(address: string): { host: string; port: number } {
  const { hostname, port } = new URL(address);
  return { host: hostname, port: Number(port) };
}

/** How mailboxes were told to behave before. */
async function readManners(file: string): Promise<Manner[]> {
  try {
    return MannersSchema.parse(JSON.parse(await readFile(file, "utf8")));
  } catch {
    return [];
  }
}

/** Cuts the connection of a session, without a word. */
function cut(server: SMTPServer, session: SMTPServerSession): void {
  type Connection = { session: SMTPServerSession; _socket: { destroy(): void } };
  for (const one of (server as unknown as { connections: Set<Connection> }).connections)
    if (one.session.id === session.id) one._socket.destroy();
}
