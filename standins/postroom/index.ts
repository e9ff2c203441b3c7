/**
 * The postroom: a real SMTP server on loopback with mailboxes behind it, standing in for the mail system of the world.
 *
 * `openPostroom` starts it; it answers to SMTP on `address` and shows its mailboxes through the other methods. Its mailboxes
 * take what comes, unless they are told other manners; what they send back goes to a door that is told by address.
 */
import { readFile, rename, writeFile } from "node:fs/promises";
import path from "node:path";
import { setTimeout as sleep } from "node:timers/promises";
import nodemailer from "nodemailer";
import type { z } from "zod";
import {
  type Life,
  LifeSchema,
  type Living,
  type Manner,
  MannersSchema,
  mannersFor,
  type STEPS,
} from "~/core/sending";
import { readHeaders } from "./headers";
import { LivingReaders } from "./living";
import { type About, answer, type Back, bounce, complaint } from "./reports";
import { Cut, openSmtp, Says } from "./smtp";
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
  manners(): Promise<readonly Manner[]>;
  /** Lets them behave otherwise from now on. */
  behave(manners: readonly Manner[]): Promise<void>;
  /** How its readers live, and what they have done. */
  living(): Promise<Living>;
  /** Lets them live so from now on; null lets them be. */
  live(life: Life | null): Promise<void>;
  close(): Promise<void>;
}

export interface PostroomOptions {
  /** Milliseconds since 1970. */
  now(): number;
  /** Where what is sent back goes, `smtp://host:port`; without, it is thrown away. */
  door?: string;
  /** Where readers reach the program, and where that is from here; without, nobody presses anything. */
  readers?: { origin: string; at: string };
}

type Step = (typeof STEPS)[number];

/** Starts the postroom with its messages in a folder. */
export async function openPostroom(
  folder: string,
  { now, door, readers }: PostroomOptions,
): Promise<Postroom> {
  const store = MailStore.open(folder);
  const kept = path.join(folder, "manners.json");
  let manners: readonly Manner[] = await readKept(kept, MannersSchema, []);
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

  const alive = new LivingReaders({
    read: async (id) => store.source(id),
    sendBack,
    readers: readers ?? null,
  });
  const keptLife = path.join(folder, "life.json");
  alive.live(await readKept(keptLife, LifeSchema.nullable(), null));

  /** Behaves as whoever is at a step is told to. @throws Says, Cut */
  const behaves = async (step: Step, address: string) => {
    for (const { who, does } of mannersFor(manners, address)) {
      if (does.kind === "slow" && step === "reader") await sleep(does.seconds * 1000);
      if (does.kind === "closes" && does.at === step) throw new Cut();
      if (does.kind !== "says" || does.at !== step) continue;
      const key = `${who} ${step} ${does.reply} ${address.toLowerCase()}`;
      const times = given.get(key) ?? 0;
      if (does.times !== null && times >= does.times) continue;
      given.set(key, times + 1);
      throw new Says(does.reply);
    }
  };
  const afterwards = (about: About) => {
    for (const { does } of mannersFor(manners, about.reader)) {
      if (does.kind === "returns") sendBack(bounce(about, does));
      if (does.kind === "complains") sendBack(complaint(about));
      if (does.kind === "answers") sendBack(answer(about, does.words));
    }
  };
  const smtp = await openSmtp({
    greeting: () => behaves("greeting", ""),
    sender: (address) => behaves("sender", address),
    reader: (address) => behaves("reader", address),
    async message(from, to, source) {
      for (const address of to) await behaves("message", address);
      for (const address of to) {
        const at = now();
        const id = store.add({ ...readHeaders(source), to: address, from, at }, source);
        afterwards({ returnPath: from, reader: address, source, at });
        alive.arrived({ id, reader: address, returnPath: from, at });
      }
    },
  });
  return {
    address: `smtp://127.0.0.1:${smtp.port}`,
    search: async ({ text, offset, limit }) => store.search(text, offset, limit),
    source: async (id) => store.source(id),
    arrivedOrNever: async (messageIds) => store.arrivedOrNever(messageIds),
    empty: async () => store.empty(),
    manners: async () => manners,
    async behave(next) {
      manners = MannersSchema.parse(next);
      given.clear();
      await keep(kept, manners);
    },
    living: async () => alive.state(),
    async live(life) {
      alive.live(life);
      await keep(keptLife, life);
    },
    async close() {
      await smtp.close();
      await alive.end();
      await Promise.all(underWay);
      outgoing?.close();
      store.close();
    },
  };
}

function smtpAt(address: string): { host: string; port: number } {
  const { hostname, port } = new URL(address);
  return { host: hostname, port: Number(port) };
}

/** What was kept in a file; something else where it is not there, or cannot be read. */
async function readKept<T>(file: string, schema: z.ZodType<T>, otherwise: T): Promise<T> {
  try {
    return schema.parse(JSON.parse(await readFile(file, "utf8")));
  } catch {
    return otherwise;
  }
}

async function keep(file: string, value: unknown): Promise<void> {
  await writeFile(`${file}.part`, JSON.stringify(value));
  await rename(`${file}.part`, file);
}
