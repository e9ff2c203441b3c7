import { type ChildProcess, spawn } from "node:child_process";
import { cp, mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";

/** A running Septima of its own: data in a temporary folder, any free port. */
export interface Program {
  address: string;
  data: string;
  /** Ends it as Ctrl-C does, and throws its data away. */
  stop(): Promise<void>;
  /** Ends it as Ctrl-C does; its data stays. */
  rest(): Promise<void>;
  /** Kills it without warning; its data stays. */
  kill(): Promise<void>;
}

interface Options {
  data?: string;
  contacts?: number;
  env?: Record<string, string>;
}

/** So many contacts the demo has. */
export const USUAL = 12_000;
/** So many it has where a test does not need more. */
export const FEW = 400;
/** Demos that were made once for all, by how many contacts they have: `E2E_DEMOS` holds their folders as JSON. */
const made = (contacts: number): string | undefined =>
  (JSON.parse(process.env.E2E_DEMOS ?? "{}") as Record<string, string>)[contacts];

/** Starts the built program with the demo data and waits for its ready line. */
export async function startProgram({ data, contacts = USUAL, env = {} }: Options = {}): Promise<Program> {
  const folder = data ?? (await mkdtemp(path.join(tmpdir(), "septima-e2e-")));
  const demo = data === undefined && env.SEPTIMA_DEMO !== "0" && !env.DATABASE_URL && made(contacts);
  if (demo) await cp(demo, folder, { recursive: true, filter: (file) => !file.endsWith(".sock") });
  const child = spawn(process.execPath, ["build/server/index.js"], {
    env: {
      ...process.env,
      NODE_ENV: "production",
      PORT: "0",
      SEPTIMA_DATA: folder,
      SEPTIMA_DEMO: "1",
      SEPTIMA_DEMO_CONTACTS: String(contacts),
      // Nobody buys while a test counts.
      SEPTIMA_DEMO_SHOP: "0",
      // Nothing of a test is kept outside of its folder.
      SEPTIMA_KEY: "what is sealed in tests",
      ...env,
    },
    stdio: ["ignore", "pipe", "pipe"],
  });
  const address = await readyLine(child);
  let asked = false;
  const gone = new Promise<void>((resolve) =>
    child.once("exit", (code, signal) => {
      if (!asked) console.error(`The program ended by itself, with ${code ?? signal}:\n${lastWords(child)}`);
      resolve();
    }),
  );
  const end = async (signal: NodeJS.Signals) => {
    asked = true;
    child.kill(signal);
    await gone;
  };
  return {
    address,
    data: folder,
    async stop() {
      await end("SIGINT");
      await rm(folder, { recursive: true, force: true });
    },
    rest: () => end("SIGINT"),
    kill: () => end("SIGKILL"),
  };
}

/**
 * Starts a part of the built program and waits until it is ready.
 * @param env says where the PostgreSQL server is that it shares with the others, and what else it is to know
 */
export async function startPart(
  part: "serve" | "readers" | "work",
  env: Record<string, string>,
): Promise<{ address: string; child: ChildProcess }> {
  const child = spawn(process.execPath, ["build/server/index.js", part], {
    env: {
      ...process.env,
      NODE_ENV: "production",
      PORT: "0",
      SEPTIMA_DEMO: "0",
      SEPTIMA_KEY: "what is sealed in tests",
      ...env,
    },
    stdio: ["ignore", "pipe", "pipe"],
  });
  return { address: await readyLine(child), child };
}

/** What processes wrote to standard error last. */
const said = new WeakMap<ChildProcess, string>();
const lastWords = (child: ChildProcess) => said.get(child) ?? "";

/** Waits for the line that says a process is ready. Returns the address that stands in it; none of a worker's. */
export function readyLine(child: ChildProcess): Promise<string> {
  return new Promise((resolve, reject) => {
    child.stderr?.on("data", (chunk: Buffer) => {
      said.set(child, (lastWords(child) + chunk).slice(-4000));
      if (process.env.SEPTIMA_E2E_LOG) process.stderr.write(chunk);
    });
    child.stdout?.on("data", (chunk: Buffer) => {
      const match = /Septima is ready (?:at (\S+)|to work)/.exec(chunk.toString());
      if (match) resolve(match[1] ?? "");
    });
    child.once("exit", (code) =>
      reject(new Error(`Septima ended with ${code} before it was ready:\n${lastWords(child)}`)),
    );
  });
}
