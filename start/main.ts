/**
 * Starts Septima. Without a word: the web server, the work that goes on by itself and the stand-ins in one process. With
 * `serve` a web server alone, with `readers` a web server for readers alone, with `work` a worker alone; any number of each
 * share one PostgreSQL server.
 *
 * Environment: `PORT` (0 picks a free one), `HOST`, `SEPTIMA_DATA` (folder), `SEPTIMA_FILES` (`database` keeps
 * pictures and files there, for several machines without a folder in common), `SEPTIMA_ORIGIN` (address of the interface),
 * `SEPTIMA_READERS` (address by which readers reach what is for them; that of the interface when missing),
 * `SEPTIMA_DEMO` (1 fills an empty workspace), `SEPTIMA_DEMO_SHOP` (after how many seconds its shop sells again; 3600, and 0 for
 * never), `SEPTIMA_SMTP` (a real relay), `DATABASE_URL` (a PostgreSQL server),
 * `SEPTIMA_STANDINS` (stand-ins elsewhere, `name=address` with spaces between; sources name them `standin://name/`),
 * `SEPTIMA_KEY` (by it passwords and signing keys are sealed, the same on every machine; without it one is kept in the
 * configuration folder of whoever runs it), `SEPTIMA_DNS` (a name server to ask instead of the machine's),
 * `SEPTIMA_CHROMIUM` (where Chromium is, by which pictures and PDFs are made; one on the path when missing),
 * `SEPTIMA_RETURNS` (`host:port` of a door for what comes back by SMTP), `SEPTIMA_RETURNS_FOLDER` (a folder into which
 * others put it), `SEPTIMA_LEASE` (for how many seconds a worker has recipients in hand unless it says again that it does; 60).
 */

import { readFileSync } from "node:fs";
import { homedir } from "node:os";
import path from "node:path";
import type { Septima } from "~/server/septima";
import { clearHalfMade, isEmpty, readOwnSources, seedDemo } from "./demo/seed";
import { letShopLive } from "./demo/shop-life";
import { StartError } from "./lock";
import { openSeptima, startWork } from "./septima";
import { addressIn, openWeb } from "./web";

const root = process.cwd();
const { env } = process;
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

/** Which parts this process is. @throws StartError for a word that names none, or a part that cannot be alone */
function partsOf(word = ""): { serves: "all" | "readers" | null; works: boolean } {
  if (!["", "serve", "readers", "work"].includes(word))
    throw new StartError(
      `“${word}” is no part of Septima: say “serve”, “readers”, “work”, or nothing for all in one.`,
    );
  if (word !== "" && !env.DATABASE_URL)
    throw new StartError(
      `“${word}” shares a PostgreSQL server with others: set DATABASE_URL. bin/demo runs everything in one process without one.`,
    );
  if (word === "work" && !env.SEPTIMA_ORIGIN)
    throw new StartError(
      "A worker writes addresses into messages: set SEPTIMA_ORIGIN to that of the web server.",
    );
  return {
    serves: word === "work" ? null : word === "readers" ? "readers" : "all",
    works: word === "" || word === "work",
  };
}

/** Whether files are kept in the database. @throws StartError for a word that names no place */
function filesWhere(word = "folder"): boolean {
  if (word !== "folder" && word !== "database")
    throw new StartError(`SEPTIMA_FILES is “${word}”: say “folder”, or “database” for several machines.`);
  return word === "database";
}

async function fillDemo(septima: Septima): Promise<void> {
  if (await clearHalfMade(septima)) say("The demo was left half made; it is made anew");
  if (await isEmpty(septima)) await seedDemo(septima, Number(env.SEPTIMA_DEMO_CONTACTS ?? 12_000), say);
  else await readOwnSources(septima);
}

async function main() {
  const { serves, works } = partsOf(process.argv[2]);
  const web = serves && (await openWeb(env, serves === "readers"));
  const origin = web?.origin ?? addressIn(env, "SEPTIMA_ORIGIN")!;
  const { septima, started, stop } = await openSeptima({
    version,
    data: path.resolve(env.SEPTIMA_DATA ?? "data"),
    origin,
    readers: web?.readers ?? addressIn(env, "SEPTIMA_READERS") ?? origin,
    local: web?.local,
    standins: { ...web?.standins, ...standinsElsewhere(env.SEPTIMA_STANDINS) },
    confined: path.join(root, "build/server/confined.js"),
    database: path.join(root, "build/server/database.js"),
    postroom: path.join(root, "build/server/postroom.js"),
    migrations: path.join(root, "server/db/migrations"),
    databaseUrl: env.DATABASE_URL,
    relayUrl: env.SEPTIMA_SMTP,
    alone: serves === "all" && works,
    key: {
      given: env.SEPTIMA_KEY ?? null,
      folder: path.join(env.XDG_CONFIG_HOME ?? path.join(homedir(), ".config"), "septima"),
    },
    returns: env.SEPTIMA_RETURNS_FOLDER && path.resolve(env.SEPTIMA_RETURNS_FOLDER),
    door: env.SEPTIMA_RETURNS,
    dns: env.SEPTIMA_DNS,
    filesInDatabase: filesWhere(env.SEPTIMA_FILES),
    lease: env.SEPTIMA_LEASE ? Number(env.SEPTIMA_LEASE) * 1000 : undefined,
    say,
    report,
  });
  let stopping = false;
  const end = async () => {
    if (stopping) return;
    stopping = true;
    say("Stopping");
    shuts();
    await web?.close();
    await stop(dispatching);
    process.exit(0);
  };
  if (serves === "all" && env.SEPTIMA_DEMO === "1") await fillDemo(septima);
  const dispatching = works ? await startWork(septima, env.DATABASE_URL === undefined, report) : undefined;
  await web?.serve(septima, started);
  if (!web) started();
  const shuts =
    serves === "all" && web && env.SEPTIMA_DEMO === "1"
      ? await letShopLive(septima, web.address, say, Number(env.SEPTIMA_DEMO_SHOP ?? 3600) * 1000)
      : () => undefined;
  process.stdout.write(`Septima is ready${web ? ` at ${web.address}` : " to work"}\n`);
  process.on("SIGINT", end);
  process.on("SIGTERM", end);
}

main().catch((error) => {
  report(error);
  process.exit(1);
});
