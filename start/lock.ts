/** One process for one data folder: the embedded database belongs to whoever has it open. */
import { createHash } from "node:crypto";
import { mkdir, rename, rm } from "node:fs/promises";
import net from "node:net";
import { tmpdir } from "node:os";
import path from "node:path";

/** Something that keeps the program from starting; the message says what to do. */
export class StartError extends Error {
  override name = "StartError";
}

/** The longest name that a socket may have on all systems, in octets. */
const LONGEST = 100;

function socketPath(folder: string): string {
  const inside = path.join(folder, "in-use.sock");
  if (Buffer.byteLength(inside) <= LONGEST) return inside;
  return path.join(
    tmpdir(),
    `septima-${createHash("sha256").update(folder).digest("hex").slice(0, 32)}.sock`,
  );
}

/**
 * Takes a data folder for this process. The lock is a socket that this process listens on: it is gone with the process,
 * however that ended, and what is left of it in the folder is told from a living one by nobody answering.
 * @returns what gives the folder free
 * @throws StartError when another process has it
 */
export async function lockFolder(folder: string): Promise<() => Promise<void>> {
  await mkdir(folder, { recursive: true });
  const file = socketPath(folder);
  const refusal = () =>
    new StartError(
      `The data folder ${folder} is in use by another Septima. Stop that one, or set SEPTIMA_DATA to another folder.`,
    );
  for (let turn = 0; turn < 10; turn++) {
    const server = await listen(file);
    if (server) return () => new Promise((resolve) => server.close(() => resolve()));
    if (await answers(file)) throw refusal();
    // Set aside before it is removed: somebody else may have taken the folder since.
    const aside = `${file}.${process.pid}`;
    if (!(await renamed(file, aside))) continue;
    if (await answers(aside)) {
      await renamed(aside, file);
      throw refusal();
    }
    await rm(aside, { force: true });
  }
  throw refusal();
}

/** Listens at a socket; null when there is one of that name already. */
function listen(file: string): Promise<net.Server | null> {
  return new Promise((resolve, reject) => {
    const server = net.createServer((socket) => socket.end());
    server.once("error", (error: NodeJS.ErrnoException) =>
      error.code === "EADDRINUSE" ? resolve(null) : reject(error),
    );
    server.listen(file, () => {
      server.unref();
      resolve(server);
    });
  });
}

function answers(file: string): Promise<boolean> {
  return new Promise((resolve) => {
    const socket = net.connect(file);
    socket.once("connect", () => {
      socket.destroy();
      resolve(true);
    });
    socket.once("error", () => resolve(false));
  });
}

async function renamed(from: string, to: string): Promise<boolean> {
  try {
    await rename(from, to);
    return true;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === "ENOENT") return false;
    throw error;
  }
}
