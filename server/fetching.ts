import { lookup } from "node:dns/promises";
import { createWriteStream } from "node:fs";
import http, { type IncomingHttpHeaders } from "node:http";
import https from "node:https";
import { BlockList, isIP } from "node:net";
import { Refusal } from "./refusal";
import type { Septima } from "./septima";

// In two lists: in one, what leads to mapped addresses would take in all of IPv4.
const PRIVATE_4 = new BlockList();
const PRIVATE_6 = new BlockList();
for (const [net, bits] of [
  ["0.0.0.0", 8],
  ["10.0.0.0", 8],
  ["100.64.0.0", 10],
  ["127.0.0.0", 8],
  ["169.254.0.0", 16],
  ["172.16.0.0", 12],
  ["192.0.0.0", 24],
  ["192.168.0.0", 16],
  ["198.18.0.0", 15],
  ["224.0.0.0", 3],
] as const)
  PRIVATE_4.addSubnet(net, bits, "ipv4");
for (const [net, bits] of [
  ["::", 128],
  ["::1", 128],
  ["fc00::", 7],
  ["fe80::", 10],
  ["fec0::", 10],
  ["ff00::", 8],
  // Ways round to an address of IPv4: mapped and compatible (RFC 4291), translated (RFC 6052, RFC 8215), 6to4 (RFC 3056)
  // and Teredo (RFC 4380). No public server needs them.
  ["::", 96],
  ["::ffff:0:0", 96],
  ["::ffff:0:0:0", 96],
  ["64:ff9b::", 96],
  ["64:ff9b:1::", 48],
  ["2002::", 16],
  ["2001::", 32],
  ["2001:db8::", 32],
] as const) {
  PRIVATE_6.addSubnet(net, bits, "ipv6");
}

/** Whether an address is inside a private network, or leads into one by a way round. */
export function isPrivate(address: string): boolean {
  return isIP(address) === 4 ? PRIVATE_4.check(address, "ipv4") : PRIVATE_6.check(address, "ipv6");
}

/** How long fetching may take, in milliseconds, how much may come, in octets, and how often it may lead on. */
const LIMITS = { ms: 10_000, bytes: 5_000_000, redirects: 5 };

/**
 * Fetches a document over http or https within limits. Addresses inside private networks are refused, except for those
 * that begin as one of `trusted`; the address a name resolved to is the one connected to.
 * @param own the origins of this program, of which nothing is fetched but its stand-ins
 * @throws Refusal with a sentence that names the address and what was wrong
 */
export async function fetchDocument(
  address: string,
  trusted: readonly string[],
  limits = LIMITS,
  own: readonly string[] = [],
): Promise<Buffer> {
  return (await follow(address, trusted, limits, own)).body;
}

/** What a server said of a copy of a document, by which it tells whether there is another (RFC 9110, 8.8). */
export interface Validators {
  etag: string | null;
  modified: string | null;
}

/** Fetches a document as `fetchDocument` does, whatever it is asked besides; an unchanged one has the status 304 and no body. */
async function follow(
  address: string,
  trusted: readonly string[],
  limits: typeof LIMITS,
  own: readonly string[],
  more: { known?: Validators; into?: string } = {},
): Promise<Answered> {
  const headers = {
    accept: FEEDS,
    ...(more.known?.etag && { "if-none-match": more.known.etag }),
    ...(more.known?.modified && { "if-modified-since": more.known.modified }),
  };
  let url = readAddress(address);
  const deadline = Date.now() + limits.ms;
  for (let hop = 0; hop <= limits.redirects; hop++) {
    if (own.includes(url.origin) && !trusted.some((base) => isUnder(url, base)))
      throw new Refusal(`${url.host} is Septima itself. It does not fetch its own pages.`);
    const answered = await send(url, { method: "GET", headers, into: more.into }, trusted, {
      ms: deadline - Date.now(),
      bytes: limits.bytes,
    });
    const { status } = answered;
    if (status >= 300 && status < 400 && answered.headers.location)
      url = readAddress(answered.headers.location, url);
    else if (status === 200 || (status === 304 && more.known)) return answered;
    else
      throw new Refusal(
        `${url.host} answered ${status}${status >= 500 ? ", a fault on its side. Try again later." : ". Check the address."}`,
      );
  }
  throw new Refusal(`${address} leads from one address to the next more than ${limits.redirects} times.`);
}

const FEEDS = "application/feed+json, application/rss+xml, application/atom+xml, application/xml, */*;q=0.5";

/** A server sent more than was to come. */
export class TooMuch extends Refusal {}

/** What is asked of a server. */
export interface Asked {
  method: "GET" | "HEAD" | "POST";
  headers: Record<string, string>;
  body?: string;
  /** Ends the asking. */
  signal?: AbortSignal;
  /** The path of a file into which the answer is written as it comes, instead of being held. */
  into?: string;
}

/** What a server answered, whatever its status is. */
export interface Answered {
  status: number;
  headers: IncomingHttpHeaders;
  /** Empty where it was written to a file. */
  body: Buffer;
}

/**
 * Asks one server once over http or https, within limits (`ms` in all, `bytes` of the answer), and follows nothing.
 * Addresses inside private networks are refused, except for origins in `trusted`; the address a name resolved to is the
 * one connected to.
 * @throws Refusal with a sentence that names the server and what was wrong
 */
