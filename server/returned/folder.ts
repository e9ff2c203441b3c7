/** A folder into which some other program puts what comes back, one file for each message. */
import { mkdir, readdir, readFile, rename, stat } from "node:fs/promises";
import path from "node:path";
import type { Septima } from "../septima";
import { takeReturned } from "./taking";

/** A file that is younger may still be written, in milliseconds. */
const SETTLED = 2000;
/** Larger ones are put aside, in octets. */
const MOST = 5_000_000;

/** Where the files are put: `new` as a mail directory has it, or the folder itself. */
export const returnsFolder = ({ config }: Septima): string =>
  config.returns ?? path.join(config.data, "returns");

/**
 * Takes in what lies in the folder; what was taken goes to `taken`, what is no message to `odd`. Nothing is thrown away.
 * @returns how many were taken
 */
export async function takeFolder(septima: Septima): Promise<number> {
  const folder = returnsFolder(septima);
  let taken = 0;
  for (const from of [folder, path.join(folder, "new")]) {
    const names = await readdir(from).catch((error: NodeJS.ErrnoException) => {
      if (error.code === "ENOENT") return [];
      throw error;
    });
    for (const name of names) {
      const file = path.join(from, name);
      const about = await stat(file).catch(() => null);
      if (!about?.isFile() || name.startsWith(".") || Date.now() - about.mtimeMs < SETTLED) continue;
      const fits = about.size > 0 && about.size <= MOST;
      if (fits) {
        const source = await readFile(file);
        await takeReturned(septima, { via: "folder", to: deliveredTo(source), source });
        taken++;
      }
      // It is taken in before it is put aside: killed between the two, it is taken in twice, which is as once.
      const aside = path.join(folder, fits ? "taken" : "odd");
      await mkdir(aside, { recursive: true });
      await rename(file, path.join(aside, name));
    }
  }
  return taken;
}

/** Whom a message in a folder was for, as whoever delivered it wrote down; empty when nobody did. */
function deliveredTo(source: Buffer): string {
  const head = source
    .subarray(0, 16_384)
    .toString("latin1")
    .split(/\r?\n\r?\n/)[0];
  return /^(?:Delivered-To|X-Original-To|Envelope-To):[ \t]*<?([^<>\s]+)/im.exec(head)?.[1] ?? "";
}
