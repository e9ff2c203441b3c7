/** A PostgreSQL server for tests, where the machine has the programs: a cluster in a temporary folder, gone afterwards. */
import { execFile, spawn } from "node:child_process";
import { existsSync, readdirSync } from "node:fs";
import { chown, mkdtemp, rm } from "node:fs/promises";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import path from "node:path";
import { promisify } from "node:util";

const run = promisify(execFile);

/** Where the programs are: what Debian installs, or what was fetched beside the project. Null when they are nowhere. */
export function serverPrograms(): string | null {
  for (const root of ["/usr/lib/postgresql", path.join(process.cwd(), ".tools/usr/lib/postgresql")]) {
    if (!existsSync(root)) continue;
    const versions = readdirSync(root).filter((name) => Number(name) >= 15);
    const found = versions
      .map((version) => path.join(root, version, "bin"))
      .find((folder) => existsSync(path.join(folder, "initdb")) && existsSync(path.join(folder, "postgres")));
    if (found) return found;
  }
  return null;
}

async function freePort(): Promise<number> {
  const server = createServer();
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const address = server.address();
  await new Promise((resolve) => server.close(resolve));
  return typeof address === "object" && address ? address.port : 0;
}

/** The server does not run as root: there it is somebody with no rights. */
const NOBODY = 65534;

/**
 * Starts a server with an empty database.
 * @throws Error when the programs are missing, or it does not come up
 */
export async function startServer(): Promise<{ url: string; stop(): Promise<void> }> {
  const programs = serverPrograms();
  if (!programs) throw new Error("PostgreSQL is not installed");
  const folder = await mkdtemp(path.join(tmpdir(), "septima-postgres-"));
  const who = process.getuid?.() === 0 ? { uid: NOBODY, gid: NOBODY } : {};
  if ("uid" in who) await chown(folder, NOBODY, NOBODY);
  const options = { ...who, cwd: folder, env: { PATH: process.env.PATH, HOME: folder, LC_ALL: "C.UTF-8" } };
  const data = path.join(folder, "data");
  await run(
    path.join(programs, "initdb"),
    ["-D", data, "-U", "septima", "-A", "trust", "-E", "UTF8"],
    options,
  );
  const port = await freePort();
  const quick = ["fsync=off", "synchronous_commit=off", "full_page_writes=off"];
  const server = spawn(
    path.join(programs, "postgres"),
    ["-D", data, "-h", "127.0.0.1", "-p", String(port), "-k", folder, ...quick.flatMap((it) => ["-c", it])],
    { ...options, stdio: ["ignore", "ignore", "pipe"] },
  );
  let said = "";
  await new Promise<void>((resolve, reject) => {
    server.stderr.on("data", (piece: Buffer) => {
      said += piece.toString();
      if (said.includes("ready to accept connections")) resolve();
    });
    server.on("exit", () => reject(new Error(`the server did not start: ${said}`)));
  });
  return {
    url: `postgres://septima@127.0.0.1:${port}/postgres`,
    async stop() {
      const ended = new Promise((resolve) => server.once("exit", resolve));
      server.kill("SIGINT");
      await ended;
      await rm(folder, { recursive: true, force: true });
    },
  };
}
