/**
 * Starts Septima: the web server, the jobs and the stand-ins in one process.
 *
 * Environment: `PORT` (0 picks a free one), `HOST`, `SEPTIMA_DATA` (folder), `SEPTIMA_ORIGIN` (address readers reach),
 * `SEPTIMA_DEMO` (1 fills an empty workspace), `SEPTIMA_SMTP` (a real relay), `DATABASE_URL` (a PostgreSQL server),
 * `SEPTIMA_STANDINS` (stand-ins elsewhere, `name=address` with spaces between; sources name them `standin://name/`).
 */

import { readFileSync } from "node:fs";
import http from "node:http";
import type { AddressInfo } from "node:net";
import path from "node:path";
import { createRequestHandler } from "@react-router/express";
import compression from "compression";
import express from "express";
import type { Septima } from "~/server/septima";
import { assistantAnswer } from "~/standins/assistant";
import { Publisher } from "~/standins/publisher";
import { clearHalfMade, isEmpty, readOwnSources, seedDemo } from "./demo/seed";
import { guardedHeaders, limitedBodies, onlyKnownHosts, onlyOwnPages, plainPaths, Starting } from "./doors";
import { guarded } from "./guarded";
import { StartError } from "./lock";
import { openSeptima, startWork } from "./septima";

declare module "react-router" {
  interface AppLoadContext {
    septima: Septima;
    publisher: { publish(): void };
  }
}

const root = process.cwd();
const { version } = JSON.parse(readFileSync(path.join(root, "package.json"), "utf8")) as { version: string };
const say = (what: string) => process.stderr.write(`${what}\n`);
const report = (error: unknown) =>
  process.stderr.write(
    `${error instanceof StartError ? error.message : error instanceof Error ? (error.stack ?? error.message) : String(error)}\n`,
  );

function standinsElsewhere(pairs = ""): Record<string, string> {
  return Object.fromEntries(
    pairs.split(/\s+/).flatMap((pair) => {
      const [, name, address] = /^([a-z]+)=(https?:.+)$/.exec(pair) ?? [];
      return name ? [[name, address]] : [];
    }),
  );
}

async function main() {
  const app = express();
  const server = http.createServer(app);
  // A request that does not come to its end is given up.
  server.headersTimeout = 20_000;
  server.requestTimeout = 120_000;
  const host = process.env.HOST ?? "127.0.0.1";
  await new Promise<void>((resolve, reject) => {
    server.once("error", (error: NodeJS.ErrnoException) =>
      reject(
        error.code === "EADDRINUSE"
          ? new StartError(
              `Port ${process.env.PORT ?? 7077} is in use. Set PORT to another one, or to 0 for any.`,
            )
          : error,
      ),
    );
    server.listen(Number(process.env.PORT ?? 7077), host, () => resolve());
  });
  const { port } = server.address() as AddressInfo;
  const reached = host === "0.0.0.0" || host === "::" ? "127.0.0.1" : host;
  const origin = (process.env.SEPTIMA_ORIGIN ?? `http://${reached}:${port}`).replace(/\/$/, "");
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
  const starting = new Starting();
  app.use(starting.door, onlyOwnPages(origin), limitedBodies);

  const { septima, started, stop } = await openSeptima({
    version,
    data: path.resolve(process.env.SEPTIMA_DATA ?? "data"),
    origin,
    standins: {
      publisher: `${local}/publisher`,
      assistant: `${local}/assistant`,
      ...standinsElsewhere(process.env.SEPTIMA_STANDINS),
    },
    confined: path.join(root, "build/server/confined.js"),
    database: path.join(root, "build/server/database.js"),
    migrations: path.join(root, "server/db/migrations"),
    databaseUrl: process.env.DATABASE_URL,
    relayUrl: process.env.SEPTIMA_SMTP,
    say,
    report,
  });

  app.use(
    compression({
      // What is told as it happens is not held back until there is enough of it.
      filter: (request, response) =>
        !String(response.getHeader("content-type")).startsWith("text/event-stream") &&
        compression.filter(request, response),
    }),
  );
  app.get("/healthz", (_request, response) => {
    response.json({ status: "ok", version, schema: septima.schema });
  });
  if (process.env.SEPTIMA_DEMO === "1") {
    if (await clearHalfMade(septima)) say("The demo was left half made; it is made anew");
    if (await isEmpty(septima))
      await seedDemo(septima, Number(process.env.SEPTIMA_DEMO_CONTACTS ?? 12_000), say);
    else await readOwnSources(septima);
  }
  const dispatching = await startWork(septima, process.env.DATABASE_URL === undefined, report);

  app.use(
    "/assets",
    express.static(path.join(root, "build/client/assets"), { immutable: true, maxAge: "1y" }),
  );
  app.use(express.static(path.join(root, "build/client"), { maxAge: "1h" }));
  app.use(
    createRequestHandler({
      // Loaded now, so that the first to ask does not wait for it.
      build: guarded(await import("virtual:react-router/server-build")),
      getLoadContext: () => ({ septima, publisher }),
    }),
  );
  started();
  starting.done();
  process.stdout.write(`Septima is ready at http://${host}:${port}\n`);

  let stopping = false;
  const end = async () => {
    if (stopping) return;
    stopping = true;
    say("Stopping");
    server.close();
    server.closeAllConnections();
    await stop(dispatching);
    process.exit(0);
  };
  process.on("SIGINT", end);
  process.on("SIGTERM", end);
}

main().catch((error) => {
  report(error);
  process.exit(1);
});
