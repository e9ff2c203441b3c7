/**
 * A second writing assistant for the tests, that knows nothing of ours but `docs/assistant.md`: it can be slow, wrong
 * and rude, and notes what it was asked.
 */
import http from "node:http";
import type { AddressInfo } from "node:net";

export interface Noted {
  method: string;
  path: string;
  key: string | undefined;
  /** Of a question: the letter it is about, and the fields it may name. */
  body: { letter: { places: { id: string; text: string }[] }; fields: unknown[] };
}

type Manner = (response: http.ServerResponse, noted: Noted) => void;

const json =
  (said: unknown, status = 200, headers: Record<string, string> = {}): Manner =>
  (response) => {
    response.writeHead(status, { "content-type": "application/json", ...headers }).end(JSON.stringify(said));
  };

/** Sends its answer in small pieces, with so many milliseconds between them. */
const dripping =
  (said: unknown, pause: number): Manner =>
  (response) => {
    const text = JSON.stringify(said);
    response.writeHead(200, { "content-type": "application/json" });
    let at = 0;
    const timer = setInterval(() => {
      response.write(text.slice(at, at + 20));
      at += 20;
      if (at < text.length) return;
      clearInterval(timer);
      response.end();
    }, pause);
    response.on("close", () => clearInterval(timer));
  };

/** Each of its bad days, by what it does; on a good day it answers `said`. */
export const MANNERS = {
  json,
  dripping,
  /** It takes the question and says nothing, ever. */
  silent: (() => undefined) as Manner,
  /** It begins, and is gone. */
  cutting: ((response) => {
    response.writeHead(200, { "content-type": "application/json", "content-length": "5000" });
    response.write('{"answers": [');
    setTimeout(() => response.destroy(), 20);
  }) as Manner,
  /** It hangs up at once. */
  hangingUp: ((response) => void response.destroy()) as Manner,
  page: ((response) =>
    void response
      .writeHead(200, { "content-type": "text/html" })
      .end("<!doctype html><title>Welcome</title><p>Sign in first")) as Manner,
  /** Octets that are no text. */
  garbled: ((response) =>
    void response.end(Buffer.from([0x7b, 0x22, 0xff, 0xfe, 0x22, 0x3a, 0x31, 0x7d]))) as Manner,
  flooding: ((response) => {
    response.writeHead(200, { "content-type": "application/json" });
    const more = () => {
      while (!response.destroyed && response.write(`"${"a".repeat(60_000)}",`));
    };
    response.on("drain", more);
    more();
  }) as Manner,
  elsewhere:
    (location: string): Manner =>
    (response) =>
      void response.writeHead(307, { location }).end(),
};

/** Opens it on a port of its own. `manner` says how it answers from then on. */
export async function openRude(): Promise<{
  address: string;
  origin: string;
  noted: Noted[];
  manner(path: string, how: Manner): void;
  close(): void;
}> {
  const manners = new Map<string, Manner>();
  const noted: Noted[] = [];
  const server = http.createServer(async (request, response) => {
    const chunks: Buffer[] = [];
    for await (const chunk of request) chunks.push(chunk as Buffer);
    const text = Buffer.concat(chunks).toString("utf8");
    const one: Noted = {
      method: request.method ?? "",
      path: request.url ?? "",
      key: request.headers.authorization,
      body: text === "" ? null : JSON.parse(text),
    };
    noted.push(one);
    const usual =
      one.path === "/v1" ? json({ name: "Margot", simulated: false }) : json({ problem: "What?" }, 404);
    (manners.get(one.path) ?? usual)(response, one);
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  return {
    address: `${origin}/v1`,
    origin,
    noted,
    manner: (path, how) => void manners.set(`/v1${path}`, how),
    close() {
      server.closeAllConnections();
      server.close();
    },
  };
}