export async function send(
  url: URL,
  asked: Asked,
  trusted: readonly string[],
  limits: { ms: number; bytes: number },
): Promise<Answered> {
  const deadline = Date.now() + limits.ms;
  const host = url.hostname.replace(/^\[|\]$/g, "");
  const found = await within(limits.ms, lookup(host)).catch(() => {
    throw new Refusal(`No server is known under the name ${host}. Check the address.`);
  });
  if (isPrivate(found.address) && !trusted.some((base) => isUnder(url, base))) {
    throw new Refusal(`${host} is an address inside a private network. Only public addresses are fetched.`);
  }
  return exchange(url, asked, found, Math.max(1, deadline - Date.now()), limits.bytes);
}

/** Whether an address is a base, or stands under it. */
function isUnder(url: URL, base: string): boolean {
  const { origin, pathname } = new URL(base);
  const folder = pathname.endsWith("/") ? pathname : `${pathname}/`;
  return url.origin === origin && (url.pathname === pathname || url.pathname.startsWith(folder));
}

/** The addresses that may be in a private network, with what stands under them: the workspace's stand-ins. */
export function trustedBy({ config: { standins } }: Septima): string[] {
  return Object.values(standins);
}

/** The address to ask: that of a stand-in by its name (`standin://name/…`), or as it is. @throws Refusal */
export function resolveAddress(septima: Septima, address: string): string {
  const match = /^standin:\/\/([a-z]+)(\/.*)?$/.exec(address);
  if (!match) return address;
  const base = septima.config.standins[match[1]];
  if (base === undefined) throw new Refusal(`There is no stand-in called “${match[1]}”.`);
  return base + (match[2] ?? "/");
}

/** Fetches a document for a workspace, whose stand-ins may be in a private network. @throws Refusal as `fetchDocument` */
export function fetchFor(
  septima: Septima,
  address: string,
  limits: Partial<typeof LIMITS> = {},
): Promise<Buffer> {
  return fetchDocument(address, trustedBy(septima), { ...LIMITS, ...limits }, ownOrigins(septima));
}

/**
 * Fetches a document for a workspace into a file.
 * @param known of the copy at hand: where the server says that it is still the same, nothing is written
 * @returns what the server said of it; null where it is unchanged
 * @throws Refusal as `fetchDocument`
 */
export async function fetchInto(
  septima: Septima,
  address: string,
  into: string,
  limits: Partial<typeof LIMITS>,
  known?: Validators,
): Promise<Validators | null> {
  const all = { ...LIMITS, ...limits };
  const { status, headers } = await follow(address, trustedBy(septima), all, ownOrigins(septima), {
    known,
    into,
  });
  if (status === 304) return null;
  return { etag: headers.etag ?? null, modified: headers["last-modified"] ?? null };
}

/** The origins of this program: of them nothing is fetched but stand-ins. */
export const ownOrigins = ({ config: { origin, readers } }: Septima) =>
  [origin, readers].map((one) => new URL(one).origin);

/** Gives up on something that takes longer than so many milliseconds. */
function within<T>(ms: number, work: Promise<T>): Promise<T> {
  return new Promise((resolve, reject) => {
    const timer = setTimeout(() => reject(new Error("It took too long.")), Math.max(1, ms));
    work.then(resolve, reject).finally(() => clearTimeout(timer));
  });
}

/** Reads an address of the web. @throws Refusal */
export function readAddress(address: string, from?: URL): URL {
  let url: URL;
  try {
    url = new URL(address, from);
  } catch {
    throw new Refusal(
      from
        ? `${from.host} leads on to “${address}”, which is not an address.`
        : `“${address}” is not an address. It should start with https://`,
    );
  }
  if (url.protocol !== "http:" && url.protocol !== "https:") {
    throw new Refusal(`Only http and https addresses can be fetched, not ${url.protocol}`);
  }
  return url;
}

function exchange(
  url: URL,
  { method, headers, body, signal, into }: Asked,
  pinned: { address: string; family: number },
  ms: number,
  bytes: number,
): Promise<Answered> {
  return new Promise((resolve, reject) => {
    const client = url.protocol === "https:" ? https : http;
    const request = client.request(
      url,
      {
        method,
        signal,
        // A connection of its own: one that was kept may lead elsewhere, or be closed just now.
        agent: false,
        headers: { ...headers, "user-agent": "Septima" },
        lookup: (_name, options, done) =>
          options.all ? done(null, [pinned]) : done(null, pinned.address, pinned.family),
      },
      (response) => {
        const chunks: Buffer[] = [];
        let size = 0;
        const file = into === undefined ? null : createWriteStream(into);
        file?.on("error", (error) => request.destroy(error));
        response.on("data", (chunk: Buffer) => {
          size += chunk.length;
          if (file === null) chunks.push(chunk);
          // What comes faster than it is written waits.
          else if (!file.write(chunk)) {
            response.pause();
            file.once("drain", () => response.resume());
          }
          if (size > bytes)
            request.destroy(
              new TooMuch(`${url.host} sent more than ${bytes / 1_000_000} MB. Is it the right address?`),
            );
        });
        response.on("end", () => {
          const whole = {
            status: response.statusCode ?? 0,
            headers: response.headers,
            body: Buffer.concat(chunks),
          };
          if (file === null) resolve(whole);
          else file.end(() => resolve(whole));
        });
        const cut = () => reject(new Refusal(`${url.host} broke off in the middle. Try again later.`));
        response.on("error", cut);
        response.on("close", () => {
          if (response.complete) return;
          file?.destroy();
          cut();
        });
      },
    );
    const timer = setTimeout(
      () =>
        request.destroy(new Refusal(`${url.host} did not answer within ${Math.round(ms / 1000)} seconds.`)),
      ms,
    );
    request.on("close", () => clearTimeout(timer));
    request.on("error", (error) =>
      reject(
        error instanceof Refusal ? error : new Refusal(`${url.host} cannot be reached (${error.message}).`),
      ),
    );
    request.end(body);
  });
}
