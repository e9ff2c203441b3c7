/** The web server: what browsers and readers reach, and the stand-ins. */
import http from "node:http";
import type { AddressInfo } from "node:net";
import path from "node:path";
import { setTimeout as sleep } from "node:timers/promises";
import { createRequestHandler } from "@react-router/express";
import compression from "compression";
import express from "express";
import type { Septima } from "~/server/septima";
import { assistantAnswer } from "~/standins/assistant";
import { workshops } from "~/standins/calendar";
import { Publisher } from "~/standins/publisher";
import { Shop } from "~/standins/shop";
import { doorFor } from "./door";
import {
  byReadersName,
  guardedHeaders,
  limitedBodies,
  onlyKnownHosts,
  onlyOwnPages,
  plainPaths,
  Starting,
} from "./doors";
import { guarded } from "./guarded";
import { StartError } from "./lock";
import { nothingElse, readersDoors } from "./readers";

declare module "react-router" {
  interface AppLoadContext {
    septima: Septima;
    publisher: { publish(): void };
  }
}

/** So long what readers did may take to be written down at the end, in milliseconds. */
const LAST_WORDS = 5000;

/** A web server that listens; until it is given what to serve, it says that Septima is starting. */
export interface Web {
  /** Where it listens, as the ready line says. */
  address: string;
  /** The address under which browsers reach the interface. */
  origin: string;
  /** The address under which readers reach what is for them. */
  readers: string;
  /** Where it listens, to those on the same machine. */
  local: string;
  /** Where its stand-ins are, by name. */
  standins: Record<string, string>;
  /** Serves from now on. `ready` is called when all is loaded, before anybody is let in. */
  serve(septima: Septima, ready: () => void): Promise<void>;
  /** Lets nobody in any more, and writes down what readers did. */
  close(): Promise<void>;
}

/**
 * Listens where the environment says (`PORT`, `HOST`, `SEPTIMA_ORIGIN`, `SEPTIMA_READERS`).
 * @param readersOnly serves what readers reach, and nothing else
 * @throws StartError when the port is in use
 */
export async function openWeb(env: NodeJS.ProcessEnv, readersOnly: boolean): Promise<Web> {
  const app = express();
  const server = http.createServer(app);
  // A request that does not come to its end is given up.
  server.headersTimeout = 20_000;
  server.requestTimeout = 120_000;
  // Longer than a web server before it keeps a connection that rests (a minute is usual): it is never closed under a request.
  server.keepAliveTimeout = 75_000;
  const host = env.HOST ?? "127.0.0.1";
  await listen(server, Number(env.PORT ?? 7077), host);
  const { port } = server.address() as AddressInfo;
  const reached = host === "0.0.0.0" || host === "::" ? "127.0.0.1" : host;
  const local = `http://${reached}:${port}`;
  const origin = addressIn(env, "SEPTIMA_ORIGIN") ?? local;
  const readers = addressIn(env, "SEPTIMA_READERS") ?? origin;
  const publisher = new Publisher(`${local}/standins/publisher`, Date.now);

  app.disable("x-powered-by");
  app.use(guardedHeaders, onlyKnownHosts(...(readersOnly ? [readers] : [origin, readers])), plainPaths);
  const shop = new Shop(`${local}/standins/shop`, Date.now);
  if (!readersOnly) standinsAt(app, publisher, shop);
  let counted = async () => {};
  const starting = new Starting();
  app.use(starting.door);

  return {
    address: `http://${host}:${port}`,
    origin,
    readers,
    local,
    standins: readersOnly
      ? {}
      : Object.fromEntries(
          ["publisher", "shop", "calendar", "assistant"].map((name) => [name, `${local}/standins/${name}`]),
        ),
    async serve(septima, ready) {
      app.get("/healthz", (_request, response) => {
        response.json({ status: "ok", version: septima.config.version, schema: septima.schema });
      });
      const doors = readersDoors(septima);
      counted = doors.end;
      app.use(doors.router);
      if (readersOnly) app.use(nothingElse(septima));
      else {
        // By their name, readers reach nothing but what is for them.
        const theirs = byReadersName(origin, readers);
        const nothing = nothingElse(septima);
        app.use((request, response, next) => (theirs(request) ? nothing(request, response) : next()));
        app.use("/in", doorFor(septima));
        app.use(onlyOwnPages(origin), limitedBodies);
        await serveInterface(app, septima, publisher);
      }
      ready();
      starting.done();
    },
    async close() {
      server.close();
      server.closeAllConnections();
      // What cannot be written down soon is lost: nobody waits for a database that is away.
      await Promise.race([counted(), sleep(LAST_WORDS, undefined, { ref: false })]);
    },
  };
}

/** An address that the environment names, without a slash at its end. @throws StartError when it is none */
export function addressIn(
  env: NodeJS.ProcessEnv,
  name: "SEPTIMA_ORIGIN" | "SEPTIMA_READERS",
): string | undefined {
  const address = env[name]?.replace(/\/$/, "");
  if (address !== undefined && !/^https?:\/\/[^/?#@\s]+$/.test(address))
    throw new StartError(
      `${name} is “${address}”: an address such as https://letters.yours.example is needed.`,
    );
  return address;
}

/** The stand-ins that speak HTTP, each under its name. */
function standinsAt(app: express.Express, publisher: Publisher, shop: Shop): void {
  for (const [name, standin] of Object.entries({ publisher, shop }))
    app.get(`/standins/${name}/*path`, async (request, response) => {
      const answer = await standin.answer(request.path.slice(`/standins/${name}`.length));
      if (!answer) response.status(404).type("text/plain").send("Nothing here.");
      else response.status(answer.status).type(answer.type).send(answer.body);
    });
  app.get("/standins/calendar/workshops.ics", (_request, response) => {
    response.type("text/calendar").send(workshops(Date.now()));
  });
  app.all("/standins/assistant{/*path}", express.json({ limit: "2mb" }), (request, response) => {
    const path = request.path.slice("/standins/assistant".length);
    const { status, said } = assistantAnswer(request.method, path, request.body);
    response.status(status).json(said);
  });
}

/** The interface: its pages, and what they are made of. */
async function serveInterface(app: express.Express, septima: Septima, publisher: Publisher): Promise<void> {
  const client = path.join(process.cwd(), "build/client");
  app.use(
    compression({
      // What is told as it happens is not held back until there is enough of it.
      filter: (request, response) =>
        !String(response.getHeader("content-type")).startsWith("text/event-stream") &&
        compression.filter(request, response),
    }),
  );
  app.use("/assets", express.static(path.join(client, "assets"), { immutable: true, maxAge: "1y" }));
  app.use(express.static(client, { maxAge: "1h" }));
  app.use(
    createRequestHandler({
      // Loaded now, so that the first to ask does not wait for it.
      build: guarded(await import("virtual:react-router/server-build")),
      getLoadContext: () => ({ septima, publisher }),
    }),
  );
}

function listen(server: http.Server, port: number, host: string): Promise<void> {
  return new Promise((resolve, reject) => {
    server.once("error", (error: NodeJS.ErrnoException) =>
      reject(
        error.code === "EADDRINUSE"
          ? new StartError(`Port ${port} is in use. Set PORT to another one, or to 0 for any.`)
          : error,
      ),
    );
    server.listen(port, host, () => resolve());
  });
}
