/** The doors of the web server: who may knock. */

import type { NextFunction, Request, Response } from "express";
import { MOST_OCTETS } from "~/server/audience/import-file";
import { GREATEST_PICTURE } from "~/server/pictures/taking";
import { MOST_OCTETS_OF_ITEMS } from "~/server/sources/reading";

/** Whether a request came by the name of readers, where that is another than the interface's. */
export function byReadersName(origin: string, readers: string): (request: Request) => boolean {
  const [own, theirs] = [origin, readers].map((one) => nameOf(new URL(one).host));
  return ({ headers: { host } }) => theirs !== own && nameOf(host) === theirs;
}

/**
 * How the addresses begin that reviewers reach by their links: what stands in front of Septima lets these through without
 * signing in. All else of the interface is for those who did.
 */
export const REVIEWERS: readonly string[] = ["/review/", "/assets/", "/mark.svg"];

/**
 * Serves addresses as they are written only: one that means another (`..`, `//`, a slash at its end) would pass a proxy
 * as what it looks like.
 */
export function plainPaths(request: Request, response: Response, next: NextFunction): void {
  const { path } = request;
  const odd =
    /\/(\.|%2e)*(\/|$)/i.test(path.slice(1)) || /^\/(\.|%2e|\/)/i.test(path) || /%(2f|5c)|\\/i.test(path);
  if (path === "/" || !odd) {
    next();
    return;
  }
  response.status(404).type("text/plain").send("Nothing is here. Look at the address once more.");
}

const LOOPBACK = new Set(["localhost", "127.0.0.1", "[::1]"]);

/** The name without the port, as it stands in a Host header; null for one that cannot be read. */
function nameOf(host: string | undefined): string | null {
  const read = host && /^(\[[0-9a-f:.]+\]|[^\s:/?#@[\]]+)(?::(\d{1,5}))?$/i.exec(host);
  if (!read || Number(read[2] ?? 0) > 65_535) return null;
  return host.replace(/:\d+$/, "").toLowerCase();
}

/**
 * Serves the names of these origins and loopback names only. A name of somebody else's that leads here would let the pages of
 * that name read everything (DNS rebinding).
 */
export function onlyKnownHosts(...origins: string[]) {
  const own = origins.map((origin) => nameOf(new URL(origin).host));
  return (request: Request, response: Response, next: NextFunction): void => {
    const name = nameOf(request.headers.host);
    if (name !== null && (own.includes(name) || LOOPBACK.has(name))) {
      next();
      return;
    }
    response
      .status(421)
      .type("text/plain")
      .send("Septima is not served under this name. SEPTIMA_ORIGIN says which name it has.");
  };
}

/**
 * Takes requests from pages of the origin, from loopback addresses under which it was opened, and from what is no
 * browser; of pages from elsewhere only a press on a link. What readers reach is not behind it: whatever posts there has a
 * signed address, and needs no page of ours to come from (RFC 8058).
 *
 * The origin that counts is the configured one: behind a proxy that ends TLS, scheme and host of the request are the
 * proxy's. So that the framework's own check agrees, the request is given the scheme and host that its origin names.
 */
export function onlyOwnPages(origin: string) {
  const own = new URL(origin).origin;
  return (request: Request, response: Response, next: NextFunction): void => {
    delete request.headers["x-forwarded-host"];
    const from = request.headers.origin;
    const page = from === undefined || from === "null" ? null : originOf(from);
    const ours = page !== null && (page.origin === own || isLoopbackOf(page, request.headers.host));
    if (ours) {
      request.headers.host = page.host;
      Object.defineProperty(request, "protocol", { value: page.protocol.slice(0, -1) });
    }
    const site = request.headers["sec-fetch-site"];
    const foreign = site === "cross-site" || site === "same-site";
    const pressed =
      request.headers["sec-fetch-mode"] === "navigate" &&
      (request.method === "GET" || request.method === "HEAD");
    if ((from === undefined || ours) && (!foreign || pressed || ours)) {
      next();
      return;
    }
    response
      .status(403)
      .type("text/plain")
      .send("This came from a page of another origin. SEPTIMA_ORIGIN says which origin is Septima’s own.");
  };
}

/** Whether a page was opened under the loopback name that the request came to. */
function isLoopbackOf(page: URL, host: string | undefined): boolean {
  return page.protocol === "http:" && page.host === host && LOOPBACK.has(nameOf(page.host) ?? "");
}

function originOf(text: string): URL | null {
  try {
    return new URL(text);
  } catch {
    return null;
  }
}

/** Headers that every answer carries; the policy for scripts is added where pages are made. */
export function guardedHeaders(request: Request, response: Response, next: NextFunction): void {
  response.setHeader("X-Content-Type-Options", "nosniff");
  response.setHeader("Referrer-Policy", "same-origin");
  // The small true pictures of emails stand in frames of our own pages.
  const framed = /^\/campaigns\/[^/]+\/picture$/.test(request.path);
  response.setHeader("X-Frame-Options", framed ? "SAMEORIGIN" : "DENY");
  next();
}

/** The most that a request may bring, in octets, by where it goes. */
function mostOf(path: string): number {
  if (path === "/library/take") return GREATEST_PICTURE + 1_000_000;
  if (path === "/audience/import/take") return MOST_OCTETS + 1_000_000;
  if (path === "/sources/codes") return 21_000_000;
  if (path === "/sources/file") return MOST_OCTETS_OF_ITEMS + 1_000_000;
  if (/^\/intake(\.data)?$/.test(path)) return 24_000_000;
  if (/^\/campaigns\/[^/]+\/(save|editions|versions)(\.data)?$/.test(path)) return 8_000_000;
  return 1_000_000;
}

/**
 * Refuses bodies that are too large: by what they say of themselves, and as they come in, whatever they say. Nothing is
 * kept of one that does not end.
 */
export function limitedBodies(request: Request, response: Response, next: NextFunction): void {
  const most = mostOf(request.path);
  const refuse = () => {
    if (!response.headersSent) {
      response
        .status(413)
        .set("Connection", "close")
        .type("text/plain")
        .send(`That is more than the ${Math.round(most / 1_000_000)} MB that can be taken in here.`);
    }
  };
  if (Number(request.headers["content-length"] ?? 0) > most) {
    refuse();
    return;
  }
  let come = 0;
  const push = request.push.bind(request);
  request.push = (chunk: Buffer | null, encoding?: BufferEncoding) => {
    come += chunk?.length ?? 0;
    if (come <= most) return push(chunk, encoding);
    refuse();
    request.destroy();
    return false;
  };
  next();
}

/** Answers everything while the program is starting, so that those who ask know to come again. */
export class Starting {
  private over = false;
  readonly door = (_request: Request, response: Response, next: NextFunction): void => {
    if (this.over) {
      next();
      return;
    }
    response
      .status(503)
      .setHeader("Retry-After", "2")
      .type("text/plain")
      .send("Septima is starting. Try again in a moment.");
  };
  done(): void {
    this.over = true;
  }
}
