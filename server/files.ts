/**
 * Files that all processes have: pictures as they came and as they are shown, files of contacts on their way in. One that was
 * kept under a name never changes.
 *
 * `folderOfFiles` keeps them in a folder, of one machine or one that several share; `filesInDatabase` in the database, with a
 * folder of each machine's own for what was read there.
 */
import { createReadStream } from "node:fs";
import { access, mkdir, open, rename, rm } from "node:fs/promises";
import path from "node:path";
import type { Database } from "./db/database";

export interface Files {
  /** The path under which a file is read on this machine; null when there is none of that name. */
  at(name: string): Promise<string | null>;
  /** The path at which a file is written, before it is kept. */
  place(name: string): Promise<string>;
  /** Makes what lies at its place there for all. */
  keep(name: string): Promise<void>;
  /** Removes one; also one that was never kept. */
  forget(name: string): Promise<void>;
}

/** What a file may be called: folders and a name, nothing that leads elsewhere. */
const NAME = /^[\w-]+(\/[\w-]+)*(\.[\w-]+)*$/;

function pathOf(folder: string, name: string): string {
  if (!NAME.test(name)) throw new Error(`no file is called “${name}”`);
  return path.join(folder, name);
}

const isThere = (file: string) =>
  access(file).then(
    () => true,
    () => false,
  );

async function placeIn(folder: string, name: string): Promise<string> {
  const file = pathOf(folder, name);
  await mkdir(path.dirname(file), { recursive: true });
  return file;
}

/** Files in a folder. */
export function folderOfFiles(folder: string): Files {
  return {
    async at(name) {
      const file = pathOf(folder, name);
      return (await isThere(file)) ? file : null;
    },
    place: (name) => placeIn(folder, name),
    keep: async (name) => void pathOf(folder, name),
    forget: (name) => rm(pathOf(folder, name), { force: true }),
  };
}

/** Octets of a file that are in one row. */
const PIECE = 1_000_000;

/**
 * Files in the database: none of the machines needs a folder that others have too.
 * @param folder of this machine's own, for what it has read; it may be thrown away while no process runs
 */
export function filesInDatabase(db: Database, folder: string): Files {
  /** What is being fetched: once, however many ask for it. */
  const fetching = new Map<string, Promise<string | null>>();
  const fetched = async (name: string): Promise<string | null> => {
    const file = await placeIn(folder, name);
    const part = `${file}.${process.pid}.part`;
    const handle = await open(part, "w");
    try {
      for (let piece = 0; ; piece++) {
        const [row] = await db.query<{ data: Uint8Array }>(
          "select data from stored_files where name = $1 and piece = $2",
          [name, piece],
        );
        if (!row && piece === 0) return null;
        if (!row) break;
        await handle.write(row.data);
      }
      await rename(part, file);
      return file;
    } finally {
      await handle.close();
      await rm(part, { force: true });
    }
  };
  return {
    async at(name) {
      const file = pathOf(folder, name);
      if (await isThere(file)) return file;
      const under = fetching.get(name) ?? fetched(name).finally(() => fetching.delete(name));
      fetching.set(name, under);
      return under;
    },
    place: (name) => placeIn(folder, name),
    async keep(name) {
      await db.transaction(async (tx) => {
        let piece = 0;
        for await (const data of createReadStream(pathOf(folder, name), { highWaterMark: PIECE }))
          await tx.query(
            "insert into stored_files (name, piece, data) values ($1, $2, $3) on conflict (name, piece) do nothing",
            [name, piece++, data],
          );
        // One of no octets is there, too.
        if (piece === 0)
          await tx.query(
            "insert into stored_files (name, piece, data) values ($1, 0, '') on conflict do nothing",
            [name],
          );
      });
    },
    async forget(name) {
      await db.query("delete from stored_files where name = $1", [name]);
      await rm(pathOf(folder, name), { force: true });
    },
  };
}
