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
import { Publisher } from "~/standins/publisher";
import { guardedHeaders, limitedBodies, onlyKnownHosts, onlyOwnPages, plainPaths, Starting } from "./doors";
import { guarded } from "./guarded";
import { StartError } from "./lock";
import { readersDoors } from "./readers";

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
  /** The address under which readers and browsers reach it. */
  origin: string;
  /** Where its stand-ins are, by name. */
  standins: Record<string, string>;
  /** Serves from now on. `ready` is called when all is loaded, before anybody is let in. */
  serve(septima: Septima, ready: () => void): Promise<void>;
  /** Lets nobody in any more, and writes down what readers did. */
  close(): Promise<void>;
}

/** Listens where the environment says (`PORT`, `HOST`, `SEPTIMA_ORIGIN`). @throws StartError when the port is in use */
export async function openWeb(env: NodeJS.ProcessEnv): Promise<Web> {
  const app = express();
  const server = http.createServer(app);
  // A request that does not come to its end is given up.
  server.headersTimeout = 20_000;
  server.requestTimeout = 120_000;
  const host = env.HOST ?? "127.0.0.1";
  await listen(server, Number(env.PORT ?? 7077), host);
  const { port } = server.address() as AddressInfo;
  const reached = host === "0.0.0.0" || host === "::" ? "127.0.0.1" : host;
  const origin = (env.SEPTIMA_ORIGIN ?? `http://${reached}:${port}`).replace(/\/$/, "");
  const local = `http://${reached}:${port}/standins`;
  const publisher = new Publisher(`${local}/publisher`, Date.now);

  app.disable("x-powered-by");
  app.use(guardedHeaders, onlyKnownHosts(origin), plainPaths);
  app.get("/standins/publisher/*path", async (request, response) => {
    const answer = await publisher.answer(request.path.slice("/standins/publisher".length));
    if (!answer) response.status(404).type("text/plain").send("Nothing here.");
    else response.status(answer.status).type(answer.type).send(answer.body);
  });
  app.all("/standins/assistant{/*path}", express.json({ limit: "2mb" }), (request, response) => {
    const path = request.path.slice("/standins/assistant".length);
    const { status, said } = assistantAnswer(request.method, path, request.body);
    response.status(status).json(said);
  });
  let counted = async () => {};
  const starting = new Starting();
  app.use(starting.door, onlyOwnPages(origin), limitedBodies);

  return {
    address: `http://${host}:${port}`,
    origin,
    standins: { publisher: `${local}/publisher`, assistant: `${local}/assistant` },
    async serve(septima, ready) {
      const client = path.join(process.cwd(), "build/client");
      const readers = readersDoors(septima);
      counted = readers.end;
      app.use(readers.router);
      app.use(
        compression({
          // What is told as it happens is not held back until there is enough of it.
          filter: (request, response) =>
            !String(response.getHeader("content-type")).startsWith("text/event-stream") &&
            compression.filter(request, response),
        }),
      );
      app.get("/healthz", (_request, response) => {
        response.json({ status: "ok", version: septima.config.version, schema: septima.schema });
      });
      app.use("/assets", express.static(path.join(client, "assets"), { immutable: true, maxAge: "1y" }));
      app.use(express.static(client, { maxAge: "1h" }));
      app.use(
        createRequestHandler({
          // Loaded now, so that the first to ask does not wait for it.
          build: guarded(await import("virtual:react-router/server-build")),
          getLoadContext: () => ({ septima, publisher }),
        }),
      );
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
