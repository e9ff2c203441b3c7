/** Readers who live: what they do with what came to their mailboxes, when its time has come. */

import { unescapeHtml } from "~/core/program";
import { DEEDS, type Life, type Living } from "~/core/sending";
import { type Deed, deedsOf } from "./habits";
import { type About, answer, type Back, bounce, complaint, fieldOf } from "./reports";

interface Around {
  /** The message as it came; null when it is not kept any more. */
  read(id: string): Promise<Buffer | null>;
  sendBack(back: Back): void;
  /** Where readers reach the program, and where that is from here: nothing else is ever asked. */
  readers: { origin: string; at: string } | null;
}

/** A message that came, of which something is still to come. */
interface Arrived {
  id: string;
  reader: string;
  returnPath: string;
  at: number;
}

/** How fine time is, in milliseconds. */
const TICK = 200;
/** So much is done at the same time. */
const HANDS = 6;
/** So long an answer is waited for, in milliseconds. */
const PATIENCE = 20_000;

const BROWSER = "Mozilla/5.0 (X11; Linux x86_64) Gecko/20100101";
const SCANNER = "MailScanner/1.0 (looks at links ahead)";

const nothing = () => Object.fromEntries(DEEDS.map((kind) => [kind, 0])) as Living["done"];

/** The addresses in a message that lead to the program, as they stand in its HTML (RFC 2045, 6.7). */
function addressesIn(source: Buffer, origin: string): { links: string[]; pictures: string[] } {
  const text = source
    .toString("latin1")
    .replace(/=\r\n/g, "")
    .replace(/=([0-9A-F]{2})/g, (_, hex) => String.fromCharCode(Number.parseInt(hex, 16)));
  const found = (attribute: string) => [
    ...new Set(
      [...text.matchAll(new RegExp(`\\b${attribute}="([^"]+)"`, "g"))]
        .map(([, address]) => unescapeHtml(address))
        .filter((address) => address.startsWith(`${origin}/`)),
    ),
  ];
  return { links: found("href"), pictures: found("src") };
}

export class LivingReaders {
  private life: Life | null = null;
  private done = nothing();
  private waiting = 0;
  /** What is to come, by the tick at which it does. */
  private coming = new Map<number, { deed: Deed; of: Arrived }[]>();
  private last = 0;
  private due: { deed: Deed; of: Arrived }[] = [];
  private hands = 0;
  private timer: NodeJS.Timeout | null = null;
  /** How many messages each reader has had. */
  private had = new Map<string, number>();
  private readonly underWay = new Set<Promise<void>>();

  constructor(private readonly around: Around) {}

  state(): Living {
    return { life: this.life, done: { ...this.done }, waiting: this.waiting };
  }

  /** Lets readers live so from now on; null stops them, and what was still to come does not. */
  live(life: Life | null): void {
    this.life = life;
    this.coming.clear();
    this.due = [];
    this.waiting = 0;
    if (this.timer) clearInterval(this.timer);
    this.timer = null;
    if (life === null) return;
    this.done = nothing();
    this.had.clear();
    this.last = Math.floor(performance.now() / TICK);
    this.timer = setInterval(() => this.tick(), TICK);
    this.timer.unref();
  }

  /** A message has come. */
  arrived(of: Arrived): void {
    if (!this.life) return;
    const key = of.reader.toLowerCase();
    const nth = this.had.get(key) ?? 0;
    this.had.set(key, nth + 1);
    for (const deed of deedsOf(this.life.seed, of.reader, nth)) {
      const at = Math.ceil((performance.now() + deed.after / this.life.pace) / TICK);
      const there = this.coming.get(at) ?? [];
      there.push({ deed, of });
      this.coming.set(at, there);
      this.waiting++;
    }
  }

  async end(): Promise<void> {
    this.live(null);
    await Promise.all(this.underWay);
  }

  private tick(): void {
    const now = Math.floor(performance.now() / TICK);
    for (let at = this.last; at <= now; at++) {
      this.due.push(...(this.coming.get(at) ?? []));
      this.coming.delete(at);
    }
    this.last = now;
    while (this.hands < HANDS && this.due.length > 0) void this.work();
  }

  /** Does what is due until there is nothing. */
  private async work(): Promise<void> {
    this.hands++;
    for (let next = this.due.shift(); next; next = this.due.shift()) {
      const { deed, of } = next;
      const did = this.act(deed, of).catch(() => false);
      const settled = did.then((whether) => {
        this.waiting = Math.max(0, this.waiting - 1);
        if (whether) this.done[deed.kind]++;
      });
      this.underWay.add(settled);
      await settled.finally(() => this.underWay.delete(settled));
    }
    this.hands--;
  }

  /** Whether it could be done: there is not always a link to press. */
  private async act({ kind, which }: Deed, of: Arrived): Promise<boolean> {
    const { readers } = this.around;
    const source = await this.around.read(of.id);
    if (!source) return false;
    const about: About = { returnPath: of.returnPath, reader: of.reader, source, at: of.at };
    if (kind === "return") {
      this.around.sendBack(bounce(about, { status: "5.1.1", words: "550 5.1.1 No such mailbox" }));
      return true;
    }
    if (kind === "complain") {
      this.around.sendBack(complaint(about));
      return true;
    }
    if (kind === "answer") {
      this.around.sendBack(answer(about, "Thank you for the letter."));
      return true;
    }
    if (!readers) return false;
    const { links, pictures } = addressesIn(source, readers.origin);
    const opening = pictures.find((address) => address.startsWith(`${readers.origin}/o/`));
    if (kind === "open") return opening !== undefined && this.ask(opening, BROWSER);
    if (kind === "scan") {
      for (const address of [...links, ...(opening ? [opening] : [])]) await this.ask(address, SCANNER);
      return links.length > 0;
    }
    if (kind === "leave") {
      const [, address] = /<(https?:[^>]+)>/.exec(fieldOf(source, "List-Unsubscribe")) ?? [];
      return address !== undefined && this.ask(address, BROWSER, "List-Unsubscribe=One-Click");
    }
    const pressed = links.filter((address) => /^\/(c|answer)\//.test(address.slice(readers.origin.length)));
    const address = pressed[Math.floor(which * pressed.length)];
    if (address === undefined) return false;
    const came = await this.ask(address, BROWSER);
    // An answer is given on its page.
    return came && (!address.includes("/answer/") || this.ask(address, BROWSER, ""));
  }

  /** Asks the program for an address as a reader's browser does; where it leads on to, nobody goes. */
  private async ask(address: string, agent: string, form?: string): Promise<boolean> {
    const { origin, at } = this.around.readers!;
    if (!address.startsWith(`${origin}/`)) return false;
    const answer = await fetch(at + address.slice(origin.length), {
      redirect: "manual",
      signal: AbortSignal.timeout(PATIENCE),
      headers: {
        "user-agent": agent,
        ...(form !== undefined && { "content-type": "application/x-www-form-urlencoded" }),
      },
      ...(form !== undefined && { method: "POST", body: form }),
    });
    await answer.arrayBuffer();
    return answer.status < 400;
  }
}
